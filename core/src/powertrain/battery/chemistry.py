"""Cell voltages by chemistry, and the resistance that is usual."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Chemistry:
    """Volts of one cell in the states that builders talk about.

    `charger_v` is where charging ends (what capacitors must stand), `full_v` is the cell
    rested after that (what a free motor sees), `storage_v` where packs are kept. `usual_mohm_ah`
    are the milliohms of a cell times its amp-hours, good to a factor of two; `usual_c` is what
    ordinary cells give for long, in amps for each amp-hour.
    """

    name: str
    charger_v: float
    full_v: float
    nominal_v: float
    storage_v: float
    empty_v: float
    cut_off_v: float
    usual_mohm_ah: float
    usual_c: float


CHEMISTRIES: dict[str, Chemistry] = {
    "lipo": Chemistry("lithium polymer", 4.20, 4.18, 3.70, 3.80, 3.30, 3.20, 12.0, 20.0),
    "li_ion": Chemistry("lithium-ion", 4.20, 4.18, 3.70, 3.80, 3.00, 2.80, 75.0, 3.0),
    "lifepo4": Chemistry("lithium iron phosphate", 3.65, 3.40, 3.20, 3.30, 2.80, 2.50, 60.0, 3.0),
    "lead_acid": Chemistry("lead-acid", 2.40, 2.13, 2.00, 2.13, 1.95, 1.75, 30.0, 1.0),
    "nimh": Chemistry("nickel-metal hydride", 1.50, 1.40, 1.20, 1.30, 1.10, 0.95, 25.0, 5.0),
}
"""End-of-charge, nominal and lowest volts from cell data sheets and IEC 61951-2 (from memory);
rested, storage and empty volts, usual milliohms and amps are common practice, no source."""
