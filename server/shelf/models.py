"""Parts of one's own, and what was said of them. What was once said never changes."""

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from powertrain.catalogue.table import words_of
from powertrain.documents.shelf import KINDS
from shelf.querysets import PartQuerySet


class Part(models.Model):
    """One part of one owner, of one kind; `ref` is its id in documents.

    Columns repeat of the document what is searched by. `head` is the number of what stands.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="parts"
    )
    kind = models.CharField(max_length=12, choices=[(kind, kind) for kind in KINDS])
    ref = models.CharField(max_length=80)
    name = models.CharField(max_length=120)
    document = models.JSONField()
    words = models.TextField(default="")
    family = models.CharField(max_length=120, default="")
    head = models.PositiveIntegerField(default=1)
    made_at = models.DateTimeField(default=timezone.now, editable=False)
    changed_at = models.DateTimeField(auto_now=True)
    removed_at = models.DateTimeField(null=True, blank=True)

    objects = PartQuerySet.as_manager()

    class Meta:
        ordering = ["-changed_at", "ref"]
        constraints = [models.UniqueConstraint(fields=["owner", "ref"], name="one_part_of_a_ref")]
        indexes = [
            models.Index(fields=["owner", "kind", "-changed_at", "ref"], name="parts_by_change"),
            models.Index(fields=["owner", "kind", "name"], name="parts_by_name"),
            models.Index(fields=["owner", "kind", "family"], name="parts_by_family"),
        ]

    def __str__(self) -> str:
        return self.name

    def say(self, document: dict[str, Any]) -> None:
        """Take over what a part says; written is what `SAID` names."""
        self.document = document
        self.name = document["name"][:120]
        self.words = words_of(document)
        self.family = str(document.get("family") or "")[:120]


SAID = ["document", "name", "words", "family"]
"""The fields that hold what a part says, or repeat of it what is searched by."""


class PartVersion(models.Model):
    """A part as it was said once; `parent` is what it was said in the place of."""

    part = models.ForeignKey(Part, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    parent = models.PositiveIntegerField(null=True)
    document = models.JSONField()
    made_at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["part", "number"], name="one_saying_of_a_number")
        ]

    def __str__(self) -> str:
        return f"{self.part} said {self.number}"
