"""The answer of a match: what became of all candidates, and the best of them in full."""

import math
from collections.abc import Callable, Iterable
from typing import Any

from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.bench.answer import Band
from powertrain.bench.bands import figure_bands
from powertrain.documents.brief import Brief
from powertrain.match.judged import Judged, Key, WishResult, judge
from powertrain.match.options import Options
from powertrain.match.ranking import CRITERIA, ordered
from powertrain.match.reasons import in_words
from powertrain.match.search import Search
from powertrain.motor.kinds import make_of
from powertrain.plain import number
from powertrain.stated import Stated

NEAR_TIE = 0.01
"""Scores nearer than this are told apart in words."""


class StageParts(BaseModel):
    """What to buy for one stage."""

    driver: str
    driver_teeth: int
    driven: str
    driven_teeth: int


class Parts(BaseModel):
    """The parts of a candidate, by their ids on the shelf; `own` stands for an owned one.

    `twins` is how many buyable gearings have the same reduction, stages and loss; `controllers` how
    many equal controllers share the motors. `propeller` is that of a craft, one for each motor.
    """

    motor: str
    controller: str
    battery: str
    gearing: list[StageParts]
    ratio: float
    twins: int
    controllers: int = 1
    propeller: str | None = None


class Margin(BaseModel):
    """A wish: its figure, its limit, and the room between them as a share of the limit."""

    label: str
    unit: str
    value: float | None
    limit: float
    margin: float | None
    at: str


class Difference(BaseModel):
    """What a near-tie has more or less of: `by` in `unit` goes into the braces of `say`."""

    by: float
    unit: str
    say: str


class Result(BaseModel):
    """One candidate. `build` is a build document; `worth` what its score is made of.

    `gearings` is how many gearings or propellers do with its motor, controller and pack. `bands`
    are the 10, 50 and 90 % points of the figures that doubt touches; empty while a search is under
    way.
    `differs` says what a near-tie has more or less of than the one before; None where it is none.
    """

    rank: int
    parts: Parts
    gearings: int
    build: dict[str, Any]
    figures: dict[str, float | None]
    margins: dict[str, Margin]
    score: float
    worth: dict[str, float]
    bands: dict[str, Band]
    differs: list[Difference] | None
    say: str


class TrioAnswer(BaseModel):
    """Motor, controller and pack: how many gearings or propellers do, and the best of them."""

    motor: str
    controller: str
    battery: str
    gearings: int
    ratio: float
    propeller: str | None = None
    score: float


class FrontPoint(BaseModel):
    """A candidate that no other beats in price, mass and margin at once."""

    parts: Parts
    price: float
    added_mass_kg: float
    margin: float


class Relaxed(BaseModel):
    """A wish which, given up as far as `to`, lets something through; `by` says how far."""

    wish: str
    label: str
    unit: str
    limit: float
    to: float
    say: str


class Blocked(BaseModel):
    """A fixed rule that rules out much: for how many, and what would be nearest without it.

    `why` says what stops that one.
    """

    rule: str
    say: str
    count: int
    nearest: Parts | None
    why: str


class MatchAnswer(BaseModel):
    """What became of all candidates.

    `rejected` counts them by the reason that came first, `reasons` says each in words. `blocked`
    names the fixed rules that stand in the way where giving up a wish does not help. `whole` is
    false where the search ended before it had looked at all: the best found so far are shown.
    `left_out` are parts that were too many to be looked at and are not among the candidates.
    """

    considered: int
    solved: int
    feasible: int
    rejected: dict[str, int]
    reasons: dict[str, str]
    results: list[Result]
    trios: list[TrioAnswer]
    front: list[FrontPoint]
    decided: str | None
    relaxed: list[Relaxed]
    blocked: list[Blocked] = []
    whole: bool = True
    left_out: int = 0


MOST_TRIOS = 100


def answer_of(
    search: Search,
    limit: int,
    relaxed: Iterable[Relaxed] = (),
    *,
    by_trio: bool = False,
    bands: bool = True,
    blocked: Iterable[Blocked] = (),
) -> MatchAnswer:
    """Return the answer of a search so far; its best are solved again by the plain solver.

    Parameters
    ----------
    by_trio : bool
        Whether to give only the best gearing of each motor, controller and pack, different
        makes of motor first, then different cans, then windings: near-twins come after.
    bands : bool
        Whether to say how sure the figures are; that takes a hundredth of a second a result.
    """
    brief, options, tally = search.brief, search.options, search.tally
    ranked = _best_of_trios(search) if by_trio else _best(search)
    keys, scores = [key for key, _ in ranked[:limit]], [score for _, score in ranked[:limit]]
    judged = [judge(brief, options, key) for key in keys]
    results = [
        _result(
            options,
            rank,
            one,
            score,
            _differs(judged, scores, rank - 1),
            tally.by_trio[one.key[:3]][0],
            bands,
        )
        for rank, (one, score) in enumerate(zip(judged, scores, strict=True), 1)
    ]
    return MatchAnswer(
        considered=tally.considered,
        solved=tally.solved,
        feasible=tally.feasible,
        rejected=dict(tally.rejected.most_common()),
        reasons={reason: in_words(reason) for reason in tally.rejected},
        results=results,
        trios=_trios(search),
        front=_front(search),
        decided=_decided(brief, judged),
        relaxed=list(relaxed),
        blocked=list(blocked),
        whole="not_tried" not in tally.rejected,
    )


def _best(search: Search) -> list[tuple[Key, float]]:
    best = search.best
    return [
        ((int(m), int(c), int(p), int(g)), float(score))
        for (m, c, p, g), score in zip(best.keys, best.score, strict=True)
    ]


def _best_of_trios(search: Search) -> list[tuple[Key, float]]:
    """Return the best gearing of each trio: first of each make of motor, of each can, of each."""
    order = sorted(search.tally.by_trio.items(), key=lambda item: (-item[1][1], item[0]))
    ranked: list[tuple[Key, float]] = [((*trio, gear), score) for trio, (_, score, gear) in order]
    ranked = _firsts(ranked, lambda key: key[0])
    makes = [(option.mounts, make_of(Stated(option.motor))) for option in search.options.motors]
    worth = [score >= NEAR_BEST * ranked[0][1] for _, score in ranked]
    near = [one for one, is_near in zip(ranked, worth, strict=True) if is_near]
    far = [one for one, is_near in zip(ranked, worth, strict=True) if not is_near]
    near = _firsts(near, lambda key: search.options.motors[key[0]].can)
    return [*_firsts(near, lambda key: makes[key[0]]), *far]


NEAR_BEST = 0.9
"""Another make of motor is shown before others of the best one if it is about as good."""


def _firsts(
    ranked: list[tuple[Key, float]], told_apart: Callable[[Key], object]
) -> list[tuple[Key, float]]:
    """Return those first that are the first of their like, each part in its order."""
    seen: set[object] = set()
    firsts: list[tuple[Key, float]] = []
    others: list[tuple[Key, float]] = []
    for one in ranked:
        like = told_apart(one[0])
        (others if like in seen else firsts).append(one)
        seen.add(like)
    return [*firsts, *others]


def parts_of(options: Options, key: tuple[int, ...]) -> Parts:
    """Return what to buy for a candidate."""
    return Parts(
        motor=options.motors[key[0]].id,
        controller=options.controllers[key[1]].id,
        battery=options.packs[key[2]].id,
        **options.last.bought(key[3]),
        controllers=options.controllers[key[1]].part.controller.count,
    )


def _result(
    options: Options,
    rank: int,
    one: Judged,
    score: float,
    differs: list[Difference] | None,
    gearings: int,
    bands: bool,
) -> Result:
    figures: dict[str, float | None] = {key: number(value) for key, value in one.figures.items()}
    figures |= {
        "full_charge_v": float(one.seen.batch.drive.pack.charger_v),
        "price": number(one.seen.price),
        "added_mass_kg": float(one.seen.added_kg),
        "stages": float(one.seen.stages),
    }
    return Result(
        rank=rank,
        parts=parts_of(options, one.key),
        gearings=gearings,
        build=one.build.model_dump(mode="json", exclude_unset=True),
        figures=figures,
        margins=margins_of(one.told),
        score=score,
        worth={key: float(part) for key, part in zip(CRITERIA, one.worth.parts, strict=True)},
        bands=dict(figure_bands(one.build)) if bands else {},
        differs=differs,
        say=_say(differs),
    )


def margins_of(told: Iterable[WishResult]) -> dict[str, Margin]:
    """Return the wishes of a candidate with the room that is left."""
    return {
        one.wish.id: Margin(
            label=one.wish.label,
            unit=one.wish.unit,
            value=None if one.value is None else number(one.value),
            limit=one.wish.limit,
            margin=None if one.value is None else number(one.wish.margin(scalar(one.value))),
            at=one.wish.at,
        )
        for one in told
    }


LEAST_TOLD = 0.05


def _differs(judged: list[Judged], scores: list[float], place: int) -> list[Difference] | None:
    """Return how a result that is nearly as good as the one before differs from it."""
    if place == 0 or not 0 <= scores[place - 1] - scores[place] < NEAR_TIE:
        return None
    one, before = judged[place], judged[place - 1]
    told = (
        (one.seen.price - before.seen.price, "", "costs {} more", "costs {} less"),
        (one.seen.added_kg - before.seen.added_kg, "kg", "weighs {} more", "weighs {} less"),
        (
            one.figures["range_km"] - before.figures["range_km"],
            "km",
            "has {} more range",
            "has {} less range",
        ),
    )
    return [
        Difference(by=abs(float(more)), unit=unit, say=say if more > 0 else less)
        for more, unit, say, less in told
        if math.isfinite(float(more)) and abs(float(more)) >= LEAST_TOLD
    ]


def _say(differs: list[Difference] | None) -> str:
    """Return a near-tie in words."""
    if differs is None:
        return ""
    named = [one.say.format(f"{one.by:.3g} {one.unit}".strip()) for one in differs]
    what = ", ".join(named) if named else "differs in nothing that counts"
    return f"Nearly as good as the one before: it {what}."


def _decided(brief: Brief, judged: list[Judged]) -> str | None:
    """Return which part of the score told the winner from the best with another motor or pack."""
    if not judged:
        return None
    first = judged[0]
    other = next((one for one in judged[1:] if one.key[:3] != first.key[:3]), None)
    if other is None:
        return None
    weights = [getattr(brief.weights, key) for key in CRITERIA]
    gains = [
        weight * float(mine - theirs)
        for weight, mine, theirs in zip(weights, first.worth.parts, other.worth.parts, strict=True)
    ]
    best = max(range(len(gains)), key=gains.__getitem__)
    return f"{CRITERIA[best].capitalize()} decided it against the next set of parts."


def _trios(search: Search) -> list[TrioAnswer]:
    options = search.options
    order = sorted(search.tally.by_trio.items(), key=lambda item: (-item[1][1], item[0]))
    bought = {gear: options.last.bought(gear) for _, (_, _, gear) in order[:MOST_TRIOS]}
    return [
        TrioAnswer(
            motor=options.motors[motor].id,
            controller=options.controllers[controller].id,
            battery=options.packs[pack].id,
            gearings=count,
            ratio=bought[gear]["ratio"],
            propeller=bought[gear].get("propeller"),
            score=score,
        )
        for (motor, controller, pack), (count, score, gear) in order[:MOST_TRIOS]
    ]


def _front(search: Search) -> list[FrontPoint]:
    front = search.front
    order = ordered(-front.points[:, 0], front.keys)
    return [
        FrontPoint(
            parts=parts_of(search.options, tuple(int(place) for place in front.keys[row])),
            price=float(front.points[row, 0]),
            added_mass_kg=float(front.points[row, 1]),
            margin=float(-front.points[row, 2]),
        )
        for row in order
    ]
