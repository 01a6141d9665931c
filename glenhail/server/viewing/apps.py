from django.apps import AppConfig


class ViewingConfig(AppConfig):
    name = "glenhail.server.viewing"
    label = "viewing"

    def ready(self) -> None:
        from glenhail.server.viewing import layers, seen  # noqa: F401  (they register themselves)
