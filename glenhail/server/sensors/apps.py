from django.apps import AppConfig


class SensorsConfig(AppConfig):
    name = "glenhail.server.sensors"
    label = "sensors"

    def ready(self) -> None:
        from glenhail.server.material import signals as material
        from glenhail.server.outputs import signals as outputs
        from glenhail.server.sensors import jobs  # noqa: F401  (they register themselves)
        from glenhail.server.sensors.actions import queueing
        from glenhail.server.studies import signals as studies

        material.picture_settled.connect(queueing.on_picture_settled)
        material.frame_told.connect(queueing.on_frame_told)
        studies.patch_changed.connect(queueing.on_patch_changed)
        outputs.outputs_changed.connect(queueing.on_outputs_changed)
