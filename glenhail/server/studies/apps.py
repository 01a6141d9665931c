from django.apps import AppConfig


class StudiesConfig(AppConfig):
    name = "glenhail.server.studies"
    label = "studies"

    def ready(self) -> None:
        from glenhail.server.material import signals
        from glenhail.server.studies import deliveries, folders, hot, jobs, layers, running  # noqa: F401  (they register themselves)
        from glenhail.server.studies.actions import folders as folder_actions
        from glenhail.server.studies.actions import measuring, previews

        signals.picture_settled.connect(measuring.on_picture_settled)
        signals.picture_settled.connect(folder_actions.on_picture_settled)
        signals.picture_settled.connect(previews.on_picture_settled)
        signals.truth_changed.connect(measuring.on_truth_changed)
