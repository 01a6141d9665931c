from django.apps import AppConfig


class MeasuringConfig(AppConfig):
    name = "glenhail.server.measuring"
    label = "measuring"

    def ready(self) -> None:
        from glenhail.server.material import signals as material
        from glenhail.server.measuring import jobs  # noqa: F401  (they register themselves)
        from glenhail.server.measuring.actions import queueing
        from glenhail.server.outputs import signals as outputs
        from glenhail.server.studies import signals as studies

        material.picture_settled.connect(queueing.on_picture_settled)
        material.truth_changed.connect(queueing.on_truth_changed)
        studies.patch_changed.connect(queueing.on_patch_changed)
        outputs.outputs_changed.connect(queueing.on_outputs_changed)
