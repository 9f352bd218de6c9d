"""Which parts a search puts together: what ships, and of one's own as many as can be looked at."""

from dataclasses import dataclass
from typing import Any

from powertrain.catalogue.fits import fits_brief
from powertrain.documents.brief import Brief
from powertrain.documents.shelf import Part as PartDocument
from powertrain.documents.shelf import Shelf
from powertrain.shelf.shipped import shipped_shelf
from shelf.models import Part
from shelf.whole import readable

MOST = {"motors": 100, "controllers": 60, "packs": 60, "teeth": 30, "wheels": 30, "strands": 10}
"""Parts of one's own of each kind: with what ships, two million sets of motor, controller and pack,
which are looked through in half a minute."""

AT_FIRST = {"motors": 15, "controllers": 15, "packs": 15}
"""Of these kinds for a first result. With the teeth that ship, whose gearings are at hand."""

READ = 10
"""Times as many are read, since some can't serve the brief by what they say themselves."""


@dataclass(frozen=True)
class Candidates:
    """What is searched; `first` holds fewer, for a first result, None where all are few.

    `left_out` counts parts of one's own that were too many to be looked at.
    """

    shelf: Shelf
    first: Shelf | None
    left_out: int


def candidates_of(user: Any, brief: Brief, *named: str) -> Candidates:
    """Return what to search for a brief: of one's own those that can serve it, newest first.

    What the brief says is owned, and what is `named`, is always among them.
    """
    said = brief.owned.model_dump().values()
    owned = [*named, *(ref for ref in said if isinstance(ref, str))]
    unfit = fits_brief(brief)
    all_, first, left_out = {}, {}, 0
    for kind, most in MOST.items():
        mine = Part.objects.of(user).filter(kind=kind)
        read = list(mine[: READ * most])
        documents = readable(read)
        fit = [part for part, why in zip(documents, unfit(documents), strict=True) if why is None]
        always = readable(mine.filter(ref__in=owned))
        all_[kind] = _with(always, fit[:most])
        first[kind] = _with(always, fit[: AT_FIRST.get(kind, 0)])
        left_out += len(fit) - len(fit[:most])
        left_out += mine.count() - len(read) if len(read) == READ * most else 0
    few = all(len(all_[kind]) == len(first[kind]) for kind in MOST)
    return Candidates(_shelf(all_), None if few else _shelf(first), left_out)


def _with(named: list[PartDocument], fit: list[PartDocument]) -> list[PartDocument]:
    ids = {part.id for part in named}
    return [*named, *(part for part in fit if part.id not in ids)]


def _shelf(own: dict[str, list[PartDocument]]) -> Shelf:
    shipped = shipped_shelf()
    update = {kind: [*parts, *getattr(shipped, kind)] for kind, parts in own.items() if parts}
    return shipped.model_copy(update=update)
