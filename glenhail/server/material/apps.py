from django.apps import AppConfig


class MaterialConfig(AppConfig):
    name = "glenhail.server.material"
    label = "material"

    def ready(self) -> None:
        from glenhail.server.material import arriving, deliveries, exports, finding, jobs, making  # noqa: F401  (they register themselves)
