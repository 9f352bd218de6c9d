"""Which parts a search puts together: what ships, and of one's own as many as can be looked at."""

from dataclasses import dataclass
from typing import Any

from powertrain.catalogue.fits import fits_brief
from powertrain.documents.brief import Brief
from powertrain.documents.shelf import Part as PartDocument
from powertrain.documents.shelf import Shelf
from shelf.models import Part
from shelf.whole import readable, with_own

MOST = {
    "motors": 100,
    "controllers": 60,
    "packs": 60,
    "propellers": 60,
    "teeth": 30,
    "wheels": 30,
    "strands": 10,
}
"""Parts of one's own of each kind: with what ships, two million sets of motor, controller and pack,
which are looked through in half a minute."""

AT_FIRST = {"motors": 15, "controllers": 15, "packs": 15, "propellers": 15}
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
    """Return what to search for a brief: of one's own all, or as many as can be looked at.

    Where these are too many, those come first that can serve it by what they say themselves, and
    the newest of them. Those that can't serve stay where there is room: a wish that is given up
    may be the one they fail. What the brief says is owned, and what is `named`, is always there.
    """
    said = brief.owned.model_dump().values()
    owned = [*named, *(ref for ref in said if isinstance(ref, str))]
    unfit = fits_brief(brief)
    all_, first, left_out = {}, {}, 0
    for kind, most in MOST.items():
        mine = Part.objects.of(user).filter(kind=kind)
        documents = readable(mine[: READ * most])
        told = list(zip(documents, unfit(documents), strict=True))
        best = [part for part, why in sorted(told, key=lambda one: one[1] is not None)]
        always = readable(mine.filter(ref__in=owned))
        all_[kind] = _with(always, best[:most])
        first[kind] = _with(always, best[: AT_FIRST.get(kind, 0)])
        left_out += max(0, mine.count() - most)
    few = all(len(all_[kind]) == len(first[kind]) for kind in MOST)
    return Candidates(with_own(all_), None if few else with_own(first), left_out)


def _with(named: list[PartDocument], fit: list[PartDocument]) -> list[PartDocument]:
    ids = {part.id for part in named}
    return [*named, *(part for part in fit if part.id not in ids)]
