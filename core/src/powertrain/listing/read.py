"""A listing as it stands in a shop, read into a part of the shelf.

What its words leave no doubt of goes into the part with the origin 'data_sheet'. What may be meant
is asked, with what it probably is; what a part can't do without and the listing does not say is
asked for, with a guess where the rest gives one. Nothing uncertain is stated.
"""

import re
from collections.abc import Iterable
from typing import Any

from annotated_types import Ge, Le
from pydantic import BaseModel

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.battery import Battery
from powertrain.documents.describe import FieldInfo, part_fields
from powertrain.documents.electrics import Controller
from powertrain.documents.motors import PermanentMagnetMotor, constants_of_kind
from powertrain.documents.propeller import Propeller
from powertrain.identify.cell import MOHM
from powertrain.listing import controller, motor, pack, propeller
from powertrain.listing.derived import derived
from powertrain.listing.guesses import guessed
from powertrain.listing.pattern import ListedKind, Reader, Said

HOLDS: dict[ListedKind, str] = {
    "motors": "motor",
    "controllers": "controller",
    "packs": "battery",
    "propellers": "propeller",
}
"""Where a part's own figures stand in its document."""

PATTERNS: dict[ListedKind, tuple[Reader, ...]] = {
    "motors": motor.PATTERNS,
    "controllers": controller.PATTERNS,
    "packs": pack.PATTERNS,
    "propellers": propeller.PATTERNS,
}


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
    said += derived(kind, values, facts)
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
    "motors": PermanentMagnetMotor,
    "controllers": Controller,
    "packs": Battery,
    "propellers": Propeller,
}


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
    "propellers": (
        r"^(?!.*\b(?:\d*kv|motor|esc|controller)\b).*\bprop(?:eller)?s?\b",
        r"^(?!.*\b(?:\d*kv|motor|esc|controller)\b).*\b(?:\d|two|three|four)[\s-]*blade",
        r"^(?!.*\d\s*kv\b)[\w\s]*\b\d{1,2}(?:\.\d)?\s*x\s*\d{1,2}(?:\.\d)?\s*(?:in(?:ch)?|\"|″)?\s*$",
    ),
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
    unread = [words for words in unread if not FILLERS.issuperset(words.lower().split())]
    return [(said, told) for _, said, told in found], unread


FILLERS = frozenset(
    {
        "a",
        "an",
        "and",
        "at",
        "by",
        "can",
        "electric",
        "for",
        "from",
        "has",
        "in",
        "is",
        "it",
        "its",
        "motor",
        "motors",
        "new",
        "of",
        "on",
        "or",
        "prop",
        "propeller",
        "propellers",
        "props",
        "rated",
        "size",
        "that",
        "the",
        "to",
        "type",
        "with",
    }
)
"""Words that say nothing by themselves, so that nobody need be told that they were not read."""


def _split(text: str) -> list[str]:
    for mark in ",;\n|":
        text = text.replace(mark, "\n")
    return text.split("\n")


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
    "rated_voltage_v": ("Rated volts", "V"),
    "rated_speed_rpm": ("Speed", "rpm"),
    "rated_power_w": ("Watts for long", "W"),
    "most_power_w": ("Most watts", "W"),
    "power_w": ("Watts", "W"),
    "rated_torque_nm": ("Torque", "N.m"),
    "most_torque_nm": ("Most torque", "N.m"),
    "stall_torque_nm": ("Stall torque", "N.m"),
    "stall_current_a": ("Stall amps", "A"),
    "amps": ("Amps", "A"),
    "free_voltage_v": ("Free run at", "V"),
    "free_speed_rpm": ("Free speed", "rpm"),
    "free_current_a": ("Amps then", "A"),
    "turns": ("Turns", "T"),
    "rotor": ("Rotor", ""),
    "kind": ("Kind", ""),
    "stator_diameter_mm": ("Stator diameter", "mm"),
    "stator_height_mm": ("Stator height", "mm"),
    "wheel_mm": ("Wheel", "mm"),
    "duty_min": ("Rated for", "min"),
    "duty": ("Rated", ""),
    "lowest_voltage_v": ("Sold for volts from", "V"),
    "highest_voltage_v": ("Sold for volts to", "V"),
    "pieces": ("Pieces", ""),
    "thrust_n": ("Thrust", "N"),
    "propeller": ("Propeller of that thrust", ""),
    "bore_mm": ("Bore", "mm"),
    "nominal_v": ("Nominal volts", "V"),
    "bec_voltage_v": ("Gives a receiver", "V"),
    "bec_current_a": ("Gives a receiver", "A"),
    "cut_off_v": ("Cuts off at", "V"),
    "blocks": ("Blocks", ""),
    "block_v": ("Volts of a block", "V"),
    "charger_v": ("Charger", "V"),
    "charger_a": ("Charger", "A"),
    "fuse_a": ("Fuse", "A"),
    "capacity_ah": ("Capacity of the pack", "Ah"),
    "energy_wh": ("Energy", "Wh"),
    "c_rating": ("C rating", "C"),
    "peak_c": ("Peak C rating", "C"),
}
"""What is read that no field of a part holds, by its label and unit."""


def _read(kind: ListedKind, said: Said, words: str) -> ReadFact:
    if said.path.startswith("facts."):
        label, unit = FACTS[said.path.removeprefix("facts.")]
        return ReadFact(
            path=said.path, label=label, unit=unit, value=said.value, words=words, note=said.note
        )
    place = _place(kind, said.path)
    field = _field(kind, place)
    return ReadFact(
        path=place,
        label=field.label,
        unit=field.unit,
        value=said.value,
        words=words,
        note=said.note,
    )


def _place(kind: ListedKind, path: str) -> str:
    return path.removeprefix("part.") if path.startswith("part.") else f"{HOLDS[kind]}.{path}"


def _field(kind: ListedKind, path: str) -> FieldInfo:
    return next(field for field in part_fields(kind) if field.path == path)


NEEDED: dict[ListedKind, tuple[str, ...]] = {
    "controllers": ("continuous_current_a", "max_voltage_v", "resistance_ohm"),
    "propellers": ("diameter_mm", "pitch_mm"),
    "packs": ("chemistry", "series", "cell_capacity_ah", MOHM),
}
"""What no answer can do without; of motors the constants of their kind."""


def _asked(
    kind: ListedKind,
    document: dict[str, Any],
    facts: dict[str, Any],
    likely: list[tuple[Said, str]],
) -> list[Asked]:
    inner = document[HOLDS[kind]]
    needed = constants_of_kind(inner["kind"]) if kind == "motors" else NEEDED[kind]
    if kind == "packs" and "chemistry" not in inner:
        needed = (*needed, "cell_voltage_v")
    missing = [path for path in needed if path not in inner]
    guesses = guessed(kind, inner, facts) if missing else {}
    for one, words in likely:
        guesses[one.path] = (one.value, f"what “{words}” probably means: {one.note}")
    wanted = [one.path for one, _ in likely if one.path not in inner and one.path not in missing]
    found = []
    for path in dict.fromkeys([*wanted, *missing]):
        field = _field(kind, _place(kind, path))
        guess, why = guesses.get(path, (None, ""))
        found.append(
            Asked(
                needed=path in missing,
                path=field.path,
                label=field.label,
                unit=field.unit,
                explain=field.explain,
                options=field.options,
                guess=guess,
                why=why,
            )
        )
    return found
