"""A listing as it stands in a shop, read into a part of the shelf.

What is said goes into the part with the origin 'data_sheet'; what a part can't do without and
the listing does not say is asked for, with a guess where the rest gives one.
"""

from collections.abc import Iterable
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
from powertrain.listing.pattern import Pattern, Said

ListedKind = Literal["motors", "controllers", "packs"]

HOLDS: dict[ListedKind, str] = {"motors": "motor", "controllers": "controller", "packs": "battery"}
"""Where a part's own figures stand in its document."""

PATTERNS: dict[ListedKind, tuple[Pattern, ...]] = {
    "motors": motor.PATTERNS, "controllers": controller.PATTERNS, "packs": pack.PATTERNS,
}  # fmt: skip

CONTROLLER_OHM = 0.004
"""Path resistance that stands for an unknown one; common practice, no source."""


class ReadFact(BaseModel):
    """A place of the part that the listing tells, with the words that told it."""

    path: str
    label: str
    unit: str
    value: Any
    words: str
    note: str


class Asked(BaseModel):
    """A place that a part can't do without; `guess` is None where nothing gives one."""

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
    ('motors', 790.0, ['motor.resistance_ohm', 'motor.no_load_current_a'])
    """
    kind = kind or kind_of(text)
    said, unread = _said(text, PATTERNS[kind])
    unread += [words for one, words in said if not _possible(kind, one)]
    said = [one for one in said if _possible(kind, one[0])]
    values = {path: value for (path, value, _), _ in said}
    facts = {path.removeprefix("facts."): values[path] for path in values if path[:6] == "facts."}
    derived = list(_of_pack(values, facts)) if kind == "packs" else []
    said = [one for one in said if not one[0][0].startswith("facts.")] + derived
    document = _document(kind, text, said)
    return Listing(
        kind=kind,
        document=document,
        understood=[_read(kind, one, words) for one, words in said],
        asked=_asked(kind, document, facts),
        unread=unread,
    )


MODELS: dict[ListedKind, type[BaseModel]] = {
    "motors": PermanentMagnetMotor, "controllers": Controller, "packs": Battery,
}  # fmt: skip


def _possible(kind: ListedKind, said: Said) -> bool:
    """Return whether a number is one that its field may hold; nought amps are a slip of a shop."""
    path, value, _ = said
    if not isinstance(value, float | int):
        return True
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
        if any(word in low for word in words):
            return kind
    return max(PATTERNS, key=lambda kind: len(_said(text, PATTERNS[kind])[0]))


NAMES: dict[ListedKind, tuple[str, ...]] = {
    "controllers": ("controller", "esc", "erpm"),
    "packs": ("mah", "battery", "pack", "lipo,", "18650", "21700"),
    "motors": ("kv", "rpm/v", "motor"),
}


def _said(text: str, patterns: Iterable[Pattern]) -> tuple[list[tuple[Said, str]], list[str]]:
    """Return every fact with the words that told it, and the words that told none."""
    found: list[tuple[int, Said, str]] = []
    left, seen = text, set()
    for one in patterns:
        while (match := one.written.search(left)) is not None:
            for said in one.says(match):
                if said[0] not in seen:
                    seen.add(said[0])
                    found.append((match.start(), said, match[0].strip(" ,;:")))
            begin, end = match.span()
            # What is read leaves a gap, so that words on both sides never join.
            left = left[:begin] + "|" * max(end - begin, 1) + left[end:]
    found.sort(key=lambda one: one[0])
    words = [word.strip(" .:()\t") for word in _split(left)]
    return [(said, told) for _, said, told in found], [word for word in words if word]


def _split(text: str) -> list[str]:
    for mark in ",;\n|":
        text = text.replace(mark, "\n")
    return text.split("\n")


def _of_pack(values: dict[str, Any], facts: dict[str, float]) -> Iterable[tuple[Said, str]]:
    """Yield what volts, amp-hours and C ratings of a whole pack say of its cells."""
    strings = values.get("parallel", 1)
    chemistry, volts = values.get("chemistry"), facts.get("nominal_v")
    if "series" not in values and chemistry and volts:
        cells = max(1, round(volts / CHEMISTRIES[chemistry].nominal_v))
        note = f"{CHEMISTRIES[chemistry].nominal_v:g} V to the cell."
        yield ("series", cells, note), f"{volts:g} V"
    capacity = facts.get("capacity_ah")
    if capacity is None:
        return
    yield (
        ("cell_capacity_ah", float(f"{capacity / strings:.6g}"), "Of one string."),
        (f"{capacity:g} Ah"),
    )
    for fact, path in (("c_rating", "continuous_current_a"), ("peak_c", "peak_current_a")):
        if fact in facts and path not in values:
            amps = float(f"{facts[fact] * capacity:.4g}")
            note = "C rating times amp-hours; prints are about twice what packs give."
            yield (path, amps, note), f"{facts[fact]:g} C"


def _document(kind: ListedKind, text: str, said: list[tuple[Said, str]]) -> dict[str, Any]:
    holds = HOLDS[kind]
    inner: dict[str, Any] = {"kind": "permanent_magnet"} if kind == "motors" else {}
    outer: dict[str, Any] = {}
    provenance: dict[str, Any] = {}
    for (path, value, _), _ in said:
        if path.startswith("part."):
            outer[path.removeprefix("part.")] = value
        else:
            inner[path] = value
            provenance[f"{holds}.{path}"] = {"origin": "data_sheet"}
    if kind == "packs" and "chemistry" in inner:
        inner["cell_voltage_v"] = CHEMISTRIES[inner["chemistry"]].nominal_v
    name = " ".join(text.split())[:80] or "Listing"
    return {"name": name, **outer, holds: inner, "provenance": provenance}


def _read(kind: ListedKind, said: Said, words: str) -> ReadFact:
    path, value, note = said
    place = path.removeprefix("part.") if path.startswith("part.") else f"{HOLDS[kind]}.{path}"
    field = _field(kind, place)
    return ReadFact(
        path=place, label=field.label, unit=field.unit, value=value, words=words, note=note
    )


def _field(kind: ListedKind, path: str) -> FieldInfo:
    return next(field for field in part_fields(kind) if field.path == path)


NEEDED: dict[ListedKind, tuple[str, ...]] = {
    "motors": ("kv_rpm_per_v", "resistance_ohm", "no_load_current_a"),
    "controllers": ("continuous_current_a", "max_voltage_v", "resistance_ohm"),
    "packs": ("chemistry", "series", "cell_capacity_ah", MOHM),
}
"""What no answer can do without."""


def _asked(kind: ListedKind, document: dict[str, Any], facts: dict[str, float]) -> list[Asked]:
    inner = document[HOLDS[kind]]
    missing = [path for path in NEEDED[kind] if path not in inner]
    guesses = GUESSES[kind](inner, facts) if missing else {}
    found = []
    for path in missing:
        field = _field(kind, f"{HOLDS[kind]}.{path}")
        guess, why = guesses.get(path, (None, ""))
        found.append(
            Asked(path=field.path, label=field.label, unit=field.unit, explain=field.explain,
                  options=field.options, guess=guess, why=why)
        )  # fmt: skip
    return found


Guesses = dict[str, tuple[float | str | None, str]]


def _of_motor(inner: dict[str, Any], facts: dict[str, float]) -> Guesses:
    known = {key: inner[key] for key in inner if key in MotorFacts.model_fields and key != "kind"}
    found = identify_motor(MotorFacts.model_validate(known)).values
    return {
        key: (float(f"{one.value:.2g}"), f"by {one.route}, good to a factor of "
              f"{1 + one.tolerance:.2g}")
        for key, one in found.items()
    }  # fmt: skip


def _of_controller(inner: dict[str, Any], facts: dict[str, float]) -> Guesses:
    return {"resistance_ohm": (CONTROLLER_OHM, "usual, good to a factor of 3")}


def _of_cells(inner: dict[str, Any], facts: dict[str, float]) -> Guesses:
    chemistry = inner.get("chemistry", "li_ion")
    capacity, amps = inner.get("cell_capacity_ah"), inner.get("continuous_current_a")
    rating = facts.get("c_rating")
    if rating is None and capacity and amps:
        rating = amps / (capacity * inner.get("parallel", 1))
    told = {"chemistry": chemistry, "cell_capacity_ah": capacity, "c_rating": rating}
    found = identify_cell(CellFacts.model_validate(told)).values.get(MOHM)
    guesses: Guesses = {"chemistry": (chemistry, "the most usual")}
    if found is not None:
        why = f"by {found.route}, good to a factor of {1 + found.tolerance:.2g}"
        guesses[MOHM] = (float(f"{found.value:.2g}"), why)
    return guesses


GUESSES = {"motors": _of_motor, "controllers": _of_controller, "packs": _of_cells}
