from django.apps import AppConfig


class HooksConfig(AppConfig):
    name = "glenhail.server.hooks"
    label = "hooks"

    def ready(self) -> None:
        from glenhail.server.hooks import jobs, listening  # noqa: F401  (they register themselves)
