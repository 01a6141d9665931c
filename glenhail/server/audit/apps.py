from django.apps import AppConfig


class AuditConfig(AppConfig):
    name = "glenhail.server.audit"
    label = "audit"
