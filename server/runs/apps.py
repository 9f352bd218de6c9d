"""The app of rides and of test days with simulated instruments."""

from django.apps import AppConfig


class RunsConfig(AppConfig):
    """Rides that are kept with a build, and days on which instruments read a hidden one."""

    name = "runs"
