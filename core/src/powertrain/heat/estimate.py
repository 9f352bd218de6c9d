"""Heat data from mass and size, where no maker gives any.

The rules are common practice, no source, and good to a factor of about a half either way; every
figure made here is marked as an estimate. Specific heats: copper 385, iron 460, aluminium 900
J/(kg K) (handbook values, from memory).
"""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array
from powertrain.heat.air import STILL_W_PER_M2_K
from powertrain.motor.kinds import make_of
from powertrain.motor.size import MAKES
from powertrain.stated import Stated, first_stated

COPPER_SHARE = 0.18
"""Copper in the mass of a motor."""

COPPER_J_PER_KG_K, IRON_J_PER_KG_K = 385.0, 460.0

WINDING_S = 30.0
"""Seconds in which a winding warms against its case; data sheets of small motors give 10 to 60."""

MOTOR_KG_PER_M3 = 5200.0
"""Mass of a motor over the volume of its can."""

GUESSED_KG = (0.005, 200.0)
"""No motor is guessed to be lighter or heavier than this."""

SLENDER = 1.2
"""Length over diameter of a can of unknown shape."""

CONTROLLER_KG_PER_M3, CONTROLLER_J_PER_KG_K = 1700.0, 850.0
CONTROLLER_KG_PER_A, USUAL_CONTROLLER_A = 0.006, 50.0
PACK_KG_PER_M3, PACK_J_PER_KG_K = 2000.0, 950.0

PACK_WH_PER_KG = {"lipo": 150.0, "li_ion": 180.0, "lifepo4": 100.0, "lead_acid": 32.0, "nimh": 60.0}
"""Energy in a whole pack for its mass."""

PACK_NOMINAL_V = {"lipo": 3.7, "li_ion": 3.7, "lifepo4": 3.2, "lead_acid": 2.0, "nimh": 1.2}


@dataclass(frozen=True)
class Body:
    """Mass and outside of a part."""

    mass_kg: Array
    area_m2: Array
    size_m: Array


def motor_body(said: Stated, constant_nm_per_root_w: Array, *, in_wheel: bool = False) -> Body:
    """Return a motor's body from mass and can; failing both, from how much motor it is.

    With neither mass nor size, ``m = (Km^2/q)^0.6`` kg with Km in N.m/sqrt(W) and the quality of
    its make (see `powertrain.motor.size`): no more than the right order of magnitude. A brushless
    one that drives its wheel without any gearing (`in_wheel`) is a hub motor.
    """
    known = motor_known_from(said)
    if known == "constants":
        with np.errstate(over="ignore"):
            make = make_of(said)
            quality = MAKES["hub" if in_wheel and make == "brushless" else make].quality
            mass_kg = (constant_nm_per_root_w**2 / quality) ** 0.6
        mass_kg = np.clip(mass_kg, *GUESSED_KG)
    elif known == "size":
        wide_mm = said.number("diameter_mm")
        long_mm = said.number("length_mm") if said.states("length_mm") else SLENDER * wide_mm
        volume_m3 = np.pi / 4 * wide_mm**2 * long_mm / 1e9
        mass_kg = MOTOR_KG_PER_M3 * volume_m3
    else:
        mass_kg = said.number("mass_kg")
    if said.states("diameter_mm"):
        wide_m = said.number("diameter_mm") / 1000
    else:
        wide_m = (mass_kg / MOTOR_KG_PER_M3 * 4 / np.pi / SLENDER) ** (1 / 3)
    long_m = said.number("length_mm") / 1000 if said.states("length_mm") else SLENDER * wide_m
    area_m2 = np.pi * wide_m * (long_m + wide_m / 2)
    return Body(mass_kg, area_m2, wide_m)


def controller_body(said: Stated) -> Body:
    """Return a controller's body from its sizes and mass; failing both, from its amps."""
    if said.states("mass_kg"):
        mass_kg = said.number("mass_kg")
    else:
        keys = ("continuous_current_a", "motor_current_limit_a", "battery_current_limit_a")
        mass_kg = CONTROLLER_KG_PER_A * first_stated(said, keys, USUAL_CONTROLLER_A)
    return _box(said, mass_kg, CONTROLLER_KG_PER_M3)


def pack_body(said: Stated) -> Body:
    """Return a pack's body from its sizes and mass; failing the mass, from its energy."""
    if said.states("mass_kg"):
        mass_kg = said.number("mass_kg")
    else:
        chemistry = said.word("chemistry")
        cell_wh = said.number("cell_capacity_ah") * PACK_NOMINAL_V[chemistry]
        energy_wh = said.number("series") * said.number("parallel") * cell_wh
        mass_kg = energy_wh / PACK_WH_PER_KG[chemistry]
    return _box(said, mass_kg, PACK_KG_PER_M3)


def motor_known_from(said: Stated) -> str:
    """Return what a motor's body is known from."""
    known = {"mass_kg": "mass", "diameter_mm": "size"}
    return next((word for key, word in known.items() if said.states(key)), "constants")


def controller_known_from(said: Stated) -> str:
    """Return what a controller's body is known from."""
    return "mass" if said.states("mass_kg") else "amps"


def pack_known_from(said: Stated) -> str:
    """Return what a pack's body is known from."""
    return "mass" if said.states("mass_kg") else "energy"


def _box(said: Stated, mass_kg: Array, kg_per_m3: float) -> Body:
    """Return a box of the stated sides; without them, one of 3 : 2 : 1 that the mass fills."""
    keys = ("length_mm", "width_mm", "height_mm")
    if said.states(*keys):
        a, b, c = (said.number(key) / 1000 for key in keys)
    else:
        unit_m = (mass_kg / kg_per_m3 / 6) ** (1 / 3)
        a, b, c = 3 * unit_m, 2 * unit_m, unit_m
    return Body(mass_kg, 2 * (a * b + b * c + c * a), np.minimum(np.minimum(a, b), c))


def still_k_per_w(body: Body) -> Array:
    """Return the resistance of a body's whole outside to still air."""
    return 1 / (STILL_W_PER_M2_K * body.area_m2)
