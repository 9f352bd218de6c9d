"""Named reads of briefs and matches."""

from typing import TYPE_CHECKING, Any
from uuid import UUID

from django.db import models

from common.errors import NotFound

if TYPE_CHECKING:
    from collections.abc import Iterable

    from matching.models import Brief, Match, Origin


class BriefQuerySet(models.QuerySet["Brief"]):
    """Briefs, always of one owner."""

    def of(self, user: Any) -> "BriefQuerySet":
        """Return the briefs of `user` that are not removed, the last changed first."""
        return self.filter(owner=user, removed_at=None)

    def removed(self, user: Any) -> "BriefQuerySet":
        """Return the briefs that `user` removed and may want back."""
        return self.filter(owner=user).exclude(removed_at=None).order_by("-removed_at")

    def one(self, user: Any, brief_id: UUID) -> "Brief":
        """Return one brief of `user`; raise `NotFound` if there is none."""
        found = self.filter(owner=user, pk=brief_id).first()
        if found is None:
            raise NotFound("brief", "is not among your briefs")
        return found


class MatchQuerySet(models.QuerySet["Match"]):
    """Searches, always of one owner's briefs."""

    def last_of(self, briefs: "Iterable[Brief]") -> "dict[UUID, Match]":
        """Return the last search of each brief, without what it was asked and found."""
        last = self.filter(brief__in=[brief.pk for brief in briefs]).order_by(
            "brief_id", "-made_at"
        )
        light = last.distinct("brief_id").defer("document", "answer")
        return {match.brief_id: match for match in light}

    def one(self, user: Any, match_id: UUID) -> "Match":
        """Return one search of `user`; raise `NotFound` if there is none."""
        found = self.filter(brief__owner=user, pk=match_id).select_related("brief").first()
        if found is None:
            raise NotFound("match", "is not among your searches")
        return found


class OriginQuerySet(models.QuerySet["Origin"]):
    """Which build has which brief."""

    def of_brief(self, brief: "Brief") -> "models.QuerySet[Origin]":
        """Return the builds of a brief that stand in the list, the last changed first."""
        found = self.filter(brief=brief, build__removed_at=None).select_related("build")
        return found.order_by("-build__changed_at")[:50]
