from django.apps import AppConfig


class InquiriesConfig(AppConfig):
    name = "glenhail.server.inquiries"
    label = "inquiries"

    def ready(self) -> None:
        from glenhail.server.inquiries import jobs, treating  # noqa: F401  (they register themselves)
