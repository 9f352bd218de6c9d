"""Cells, and packs made of them.

A pack is its cells and a bit: an eighth more mass for case, links and protection, three tenths
more money, and two thousandths of an ohm of leads for ten amps of rating (common practice, no
source). All else follows from S and P.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.shelf import CellPart, PackPart

MORE_MASS, MORE_PRICE = 1.125, 1.3
LEADS_OHM_A = 0.02
"""Ohms of leads times rated amps: thicker ones for more."""


@dataclass(frozen=True)
class Cell:
    """One cell: numbers of a data sheet, and its box in the pack."""

    code: str
    chemistry: str
    capacity_ah: float
    resistance_mohm: float
    lasting_c: float
    mass_kg: float
    price: float
    box_mm: tuple[float, float, float]
    diameter_mm: float | None = None


CELLS = (
    Cell("Merewisp C18-30", "li_ion", 3.0, 26.0, 3.0, 0.047, 4.2, (18.6, 18.6, 66), 18.4),
    Cell("Merewisp C18-25P", "li_ion", 2.5, 13.0, 8.0, 0.046, 4.6, (18.6, 18.6, 66), 18.4),
    Cell("Merewisp C21-50", "li_ion", 5.0, 18.0, 2.5, 0.07, 5.6, (21.6, 21.6, 71), 21.4),
    Cell("Merewisp C21-40P", "li_ion", 4.0, 11.0, 8.0, 0.069, 6.4, (21.6, 21.6, 71), 21.4),
    Cell("Saltern Y13", "lipo", 1.3, 7.0, 30.0, 0.033, 3.6, (71, 35, 6)),
    Cell("Saltern Y22", "lipo", 2.2, 5.0, 30.0, 0.053, 5.2, (102, 34, 8)),
    Cell("Saltern Y50", "lipo", 5.0, 2.2, 35.0, 0.115, 10.5, (138, 46, 9)),
    Cell("Saltern Y80", "lipo", 8.0, 1.5, 30.0, 0.185, 17.0, (165, 64, 9)),
    Cell("Saltern Y160", "lipo", 16.0, 1.0, 15.0, 0.34, 31.0, (192, 76, 11)),
    Cell("Peatlight A26", "lifepo4", 2.5, 9.0, 10.0, 0.076, 6.8, (26.4, 26.4, 66), 26.2),
    Cell("Peatlight A33-20", "lifepo4", 20.0, 2.0, 3.0, 0.5, 19.0, (140, 27, 70)),
    Cell("Peatlight A70-100", "lifepo4", 100.0, 0.6, 2.0, 2.05, 62.0, (160, 50, 220)),
    Cell("Saltern N50", "nimh", 4.5, 8.0, 6.0, 0.062, 3.1, (23, 23, 43), 23.0),
    Cell("Hollinfen L2-18", "lead_acid", 18.0, 3.0, 2.0, 0.95, 6.5, (60, 77, 167)),
    Cell("Hollinfen L2-60", "lead_acid", 60.0, 1.2, 2.0, 2.9, 17.0, (58, 166, 175)),
)

PACKS: dict[str, tuple[tuple[int, int], ...]] = {
    "Merewisp C18-30": ((7, 3), (10, 4), (13, 4), (14, 5)),
    "Merewisp C18-25P": ((10, 3), (13, 4)),
    "Merewisp C21-50": ((10, 4), (13, 5), (14, 6), (20, 6)),
    "Merewisp C21-40P": ((6, 2), (10, 4), (12, 4), (14, 5), (20, 8)),
    "Saltern Y13": ((2, 1), (3, 1)),
    "Saltern Y22": ((2, 1), (3, 1), (4, 1)),
    "Saltern Y50": ((2, 1), (3, 1), (4, 1), (6, 1)),
    "Saltern Y80": ((4, 1), (6, 1), (12, 1)),
    "Saltern Y160": ((6, 1), (12, 1)),
    "Peatlight A26": ((8, 4), (12, 6)),
    "Peatlight A33-20": ((8, 1), (16, 1)),
    "Peatlight A70-100": ((16, 1), (24, 1), (32, 1), (45, 1), (45, 2)),
    "Saltern N50": ((6, 1), (7, 1)),
    "Hollinfen L2-18": ((12, 1), (18, 1)),
    "Hollinfen L2-60": ((12, 1), (24, 1), (36, 1)),
}


def cells() -> Iterator[CellPart]:
    """Yield every cell of the shelf."""
    for cell in CELLS:
        yield CellPart(
            id=_id(cell.code),
            name=cell.code,
            chemistry=cell.chemistry,  # type: ignore[arg-type]
            capacity_ah=cell.capacity_ah,
            resistance_mohm=cell.resistance_mohm,
            continuous_current_a=round(cell.lasting_c * cell.capacity_ah, 1),
            charge_current_a=cell.capacity_ah,
            mass_kg=cell.mass_kg,
            diameter_mm=cell.diameter_mm,
            length_mm=max(cell.box_mm),
            price=cell.price,
        )


def packs() -> Iterator[PackPart]:
    """Yield every ready pack of the shelf."""
    by_code = {cell.code: cell for cell in CELLS}
    for code, shapes in PACKS.items():
        for series, parallel in shapes:
            yield pack(by_code[code], series, parallel)


def pack(cell: Cell, series: int, parallel: int) -> PackPart:
    """Return a pack of `series` times `parallel` cells."""
    count = series * parallel
    lasting_a = cell.lasting_c * cell.capacity_ah * parallel
    name = f"{cell.code} {series}S{parallel}P"
    long, wide, high = _box(cell, series, parallel)
    return PackPart.model_validate(
        {
            "id": _id(name),
            "name": name,
            "battery": {
                "name": name,
                "chemistry": cell.chemistry,
                "series": series,
                "parallel": parallel,
                "cell_capacity_ah": cell.capacity_ah,
                "cell_resistance_mohm": cell.resistance_mohm,
                "wiring_resistance_mohm": float(f"{1000 * LEADS_OHM_A / lasting_a + 1:.2g}"),
                "cell_voltage_v": CHEMISTRIES[cell.chemistry].nominal_v,
                "continuous_current_a": float(f"{lasting_a:.3g}"),
                "peak_current_a": float(f"{2 * lasting_a:.3g}"),
                "charge_current_a": cell.capacity_ah * parallel,
                "max_c": 60.0,
                "length_mm": long,
                "width_mm": wide,
                "height_mm": high,
                "mass_kg": float(f"{MORE_MASS * count * cell.mass_kg:.3g}"),
                "price": round(8 + MORE_PRICE * count * cell.price, 0),
            },
            "provenance": {
                "battery.cell_resistance_mohm": {"origin": "data_sheet"},
                "battery.wiring_resistance_mohm": {"origin": "estimated", "tolerance_pct": 50},
            },
        }
    )


def _box(cell: Cell, series: int, parallel: int) -> tuple[float, float, float]:
    """Return the outside of a pack, cells side by side in the box whose longest side is least."""
    a, b, c = cell.box_mm
    count = series * parallel
    boxes = [(a + 6, rows * b + 6, -(-count // rows) * c + 6) for rows in range(1, count + 1)]
    if cell.diameter_mm is not None:
        boxes = [(-(-count // rows) * a + 6, rows * b + 6, c + 6) for rows in range(1, count + 1)]
    long, wide, high = sorted((round(side, 1) for side in min(boxes, key=max)), reverse=True)
    return long, wide, high


def _id(name: str) -> str:
    return name.lower().replace(" ", "-")
