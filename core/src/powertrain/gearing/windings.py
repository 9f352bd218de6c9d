"""The windings of one can side by side."""

from typing import Any

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import Array, scalar
from powertrain.bench.answer import Band
from powertrain.bench.bands import drive_bands, figure_bands
from powertrain.compile.build import compile_build, compile_drive, with_moments
from powertrain.documents.build import Build
from powertrain.documents.motors import MotorDocument
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.shelf import Shelf
from powertrain.documents.vehicle import ToothedStage
from powertrain.drive import Drive
from powertrain.levers.rules.winding import PREFERRED, limit_with, wound_to
from powertrain.motor.kinds import winding_of
from powertrain.operating.limits import Limit
from powertrain.operating.state import greatest_power
from powertrain.plain import limit_word, number
from powertrain.results import figures_of, results_of
from powertrain.stated import Stated

STEPS = 2
"""Windings shown on either side of the present one, where no family is known."""


MOST_WINDINGS = 24
"""Windings of one can that are solved, those nearest to its own; no maker winds as many."""


class WindingAnswer(BaseModel):
    """One winding: its constants, what it does on today's gearing, and what keeps today's speed.

    `lasting_torque_nm` is None where no amps for long are stated. `keeps_ratio` is the whole
    reduction at which the wheel turns as it does today, `keeps_teeth` the nearest teeth of the
    first toothed stage; `keeps_change` sets winding and teeth together. Where it can't start on the
    hill (`climbs` false) there is no temperature after it. `say` is what it does to the top speed,
    and what holds it there. `bands` are the 10, 50 and 90 % points of the figures that doubt
    touches.
    """

    number: float
    own: bool
    say: str
    torque_per_amp_nm: float
    resistance_ohm: float
    lasting_a: float | None
    lasting_torque_nm: float | None
    copper_w: float | None
    power_w: float | None
    top_speed_kmh: float | None
    winding_climb_c: float | None
    climbs: bool
    motor_peak_a: float | None
    limited_by: str | None
    change: dict[str, Any]
    keeps_ratio: float
    keeps_teeth: list[int] | None
    keeps_change: dict[str, Any]
    bands: dict[str, Band]


class WindingsAnswer(BaseModel):
    """All windings, slowest first, and in words what another one would do."""

    unit: str
    windings: list[WindingAnswer]
    say: str


def can_of(build: Build, shelf: Shelf) -> list[tuple[float, MotorDocument | None]]:
    """Return the windings of a build's can by their numbers, its own among them.

    Those of the same can on a shelf, with the constants that their maker states; else steps of the
    preferred series around its own, to be scaled.
    """
    winding = winding_of(Stated(build.motor))
    if winding is None:
        return []
    found: dict[float, MotorDocument | None] = {winding.value: None}
    family = next((part.family for part in shelf.motors if part.name == build.motor.name), None)
    if family is not None:
        for part in shelf.motors:
            its = winding_of(Stated(part.motor))
            if part.family == family and its is not None:
                found.setdefault(its.value, part.motor)
        nearest = sorted(found, key=lambda number: abs(np.log(number / winding.value)))
        return [(number, found[number]) for number in sorted(nearest[:MOST_WINDINGS])]
    power = 10.0 ** np.floor(np.log10(winding.value))
    steps = sorted(
        float(f"{step * decade:.6g}")
        for decade in (power / 10, power, power * 10)
        for step in PREFERRED[::2]
    )
    below = [step for step in steps if step < winding.value / 1.06][-STEPS:]
    above = [step for step in steps if step > winding.value * 1.06][:STEPS]
    return sorted({**dict.fromkeys([*below, *above]), **found}.items())


def winding_change(build: Build, winding: float, stated: MotorDocument | None) -> dict[str, Any]:
    """Return what a winding of `can_of` changes in a build; nothing if it is the build's own."""
    own = winding_of(Stated(build.motor))
    if own is None or winding == own.value:
        return {}
    return wound_to(build, winding) if stated is None else _stated(build, stated)


def _stated(build: Build, motor: MotorDocument) -> dict[str, Any]:
    """Return the changes to a winding's own constants, as its maker states them."""
    own, its = build.motor.model_dump(exclude_none=True), motor.model_dump(exclude_none=True)
    changes = {
        f"motor.{key}": value
        for key, value in its.items()
        if isinstance(value, int | float) and key != "count" and own.get(key) != value
    }
    return changes | limit_with(build, its)


def windings(build: Build, shelf: Shelf) -> WindingsAnswer:
    """Return the windings of a build's can, each solved on the bench's own terms."""
    build = with_moments(build)
    document = build.model_dump(mode="json", exclude_unset=True)
    winding = winding_of(Stated(build.motor))
    if winding is None:
        say = "A motor with its inverter has one winding; its data sheet says what it does."
        return WindingsAnswer(unit="", windings=[], say=say)
    found = [
        _solved(build, document, value, winding_change(build, value, stated))
        for value, stated in can_of(build, shelf)
    ]
    now = next(one for one in found if one.own)
    told = [one.model_copy(update={"say": _does(one, now)}) for one in found]
    return WindingsAnswer(unit=winding.unit, windings=told, say=_say(told))


def _solved(
    build: Build, document: Any, own_number: float, change: dict[str, Any]
) -> WindingAnswer:
    own = not change
    wound = build if own else check_build(changed(document, change))
    compiled, present = compile_build(wound), compile_drive(build)
    drive, results = compiled.drive, results_of(compiled)
    figures = figures_of(compiled, results)
    amps = wound.motor.continuous_current_a
    share = float(_torque_per_amp(present) / _torque_per_amp(drive))
    teeth, teeth_change = _keeping(build, share)
    bands = figure_bands(wound)
    climbs = int(results.moments.climb.state.limited_by) != Limit.CANNOT_MOVE

    def told(of: Drive) -> dict[str, Array | None]:
        return _constants(of, amps)

    constants = {
        key: None if value is None else number(value) for key, value in told(drive).items()
    }
    return WindingAnswer(
        number=own_number,
        own=own,
        say="",
        lasting_a=amps,
        **constants,
        top_speed_kmh=number(figures["top_speed_kmh"]),
        winding_climb_c=number(figures["winding_c"]) if climbs else None,
        climbs=climbs,
        motor_peak_a=number(figures["motor_peak_a"]),
        bands={
            "top_speed_kmh": bands["top_speed_kmh"],
            **({"winding_climb_c": bands["winding_c"]} if climbs else {}),
            "motor_peak_a": bands["motor_peak_a"],
            **drive_bands(wound, told),
        },
        limited_by=limit_word(results.moments.top_speed.state.limited_by),
        change=change,
        keeps_ratio=float(present.train.ratio) * share,
        keeps_teeth=teeth,
        keeps_change={**change, **teeth_change},
    )


def _constants(drive: Drive, lasting_a: float | None) -> dict[str, Array | None]:
    """Return what a motor's constants come to, of one drive or of many."""
    motor, amps = drive.motor, None if lasting_a is None else scalar(lasting_a)
    return {
        "torque_per_amp_nm": _torque_per_amp(drive),
        # An amp's copper heat is its resistance, by definition.
        "resistance_ohm": motor.copper_heat_w(scalar(1.0)),
        "lasting_torque_nm": None if amps is None else motor.shaft_torque_nm(scalar(0.0), amps),
        "copper_w": None if amps is None else motor.copper_heat_w(amps),
        "power_w": greatest_power(drive)[0],
    }


def _torque_per_amp(drive: Drive) -> Array:
    """Return the torque that one more amp gives at usual amps."""
    few, more = (drive.motor.shaft_torque_nm(scalar(0.0), scalar(a)) for a in (20.0, 21.0))
    return more - few


def _keeping(build: Build, share: float) -> tuple[list[int] | None, dict[str, int]]:
    """Return the teeth of the first toothed stage that come nearest to a changed reduction."""
    for index, stage in enumerate(build.gearing):
        if isinstance(stage, ToothedStage):
            own = (stage.driver_teeth, stage.driven_teeth)
            best = _nearest(own, own[1] / own[0] * share)
            return best, {
                f"gearing.{index}.driver_teeth": best[0],
                f"gearing.{index}.driven_teeth": best[1],
            }
    return None, {}


def _nearest(own: tuple[int, int], wanted: float) -> list[int]:
    """Return driver and driven near the present ones whose reduction comes nearest.

    Of each driver only the driven wheels around the wanted ones are looked at, so that the work
    goes with the teeth and not with their square.
    """
    drivers, driven = (_near(teeth) for teeth in own)
    under = np.floor(wanted * drivers)
    pairs = np.column_stack(
        [
            np.repeat(drivers, 2),
            np.clip(np.stack([under, under + 1], axis=1), *driven[[0, -1]]).ravel(),
        ]
    )
    off = np.round(np.abs(np.log(pairs[:, 1] / pairs[:, 0] / wanted)), 9)
    # Of equally near ones, those most like the present.
    best = np.lexsort((np.abs(pairs - own).sum(axis=1), off))[0]
    return [int(teeth) for teeth in pairs[best]]


def _near(teeth: int) -> Array:
    """Return the teeth that might stand for some: half of them to twice as many, from nine on."""
    return np.arange(max(min(LEAST_TEETH, teeth), teeth // 2), 2 * teeth + 1, dtype=float)


LEAST_TEETH = 9
"""Fewer are not offered; who has fewer keeps them."""


HELD_BY = {
    "voltage": "the volts",
    "motor_current": "the motor amps limit",
    "battery_current": "the pack amps limit",
    "traction": "the grip",
}

SAME_KMH = 0.05


def _does(one: WindingAnswer, now: WindingAnswer) -> str:
    """Return what a winding does to the top speed, by its own figures."""
    held = HELD_BY.get(one.limited_by or "", "the road")
    if one.own:
        return f"Held by {held} at top speed."
    if one.top_speed_kmh is None or now.top_speed_kmh is None:
        return "It does not move."
    more = one.top_speed_kmh - now.top_speed_kmh
    amps = (one.motor_peak_a or 0.0) - (now.motor_peak_a or 0.0)
    goes = "as fast" if abs(more) < SAME_KMH else "faster" if more > 0 else "slower"
    many = "as many" if abs(amps) < 0.5 else "more" if amps > 0 else "fewer"
    said = f"On the same teeth it goes {goes}, held by {held}, with {many} motor amps."
    return said if one.climbs else f"{said} It can't start on the hill."


def _say(found: list[WindingAnswer]) -> str:
    """Return what the windings beside the present one do, by their own figures."""
    place = next(at for at, one in enumerate(found) if one.own)
    now = found[place]
    quick = [one for one in found if _turns(one) > _turns(now)]
    if not quick or now.top_speed_kmh is None:
        return now.say
    next_one = min(quick, key=_turns)
    more = (next_one.top_speed_kmh or 0.0) - now.top_speed_kmh
    held = HELD_BY.get(next_one.limited_by or "", "the road")
    if more > SAME_KMH:
        return (
            f"A faster winding goes faster on the same teeth{_paid(next_one, now)}. Geared down to "
            "today's speed it gives the same push with more amps, and nothing is won."
        )
    return (
        f"A faster winding does not go faster here: {held} holds it at top speed. It would only "
        "turn faster in the air, and heat more. A slower one with less reduction draws fewer motor "
        "amps for the same push."
    )


def _paid(one: WindingAnswer, now: WindingAnswer) -> str:
    """Return what a winding's speed is paid with, by its figures."""
    if not one.climbs:
        return ", and can't start on the hill"
    amps = (one.motor_peak_a or 0.0) - (now.motor_peak_a or 0.0)
    heat = (one.winding_climb_c or 0.0) - (now.winding_climb_c or 0.0)
    paid = [word for word, more in (("more motor amps", amps), ("more heat", heat)) if more > 0.5]
    return f", with {' and '.join(paid)}" if paid else ""


def _turns(one: WindingAnswer) -> float:
    """Return how fast a winding turns for its volts, in no unit of its own."""
    return 1.0 / one.torque_per_amp_nm
