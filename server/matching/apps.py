"""The app of briefs and matches."""

from django.apps import AppConfig


class MatchingConfig(AppConfig):
    """Briefs, and searches of the shelf for what meets them."""

    name = "matching"
