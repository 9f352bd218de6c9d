"""A listing as it stands in a shop, read into a part of the shelf.

What its words leave no doubt of goes into the part with the origin 'data_sheet'. What may be meant
is asked, with what it probably is; what a part can't do without and the listing does not say is
asked for, with a guess where the rest gives one. Nothing uncertain is stated.
"""

import re
from collections.abc import Callable, Iterable
from typing import Any, Literal

from annotated_types import Ge, Le
from pydantic import BaseModel

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.describe import FieldInfo, part_fields
from powertrain.documents.electrics import Battery, Controller
from powertrain.documents.motor import PermanentMagnetMotor
from powertrain.identify.cell import MOHM, identify_cell
from powertrain.identify.facts import CellFacts, MotorFacts
from powertrain.identify.motor import identify_motor
from powertrain.listing import controller, motor, pack
from powertrain.listing.pattern import Reader, Said

ListedKind = Literal["motors", "controllers", "packs"]

HOLDS: dict[ListedKind, str] = {"motors": "motor", "controllers": "controller", "packs": "battery"}
"""Where a part's own figures stand in its document."""

PATTERNS: dict[ListedKind, tuple[Reader, ...]] = {
    "motors": motor.PATTERNS, "controllers": controller.PATTERNS, "packs": pack.PATTERNS,
}  # fmt: skip

CONTROLLER_OHM = 0.004
"""Path resistance that stands for an unknown one; common practice, no source."""


class ReadFact(BaseModel):
    """A place of the part that the listing tells, with the words that told it.

    A path that begins with ``facts.`` is of no field of the part and only helps to guess others.
    """

    path: str
    label: str
    unit: str
    value: Any
    words: str
    note: str


class Asked(BaseModel):
    """A place that is asked for; `guess` is None where nothing gives one.

    `needed` says whether a part can't do without it; what is not needed may be left out.
    """

    needed: bool
    path: str
    label: str
    unit: str
    explain: str
    options: list[str]
    guess: float | str | None
    why: str


class Listing(BaseModel):
    """What was understood of a listing.

    `document` is the part as far as it is said, without what is asked; `unread` are the words
    that said nothing.
    """

    kind: ListedKind
    document: dict[str, Any]
    understood: list[ReadFact]
    asked: list[Asked]
    unread: list[str]


def read_listing(text: str, kind: ListedKind | None = None) -> Listing:
    """Return what a listing says of a part; of which kind it is, it tells itself unless given.

    Examples
    --------
    >>> found = read_listing("3548, 790 KV, 3S-6S, 60 A, 5 mm shaft")
    >>> found.kind, found.document["motor"]["kv_rpm_per_v"], [one.path for one in found.asked]
    ('motors', 790.0, ['motor.peak_current_a', 'motor.resistance_ohm', 'motor.no_load_current_a'])
    """
    text = " ".join(text.split())[:LONGEST]
    kind = kind or kind_of(text)
    said, unread = _said(text, PATTERNS[kind])
    unread += [words for one, words in said if not _possible(kind, one)]
    said = [one for one in said if _possible(kind, one[0])]
    values = {one.path: one.value for one, _ in said}
    facts = {path.removeprefix("facts."): values[path] for path in values if path[:6] == "facts."}
    said += DERIVED[kind](values, facts)
    sure = [one for one in said if one[0].sure]
    document = _document(kind, text, sure, facts)
    likely = [one for one in said if not one[0].sure and not one[0].path.startswith("facts.")]
    return Listing(
        kind=kind,
        document=document,
        understood=[_read(kind, one, words) for one, words in sure],
        asked=_asked(kind, document, facts, likely),
        unread=unread,
    )


LONGEST = 4000
"""Letters of a listing that are read; no shop's line is longer."""


MODELS: dict[ListedKind, type[BaseModel]] = {
    "motors": PermanentMagnetMotor, "controllers": Controller, "packs": Battery,
}  # fmt: skip


def _possible(kind: ListedKind, said: Said) -> bool:
    """Return whether a number is one that its field may hold; nought amps are a slip of a shop."""
    path, value = said.path, said.value
    if not isinstance(value, float | int) or isinstance(value, bool):
        return True
    if path.startswith("facts."):
        return value >= 0
    field = MODELS[kind].model_fields.get(path)
    bounds = [] if field is None else field.metadata
    least = max((bound.ge for bound in bounds if isinstance(bound, Ge)), default=0.0)  # type: ignore[type-var]
    most = min((bound.le for bound in bounds if isinstance(bound, Le)), default=1e9)  # type: ignore[type-var]
    return value > 0 and bool(least <= value <= most)  # type: ignore[operator]


def kind_of(text: str) -> ListedKind:
    """Return which kind of part a listing is of: the one that understands most of its words.

    Words that only one kind has settle it.
    """
    low = text.lower()
    for kind, words in NAMES.items():
        if any(re.search(word, low) for word in words):
            return kind
    return max(PATTERNS, key=lambda kind: len(_said(text, PATTERNS[kind])[0]))


NAMES: dict[ListedKind, tuple[str, ...]] = {
    "packs": (
        r"\d\s*m?ah",
        r"18650|21700",
        r"(?<!for )\bbatter(?:y|ies)\b(?!\s*(?:current|\d+\s*a\b))",
        r"\d\s*wh\b",
    ),
    "controllers": (r"controllers?\b", r"\besc\b", r"erpm", r"\bbec\b"),
    "motors": (r"\d\s*kv\b|\bkv\b", r"rpm", r"motors?\b", r"/\s?min\b"),
}


def _said(text: str, readers: Iterable[Reader]) -> tuple[list[tuple[Said, str]], list[str]]:
    """Return every fact with the words that told it, and the words that told none."""
    found: list[tuple[int, Said, str]] = []
    left, seen = text, set()
    for reader in readers:
        for (begin, end), facts in list(reader.read(left)):
            words: str = left[begin:end]
            if "|" in words:
                continue
            for said in facts:
                if said.path not in seen:
                    seen.add(said.path)
                    found.append((begin, said, words.strip(" ,;:")))
            # What is read leaves a gap of its own length, so that words on both sides never join.
            left = left[:begin] + "|" * (end - begin) + left[end:]
    found.sort(key=lambda one: one[0])
    unread = [word.strip(" .:()\t") for word in _split(left)]
    return [(said, told) for _, said, told in found], [word for word in unread if word]


def _split(text: str) -> list[str]:
    for mark in ",;\n|":
        text = text.replace(mark, "\n")
    return text.split("\n")


Derived = list[tuple[Said, str]]


def _of_motor_said(values: dict[str, Any], facts: dict[str, Any]) -> Derived:
    """Return what a motor's amps and watts without a word on them stand for."""
    found: Derived = []
    amps, watts = facts.get("amps"), facts.get("power_w")
    plate = "kv_rpm_per_v" not in values and ("rated_voltage_v" in facts or watts)
    if amps is not None:
        path = "continuous_current_a" if plate else "peak_current_a"
        if path not in values:
            note = motor.RATED_NOTE if plate else motor.PEAK_NOTE
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
        guess, note = capacitors, "its capacitors"
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


DERIVED: dict[ListedKind, Callable[[dict[str, Any], dict[str, Any]], Derived]] = {
    "motors": _of_motor_said, "controllers": _of_controller_said, "packs": _of_pack_said,
}  # fmt: skip


def _document(
    kind: ListedKind, text: str, said: list[tuple[Said, str]], facts: dict[str, Any]
) -> dict[str, Any]:
    holds = HOLDS[kind]
    motor_kind = facts.get("kind", "permanent_magnet")
    inner: dict[str, Any] = {"kind": motor_kind} if kind == "motors" else {}
    outer: dict[str, Any] = {}
    provenance: dict[str, Any] = {}
    for one, _ in said:
        if one.path.startswith("part."):
            outer[one.path.removeprefix("part.")] = one.value
        elif not one.path.startswith("facts."):
            inner[one.path] = one.value
            provenance[f"{holds}.{one.path}"] = {"origin": "data_sheet"}
    if kind == "packs" and "chemistry" in inner:
        inner["cell_voltage_v"] = CHEMISTRIES[inner["chemistry"]].nominal_v
    name = text[:80] or "Listing"
    return {"name": name, **outer, holds: inner, "provenance": provenance}


FACTS: dict[str, tuple[str, str]] = {
    "rated_voltage_v": ("Rated volts", "V"), "rated_speed_rpm": ("Speed", "rpm"),
    "rated_power_w": ("Watts for long", "W"), "most_power_w": ("Most watts", "W"),
    "power_w": ("Watts", "W"), "rated_torque_nm": ("Torque", "N.m"),
    "most_torque_nm": ("Most torque", "N.m"),
    "stall_torque_nm": ("Stall torque", "N.m"), "stall_current_a": ("Stall amps", "A"),
    "amps": ("Amps", "A"), "free_voltage_v": ("Free run at", "V"),
    "free_speed_rpm": ("Free speed", "rpm"), "turns": ("Turns", "T"), "rotor": ("Rotor", ""),
    "kind": ("Kind", ""), "stator_diameter_mm": ("Stator diameter", "mm"),
    "stator_height_mm": ("Stator height", "mm"), "wheel_mm": ("Wheel", "mm"),
    "lowest_voltage_v": ("Sold for volts from", "V"),
    "highest_voltage_v": ("Sold for volts to", "V"), "pieces": ("Pieces", ""),
    "nominal_v": ("Nominal volts", "V"), "bec_voltage_v": ("Gives a receiver", "V"),
    "bec_current_a": ("Gives a receiver", "A"), "cut_off_v": ("Cuts off at", "V"),
    "blocks": ("Blocks", ""), "block_v": ("Volts of a block", "V"),
    "charger_v": ("Charger", "V"), "charger_a": ("Charger", "A"), "fuse_a": ("Fuse", "A"),
    "capacity_ah": ("Capacity of the pack", "Ah"), "energy_wh": ("Energy", "Wh"),
    "c_rating": ("C rating", "C"), "peak_c": ("Peak C rating", "C"),
}  # fmt: skip
"""What is read that no field of a part holds, by its label and unit."""


def _read(kind: ListedKind, said: Said, words: str) -> ReadFact:
    if said.path.startswith("facts."):
        label, unit = FACTS[said.path.removeprefix("facts.")]
        return ReadFact(path=said.path, label=label, unit=unit, value=said.value, words=words,
                        note=said.note)  # fmt: skip
    place = _place(kind, said.path)
    field = _field(kind, place)
    return ReadFact(path=place, label=field.label, unit=field.unit, value=said.value, words=words,
                    note=said.note)  # fmt: skip


def _place(kind: ListedKind, path: str) -> str:
    return path.removeprefix("part.") if path.startswith("part.") else f"{HOLDS[kind]}.{path}"


def _field(kind: ListedKind, path: str) -> FieldInfo:
    return next(field for field in part_fields(kind) if field.path == path)


NEEDED: dict[ListedKind, tuple[str, ...]] = {
    "motors": ("kv_rpm_per_v", "resistance_ohm", "no_load_current_a"),
    "controllers": ("continuous_current_a", "max_voltage_v", "resistance_ohm"),
    "packs": ("chemistry", "series", "cell_capacity_ah", MOHM),
}
"""What no answer can do without."""


SERIES_NEEDED = ("saturated_constant_nm_per_a", "half_saturation_current_a", "resistance_ohm",
                 "loss_torque_nm")  # fmt: skip


def _asked(
    kind: ListedKind, document: dict[str, Any], facts: dict[str, Any],
    likely: list[tuple[Said, str]],
) -> list[Asked]:  # fmt: skip
    inner = document[HOLDS[kind]]
    needed = NEEDED[kind]
    if inner.get("kind") == "series_wound":
        needed = SERIES_NEEDED
    if kind == "packs" and "chemistry" not in inner:
        needed = (*needed, "cell_voltage_v")
    missing = [path for path in needed if path not in inner]
    guesses = GUESSES[kind](inner, facts) if missing else {}
    for one, words in likely:
        guesses[one.path] = (one.value, f"what “{words}” probably means: {one.note}")
    wanted = [one.path for one, _ in likely if one.path not in inner and one.path not in missing]
    found = []
    for path in dict.fromkeys([*wanted, *missing]):
        field = _field(kind, _place(kind, path))
        guess, why = guesses.get(path, (None, ""))
        found.append(
            Asked(needed=path in missing, path=field.path, label=field.label, unit=field.unit,
                  explain=field.explain, options=field.options, guess=guess, why=why)
        )  # fmt: skip
    return found


Guesses = dict[str, tuple[float | str | None, str]]


def _of_motor(inner: dict[str, Any], facts: dict[str, Any]) -> Guesses:
    known = {key: inner[key] for key in inner if key in MotorFacts.model_fields}
    known |= {key: facts[key] for key in facts if key in MotorFacts.model_fields}
    if "free_speed_rpm" not in known:
        known.pop("free_voltage_v", None)
    if "no_load_current_a" in inner and "free_voltage_v" in known:
        known["free_current_a"] = inner["no_load_current_a"]
    if "rated_power_w" not in known and "power_w" in facts:
        known["rated_power_w"] = facts["power_w"]
    found = identify_motor(MotorFacts.model_validate(known)).values
    return {
        key: (float(f"{one.value:.2g}"), f"by {one.route}, good to a factor of "
              f"{1 + one.tolerance:.2g}")
        for key, one in found.items()
    }  # fmt: skip


def _of_controller(inner: dict[str, Any], facts: dict[str, Any]) -> Guesses:
    return {"resistance_ohm": (CONTROLLER_OHM, "usual, good to a factor of 3")}


def _of_cells(inner: dict[str, Any], facts: dict[str, Any]) -> Guesses:
    chemistry = inner.get("chemistry", "li_ion")
    capacity, amps = inner.get("cell_capacity_ah"), inner.get("continuous_current_a")
    rating = facts.get("c_rating")
    if rating is None and capacity and amps:
        rating = amps / (capacity * inner.get("parallel", 1))
    told = {"chemistry": chemistry, "cell_capacity_ah": capacity, "c_rating": rating}
    found = identify_cell(CellFacts.model_validate(told)).values.get(MOHM)
    rests_v = CHEMISTRIES[chemistry].nominal_v
    guesses: Guesses = {
        "chemistry": (chemistry, "the most usual"),
        "cell_voltage_v": (rests_v, "what such a cell rests at half full"),
    }
    if found is not None:
        why = f"by {found.route}, good to a factor of {1 + found.tolerance:.2g}"
        guesses[MOHM] = (float(f"{found.value:.2g}"), why)
    return guesses


GUESSES = {"motors": _of_motor, "controllers": _of_controller, "packs": _of_cells}
