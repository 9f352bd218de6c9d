"""Named reads of parts."""

from typing import TYPE_CHECKING, Any

from django.db import models
from django.db.models.functions import Lower

from common.errors import NotFound

if TYPE_CHECKING:
    from shelf.models import Part


class PartQuerySet(models.QuerySet["Part"]):
    """Parts, always of one owner."""

    def of(self, user: Any) -> "PartQuerySet":
        """Return the parts of `user` that are not removed."""
        return self.filter(owner=user, removed_at=None)

    def saying(self, words: str) -> "PartQuerySet":
        """Return those that hold all of some words."""
        found = self
        for word in words.lower().split():
            found = found.filter(words__contains=word)
        return found

    def sorted_by(self, path: str, *, falling: bool) -> "PartQuerySet":
        """Return them ordered by what they say at a path of their documents, gaps last."""
        if path == "":
            return self.order_by("-changed_at", "ref")
        if path == "name":
            key: Any = Lower("name")
        else:
            steps = "sizes__0__teeth" if path == "sizes" else path.replace(".", "__")
            key = models.F(f"document__{steps}")
        order = key.desc(nulls_last=True) if falling else key.asc(nulls_last=True)
        return self.order_by(order, "ref")

    def find(self, user: Any, kind: str, ref: str) -> "Part | None":
        """Return one part of `user`, removed or not, if there is one."""
        return self.filter(owner=user, kind=kind, ref=ref).first()

    def one(self, user: Any, kind: str, ref: str, *, lock: bool = False) -> "Part":
        """Return one part of `user`, removed or not; raise `NotFound` if there is none."""
        parts = self.select_for_update() if lock else self
        found = parts.find(user, kind, ref)
        if found is None:
            raise NotFound("part", "is not among your own parts")
        return found
