"""When nothing is feasible: which single wish, given up how far, first lets something through."""

from collections.abc import Iterator
from typing import Any

import numpy as np

from powertrain.arrays import scalar
from powertrain.documents.brief import Brief
from powertrain.documents.shelf import Shelf
from powertrain.match.answer import Blocked, Relaxed, parts_of
from powertrain.match.judged import judge
from powertrain.match.reasons import in_words
from powertrain.match.search import Search
from powertrain.match.wish import Wished
from powertrain.match.wish_registry import rejections, wishes_of
from powertrain.verdicts.registry import stopping_rules

ANY_KG = 1e6


def without(brief: Brief, wish: str) -> Brief | None:
    """Return a brief with one wish given up, None for one that has no place of its own."""
    if wish not in rejections():
        return None
    place = rejections()[wish].field
    wishes = brief.wishes
    if wish == "added_mass":
        # Where none is stated a usual one counts, which a very large one takes out.
        free = wishes.model_copy(update={place[0]: ANY_KG})
        return brief.model_copy(update={"wishes": free})
    if len(place) == 2:
        inner: Any = getattr(wishes, place[0])
        kept = inner.model_copy(update={place[1]: None})
        return brief.model_copy(update={"wishes": wishes.model_copy(update={place[0]: kept})})
    return brief.model_copy(update={"wishes": wishes.model_copy(update={place[0]: None})})


def relaxations(brief: Brief, shelf: Shelf) -> Iterator[Relaxed]:
    """Yield for each wish what would do if it were given up, as far as that is needed.

    The whole shelf is searched again without the wish; of what is feasible then, the one that
    comes nearest to it is named.
    """
    seen: set[str] = set()
    for wish in wishes_of(brief):
        if wish.id in seen:
            continue
        seen.add(wish.id)
        freer = without(brief, wish.id)
        if freer is not None:
            found = _nearest(brief, freer, shelf, wish)
            if found is not None:
                yield found


def _nearest(brief: Brief, freer: Brief, shelf: Shelf, wish: Wished) -> Relaxed | None:
    search = Search(freer, shelf, best=1, favour=wish).run()
    if not search.tally.feasible:
        return None
    key = tuple(int(place) for place in search.best.keys[0])
    one = judge(brief, search.options, key)  # type: ignore[arg-type]
    told = next(told for told in one.told if told.wish.id == wish.id)
    if told.value is None or not np.isfinite(told.value):
        return None
    if wish.met(scalar(told.value)):
        # It stood in the way of something else, such as the heat of a trip at that speed.
        say = f"{wish.label} {wish.limit:g}{_unit(wish)}: without this wish something would do."
        return Relaxed(
            wish=wish.id, label=wish.label, unit=wish.unit, limit=wish.limit, to=told.value, say=say
        )
    gap = abs(told.value - wish.limit)
    figure, by = f"{told.value:.4g}{_unit(wish)}", f"{gap:.3g}{_unit(wish)}"
    say = f"{wish.label}: {figure} would do, {by} less than the {wish.limit:g} asked for."
    if wish.sense < 0:
        say = (
            f"{wish.label}: allowing {figure} would do, {by} more than the {wish.limit:g} allowed."
        )
    return Relaxed(
        wish=wish.id, label=wish.label, unit=wish.unit, limit=wish.limit, to=told.value, say=say
    )


def _unit(wish: Wished) -> str:
    return f" {wish.unit}" if wish.unit else ""


def blocked(brief: Brief, shelf: Shelf, search: Search) -> Iterator[Blocked]:
    """Yield the fixed rules that rule out most, with what would come nearest without each."""
    rules = stopping_rules()
    named = [(rule, count) for rule, count in search.tally.rejected.most_common() if rule in rules]
    for rule, count in named[:MOST_BLOCKED]:
        freer = Search(brief, shelf, best=1, without=rule).run()
        nearest, why = None, ""
        if freer.tally.feasible:
            key = tuple(int(place) for place in freer.best.keys[0])
            one = judge(brief, freer.options, key)  # type: ignore[arg-type]
            nearest = parts_of(freer.options, key)
            why = " ".join(f"{verdict.title}." for verdict in one.stops[:2])
        yield Blocked(rule=rule, say=in_words(rule), count=count, nearest=nearest, why=why)


MOST_BLOCKED = 3
"""Rules of which the nearest candidate is looked for; each takes a search."""
