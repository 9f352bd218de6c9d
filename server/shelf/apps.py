"""The app."""

from django.apps import AppConfig


class ShelfConfig(AppConfig):
    """Parts of one's own beside those that ship."""

    name = "shelf"
