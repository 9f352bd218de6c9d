"""Runs that were measured."""

import uuid

from django.db import models
from django.utils import timezone

from builds.models import Build


class MeasuredRun(models.Model):
    """A run of one version of a build, with what was read of it.

    `document` is a run of a log document without its id and changes: those are what the version
    differs by. `taught_in` is the number of the version that was fitted to it, None until then.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="measured_runs")
    version = models.PositiveIntegerField()
    document = models.JSONField()
    taught_in = models.PositiveIntegerField(null=True)
    made_at = models.DateTimeField(default=timezone.now, editable=False)
    removed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["made_at", "id"]

    def __str__(self) -> str:
        return f"{self.build_id} {self.made_at:%Y-%m-%d}"
