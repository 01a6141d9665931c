from django.apps import AppConfig


class OperationsConfig(AppConfig):
    name = "glenhail.server.operations"
    label = "operations"
