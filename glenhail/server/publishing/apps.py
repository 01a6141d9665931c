from django.apps import AppConfig


class PublishingConfig(AppConfig):
    name = "glenhail.server.publishing"
    label = "publishing"

    def ready(self) -> None:
        from glenhail.server.publishing import jobs  # noqa: F401  (registers its kinds of job)
        from glenhail.server.publishing.actions import reports
        from glenhail.server.studies.signals import study_removing

        study_removing.connect(reports.on_study_removing)
