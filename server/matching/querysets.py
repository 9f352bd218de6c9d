"""Named reads of briefs and matches."""

from typing import TYPE_CHECKING, Any
from uuid import UUID

from django.db import models

from builds.errors import NotThere

if TYPE_CHECKING:
    from matching.models import Brief, Match


class BriefQuerySet(models.QuerySet["Brief"]):
    """Briefs, always of one owner."""

    def of(self, user: Any) -> "BriefQuerySet":
        """Return the briefs of `user`, the last changed first."""
        return self.filter(owner=user)

    def one(self, user: Any, brief_id: UUID) -> "Brief":
        """Return one brief of `user`; raise `NotThere` if there is none."""
        found = self.filter(owner=user, pk=brief_id).first()
        if found is None:
            raise NotThere("brief", "is not among your briefs")
        return found


class MatchQuerySet(models.QuerySet["Match"]):
    """Searches, always of one owner's briefs."""

    def one(self, user: Any, match_id: UUID) -> "Match":
        """Return one search of `user`; raise `NotThere` if there is none."""
        found = self.filter(brief__owner=user, pk=match_id).select_related("brief").first()
        if found is None:
            raise NotThere("match", "is not among your searches")
        return found
