"""What the parts of a build may carry, turn and stand, as numbers.

A rating that is not stated is infinite where more would be worse, nought where less would be: it
never binds. What can't be told by that, a count of poles or slots, is NaN.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.controller.chopper import dc_for
from powertrain.controller.curve import ThrottleCurve
from powertrain.load.traction import MODEL_KG
from powertrain.motor.timing import acting_deg, stated_deg
from powertrain.stated import Stated
from powertrain.transmission.stage import StageData

Word = str | None


@dataclass(frozen=True)
class CurrentRating:
    """What a part carries for long, and for how many seconds its most; DC-equivalent amps."""

    continuous_a: Array
    peak_a: Array
    peak_s: Array

    @classmethod
    def of(cls, said: Stated) -> "CurrentRating":
        """Return the amps of a part; a peak of unknown length lasts no time at all."""
        timed = hasattr(said.part, "peak_duration_s")
        return cls(
            continuous_a=said.number("continuous_current_a", np.inf),
            peak_a=said.number("peak_current_a", np.inf),
            peak_s=said.number("peak_duration_s", 0.0) if timed else scalar(0.0),
        )


@dataclass(frozen=True)
class MotorRatings:
    """Of one motor; `brushless` tells how it is commutated, `sensor` what it has for a sensor."""

    amps: CurrentRating
    max_rpm: Array
    max_v: Array
    max_power_w: Array
    poles: Array
    slots: Array
    fewest_cells: Array
    most_cells: Array
    """What its maker advises."""
    own_timing_deg: Array
    """Degrees set at the motor itself."""
    timing_deg: Array
    """All stated degrees of motor and controller; NaN where none are."""
    acting_deg: Array
    """Those of them that act beyond the motor's constants."""
    brushless: bool
    shaft_power: bool
    """Whether its watts come out at the shaft, and do not go in at the wires."""
    sensor: Word


@dataclass(frozen=True)
class ControllerRatings:
    """Of one controller; `pack_side` tells whether its amps are rated at the pack.

    `per_dc` are its own amps for one of a direct current.
    """

    amps: CurrentRating
    max_v: Array
    capacitor_v: Array
    min_v: Array
    max_erpm: Array
    outputs: Array
    regen_a: Array
    throttle_steps: Array
    steps_forward: float
    """Part of its steps that go forward."""
    curve: ThrottleCurve
    per_dc: float
    pack_side: bool
    side_known: bool
    runs_from: tuple[str, ...] | None
    throttle_takes: Word


@dataclass(frozen=True)
class PackRatings:
    """Of the whole pack, and volts of one of its cells in their states."""

    amps: CurrentRating
    series: Array
    charge_a: Array
    cell_v: Array
    cut_off_cell_v: Array
    charger_cell_v: Array
    storage_cell_v: Array
    nominal_cell_v: Array
    usual_c: Array
    """Amps for each amp-hour that cells of its chemistry give for long."""

    @property
    def cut_off_v(self) -> Array:
        """Volts of the pack at which a controller lets go."""
        return self.series * self.cut_off_cell_v


@dataclass(frozen=True)
class WiringRatings:
    """Copper and connector; infinite where not known."""

    pack_wire_mm2: Array
    motor_wire_mm2: Array
    connector_a: Array


@dataclass(frozen=True)
class VehicleRatings:
    """Of the vehicle: what it was made for, and what is taken for granted of it."""

    rolling_circumference_mm: Array
    rated_speed_kmh: Array
    is_model: NDArray[np.bool_]
    mass_kg: Array
    throttle_gives: Word
    hub_height_mm: Array
    """How far a propeller's hub is from what its tips could strike; infinite where unsaid."""


@dataclass(frozen=True)
class Ratings:
    """All of them, of one build or many."""

    motor: MotorRatings
    controller: ControllerRatings
    pack: PackRatings
    wiring: WiringRatings
    stages: tuple[StageData, ...]
    vehicle: VehicleRatings
    propeller_rpm: Array
    """What its maker allows a propeller; infinite where there is none, too."""
    propeller_loosens: bool | None
    """Whether it works a right-hand nut loose; None where nobody said which way it turns."""

    @classmethod
    def of(cls, build: Stated) -> "Ratings":
        """Return what a document states."""
        motor, controller = build.under("motor"), build.under("controller")
        return cls(
            motor=_motor(motor, controller),
            controller=_controller(controller),
            pack=_pack(build.under("battery")),
            wiring=_wiring(build.under("wiring")),
            stages=tuple(StageData.of(stage) for stage in build.each("gearing")),
            vehicle=_vehicle(build),
            propeller_rpm=_propeller_rpm(build),
            propeller_loosens=_propeller_loosens(build),
        )


def _motor(said: Stated, controller: Stated) -> MotorRatings:
    total, acting = acting_deg(said, controller)
    fewest, most = said.word("rated_cells") or (0, np.inf)
    timed = bool(stated_deg(said, controller))
    return MotorRatings(
        amps=CurrentRating.of(said),
        max_rpm=said.number("max_rpm", np.inf),
        max_v=said.number("max_voltage_v", np.inf),
        max_power_w=said.number("max_power_w", np.inf),
        poles=said.number("poles", np.nan),
        slots=said.number("slots", np.nan),
        fewest_cells=scalar(fewest),
        most_cells=scalar(most),
        own_timing_deg=said.number("timing_deg", 0.0),
        timing_deg=total if timed else scalar(np.nan),
        acting_deg=acting if timed else scalar(np.nan),
        brushless=said.word("commutation") == "brushless",
        shaft_power=said.word("power_is") == "shaft",
        sensor=said.word("sensor"),
    )


def _controller(said: Stated) -> ControllerRatings:
    runs_from = said.word("sensor")
    return ControllerRatings(
        amps=CurrentRating.of(said),
        max_v=said.number("max_voltage_v", np.inf),
        capacitor_v=said.number("capacitor_voltage_v", np.inf),
        min_v=said.number("min_voltage_v", 0.0),
        max_erpm=said.number("max_erpm", np.inf),
        outputs=said.number("outputs", np.inf),
        regen_a=said.number("regen_current_limit_a", 0.0),
        throttle_steps=said.number("throttle_steps", np.inf),
        steps_forward=1.0 if said.word("steps_shared") is False else 0.5,
        curve=ThrottleCurve.of(said),
        per_dc=1 / dc_for(said),
        pack_side=said.word("rating_side") == "battery",
        side_known=said.word("rating_side") is not None,
        runs_from=None if runs_from is None else tuple(runs_from),
        throttle_takes=said.word("throttle_signal"),
    )


def _pack(said: Stated) -> PackRatings:
    cell = CHEMISTRIES[said.word("chemistry")]
    return PackRatings(
        amps=CurrentRating.of(said),
        series=said.number("series"),
        charge_a=said.number("charge_current_a", np.inf),
        cell_v=said.number("cell_voltage_v"),
        cut_off_cell_v=said.number("cut_off_cell_v", cell.cut_off_v),
        charger_cell_v=scalar(cell.charger_v),
        storage_cell_v=scalar(cell.storage_v),
        nominal_cell_v=scalar(cell.nominal_v),
        usual_c=scalar(cell.usual_c),
    )


def _wiring(said: Stated) -> WiringRatings:
    return WiringRatings(
        pack_wire_mm2=said.number("pack_wire_mm2", np.inf),
        motor_wire_mm2=said.number("motor_wire_mm2", np.inf),
        connector_a=said.number("connector_current_a", np.inf),
    )


def _propeller_rpm(build: Stated) -> Array:
    if build.word("propeller") is None:
        return scalar(np.inf)
    return build.under("propeller").number("max_rpm", np.inf)


def _propeller_loosens(build: Stated) -> bool | None:
    if build.word("propeller") is None:
        return None
    said = build.under("propeller")
    if not (said.gives("position") and said.gives("rotation")):
        return None
    return bool((said.word("position") == "pusher") == (said.word("rotation") == "clockwise"))


def _vehicle(build: Stated) -> VehicleRatings:
    said, rolls_mm = build.under("vehicle"), scalar(np.inf)
    if build.states("wheel"):
        rolls_mm = build.under("wheel").number("rolling_circumference_mm")
    mass_kg = said.number("mass_kg")
    return VehicleRatings(
        rolling_circumference_mm=rolls_mm,
        rated_speed_kmh=said.number("rated_speed_kmh", np.inf),
        is_model=mass_kg < MODEL_KG,
        mass_kg=mass_kg,
        throttle_gives=said.word("throttle_signal"),
        hub_height_mm=said.number("hub_height_mm", np.inf)
        if said.gives("hub_height_mm")
        else scalar(np.inf),
    )
