"""Runs that were measured, their photos, and lines over which a logger sends."""

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


class RunPhoto(models.Model):
    """A photo of a measured run, as JPEG without anything that a camera notes in it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    run = models.ForeignKey(MeasuredRun, on_delete=models.CASCADE, related_name="photos")
    jpeg = models.BinaryField()
    made_at = models.DateTimeField(default=timezone.now, editable=False)
    removed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["made_at", "id"]

    def __str__(self) -> str:
        return f"{self.run_id} {self.made_at:%Y-%m-%d}"


class LoggerLine(models.Model):
    """A line over which a logger sends its table while it rides, opened by a token of its own.

    Of the token only its hash is kept. A build has one line; opening another shuts it.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="logger_lines")
    token_hash = models.CharField(max_length=64)
    made_at = models.DateTimeField(default=timezone.now, editable=False)
    shut_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-made_at", "id"]

    def __str__(self) -> str:
        return f"{self.build_id} {self.made_at:%Y-%m-%d}"


class LinePiece(models.Model):
    """Whole lines of text that came over a line at once; the same number comes once."""

    line = models.ForeignKey(LoggerLine, on_delete=models.CASCADE, related_name="pieces")
    number = models.PositiveIntegerField()
    text = models.TextField()

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["line", "number"], name="piece_comes_once"),
        ]

    def __str__(self) -> str:
        return f"piece {self.number}"
