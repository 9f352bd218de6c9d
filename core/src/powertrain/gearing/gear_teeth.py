"""What the teeth of a gearbox and the pitch on a drawing come to."""

from pydantic import BaseModel

from powertrain.transmission.planetary import planetary_ratio, planets_fit
from powertrain.transmission.spur import module_of_diametral_pitch


class PlanetaryAnswer(BaseModel):
    """A planetary gear driven at its sun, with the ring held and the carrier driving."""

    ratio: float
    planet_teeth: int
    fits: bool
    say: str


def planetary(sun: int, ring: int, planets: int) -> PlanetaryAnswer:
    """Return the fixed ratio of a planetary gear from its teeth.

    Raises
    ------
    Refusal
        If the teeth are those of no such gear.
    """
    ratio, fits = planetary_ratio(sun, ring), planets_fit(sun, ring, planets)
    planet = (ring - sun) // 2
    say = f"{ratio:.4g} to 1; its planets have {planet} teeth."
    if (ring - sun) % 2:
        say = f"{ratio:.4g} to 1, but no planet fits: ring less sun must be even. Count again."
    elif not fits:
        say += (
            f" {planets} planets can't stand evenly: sun and ring together must divide by"
            f" {planets}. Count again."
        )
    return PlanetaryAnswer(ratio=ratio, planet_teeth=planet, fits=fits, say=say)


class ModuleAnswer(BaseModel):
    """The size of teeth as the metric world says it."""

    module_mm: float


def module_of(diametral_pitch: float) -> ModuleAnswer:
    """Return the module of teeth whose number to an inch of pitch diameter, above 0, is known."""
    return ModuleAnswer(module_mm=float(f"{module_of_diametral_pitch(diametral_pitch):.6g}"))
