"""Roads to one wish: so much faster by teeth, by winding, by cells or by timing."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.bench.answer import Band, StateAnswer
from powertrain.bench.bands import figure_bands
from powertrain.bench.solve import glance
from powertrain.compile.build import compile_build, compile_drive, with_moments
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.shelf import Shelf
from powertrain.documents.vehicle import FixedStage, ToothedStage
from powertrain.errors import Refusal
from powertrain.levers.rules.timing import PATH
from powertrain.levers.rules.winding import wound_to
from powertrain.motor.kinds import can_be_timed, winding_of
from powertrain.motor.timing import acting_deg
from powertrain.operating.top_speed import top_speed_mps
from powertrain.plain import number
from powertrain.results import figures_of, results_of
from powertrain.stated import Stated
from powertrain.transmission.sold import least_price
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

RoadId = Literal["gearing", "winding", "cells", "timing"]
MOST_DEG = 45.0
"""All timing together beyond which it is no road any more; common practice, no source."""

ROUNDS = 40
"""Halvings in which a road's measure is found; to about ten digits."""


class RoadAnswer(BaseModel):
    """One road, worked to the wished speed, and what is bought or set for it.

    `reached` is whether it leads there at all; `why` says what stands in the way or how it was
    rounded. `figures` are at exactly the wished speed, `bought` at what can be bought, which
    `change` sets on the bench; `bands` are the 10, 50 and 90 % points of `figures`, `state` is
    where the watts go there. `price` is what new parts cost beyond the present, None where it is
    not known.
    """

    id: RoadId
    title: str
    reached: bool
    why: str
    measure: str
    figures: dict[str, float | None]
    bought: dict[str, float | None]
    bands: dict[str, Band]
    state: StateAnswer | None
    stops: list[str]
    parts: list[str]
    price: float | None
    change: dict[str, Any]


class RoadsAnswer(BaseModel):
    """The wish, what is now, where its watts go at top speed, and the roads."""

    wish_kmh: float
    now_kmh: float
    now: dict[str, float | None]
    bands: dict[str, Band]
    state: StateAnswer
    roads: list[RoadAnswer]


@dataclass(frozen=True)
class Road:
    """How a road goes, from `low` (as now) to `high` (as far as it goes).

    `at` makes a build of a measure, `buy` says what can be bought for it.
    """

    id: RoadId
    title: str
    low: float
    high: float
    at: Callable[[float], Build]
    measure: Callable[[float], str]
    buy: Callable[[float], tuple[dict[str, Any], list[str], float | None]]


def roads(build: Build, wish_kmh: float, shelf: Shelf) -> RoadsAnswer:
    """Return the roads from a build's top speed to a faster one, with what a shelf asks for it.

    Raises
    ------
    Refusal
        If the wish is not above what the build does now.
    """
    build.without_propeller()
    build = with_moments(build)
    now = _figures(build)
    now_kmh = now["top_speed_kmh"] or 0.0
    if wish_kmh <= now_kmh:
        raise Refusal("wish_kmh", f"must be above the {now_kmh:.1f} km/h it does now")
    ways = (_gearing(build, shelf), _winding(build), _cells(build), _timing(build))
    return RoadsAnswer(
        wish_kmh=wish_kmh,
        now_kmh=now_kmh,
        now=now,
        bands=dict(figure_bands(build)),
        state=_flat_out(build),
        roads=[_worked(build, road, wish_kmh) for road in ways if road is not None],
    )


def top_kmh(build: Build) -> float:
    """Return the top speed on the level."""
    return float(kmh_from_mps(top_speed_mps(compile_drive(build), scalar(0.0))))


def _figures(build: Build) -> dict[str, float | None]:
    compiled = compile_build(build)
    figures = figures_of(compiled, results_of(compiled))
    return {key: number(value) for key, value in figures.items()}


def _flat_out(build: Build) -> StateAnswer:
    return glance(build).states["top_speed"]


def _worked(build: Build, road: Road, wish_kmh: float) -> RoadAnswer:
    measure = _found(road, wish_kmh)
    if measure is None:
        best = max(top_kmh(road.at(step)) for step in np.linspace(road.low, road.high, 9))
        why = f"Leads to {best:.1f} km/h at the most: there is not the push, or not the way."
        return RoadAnswer(
            id=road.id,
            title=road.title,
            reached=False,
            why=why,
            measure="",
            figures={},
            bought={},
            bands={},
            state=None,
            stops=[],
            parts=[],
            price=None,
            change={},
        )
    change, parts, price = road.buy(measure)
    document = build.model_dump(mode="json", exclude_unset=True)
    bought = check_build(changed(document, change))
    verdicts, _ = judge_all(RuleContext.of(bought))
    figures, exact = _figures(bought), road.at(measure)
    return RoadAnswer(
        id=road.id,
        title=road.title,
        reached=True,
        why=f"With what can be bought it goes {figures['top_speed_kmh'] or 0:.1f} km/h.",
        measure=road.measure(measure),
        figures=_figures(exact),
        bought=figures,
        bands=dict(figure_bands(exact)),
        state=_flat_out(exact),
        stops=[verdict.title for verdict in verdicts if verdict.severity == "stop"],
        parts=parts,
        price=price,
        change=change,
    )


def _found(road: Road, wish_kmh: float) -> float | None:
    """Return the least measure at which the wished speed is reached, None where it never is."""
    steps = np.linspace(road.low, road.high, 25)
    above = next((step for step in steps if top_kmh(road.at(float(step))) >= wish_kmh), None)
    if above is None:
        return None
    low, high = float(above - (steps[1] - steps[0])), float(above)
    for _ in range(ROUNDS):
        middle = (low + high) / 2
        low, high = (low, middle) if top_kmh(road.at(middle)) >= wish_kmh else (middle, high)
    return high


def _gearing(build: Build, shelf: Shelf) -> Road | None:
    """Less reduction: what the first toothed stage reduces, divided."""
    place = next(
        (i for i, stage in enumerate(build.gearing) if isinstance(stage, ToothedStage)), None
    )
    if place is None:
        return None
    stage = build.gearing[place]
    assert isinstance(stage, ToothedStage)
    ratio = stage.driven_teeth / stage.driver_teeth

    def at(share: float) -> Build:
        fixed = FixedStage(kind="fixed", ratio=ratio / share, efficiency=stage.efficiency)
        gearing = [*build.gearing[:place], fixed, *build.gearing[place + 1 :]]
        return build.model_copy(update={"gearing": gearing})

    def buy(share: float) -> tuple[dict[str, Any], list[str], float | None]:
        wanted = ratio / share
        tries = [
            (driver, driven)
            for driver in range(stage.driver_teeth, 3 * stage.driver_teeth + 1)
            for driven in {stage.driven_teeth, *range(stage.driven_teeth // 2, stage.driven_teeth)}
            if driven / driver <= wanted * (1 + 1e-9)
        ]
        # One new wheel is better than two; of those the nearest.
        driver, driven = min(
            tries,
            key=lambda pair: (
                (pair[0] != stage.driver_teeth) + (pair[1] != stage.driven_teeth),
                -pair[1] / pair[0],
            ),
        )
        change, parts, price = {}, [], 0.0
        for side, count, own in (
            ("driver", driver, stage.driver_teeth),
            ("driven", driven, stage.driven_teeth),
        ):
            if count != own:
                change[f"gearing.{place}.{side}_teeth"] = count
                parts.append(f"{side} of {count} teeth for stage {place + 1}")
                price += least_price(stage, side, count, shelf)
        return change, parts, number(price)

    return Road(
        "gearing",
        "By teeth",
        1.0,
        3.0,
        at,
        lambda share: f"{float(compile_drive(at(share)).train.ratio):.3g} to 1 over all",
        buy,
    )


def _winding(build: Build) -> Road | None:
    winding = winding_of(Stated(build.motor))
    if winding is None:
        return None
    own = winding.value

    def rewound(share: float) -> float:
        return own * share if winding.rises_with_speed else own / share

    def at(share: float) -> Build:
        document = build.model_dump(mode="json", exclude_unset=True)
        return check_build(changed(document, wound_to(build, rewound(share))))

    def buy(share: float) -> tuple[dict[str, Any], list[str], float | None]:
        told = float(f"{rewound(share):.3g}")
        return wound_to(build, told), [f"the same can wound to {told:g} {winding.unit}"], None

    return Road(
        "winding",
        "By winding",
        1.0,
        3.0,
        at,
        lambda share: f"{rewound(share):.3g} {winding.unit}",
        buy,
    )


def _cells(build: Build) -> Road:
    own = build.battery.series

    def at(series: float) -> Build:
        # Between whole cells, as if volts could be bought by the bit.
        battery = build.battery.model_copy(update={"series": series})
        return build.model_copy(update={"battery": battery})

    def buy(series: float) -> tuple[dict[str, Any], list[str], float | None]:
        cells = int(np.ceil(series - 1e-9))
        price = build.battery.price
        more = None if price is None else price * (cells / own - 1)
        return {"battery.series": cells}, [f"a pack of {cells} cells in series"], more

    return Road(
        "cells",
        "By cells",
        float(own),
        3.0 * own,
        at,
        lambda series: f"{series:.4g} cells in series",
        buy,
    )


def _timing(build: Build) -> Road | None:
    now = build.motor.timing_deg or 0.0
    motor = Stated(build.motor)
    total = float(acting_deg(motor, Stated(build.controller))[0])
    if not can_be_timed(motor) or total >= MOST_DEG:
        return None

    def change(degrees: float) -> dict[str, Any]:
        return {PATH: now + degrees}

    def at(degrees: float) -> Build:
        if degrees <= 0:
            return build
        document = build.model_dump(mode="json", exclude_unset=True)
        return check_build(changed(document, change(degrees)))

    def buy(degrees: float) -> tuple[dict[str, Any], list[str], float | None]:
        whole = float(np.ceil(degrees - 1e-9))
        return change(whole), [], 0.0

    return Road(
        "timing",
        "By timing",
        0.0,
        MOST_DEG - total,
        at,
        lambda degrees: f"{degrees:.3g} degrees more",
        buy,
    )
