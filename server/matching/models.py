"""Briefs, the searches that were made for them, and the builds that came of it."""

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone

from builds.models import Build
from matching.querysets import BriefQuerySet, MatchQuerySet, OriginQuerySet


class Brief(models.Model):
    """One brief of one owner, as it was last said.

    `said` are the document's paths that a person said; all others are guesses of the vehicle it
    was begun from. None: everything was said.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="briefs"
    )
    name = models.CharField(max_length=120)
    document = models.JSONField()
    said = models.JSONField(null=True, default=None)
    made_at = models.DateTimeField(default=timezone.now, editable=False)
    changed_at = models.DateTimeField(auto_now=True)
    removed_at = models.DateTimeField(null=True, blank=True)

    objects = BriefQuerySet.as_manager()

    class Meta:
        ordering = ["-changed_at"]
        indexes = [models.Index(fields=["owner", "-changed_at", "-id"], name="briefs_by_change")]

    def __str__(self) -> str:
        return self.name


class Match(models.Model):
    """One search of the shelf: what was asked, how far it is, and what it found.

    `document` is the brief as it was asked, whatever becomes of the brief later. A worker sets
    everything but `cancel_asked`.
    """

    class State(models.TextChoices):
        """Where a search stands."""

        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        CANCELLED = "cancelled"
        FAILED = "failed"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    brief = models.ForeignKey(Brief, on_delete=models.CASCADE, related_name="matches")
    document = models.JSONField()
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    considered = models.BigIntegerField(default=0)
    to_solve = models.BigIntegerField(default=0)
    solved = models.BigIntegerField(default=0)
    feasible = models.BigIntegerField(default=0)
    answer = models.JSONField(null=True)
    problem = models.TextField(blank=True, default="")
    cancel_asked = models.BooleanField(default=False)
    attempts = models.PositiveIntegerField(default=0)
    made_at = models.DateTimeField(default=timezone.now, editable=False)
    ended_at = models.DateTimeField(null=True)

    objects = MatchQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at"]
        indexes = [models.Index(fields=["brief", "-made_at"], name="matches_by_time")]
        verbose_name_plural = "matches"

    def __str__(self) -> str:
        return f"{self.brief} ({self.state})"

    @property
    def is_over(self) -> bool:
        """Whether nothing more will come."""
        return self.state not in (self.State.WAITING, self.State.RUNNING)


class Origin(models.Model):
    """The brief of a build: the one it was made for, or that was written for it."""

    build = models.OneToOneField(Build, on_delete=models.CASCADE, related_name="origin")
    brief = models.ForeignKey(Brief, on_delete=models.CASCADE, related_name="builds")
    document = models.JSONField()
    """The brief as it was when the build got it."""

    objects = OriginQuerySet.as_manager()

    def __str__(self) -> str:
        return f"{self.build} for {self.brief}"
