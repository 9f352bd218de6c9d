"""Builds and their versions. A version never changes; a build points at the one that stands."""

import uuid

from django.conf import settings
from django.db import models
from django.db.models.functions import Lower
from django.utils import timezone

from builds.querysets import BuildQuerySet


class Build(models.Model):
    """One build of one owner.

    `head` is the number of the version that stands, `pinned` of the one it is compared with.
    Columns repeat of the document only what is searched or sorted by; `card` is what the list
    shows of it, worked out once for each version.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="builds"
    )
    name = models.CharField(max_length=120)
    demo = models.SlugField(blank=True, default="")
    head = models.PositiveIntegerField(default=1)
    pinned = models.PositiveIntegerField(default=1)
    made_at = models.DateTimeField(default=timezone.now, editable=False)
    changed_at = models.DateTimeField(auto_now=True)
    removed_at = models.DateTimeField(null=True, blank=True)
    ticks = models.JSONField(default=dict)
    """What is ticked off of each of the build's lists: its cautious way up, its first power."""

    card = models.JSONField(null=True)
    card_of = models.CharField(max_length=40, default="")
    """Which version and engine the card is of; see `builds.cards`."""

    objects = BuildQuerySet.as_manager()

    class Meta:
        ordering = ["-changed_at"]
        constraints = [
            models.UniqueConstraint(
                fields=["owner", "demo"], condition=~models.Q(demo=""), name="one_of_each_demo"
            )
        ]
        indexes = [
            models.Index(fields=["owner", "-changed_at", "-id"], name="builds_by_change"),
            models.Index("owner", Lower("name"), "id", name="builds_by_name"),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def newest_number(self) -> int:
        """Number of the version made last, on whichever branch."""
        return self.versions.order_by("-number").values_list("number", flat=True)[0]


class Version(models.Model):
    """A build as it stood after one change, for good.

    `parent` is the number of the version it was made from (None for the first); undo goes
    there. `aside` marks a change that came too late and was kept beside the line that stands.
    `change_id` is the sender's own mark, so that a repeated request is not a second change; it is
    of one build, and of one person's beginnings.
    """

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    parent = models.PositiveIntegerField(null=True)
    document = models.JSONField()
    changes = models.JSONField(default=list)
    aside = models.BooleanField(default=False)
    change_id = models.UUIDField(null=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    made_at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["build", "number"], name="one_version_of_a_number"),
            models.UniqueConstraint(fields=["build", "change_id"], name="one_version_of_a_change"),
            # What begins a build has none yet: of one person, one beginning with a mark.
            models.UniqueConstraint(
                fields=["made_by", "change_id"],
                condition=models.Q(number=1),
                name="one_build_of_a_beginning",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.build_id} version {self.number}"
