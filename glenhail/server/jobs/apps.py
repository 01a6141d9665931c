from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "glenhail.server.jobs"
    label = "jobs"
