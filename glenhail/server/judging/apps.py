from django.apps import AppConfig


class JudgingConfig(AppConfig):
    name = "glenhail.server.judging"
    label = "judging"

    def ready(self) -> None:
        from glenhail.server.judging import jobs  # noqa: F401  (registers its kind of job)
