"""The app of people."""

from django.apps import AppConfig


class AccountsConfig(AppConfig):
    """Who works here: one owner, for now."""

    name = "accounts"
