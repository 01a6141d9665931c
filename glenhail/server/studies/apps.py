from django.apps import AppConfig


class StudiesConfig(AppConfig):
    name = "glenhail.server.studies"
    label = "studies"
