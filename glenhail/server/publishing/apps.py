from django.apps import AppConfig


class PublishingConfig(AppConfig):
    name = "glenhail.server.publishing"
    label = "publishing"

    def ready(self) -> None:
        from glenhail.server.publishing import jobs  # noqa: F401  (registers its kinds of job)
