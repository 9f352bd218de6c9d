"""How long what may go is kept."""

from django.conf import settings
from django.db import models


class Policy(models.Model):
    """What one owner wants kept how long; None is for good.

    Builds, parts and briefs of the lists are never touched, nor the last search of a brief.
    """

    owner = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="policy"
    )
    searches_days = models.PositiveIntegerField(null=True, default=30)
    removed_days = models.PositiveIntegerField(null=True, default=None)

    def __str__(self) -> str:
        return f"policy of {self.owner}"
