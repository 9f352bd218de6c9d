"""Stored builds as the API shows them."""

from pydantic import BaseModel

from builds.models import Build, Version
from builds.querysets import next_of, version_of
from builds.schemas import ArchetypeCard, BuildAnswer, BuildCard, Pinned, VersionCard
from powertrain.archetypes import Archetype
from powertrain.bench.solve import glance
from powertrain.documents.reading import check_build
from powertrain.in_words import drive_in_words


def build_answer(build: Build) -> BuildAnswer:
    """Return a build as it stands, with the version it is compared with."""
    head, pinned = version_of(build, build.head), version_of(build, build.pinned)
    return BuildAnswer(
        id=build.pk,
        name=build.name,
        demo=build.demo,
        head=build.head,
        can_undo=head.parent is not None,
        can_redo=next_of(build) is not None,
        changed_at=build.changed_at,
        document=check_build(head.document),
        pinned=Pinned(number=pinned.number, document=check_build(pinned.document)),
    )


def build_card(build: Build) -> BuildCard:
    """Return a build for the list, solved."""
    document = check_build(version_of(build, build.head).document)
    seen = glance(document)
    climb, cruise, top = (seen.states[moment] for moment in ("climb", "cruise", "top_speed"))
    severities = [verdict.severity for verdict in seen.verdicts]
    return BuildCard(
        id=build.pk,
        name=build.name,
        demo=build.demo,
        changed_at=build.changed_at,
        drive=drive_in_words(document),
        motors=document.motor.count,
        state=top if cruise.road_w <= 0 else cruise,
        top_speed_mps=top.speed_mps,
        climb_speed_mps=climb.speed_mps,
        climb_grade_pct=climb.grade_pct,
        stops=severities.count("stop"),
        watches=severities.count("watch"),
    )


def archetype_card(archetype: Archetype) -> ArchetypeCard:
    """Return a vehicle to begin from, solved with its starting values."""
    states = glance(archetype.document).states
    return ArchetypeCard(
        id=archetype.id,
        title=archetype.title,
        say=archetype.say,
        document=archetype.document,
        state=states["cruise"],
        top_speed_mps=states["top_speed"].speed_mps,
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


def plain(document: BaseModel) -> dict[str, object]:
    """Return a checked document as it is stored: what was said, and no more."""
    return document.model_dump(mode="json", exclude_unset=True, exclude_none=True)
