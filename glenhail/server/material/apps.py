from django.apps import AppConfig


class MaterialConfig(AppConfig):
    name = "glenhail.server.material"
    label = "material"

    def ready(self) -> None:
        from glenhail.server.material import jobs  # noqa: F401  (registers its kinds of job)
