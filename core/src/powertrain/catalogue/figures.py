"""Figures of parts that no shop prints, but that tell one from another at a look."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.shelf import MotorPart, PackPart, Part
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


FIGURES: dict[str, tuple[Figure, ...]] = {
    "motors": (
        Figure("strength", "Torque squared for each watt and kilogram", "N.m2/W/kg", _strength),
    ),
    "packs": (
        Figure("energy_wh", "Energy", "Wh", _energy_wh),
        Figure("wh_per_kg", "Energy for each kilogram", "Wh/kg", _wh_per_kg),
    ),
}
