from django.apps import AppConfig


class OutputsConfig(AppConfig):
    name = "glenhail.server.outputs"
    label = "outputs"

    def ready(self) -> None:
        # They register themselves.
        from glenhail.server.material import signals as material
        from glenhail.server.outputs import deliveries  # noqa: F401
        from glenhail.server.outputs.actions import folders, given, previews
        from glenhail.server.outputs.jobs import folders as folder_jobs  # noqa: F401
        from glenhail.server.outputs.jobs import hot_folders, plans, running  # noqa: F401
        from glenhail.server.studies import signals as studies

        material.picture_settled.connect(folders.on_picture_settled)
        material.picture_settled.connect(previews.on_picture_settled)
        material.truth_changed.connect(given.on_truth_changed)
        studies.frame_taken.connect(given.on_frame_taken)
        studies.frame_left.connect(given.on_frame_left)
