"""What a document says, in words: its fields for the screens, its changes for the history."""

from collections.abc import Iterator
from functools import cache
from types import UnionType
from typing import Any, Literal, Union, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo as PydanticField

from powertrain.documents import build
from powertrain.documents.motors import MOTOR_DOCUMENTS, SharedMotor
from powertrain.documents.paths import differences, value_at
from powertrain.documents.shelf import KINDS
from powertrain.documents.vehicle import STAGE_DOCUMENTS
from powertrain.documents.vehicles import VEHICLE_DOCUMENTS

FieldKind = Literal["number", "whole", "choice", "choices", "text", "pair", "list"]


class FieldInfo(BaseModel):
    """One input of the build document.

    `path` has a ``*`` for the index of a list; `kinds` names the kinds of stage or of motor that
    have the field, and is empty where all have it. `group` is the name of the part of a part
    that it belongs to.
    """

    path: str
    section: str
    group: str
    label: str
    unit: str
    explain: str
    kind: FieldKind
    options: list[str]
    required: bool
    kinds: list[str]


@cache
def _all_fields() -> tuple[FieldInfo, ...]:
    found: dict[tuple[str, str], FieldInfo] = {}
    for field in _fields_of(build.Build, "", [], ""):
        # What two kinds call by other words is told once for each.
        key = (field.path, field.explain)
        before = found.get(key)
        if before is None:
            found[key] = field
        elif field.kinds != before.kinds:
            found[key] = before.model_copy(update={"kinds": before.kinds + field.kinds})
    return tuple(found.values())


def all_fields() -> list[FieldInfo]:
    """Return every field that a person fills in, in the order of the document."""
    return list(_all_fields())


def fields_of_facts(part: type[BaseModel], prefix: str) -> list[FieldInfo]:
    """Return the single facts of a part of a facts document."""
    return [
        field
        for field in _fields_of(part, prefix, [], "")
        if field.kind in ("number", "whole", "choice")
    ]


class KindName(BaseModel):
    """A kind of part, and what people call it."""

    kind: str
    label: str


def motor_kinds() -> list[KindName]:
    """Return the kinds of motor that there are."""
    return [KindName(kind=kind_of(motor), label=motor.label) for motor in MOTOR_DOCUMENTS]


def kind_of(model: type[BaseModel]) -> str:
    """Return the word by which a document names a kind."""
    return str(get_args(model.model_fields["kind"].annotation)[0])


@cache
def part_fields(kind: str) -> tuple[FieldInfo, ...]:
    """Return every single field of a kind of part on the shelf, as `all_fields` of a build."""
    found: dict[str, FieldInfo] = {}
    for field in _fields_of(KINDS[kind], "", [], ""):
        before = found.setdefault(field.path, field)
        if before is not field:
            found[field.path] = before.model_copy(update={"kinds": before.kinds + field.kinds})
    return tuple(found.values())


UNIONS: dict[str, tuple[type[BaseModel] | None, str, tuple[type[BaseModel], ...]]] = {
    "gearing": (None, "gearing.*.", STAGE_DOCUMENTS),
    "motor": (SharedMotor, "motor.", MOTOR_DOCUMENTS),
    "vehicle": (None, "vehicle.", VEHICLE_DOCUMENTS),
}
"""Parts of which there are kinds: what all kinds have, the path of their fields, the kinds."""


NO_INPUTS = (
    "format",
    "provenance",
    "controller.curve.points",
    "motor.field",
    "controller.steps_shared",
    "controller.settings",
    "battery.open_circuit",
    "battery.resistance_by_c",
)
"""What is no single input: a curve is drawn, whether steps are shared is pressed, and what was set
by hand is kept as it is set."""


def _fields_of(
    model: type[BaseModel], prefix: str, kinds: list[str], group: str
) -> Iterator[FieldInfo]:
    for name, field in model.model_fields.items():
        path = f"{prefix}{name}"
        if path in NO_INPUTS or (name == "kind" and prefix):
            continue
        if path in UNIONS:
            yield from _fields_of_union(*UNIONS[path])
            continue
        part, listed = _model_in(field.annotation), _listed_in(field.annotation)
        if listed is not None:
            yield from _fields_of(listed, f"{path}.*.", kinds, field.title or "")
        elif part is not None:
            inner = (field.title or "") if prefix else ""
            yield from _fields_of(part, f"{path}.", kinds, inner)
        else:
            described = _described(path, field, kinds, group)
            if described.kind != "choice" or len(described.options) > 1:
                yield described


def _fields_of_union(
    shared: type[BaseModel] | None, prefix: str, members: tuple[type[BaseModel], ...]
) -> Iterator[FieldInfo]:
    common = set(shared.model_fields) if shared else set()
    for member in members:
        own = list(get_args(member.model_fields["kind"].annotation))
        for field in _fields_of(member, prefix, own, ""):
            if field.path.removeprefix(prefix).split(".")[0] not in common:
                yield field
    if shared:
        yield from _fields_of(shared, prefix, [], "")


def _described(path: str, field: PydanticField, kinds: list[str], group: str) -> FieldInfo:
    extra = field.json_schema_extra if isinstance(field.json_schema_extra, dict) else {}
    kind, options = _kind_of(path.split(".")[-1], field.annotation)
    return FieldInfo(
        path=path,
        section=path.split(".")[0],
        group=group,
        label=field.title or path,
        unit=str(extra.get("unit", "")),
        explain=field.description or "",
        kind=kind,
        options=options,
        required=field.is_required(),
        kinds=kinds,
    )


def _alternatives(annotation: Any) -> list[Any]:
    if get_origin(annotation) in (Union, UnionType):
        return [item for item in get_args(annotation) if item is not type(None)]
    return [annotation]


def _model_in(annotation: Any) -> type[BaseModel] | None:
    for item in _alternatives(annotation):
        if isinstance(item, type) and issubclass(item, BaseModel):
            return item
    return None


def _listed_in(annotation: Any) -> type[BaseModel] | None:
    """Return the part that a list is made of; of the plain ones there is one kind."""
    for item in _alternatives(annotation):
        inner = get_args(item)[0] if get_origin(item) is list else None
        if isinstance(inner, type) and issubclass(inner, BaseModel):
            return inner
    return None


def _kind_of(name: str, annotation: Any) -> tuple[FieldKind, list[str]]:
    item = _alternatives(annotation)[0]
    if get_origin(item) is Literal:
        return "choice", list(get_args(item))
    if get_origin(item) is list and get_origin(get_args(item)[0]) is Literal:
        return "choices", list(get_args(get_args(item)[0]))
    if get_origin(item) is list:
        return ("list" if name == "ratios" else "pair"), []
    while hasattr(item, "__metadata__"):
        item = item.__origin__
    if item is int:
        return "whole", []
    return ("number", []) if item is float else ("text", [])


def changes_between(before: dict[str, Any], after: dict[str, Any]) -> list[dict[str, Any]]:
    """Return what differs between two plain documents, each with a label and its unit."""
    return [
        {"path": path, "label": label, "unit": unit, "before": old, "after": new}
        for path, old, new in differences(before, after)
        for label, unit in (_label(path, after),)
    ]


def label_of(path: str, document: dict[str, Any]) -> str:
    """Return what a path is called in a plain document, as people say it."""
    return _label(path, document)[0]


def _label(path: str, document: dict[str, Any]) -> tuple[str, str]:
    """Return what a path is called in a document, and the unit of what stands there."""
    steps = path.split(".")
    if steps[0] == "provenance":
        of = _label(".".join(steps[1:-1]), document)[0] if steps[2:] else "it"
        return f"What is known of {of}", ""
    pattern = ".".join("*" if step.isdecimal() else step for step in steps)
    named = [field for field in _all_fields() if field.path == pattern]
    kind = value_at(document, f"{steps[0]}.kind")
    found = next((field for field in named if kind in field.kinds), named[0] if named else None)
    if found is None:
        return {"gearing": "Stages", "auxiliaries": "What runs along"}.get(path, path), ""
    stage = f"Stage {int(steps[1]) + 1} " if steps[0] == "gearing" else ""
    if steps[0] == "auxiliaries" and steps[1:]:
        stage = f"{value_at(document, '.'.join([*steps[:2], 'name'])) or 'What runs along'}: "
    return (stage + found.label.lower() if stage else found.label), found.unit
