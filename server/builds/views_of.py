"""Stored builds as the API shows them."""

from typing import Any

from builds.models import Build, Version
from builds.querysets import next_of, version_of
from builds.schemas import ArchetypeCard, BuildAnswer, Pinned, Ticked, VersionCard
from powertrain.archetypes import Archetype
from powertrain.bench.solve import glance
from powertrain.documents.build import Build as BuildDocument
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal


def build_answer(build: Build) -> BuildAnswer:
    """Return a build as it stands, with the version it is compared with."""
    head = version_of(build, build.head)
    document = check_build(head.document)
    pinned = _pinned(build) or Pinned(number=build.head, document=document)
    return BuildAnswer(
        id=build.pk,
        name=build.name,
        demo=build.demo,
        head=build.head,
        can_undo=head.parent is not None,
        can_redo=next_of(build) is not None,
        changed_at=build.changed_at,
        document=document,
        pinned=pinned,
        ticks={key: Ticked(**kept) for key, kept in build.ticks.items()},
    )


def _pinned(build: Build) -> Pinned | None:
    """Return the version a build is compared with; None if it can't be read any more."""
    version = version_of(build, build.pinned)
    try:
        return Pinned(number=version.number, document=check_build(version.document))
    except Refusal:
        return None


def archetype_card(archetype: Archetype) -> ArchetypeCard:
    """Return a vehicle to begin from, solved with its starting values."""
    seen = glance(archetype.document)
    return ArchetypeCard(
        id=archetype.id,
        group=archetype.group,
        title=archetype.title,
        say=archetype.say,
        document=archetype.document,
        state=seen.going,
        top_speed_mps=seen.states["top_speed"].speed_mps,
    )


def version_card(version: Version) -> VersionCard:
    """Return a version for the history."""
    return VersionCard(
        number=version.number,
        parent=version.parent,
        aside=version.aside,
        made_at=version.made_at,
        made_by=version.made_by.get_username(),
        changes=version.changes,
    )


def as_row(document: dict[str, Any]) -> BuildDocument | dict[str, Any]:
    """Return a stored document for a table: its name alone where it can't be read any more."""
    try:
        return check_build(document)
    except Refusal:
        return {key: document[key] for key in ("format", "name") if key in document}
