"""The app of logbooks."""

from django.apps import AppConfig


class LogbookConfig(AppConfig):
    """Runs that were measured, each against the version of a build that was ridden."""

    name = "logbook"
