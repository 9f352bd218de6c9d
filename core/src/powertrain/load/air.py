"""The air by height and temperature."""

from powertrain.arrays import Array
from powertrain.stated import Stated

SEA_LEVEL_PA, SEA_LEVEL_K, LAPSE_K_PER_M = 101_325.0, 288.15, 0.0065
GAS_J_PER_KG_K = 287.05287
PRESSURE_POWER = 9.80665 / (GAS_J_PER_KG_K * LAPSE_K_PER_M)
EARTH_M = 6_356_766.0
ZERO_C_K = 273.15


def density_of(conditions: Stated) -> Array:
    """Return the air's density of a document: as stated, else by height and temperature.

    Where it states neither of the three, that of the standard atmosphere at the sea.
    """
    told = conditions.gives("altitude_m") or conditions.gives("ambient_c")
    if conditions.gives("air_density_kg_m3") or not told:
        return conditions.number("air_density_kg_m3")
    return density_kg_m3(conditions.number("altitude_m", 0.0), conditions.number("ambient_c"))


def density_kg_m3(altitude_m: Array, air_c: Array) -> Array:
    """Return the density of dry air at a height above the sea and its own temperature.

    The pressure is that of the standard atmosphere at that height, the temperature the one that
    is measured there. Source: ISO 2533 (from memory), below 11 km.
    """
    height_m = EARTH_M * altitude_m / (EARTH_M + altitude_m)
    fallen = 1 - LAPSE_K_PER_M * height_m / SEA_LEVEL_K
    pressure_pa = SEA_LEVEL_PA * fallen**PRESSURE_POWER
    return pressure_pa / (GAS_J_PER_KG_K * (air_c + ZERO_C_K))
