"""Heat data from mass and size, where no maker gives any.

The rules are common practice, no source, and good to a factor of about a half either way; every
figure made here is marked as an estimate. Specific heats: copper 385, iron 460, aluminium 900
J/(kg K) (handbook values, from memory).
"""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.electrics import Battery, Controller
from powertrain.documents.motor import MotorDocument
from powertrain.heat.air import STILL_W_PER_M2_K
from powertrain.motor.of_document import make_of
from powertrain.motor.size import MAKES

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
    """Mass and outside of a part, and what they were known from."""

    mass_kg: Array
    area_m2: Array
    size_m: Array
    known_from: str


def motor_body(
    motor: MotorDocument, constant_nm_per_root_w: Array, *, in_wheel: bool = False
) -> Body:
    """Return a motor's body from mass and can; failing both, from how much motor it is.

    With neither mass nor size, ``m = (Km^2/q)^0.6`` kg with Km in N.m/sqrt(W) and the quality of
    its make (see `powertrain.motor.size`): no more than the right order of magnitude. A brushless
    one that drives its wheel without any gearing (`in_wheel`) is a hub motor.
    """
    mass, diameter, length = motor.mass_kg, motor.diameter_mm, motor.length_mm
    if mass is None and diameter is None:
        with np.errstate(over="ignore"):
            make = make_of(motor)
            quality = MAKES["hub" if in_wheel and make == "brushless" else make].quality
            mass_kg, known = (constant_nm_per_root_w**2 / quality) ** 0.6, "constants"
        mass_kg = np.clip(mass_kg, *GUESSED_KG)
    elif mass is None:
        long_mm = SLENDER * scalar(diameter) if length is None else scalar(length)  # type: ignore[arg-type]
        volume_m3 = np.pi / 4 * scalar(diameter) ** 2 * long_mm / 1e9  # type: ignore[arg-type]
        mass_kg, known = MOTOR_KG_PER_M3 * volume_m3, "size"
    else:
        mass_kg, known = scalar(mass), "mass"
    if diameter is None:
        wide_m = (mass_kg / MOTOR_KG_PER_M3 * 4 / np.pi / SLENDER) ** (1 / 3)
    else:
        wide_m = scalar(diameter) / 1000
    long_m = SLENDER * wide_m if length is None else scalar(length) / 1000
    area_m2 = np.pi * wide_m * (long_m + wide_m / 2)
    return Body(mass_kg, area_m2, wide_m, known)


def controller_body(controller: Controller) -> Body:
    """Return a controller's body from its sizes and mass; failing both, from its amps."""
    stated = (controller.continuous_current_a, controller.motor_current_limit_a,
              controller.battery_current_limit_a)  # fmt: skip
    amps = next((a for a in stated if a is not None), USUAL_CONTROLLER_A)
    known = "amps" if controller.mass_kg is None else "mass"
    mass = controller.mass_kg
    mass_kg = CONTROLLER_KG_PER_A * scalar(amps) if mass is None else scalar(mass)
    sides = (controller.length_mm, controller.width_mm, controller.height_mm)
    return _box(mass_kg, sides, CONTROLLER_KG_PER_M3, known)


def pack_body(battery: Battery) -> Body:
    """Return a pack's body from its sizes and mass; failing the mass, from its energy."""
    known, mass = "mass", battery.mass_kg
    if mass is None:
        cell_wh = battery.cell_capacity_ah * PACK_NOMINAL_V[battery.chemistry]
        energy_wh = scalar(battery.series * battery.parallel * cell_wh)
        mass_kg, known = energy_wh / PACK_WH_PER_KG[battery.chemistry], "energy"
    else:
        mass_kg = scalar(mass)
    sides = (battery.length_mm, battery.width_mm, battery.height_mm)
    return _box(mass_kg, sides, PACK_KG_PER_M3, known)


def _box(mass_kg: Array, sides_mm: tuple[float | None, ...], kg_per_m3: float, known: str) -> Body:
    """Return a box of the given sides; without them, one of 3 : 2 : 1 that the mass fills."""
    if any(side is None for side in sides_mm):
        unit_m = (mass_kg / kg_per_m3 / 6) ** (1 / 3)
        sides = (3 * unit_m, 2 * unit_m, unit_m)
    else:
        sides = tuple(scalar(side) / 1000 for side in sides_mm if side is not None)  # type: ignore[assignment]
    a, b, c = sides
    return Body(mass_kg, 2 * (a * b + b * c + c * a), np.minimum(np.minimum(a, b), c), known)


def still_k_per_w(body: Body) -> Array:
    """Return the resistance of a body's whole outside to still air."""
    return 1 / (STILL_W_PER_M2_K * body.area_m2)
