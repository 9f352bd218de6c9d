"""The routes to a cell's resistance, and the pack that its cells make."""

from collections.abc import Iterator

from pydantic import BaseModel

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.identify.facts import CellFacts
from powertrain.identify.finding import Finding, Identified, weighed

MOHM = "cell_resistance_mohm"
WANTED = {MOHM: "Give two loads with their volts, what a charger shows, or a C rating."}

SAGS_V = {"lipo": 0.6, "li_ion": 0.3, "lifepo4": 0.3, "lead_acid": 0.2, "nimh": 0.2}
"""Volts that a cell drops at its printed C rating. Prints on lipo packs are about twice what the
cells give. Common practice, no source."""


class PackAnswer(BaseModel):
    """What cells in series and parallel make: volts by state, amp-hours, watt-hours, ohms."""

    charger_v: float
    full_v: float
    nominal_v: float
    storage_v: float
    empty_v: float
    capacity_ah: float | None
    energy_wh: float | None
    resistance_ohm: float | None


def identify_cell(facts: CellFacts) -> Identified:
    """Return a cell's resistance from what is known."""
    found = [*two_loads(facts), *charger(facts), *rating(facts)]
    return weighed([finding for finding in found if finding.value > 0], WANTED)


def pack_of(facts: CellFacts, cell: Identified) -> PackAnswer:
    """Return the pack of a chemistry, cells in series and strings in parallel."""
    chemistry, series = CHEMISTRIES[facts.chemistry], facts.series
    capacity = None if facts.cell_capacity_ah is None else facts.cell_capacity_ah * facts.parallel
    nominal_v = series * chemistry.nominal_v
    mohm = cell.values.get(MOHM)
    return PackAnswer(
        charger_v=series * chemistry.charger_v,
        full_v=series * chemistry.full_v,
        nominal_v=nominal_v,
        storage_v=series * chemistry.storage_v,
        empty_v=series * chemistry.empty_v,
        capacity_ah=capacity,
        energy_wh=None if capacity is None else capacity * nominal_v,
        resistance_ohm=None if mohm is None else mohm.value * series / facts.parallel / 1000,
    )


def two_loads(facts: CellFacts) -> Iterator[Finding]:
    """Yield R = (V1 - V2)/(I2 - I1), shared out over the cells."""
    light_a, light_v = facts.light_current_a, facts.light_voltage_v
    heavy_a, heavy_v = facts.heavy_current_a, facts.heavy_voltage_v
    if light_a is None or light_v is None or heavy_a is None or heavy_v is None:
        return
    if heavy_a <= light_a or heavy_v >= light_v:
        return
    ohm = (light_v - heavy_v) / (heavy_a - light_a)
    # Readings to a few millivolts a volt: a small sag is known less well.
    tolerance = min(0.05 + 0.002 * light_v / (light_v - heavy_v), 1.0)
    yield Finding(
        key=MOHM,
        value=1000 * ohm * facts.parallel / facts.series,
        tolerance=tolerance,
        origin="measured",
        route="two loads",
        uses=["light_current_a", "light_voltage_v", "heavy_current_a", "heavy_voltage_v"],
    )


def charger(facts: CellFacts) -> Iterator[Finding]:
    """Yield what a charger shows for one position, times the strings in parallel."""
    if facts.charger_mohm is not None:
        yield Finding(
            key=MOHM,
            value=facts.charger_mohm * facts.parallel,
            tolerance=0.25,
            origin="measured",
            route="the charger",
            uses=["charger_mohm"],
        )


def rating(facts: CellFacts) -> Iterator[Finding]:
    """Yield an estimate from C rating and capacity."""
    if facts.c_rating is not None and facts.cell_capacity_ah is not None:
        yield Finding(
            key=MOHM,
            value=1000 * SAGS_V[facts.chemistry] / (facts.c_rating * facts.cell_capacity_ah),
            tolerance=0.8,
            origin="estimated",
            route="C rating and capacity",
            uses=["c_rating", "cell_capacity_ah"],
        )
