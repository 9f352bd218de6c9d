"""The app of builds."""

from django.apps import AppConfig


class BuildsConfig(AppConfig):
    """Builds and their versions."""

    name = "builds"
