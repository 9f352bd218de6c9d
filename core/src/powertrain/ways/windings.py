"""The windings of one can side by side."""

from typing import Any

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import Array, scalar
from powertrain.bench.answer import Band
from powertrain.bench.bands import drive_bands, figure_bands
from powertrain.bench.numbers import limit_word, number
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.shelf import Shelf
from powertrain.documents.vehicle import ToothedStage
from powertrain.drive import Drive
from powertrain.figures import figures_of, picture_of
from powertrain.heat.store import Store
from powertrain.levers.rules.winding import PREFERRED, wound_to
from powertrain.motor.of_document import winding_of
from powertrain.operating.moments import with_moments
from powertrain.operating.state import greatest_power

STEPS = 2
"""Windings shown on either side of the present one, where no family is known."""


class WindingAnswer(BaseModel):
    """One winding: its constants, what it does on today's gearing, and what keeps today's speed.

    `lasting_torque_nm` is None where no amps for long are stated. `keeps_ratio` is the whole
    reduction at which the wheel turns as it does today, `keeps_teeth` the nearest teeth of the
    first toothed stage; `keeps_change` sets winding and teeth together. `bands` are the 10, 50
    and 90 % points of the figures that doubt touches.
    """

    number: float
    own: bool
    torque_per_amp_nm: float
    resistance_ohm: float
    lasting_a: float | None
    lasting_torque_nm: float | None
    copper_w: float | None
    power_w: float | None
    top_speed_kmh: float | None
    winding_climb_c: float | None
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


def can_of(build: Build, shelf: Shelf) -> list[float | None]:
    """Return the windings of a build's can by their numbers, its own among them.

    Those of the same can on a shelf; else steps of the preferred series around its own.
    """
    winding = winding_of(build.motor)
    if winding is None:
        return [None]
    numbers = {winding.value}
    family = next((part.family for part in shelf.motors if part.name == build.motor.name), None)
    if family is not None:
        same = [part.motor for part in shelf.motors if part.family == family]
        numbers |= {found.value for motor in same if (found := winding_of(motor))}
    else:
        power = 10.0 ** np.floor(np.log10(winding.value))
        steps = sorted(
            float(f"{step * decade:.6g}")
            for decade in (power / 10, power, power * 10)
            for step in PREFERRED[::2]
        )
        below = [step for step in steps if step < winding.value / 1.06][-STEPS:]
        above = [step for step in steps if step > winding.value * 1.06][:STEPS]
        numbers |= {*below, *above}
    shown: list[float | None] = [*sorted(numbers)]
    return shown


def windings(build: Build, shelf: Shelf) -> WindingsAnswer:
    """Return the windings of a build's can, each solved on the bench's own terms."""
    build = with_moments(build)
    document = build.model_dump(mode="json", exclude_unset=True)
    winding = winding_of(build.motor)
    if winding is None:
        say = "A motor with its inverter has one winding; its data sheet says what it does."
        return WindingsAnswer(unit="", windings=[], say=say)
    found = [
        _solved(build, document, float(number), number == winding.value)
        for number in can_of(build, shelf)
        if number is not None
    ]
    return WindingsAnswer(unit=winding.unit, windings=found, say=_say(found))


def _solved(build: Build, document: Any, own_number: float, own: bool) -> WindingAnswer:
    change = {} if own else wound_to(build, own_number)
    wound = build if own else check_build(changed(document, change))
    drive = Drive.of(wound)
    picture = picture_of(wound, drive, Store.of(wound, drive))
    figures = figures_of(wound, drive, picture)
    amps = wound.motor.continuous_current_a
    share = float(_torque_per_amp(Drive.of(build)) / _torque_per_amp(drive))
    teeth, teeth_change = _keeping(build, share)
    bands = figure_bands(wound)

    def told(of: Drive) -> dict[str, Array | None]:
        return _constants(of, amps)

    constants = {
        key: None if value is None else number(value) for key, value in told(drive).items()
    }
    return WindingAnswer(
        number=own_number,
        own=own,
        lasting_a=amps,
        **constants,
        top_speed_kmh=number(figures["top_speed_kmh"]),
        winding_climb_c=number(figures["winding_c"]),
        motor_peak_a=number(figures["motor_peak_a"]),
        bands={
            "top_speed_kmh": bands["top_speed_kmh"],
            "winding_climb_c": bands["winding_c"],
            "motor_peak_a": bands["motor_peak_a"],
            **drive_bands(wound, told),
        },
        limited_by=limit_word(picture.moments.top_speed.state.limited_by),
        change=change,
        keeps_ratio=float(Drive.of(build).train.ratio) * share,
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
            wanted = own[1] / own[0] * share
            pairs = [
                (driver, driven)
                for driver in _near(stage.driver_teeth)
                for driven in _near(stage.driven_teeth)
            ]
            # Of equally near ones, those most like the present.
            best = min(
                pairs,
                key=lambda pair: (
                    round(abs(np.log(pair[1] / pair[0] / wanted)), 9),
                    abs(pair[0] - own[0]) + abs(pair[1] - own[1]),
                ),
            )
            return list(best), {
                f"gearing.{index}.driver_teeth": best[0],
                f"gearing.{index}.driven_teeth": best[1],
            }
    return None, {}


def _near(teeth: int) -> range:
    return range(max(9, teeth // 2), 2 * teeth + 1)


def _say(found: list[WindingAnswer]) -> str:
    own = next(one for one in found if one.own)
    if own.limited_by == "voltage":
        return (
            "At top speed the volts are what limits: a faster winding goes faster on the same "
            "teeth, with more amps and more heat. Geared down to today's speed it gives the same "
            "push with more amps, and nothing is won."
        )
    if own.limited_by in ("motor_current", "battery_current"):
        return (
            "At top speed an amps limit sets the push, not the volts: a faster winding would "
            "only turn faster in the air, and heat more. A slower one with less reduction draws "
            "fewer motor amps for the same push."
        )
    return "Another winding changes nothing where grip or the road sets the speed."
