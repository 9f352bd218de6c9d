"""What follows from figures of a listing that stand for more than themselves."""

from collections.abc import Callable
from typing import Any

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.listing.pattern import ListedKind, Said

Derived = list[tuple[Said, str]]

PEAK_NOTE = "no time is said; such lines mostly mean the peak"
MINUTES_NOTE = "a plate's amps are for the minutes that it names; heat decides beyond"
RATED_NOTE = "a plate's amps are mostly those for long"


def derived(kind: ListedKind, values: dict[str, Any], facts: dict[str, Any]) -> Derived:
    """Return what follows from what is read, with the words that told it.

    `values` are what is read by its place, `facts` those of them that no field of a part holds.
    """
    return RULES[kind](values, facts)


def _of_motor_said(values: dict[str, Any], facts: dict[str, Any]) -> Derived:
    """Return what a motor's amps and watts without a word on them stand for."""
    found: Derived = []
    amps, watts = facts.get("amps"), facts.get("power_w")
    plate = "kv_rpm_per_v" not in values and ("rated_voltage_v" in facts or watts)
    if amps is not None:
        path = "continuous_current_a" if plate else "peak_current_a"
        if path not in values:
            note = PEAK_NOTE
            if plate:
                note = MINUTES_NOTE if "duty_min" in facts else RATED_NOTE
            found.append((Said(path, amps, note, False), f"{amps:g} A"))
    most = facts.get("most_power_w", watts if watts is not None else facts.get("rated_power_w"))
    if most is not None:
        found.append((Said("max_power_w", most), f"{most:g} W"))
    return found


def _of_controller_said(values: dict[str, Any], facts: dict[str, Any]) -> Derived:
    """Return what the packs that a controller is sold for say of the volts it stands."""
    nominal, capacitors = facts.get("nominal_v"), values.get("capacitor_voltage_v")
    if nominal is None or "max_voltage_v" in values:
        return []
    guess, note = round(nominal * LITHIUM_FULL, 1), "such a lithium pack straight off the charger"
    if capacitors is not None:
        note += f"; its capacitors are rated {capacitors:g} V, which is no volts to run it at"
        guess = min(guess, capacitors)
    return [(Said("max_voltage_v", guess, note, False), f"{nominal:g} V")]


LITHIUM_FULL = 54.6 / 48.0
"""Volts straight off the charger over those that a lithium pack is sold by; common practice."""

NEAR_WHOLE = 0.13
"""How near a pack's volts over those of a cell must be to a whole number to tell the cells."""


def _cells_of(chemistry: str, volts: float) -> tuple[int, bool]:
    """Return the cells of a pack's volts, and whether there is no doubt of them.

    Lithium cells are sold as 3.6 V or 3.7 V, and packs of iron phosphate by the volts of the lead
    packs they replace.
    """
    nominal = CHEMISTRIES[chemistry].nominal_v
    cells = max(1, round(volts / nominal))
    if chemistry == "lifepo4" and volts % 12 == 0:
        return cells, False
    tries = (3.6, 3.7) if chemistry in ("li_ion", "lipo") else (nominal,)
    for cell_v in tries:
        if abs(volts / cell_v - round(volts / cell_v)) <= NEAR_WHOLE:
            return max(1, round(volts / cell_v)), True
    return cells, False


def _of_pack_said(values: dict[str, Any], facts: dict[str, Any]) -> Derived:
    """Return what volts, amp-hours and C ratings of a whole pack say of its cells."""
    found: Derived = []
    strings, chemistry = values.get("parallel", 1), values.get("chemistry")
    blocks, volts = facts.get("blocks"), facts.get("nominal_v")
    series = values.get("series")
    if blocks is not None:
        volts = blocks * facts["block_v"]
        if chemistry is None:
            chemistry = "lead_acid"
            note = "blocks of 6 and 12 V are mostly of lead"
            found.append((Said("chemistry", chemistry, note, False), f"{facts['block_v']:g} V"))
    if series is None and chemistry and volts:
        cells, sure = _cells_of(chemistry, volts)
        sure = sure and values.get("chemistry") is not None
        note = f"{CHEMISTRIES[chemistry].nominal_v:g} V to the cell."
        found.append((Said("series", cells, note, sure), f"{volts:g} V"))
    elif series is None and chemistry and facts.get("charger_v"):
        cells = max(1, round(facts["charger_v"] / CHEMISTRIES[chemistry].charger_v))
        note = f"{CHEMISTRIES[chemistry].charger_v:g} V to the cell straight off the charger."
        found.append((Said("series", cells, note), f"{facts['charger_v']:g} V"))
    capacity = facts.get("capacity_ah")
    if capacity is None and volts and facts.get("energy_wh"):
        capacity = float(f"{facts['energy_wh'] / volts:.4g}")
        said = Said("cell_capacity_ah", capacity / strings, "watt-hours over volts", False)
        found.append((said, f"{facts['energy_wh']:g} Wh"))
        return found
    if capacity is None:
        return found
    each = float(f"{capacity / strings:.6g}")
    found.append((Said("cell_capacity_ah", each, "Of one string."), f"{capacity:g} Ah"))
    for fact, path in (("c_rating", "continuous_current_a"), ("peak_c", "peak_current_a")):
        if fact in facts and path not in values:
            amps = float(f"{facts[fact] * capacity:.4g}")
            note = "C rating times amp-hours; prints are about twice what packs give."
            found.append((Said(path, amps, note), f"{facts[fact]:g} C"))
    return found


RULES: dict[ListedKind, Callable[[dict[str, Any], dict[str, Any]], Derived]] = {
    "motors": _of_motor_said,
    "controllers": _of_controller_said,
    "packs": _of_pack_said,
    "propellers": lambda values, facts: [],
}
