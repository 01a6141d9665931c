from django.apps import AppConfig


class StudiesConfig(AppConfig):
    name = "glenhail.server.studies"
    label = "studies"

    def ready(self) -> None:
        from glenhail.server.material import signals
        from glenhail.server.studies import deliveries, jobs, layers  # noqa: F401  (they register themselves)
        from glenhail.server.studies.actions import measuring

        signals.picture_settled.connect(measuring.on_picture_settled)
        signals.truth_changed.connect(measuring.on_truth_changed)
