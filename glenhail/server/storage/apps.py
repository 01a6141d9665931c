from django.apps import AppConfig


class StorageConfig(AppConfig):
    name = "glenhail.server.storage"
    label = "storage"
