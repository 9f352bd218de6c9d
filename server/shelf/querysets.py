"""Named reads of parts."""

from typing import TYPE_CHECKING, Any

from django.db import models

from builds.errors import NotThere

if TYPE_CHECKING:
    from shelf.models import Part


class PartQuerySet(models.QuerySet["Part"]):
    """Parts, always of one owner."""

    def of(self, user: Any) -> "PartQuerySet":
        """Return the parts of `user` that are not removed."""
        return self.filter(owner=user, removed_at=None)

    def find(self, user: Any, kind: str, ref: str) -> "Part | None":
        """Return one part of `user`, removed or not, if there is one."""
        return self.filter(owner=user, kind=kind, ref=ref).first()

    def one(self, user: Any, kind: str, ref: str, *, lock: bool = False) -> "Part":
        """Return one part of `user`, removed or not; raise `NotThere` if there is none."""
        parts = self.select_for_update() if lock else self
        found = parts.find(user, kind, ref)
        if found is None:
            raise NotThere("part", "is not among your own parts")
        return found
