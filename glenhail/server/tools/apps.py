from django.apps import AppConfig


class ToolsConfig(AppConfig):
    name = "glenhail.server.tools"
    label = "tools"
