"""What a match may choose from: the shelf, with what is owned in the place of the rest."""

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from powertrain.arrays import scalar
from powertrain.compile.build import compile_build
from powertrain.constants import RPM_PER_RAD_S
from powertrain.documents.battery import Battery
from powertrain.documents.brief import Brief
from powertrain.documents.electrics import Controller
from powertrain.documents.motors import MotorDocument
from powertrain.documents.propeller import Propeller
from powertrain.documents.shelf import ControllerPart, MotorPart, Shelf
from powertrain.errors import Refusal
from powertrain.match.alike import alike_of, numbers_of
from powertrain.match.compose import build_of, final_stages, own_stages
from powertrain.match.gearings import Gearings, gearings_of, given
from powertrain.match.last import Last
from powertrain.match.propellers import Propellers
from powertrain.operating.on_road import fastest_mps
from powertrain.stated import Stated
from powertrain.transmission.clearance import most_on_axle_mm
from powertrain.transmission.train import Train
from powertrain.units import mps_from_kmh

SLOWEST_KMH = 3.0
"""Gearings are made down to this speed where no speed is wished for."""

OWN = "own"
"""The id of a part that a brief describes itself."""


@dataclass(frozen=True)
class MotorOption:
    """A motor to choose, and how it drives."""

    id: str
    motor: MotorDocument
    mounts: str
    price: float
    can: str
    """What windings of one can have in common; its id for a motor of its own."""


@dataclass(frozen=True)
class ControllerOption:
    """A controller to choose."""

    id: str
    part: ControllerPart
    price: float


@dataclass(frozen=True)
class PackOption:
    """A pack to choose."""

    id: str
    battery: Battery
    price: float


@dataclass(frozen=True)
class Options:
    """All that is considered, each list by id; owned parts have no price."""

    motors: tuple[MotorOption, ...]
    controllers: tuple[ControllerOption, ...]
    packs: tuple[PackOption, ...]
    last: Last
    """Gearings, or propellers of a craft."""

    @property
    def gearings(self) -> Gearings:
        """The gearings, of a vehicle on wheels."""
        assert isinstance(self.last, Gearings)
        return self.last

    @property
    def propellers(self) -> Propellers:
        """The propellers, of a craft."""
        assert isinstance(self.last, Propellers)
        return self.last

    @classmethod
    def of(cls, brief: Brief, shelf: Shelf) -> "Options":
        """Return the options of a brief.

        Raises
        ------
        Refusal
            If an owned part is named that the shelf does not have.
        """
        motors = _motors(brief, shelf)
        controllers, packs = _controllers(brief, shelf), _packs(brief, shelf)
        if brief.is_craft:
            return cls(motors, controllers, packs, _propellers(brief, shelf))
        return cls(motors, controllers, packs, _gearings(brief, shelf, motors, controllers, packs))

    @property
    def considered(self) -> int:
        """How many candidates there are."""
        return len(self.motors) * len(self.controllers) * len(self.packs) * len(self.last)


def _price(value: float | None) -> float:
    return np.nan if value is None else float(value)


def _named(parts: list[Any], ref: str, place: str) -> Any:
    found = next((part for part in parts if part.id == ref), None)
    if found is None:
        raise Refusal(f"owned.{place}", f"names {ref!r}, which the shelf does not have")
    return found


def _motors(brief: Brief, shelf: Shelf) -> tuple[MotorOption, ...]:
    own = brief.owned.motor
    if own is None:
        options = [_option(part, _price(part.motor.price)) for part in shelf.motors]
        return tuple(sorted(options, key=lambda option: option.id))
    if isinstance(own, str):
        part: MotorPart = _named(shelf.motors, own, "motor")
        return (_option(part, 0.0),)
    return (MotorOption(OWN, own, "shaft", 0.0, OWN),)


def _option(part: MotorPart, price: float) -> MotorOption:
    return MotorOption(part.id, part.motor, part.mounts, price, part.family or part.id)


def _controllers(brief: Brief, shelf: Shelf) -> tuple[ControllerOption, ...]:
    own = brief.owned.controller
    if own is None:
        options = [_option_of(part, brief.motor_count) for part in shelf.controllers]
        return tuple(sorted(options, key=lambda option: option.id))
    if isinstance(own, Controller):
        # What it drives is not said; it is owned, so it is taken to suit, and kept as it is set.
        part = ControllerPart(
            id=OWN, name=own.name or "own controller", settable=False, controller=own
        )
        return (ControllerOption(OWN, part, 0.0),)
    return (ControllerOption(own, _named(shelf.controllers, own, "controller"), 0.0),)


def shared_out(part: ControllerPart, motors: int) -> ControllerPart:
    """Return as many equal controllers of a kind as the motors need outputs."""
    outputs = part.controller.outputs
    count = 1 if outputs is None else max(1, -(-motors // outputs))
    if count == 1:
        return part
    shared = part.controller.model_copy(update={"count": count})
    return part.model_copy(update={"controller": shared})


def _option_of(part: ControllerPart, motors: int) -> ControllerOption:
    part = shared_out(part, motors)
    return ControllerOption(part.id, part, part.controller.count * _price(part.controller.price))


def _packs(brief: Brief, shelf: Shelf) -> tuple[PackOption, ...]:
    own = brief.owned.battery
    if own is None:
        options = [
            PackOption(part.id, part.battery, _price(part.battery.price)) for part in shelf.packs
        ]
        return tuple(sorted(options, key=lambda option: option.id))
    if isinstance(own, Battery):
        return (PackOption(OWN, own, 0.0),)
    return (PackOption(own, _named(shelf.packs, own, "battery").battery, 0.0),)


def _propellers(brief: Brief, shelf: Shelf) -> Propellers:
    own, stages = brief.owned.propeller, own_stages(brief) or []
    if own is None:
        named = [
            (part.id, part.propeller, _price(part.propeller.price)) for part in shelf.propellers
        ]
    elif isinstance(own, Propeller):
        named = [(OWN, own, 0.0)]
    else:
        named = [(own, _named(shelf.propellers, own, "propeller").propeller, 0.0)]
    return Propellers.of(sorted(named, key=lambda one: one[0]), brief.motor_count, stages)


def _gearings(
    brief: Brief,
    shelf: Shelf,
    motors: tuple[MotorOption, ...],
    controllers: tuple[ControllerOption, ...],
    packs: tuple[PackOption, ...],
) -> Gearings:
    own = own_stages(brief)
    if own is not None:
        train = Train.of([Stated(stage) for stage in own])
        return given(own, float(train.ratio), float(train.efficiency))
    behind = final_stages(brief)
    allowed = brief.wishes.allowed_parts
    teeth = None if allowed is None else frozenset(allowed) & {item.id for item in shelf.teeth}
    hub = not behind and any(motor.mounts == "hub" for motor in motors)
    most = _most_ratio(brief, motors, controllers, packs)
    most_axle_mm = float(most_on_axle_mm(scalar(brief.driven_wheel.rolling_circumference_mm)))
    if behind:
        # The axle's own reduction sits on the axle; what is searched for turns before it.
        most, most_axle_mm = (
            most / float(Train.of([Stated(stage) for stage in behind]).ratio),
            math.inf,
        )
    # Up to the next of a few round figures, so that like briefs share what is made.
    step = math.ceil(2 * math.log2(most)) if most > 1 else 0
    ranges = tuple(item for item in shelf.teeth if teeth is None or not teeth or item.id in teeth)
    made = gearings_of(ranges, 2 ** (step / 2), hub=hub, most_axle_mm=most_axle_mm)
    return made.before(behind)


def _most_ratio(
    brief: Brief,
    motors: tuple[MotorOption, ...],
    controllers: tuple[ControllerOption, ...],
    packs: tuple[PackOption, ...],
) -> float:
    """Return the reduction at which the fastest motor just reaches the least speed wished for."""
    if not (motors and controllers and packs):
        return 0.0
    slow_mps, most = mps_from_kmh(least_kmh(brief)), 0.0
    tallest: dict[str, PackOption] = {}
    for pack in packs:
        held = tallest.setdefault(pack.battery.chemistry, pack)
        if pack.battery.series > held.battery.series:
            tallest[pack.battery.chemistry] = pack
    part, documents = controllers[0].part, [motor.motor for motor in motors]
    for places in alike_of(documents):
        alike = [documents[place] for place in places]
        columns = numbers_of(alike, "motor.")
        for pack in tallest.values():
            build = build_of(brief, alike[0], part, pack.battery, {"gearing": []}, 0.0)
            compiled = compile_build(build, columns)
            drive, allowed_rpm = compiled.drive, compiled.ratings.motor.max_rpm
            allowed_mps = drive.speed_mps(drive.output_rad_s(allowed_rpm / RPM_PER_RAD_S))
            fastest = np.minimum(fastest_mps(drive), allowed_mps)
            reached = fastest[np.isfinite(fastest)]
            most = max(most, float(np.max(reached, initial=0.0)) / slow_mps)
    return most


def least_kmh(brief: Brief) -> float:
    """Return the least speed that every candidate must reach on the level."""
    top, hill = brief.wishes.top_speed_kmh, brief.wishes.climb
    asked = (top.min if top else None, brief.wishes.cruise_kmh, hill.speed_kmh if hill else None)
    return max((speed for speed in asked if speed is not None), default=SLOWEST_KMH)
