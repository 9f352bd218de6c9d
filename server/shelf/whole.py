"""The shelf of somebody: what ships, and what is their own; as much of it as a question needs."""

from collections.abc import Iterable
from functools import cache
from typing import Any

from django.db.models import Q

from powertrain.documents.build import Build
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import KINDS, Shelf
from powertrain.documents.shelf import Part as PartDocument
from powertrain.documents.vehicle import ToothedStage
from powertrain.errors import Refusal
from powertrain.shelf.shipped import shipped_shelf
from shelf.models import Part
from shelf.querysets import PartQuerySet
from shelf.schemas import PartName


def shelf_of(user: Any, *kinds: str) -> Shelf:
    """Return what may be bought, one's own parts first; of some kinds, or of all."""
    wanted = kinds or tuple(KINDS)
    return with_own({kind: own_parts(user, kind) for kind in wanted})


def shelf_for(user: Any, build: Build, *kinds: str) -> Shelf:
    """Return what may be bought of some kinds for a build.

    Of teeth those that mesh in its stages, of motors the windings of its own can.
    """
    own: dict[str, list[PartDocument]] = {}
    for kind in kinds:
        mine = Part.objects.of(user).filter(kind=kind)
        if kind == "teeth":
            mine = mine.filter(_meshing(build))[:MOST_RANGES]
        elif kind == "motors":
            named = mine.filter(name=build.motor.name or "").exclude(family="")
            mine = mine.filter(family__in=_families(build, named))
        own[kind] = readable(mine)
    return with_own(own)


MOST_RANGES = 300
"""Ranges of teeth of one's own that a ladder is made of, those changed last; a dozen hold every
count that is made."""


def _meshing(build: Build) -> Q:
    """Return what toothed wheels are asked for that may run in a stage of a build."""
    found = Q(pk__in=[])
    for stage in build.gearing:
        if isinstance(stage, ToothedStage):
            said, own = (
                ("module_mm", stage.module_mm)
                if stage.kind == "spur"
                else (
                    "pitch_mm",
                    stage.pitch_mm,
                )
            )
            pitch = f"document__{said}"
            of_kind = Q(document__kind=stage.kind)
            found |= (
                of_kind
                if own is None
                else of_kind & (Q(**{pitch: own}) | Q(**{f"{pitch}__isnull": True}))
            )
    return found


def _families(build: Build, named: PartQuerySet) -> list[str]:
    shipped = {
        part.family
        for part in shipped_shelf().motors
        if part.name == build.motor.name and part.family is not None
    }
    return [*named.values_list("family", flat=True), *shipped]


def with_own(own: dict[str, list[PartDocument]]) -> Shelf:
    """Return the shelf that ships with some parts of one's own before its own ones, by kind."""
    shipped = shipped_shelf()
    update = {kind: [*parts, *getattr(shipped, kind)] for kind, parts in own.items() if parts}
    return shipped.model_copy(update=update)


def own_parts(user: Any, kind: str) -> list[PartDocument]:
    """Return the parts of one kind that are one's own and can be read, the last changed first."""
    return readable(Part.objects.of(user).filter(kind=kind))


def readable(parts: Iterable[Part]) -> list[PartDocument]:
    """Return parts as documents, without those that can't be read any more."""
    return [read for _, read in read_each(parts) if not isinstance(read, Refusal)]


def read_each(parts: Iterable[Part]) -> list[tuple[Part, PartDocument | Refusal]]:
    """Return parts, each with its document or why it can't be read any more."""
    return [(part, _read(part)) for part in parts]


def _read(part: Part) -> PartDocument | Refusal:
    try:
        return check_model(KINDS[part.kind], part.document)
    except Refusal as refusal:
        return refusal


def as_row(part: Part) -> PartDocument | dict[str, Any]:
    """Return a part for a table: its id and name alone where it can't be read any more."""
    read = _read(part)
    return {"id": part.ref, "name": part.name} if isinstance(read, Refusal) else read


MOST_NAMED = 300
"""Parts of one's own of a kind that a list to choose from holds."""


def names_of(user: Any, kind: str) -> list[PartName]:
    """Return id and name of parts, one's own first, of these the last changed."""
    own = Part.objects.of(user).filter(kind=kind).values_list("ref", "name")[:MOST_NAMED]
    shipped = ((part.id, part.name) for part in getattr(shipped_shelf(), kind))
    return [PartName(id=ref, name=name) for ref, name in (*own, *shipped)]


def taken_ids(user: Any) -> dict[str, str]:
    """Return the ids of all of one's own parts, removed ones too, each with its kind."""
    return dict(Part.objects.filter(owner=user).values_list("ref", "kind"))


@cache
def shipped_ids() -> frozenset[str]:
    """Return the ids of all parts that ship."""
    return frozenset(part.id for kind in KINDS for part in getattr(shipped_shelf(), kind))
