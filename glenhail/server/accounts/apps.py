from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "glenhail.server.accounts"
    label = "accounts"
