"""Figures of parts that no shop prints, but that tell one from another at a look."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.shelf import MotorPart, PackPart, Part, PropellerPart
from powertrain.errors import Refusal
from powertrain.motor.kinds import motor_of
from powertrain.stated import Stated


@dataclass(frozen=True)
class Figure:
    """One figure worked out of what a part says; None where it does not say enough."""

    path: str
    label: str
    unit: str
    of: Callable[[Part], float | None]


def _strength(part: Part) -> float | None:
    """Return torque squared for each watt of copper heat and kilogram: how good a can is.

    It is the same for each winding of one can (T = K sqrt(P), and K^2 grows with the copper).
    """
    assert isinstance(part, MotorPart)
    if not part.motor.mass_kg:
        return None
    try:
        constant = float(motor_of(Stated(part.motor)).constant_nm_per_root_w)
    except Refusal:
        return None
    return constant**2 / part.motor.mass_kg if np.isfinite(constant) and constant > 0 else None


def _energy_wh(part: Part) -> float | None:
    assert isinstance(part, PackPart)
    pack = part.battery
    volts = pack.series * CHEMISTRIES[pack.chemistry].nominal_v
    return volts * pack.parallel * pack.cell_capacity_ah


def _wh_per_kg(part: Part) -> float | None:
    assert isinstance(part, PackPart)
    energy, mass = _energy_wh(part), part.battery.mass_kg
    return None if energy is None or not mass else energy / mass


def _pitch_ratio(part: Part) -> float | None:
    assert isinstance(part, PropellerPart)
    return part.propeller.pitch_mm / part.propeller.diameter_mm


def _thrust_per_w(part: Part) -> float | None:
    """Return the thrust of its static test for each watt of its shaft."""
    assert isinstance(part, PropellerPart)
    test = part.propeller.static
    return None if test is None else test.thrust_n / test.shaft_power_w


def _merit(part: Part) -> float | None:
    """Return the figure of merit of its static test: of what a disc of its size could do at best.

    T^1.5/sqrt(2 rho A)/P (momentum theory; see `powertrain.propeller.momentum`).
    """
    assert isinstance(part, PropellerPart)
    said, test = part.propeller, part.propeller.static
    if test is None:
        return None
    disc_m2 = np.pi / 4 * (said.diameter_mm / 1000) ** 2
    ideal_w = test.thrust_n**1.5 / (2 * test.air_density_kg_m3 * disc_m2) ** 0.5
    return float(ideal_w / test.shaft_power_w)


FIGURES: dict[str, tuple[Figure, ...]] = {
    "motors": (
        Figure("strength", "Torque squared for each watt and kilogram", "N.m2/W/kg", _strength),
    ),
    "packs": (
        Figure("energy_wh", "Energy", "Wh", _energy_wh),
        Figure("wh_per_kg", "Energy for each kilogram", "Wh/kg", _wh_per_kg),
    ),
    "propellers": (
        Figure("pitch_ratio", "Pitch over diameter", "", _pitch_ratio),
        Figure("thrust_per_w", "Thrust for each watt, standing", "N/W", _thrust_per_w),
        Figure("merit", "Figure of merit, standing", "", _merit),
    ),
}
