"""Why a part, or some parts together, do or don't: which rule excludes them, and by how much."""

from typing import Any

from pydantic import BaseModel

from powertrain.documents.brief import Brief
from powertrain.documents.shelf import Shelf
from powertrain.errors import Refusal
from powertrain.match.answer import Parts, Relaxed, parts_of
from powertrain.match.judged import judge
from powertrain.match.reasons import in_words
from powertrain.match.relax import relaxations
from powertrain.match.search import Search

LISTS = {
    "motor": "motors",
    "controller": "controllers",
    "battery": "packs",
    "propeller": "propellers",
}


class Reason(BaseModel):
    """A reason and for how much of what was considered it was the first."""

    id: str
    say: str
    share: float


class WhyAnswer(BaseModel):
    """What became of everything that holds the parts asked about."""

    considered: int
    feasible: int
    best: Parts | None
    score: float | None
    reasons: list[Reason]
    relaxed: list[Relaxed]


def why(brief: Brief, shelf: Shelf, named: dict[str, str]) -> WhyAnswer:
    """Return why parts of a shelf are or are not among what a brief finds.

    Parameters
    ----------
    named : dict
        Ids by ``motor``, ``controller``, ``battery`` and ``propeller``; those not named are free.
    """
    narrow = narrowed(shelf, named)
    search = Search(brief, narrow, best=1).run()
    tally = search.tally
    best = score = None
    if tally.feasible:
        key = tuple(int(place) for place in search.best.keys[0])
        best = parts_of(search.options, key)
        score = float(judge(brief, search.options, key).worth.score[0])  # type: ignore[arg-type]
    return WhyAnswer(
        considered=tally.considered,
        feasible=tally.feasible,
        best=best,
        score=score,
        reasons=[
            Reason(id=reason, say=in_words(reason), share=count / max(tally.considered, 1))
            for reason, count in tally.rejected.most_common(6)
        ],
        relaxed=[] if tally.feasible else list(relaxations(brief, narrow)),
    )


def narrowed(shelf: Shelf, named: dict[str, str]) -> Shelf:
    """Return a shelf with only the named parts of their kinds.

    Raises
    ------
    Refusal
        If the shelf does not have one of them.
    """
    update: dict[str, Any] = {}
    for kind, ref in named.items():
        parts = [part for part in getattr(shelf, LISTS[kind]) if part.id == ref]
        if not parts:
            raise Refusal(kind, f"names {ref!r}, which the shelf does not have")
        update[LISTS[kind]] = parts
    return shelf.model_copy(update=update)
