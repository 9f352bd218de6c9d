"""The app of upkeep."""

from django.apps import AppConfig


class UpkeepConfig(AppConfig):
    """Archives, what is kept how long, and how large it is."""

    name = "upkeep"
