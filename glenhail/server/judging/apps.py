from django.apps import AppConfig


class JudgingConfig(AppConfig):
    name = "glenhail.server.judging"
    label = "judging"
