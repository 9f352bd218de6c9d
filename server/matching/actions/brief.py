"""Begin a brief, change it, take it out of the list and bring it back."""

from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from builds.models import Build
from builds.querysets import version_of
from common.documents import plain
from matching.models import Brief, Origin
from powertrain.documents.brief import Brief as BriefDocument
from powertrain.documents.reading import check_build, check_model
from powertrain.match.starts import brief_of, said_of


def keep_brief(
    user: Any,
    document: dict[str, Any],
    brief_id: UUID | None = None,
    said: list[str] | None = None,
) -> Brief:
    """Store a brief, a new one or in the place of what it said before.

    Parameters
    ----------
    said : list of str, optional
        Paths that a person said. None leaves it as it was; of a new brief, all is said.
    """
    name = document.get("name", "Brief")
    if brief_id is None:
        return Brief.objects.create(owner=user, name=name, document=document, said=said)
    brief = Brief.objects.one(user, brief_id)
    brief.document, brief.name = document, name
    brief.said = brief.said if said is None else said
    brief.save(update_fields=["document", "name", "said", "changed_at"])
    return brief


def set_away(user: Any, brief_id: UUID, *, away: bool) -> Brief:
    """Take a brief out of the list, or put it back; what it says stays."""
    brief = Brief.objects.one(user, brief_id)
    brief.removed_at = timezone.now() if away else None
    brief.save(update_fields=["removed_at"])
    return brief


@transaction.atomic
def write_brief(user: Any, build_id: UUID, wishes: dict[str, Any] | None = None) -> Brief:
    """Write the brief of a build's vehicle, if it has none yet; return the brief that it has.

    Parameters
    ----------
    wishes : dict, optional
        What is wished of it, all of it said; None for what it does now, as guesses.

    Raises
    ------
    Refusal
        If a brief can't speak of such a vehicle.
    """
    build = Build.objects.one(user, build_id, lock=True)
    origin = Origin.objects.filter(build=build).select_related("brief").first()
    if origin is not None:
        brief: Brief = origin.brief
        if brief.removed_at is not None:
            set_away(user, brief.pk, away=False)
        return brief
    document = check_build(version_of(build, build.head).document)
    wished = plain(brief_of(document))
    said: list[str] | None = said_of(document)
    if wishes is not None:
        wished, said = plain(check_model(BriefDocument, {**wished, "wishes": wishes})), None
    written = keep_brief(user, wished, said=said)
    Origin.objects.create(build=build, brief=written, document=wished)
    return written
