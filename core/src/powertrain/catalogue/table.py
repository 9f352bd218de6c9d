"""Parts of one kind in a table: searched, sorted, their gaps marked."""

from collections.abc import Callable, Iterable, Sequence
from typing import Any

from pydantic import BaseModel

from powertrain.catalogue.figures import FIGURES
from powertrain.documents.describe import part_fields
from powertrain.documents.shelf import Part, ToothedRange
from powertrain.errors import Refusal

COLUMNS: dict[str, tuple[str, ...]] = {
    "motors": (
        "motor.kv_rpm_per_v",
        "motor.resistance_ohm",
        "motor.no_load_current_a",
        "motor.continuous_current_a",
        "motor.peak_current_a",
        "motor.max_rpm",
        "motor.rated_cells",
        "motor.diameter_mm",
        "motor.length_mm",
        "motor.shaft_mm",
        "motor.mass_kg",
        "motor.sensor",
        "motor.poles",
        "motor.commutation",
        "motor.kind",
        "motor.price",
    ),
    "controllers": (
        "drives",
        "controller.max_voltage_v",
        "controller.capacitor_voltage_v",
        "controller.continuous_current_a",
        "controller.peak_current_a",
        "controller.peak_duration_s",
        "controller.rating_side",
        "controller.max_erpm",
        "settable",
        "remote_included",
        "controller.signal",
        "controller.length_mm",
        "controller.width_mm",
        "controller.height_mm",
        "controller.mass_kg",
        "controller.price",
    ),
    "packs": (
        "battery.chemistry",
        "battery.series",
        "battery.parallel",
        "battery.cell_capacity_ah",
        "battery.cell_resistance_mohm",
        "battery.continuous_current_a",
        "battery.peak_current_a",
        "battery.charge_current_a",
        "battery.length_mm",
        "battery.width_mm",
        "battery.height_mm",
        "battery.mass_kg",
        "battery.price",
    ),
    "cells": (
        "chemistry",
        "capacity_ah",
        "resistance_mohm",
        "continuous_current_a",
        "charge_current_a",
        "mass_kg",
        "diameter_mm",
        "length_mm",
        "price",
    ),
    "wheels": ("wheel.rolling_circumference_mm", "width_mm", "mass_kg", "price"),
    "propellers": (
        "propeller.diameter_mm",
        "propeller.pitch_mm",
        "propeller.blades",
        "propeller.max_rpm",
        "propeller.static.rpm",
        "propeller.static.thrust_n",
        "propeller.static.shaft_power_w",
        "propeller.position",
        "propeller.rotation",
        "propeller.mass_kg",
        "propeller.price",
    ),
    "teeth": (
        "kind",
        "side",
        "pitch_mm",
        "module_mm",
        "sizes",
        "allowed_pull_n",
        "bore_mm",
        "efficiency",
    ),
    "strands": ("kind", "pitch_mm", "allowed_pull_n", "mass_kg_per_m", "price_per_m"),
    "wires": ("area_mm2", "price_per_m"),
    "connectors": ("current_a", "price"),
    "gearboxes": ("ratios", "efficiency", "max_torque_nm", "length_mm", "mass_kg", "price"),
    "contactors": ("voltage_v", "current_a", "breaks_a", "sense", "coil_w", "mass_kg", "price"),
    "fuses": ("voltage_v", "current_a", "breaks_a", "mass_kg", "price"),
    "converters": ("from_v", "to_v", "gives_v", "power_w", "efficiency", "mass_kg", "price"),
    "chargers": ("voltage_v", "current_a", "mains_w", "mass_kg", "price"),
}
"""What a buyer compares of each kind, in the order of the questions."""

Value = float | str | bool | list[int] | None
Unfit = Callable[[Sequence[Part]], list[str | None]]
"""Says of each part why it does not fit, None where it does."""


class PartColumn(BaseModel):
    """One thing that parts say."""

    path: str
    label: str
    unit: str


class PartRow(BaseModel):
    """One part: its values go with the columns, None for a gap.

    `origins` says how each value is known, '' where nothing is said of that. `asked` tells which
    columns a part of its sort could fill at all. `figures` are worked out of them.
    `unfit` is why it does not fit, None where it does or nobody asked.
    """

    id: str
    name: str
    own: bool
    values: list[Value]
    origins: list[str]
    asked: list[bool]
    figures: list[float | None]
    unfit: str | None


class PartsTable(BaseModel):
    """Rows of a kind; `total` counts what was found before it was cut to the rows here.

    `untried` of those were too many to be held against a build or brief, and are not among the
    rows.
    """

    kind: str
    columns: list[PartColumn]
    figures: list[PartColumn]
    rows: list[PartRow]
    total: int
    untried: int = 0


def columns_of(kind: str) -> list[PartColumn]:
    """Return the columns of a kind of part."""
    fields = {field.path: field for field in part_fields(kind)}
    return [
        PartColumn(path=path, label=fields[path].label, unit=fields[path].unit)
        if path in fields
        else PartColumn(path=path, label=ELSEWHERE[path.split(".")[-1]], unit="")
        for path in COLUMNS[kind]
    ]


ELSEWHERE = {"kind": "Kind", "sizes": "Sizes", "commutation": "Brushes"}
"""Labels of what is no single field."""


def table_of(
    kind: str,
    parts: Iterable[tuple[Part, bool]],
    *,
    words: str = "",
    sort: str = "",
    falling: bool = False,
    unfit: Unfit | None = None,
    only_fit: bool = False,
    limit: int = 200,
) -> PartsTable:
    """Return the table of the parts that are looked for.

    Parameters
    ----------
    parts : iterable
        Parts, each with whether it is one's own.
    words : str
        Only parts whose name, note and words hold all of these.
    sort : str
        Path of a column, or ``name``; gaps come last, whichever way it is sorted.
    unfit : callable, optional
        What fits comes first where nothing is sorted; with `only_fit` the rest is left out.

    Raises
    ------
    Refusal
        If `sort` is no column.
    """
    if sort not in ("", "name", *COLUMNS[kind]):
        raise Refusal("sort", f"must be one of name, {', '.join(COLUMNS[kind])}")
    wanted = words.lower().split()
    found = [(part, own) for part, own in parts if _has_words(part, wanted)]
    if sort:
        found = _sorted(found, sort, falling)
    told: list[str | None] = [None] * len(found)
    if unfit is not None:
        told = unfit([part for part, _ in found])
        if only_fit:
            found = [one for one, reason in zip(found, told, strict=True) if reason is None]
            told = [None] * len(found)
        elif not sort:
            order = sorted(range(len(found)), key=lambda place: told[place] is not None)
            found, told = [found[place] for place in order], [told[place] for place in order]
    return PartsTable(
        kind=kind,
        columns=columns_of(kind),
        figures=[
            PartColumn(path=one.path, label=one.label, unit=one.unit)
            for one in FIGURES.get(kind, ())
        ],
        rows=[
            row_of(kind, part, own, reason)
            for (part, own), reason in zip(found[:limit], told[:limit], strict=True)
        ],
        total=len(found),
    )


def _has_words(part: Part, wanted: list[str]) -> bool:
    if not wanted:
        return True
    said = words_of(part.model_dump(exclude={"provenance"}))
    return all(word in said for word in wanted)


def words_of(document: dict[str, Any]) -> str:
    """Return all words of a part's plain document, but for how they are known, to search in."""
    said = {key: value for key, value in document.items() if key != "provenance"}
    return " ".join(_words_in(said)).lower()


def _words_in(value: Any) -> list[str]:
    if isinstance(value, dict):
        return [word for inner in value.values() for word in _words_in(inner)]
    return [value.replace("_", " "), value] if isinstance(value, str) else []


def _sorted(found: list[tuple[Part, bool]], sort: str, falling: bool) -> list[tuple[Part, bool]]:
    def key(one: tuple[Part, bool]) -> Any:
        value = one[0].name.lower() if sort == "name" else _value(one[0], sort)
        return value if not isinstance(value, bool) else str(value)

    said = [one for one in found if key(one) is not None]
    gaps = [one for one in found if key(one) is None]
    return [*sorted(said, key=key, reverse=falling), *gaps]


def row_of(kind: str, part: Part, own: bool, unfit: str | None = None) -> PartRow:
    """Return the row of one part."""
    origins = part.provenance
    return PartRow(
        id=part.id,
        name=part.name,
        own=own,
        values=[_value(part, path) for path in COLUMNS[kind]],
        origins=[str(origins[path].origin) if path in origins else "" for path in COLUMNS[kind]],
        asked=[_could_say(part, path) for path in COLUMNS[kind]],
        figures=[one.of(part) for one in FIGURES.get(kind, ())],
        unfit=unfit,
    )


def row_of_unreadable(kind: str, ref: str, name: str, problem: str) -> PartRow:
    """Return the row of a part of one's own that can't be read as one any more."""
    gaps = COLUMNS[kind]
    return PartRow(
        id=ref,
        name=name,
        own=True,
        values=[None] * len(gaps),
        origins=[""] * len(gaps),
        asked=[False] * len(gaps),
        figures=[None] * len(FIGURES.get(kind, ())),
        unfit=f"It can't be read any more: {problem}.",
    )


def _value(part: Part, path: str) -> Value:
    if path == "sizes" and isinstance(part, ToothedRange):
        teeth = sorted(size.teeth for size in part.sizes)
        return str(teeth[0]) if len(teeth) == 1 else f"{teeth[0]} to {teeth[-1]}"
    *steps, last = path.split(".")
    place: Any = part
    for step in steps:
        place = getattr(place, step, None)
    value = getattr(place, last, None)
    if path == "ratios" and value:
        return ", ".join(f"{ratio:g}" for ratio in value)
    found: Value = value
    return found


def _could_say(part: Part, path: str) -> bool:
    """Return whether a part of this sort has such a field at all: a packaged motor has no KV."""
    *steps, last = path.split(".")
    place: Any = part
    for step in steps:
        place = getattr(place, step)
        if place is None:
            return True
    if isinstance(part, ToothedRange) and path in ("pitch_mm", "module_mm"):
        return (path == "module_mm") == (part.kind == "spur")
    return last in type(place).model_fields
