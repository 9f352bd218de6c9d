"""Rides that are kept, and test days of a hidden vehicle."""

import uuid

from django.db import models
from django.utils import timezone

from builds.models import Build


class KeptRide(models.Model):
    """A ride of one version of a build, with what it came to; nothing reckons it anew.

    `ride` is the run document without its build, `air_c` the air it was ridden in where that is
    not the build's own, `track` where its road lies. `told` and `verdicts` are as they were then.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="rides")
    version = models.PositiveIntegerField()
    name = models.CharField(max_length=120)
    ride = models.JSONField()
    air_c = models.FloatField(null=True)
    track = models.JSONField(null=True)
    told = models.JSONField()
    verdicts = models.JSONField(default=list)
    made_at = models.DateTimeField(default=timezone.now, editable=False)
    removed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["made_at", "id"]

    def __str__(self) -> str:
        return self.name


class MeterDay(models.Model):
    """A day on which instruments read a hidden vehicle; the same seed gives the same readings.

    `frames` are what their faces show over time, `rows` what the logger recorded.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="meter_days")
    seed = models.PositiveBigIntegerField()
    log = models.JSONField()
    rows = models.JSONField()
    frames = models.JSONField()
    made_at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["-made_at", "id"]

    def __str__(self) -> str:
        return f"seed {self.seed}"
