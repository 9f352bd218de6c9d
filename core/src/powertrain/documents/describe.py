"""What a document says, in words: its fields for the screens, its changes for the history."""

from collections.abc import Iterator
from functools import cache
from types import UnionType
from typing import Any, Literal, Union, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo as PydanticField

from powertrain.documents import build
from powertrain.documents.paths import differences
from powertrain.documents.vehicle import FixedStage, ToothedStage

FieldKind = Literal["number", "whole", "choice", "text", "pair"]


class FieldInfo(BaseModel):
    """One input of the build document.

    `path` has a ``*`` for the index of a list; `kinds` names the stage kinds that have the
    field, and is empty where all have it.
    """

    path: str
    section: str
    label: str
    unit: str
    explain: str
    kind: FieldKind
    options: list[str]
    required: bool
    kinds: list[str]


@cache
def _all_fields() -> tuple[FieldInfo, ...]:
    return tuple(_fields_of(build.Build, "", []))


def all_fields() -> list[FieldInfo]:
    """Return every field that a person fills in, in the order of the document."""
    return list(_all_fields())


def _fields_of(model: type[BaseModel], prefix: str, kinds: list[str]) -> Iterator[FieldInfo]:
    for name, field in model.model_fields.items():
        path = f"{prefix}{name}"
        if path in ("format", "provenance") or name == "kind":
            continue
        if path == "gearing":
            for stage in (ToothedStage, FixedStage):
                own = list(get_args(stage.model_fields["kind"].annotation))
                yield from _fields_of(stage, "gearing.*.", own)
            continue
        part = _model_in(field.annotation)
        if part is not None:
            yield from _fields_of(part, f"{path}.", kinds)
        else:
            yield _described(path, field, kinds)


def _described(path: str, field: PydanticField, kinds: list[str]) -> FieldInfo:
    extra = field.json_schema_extra if isinstance(field.json_schema_extra, dict) else {}
    kind, options = _kind_of(field.annotation)
    return FieldInfo(
        path=path,
        section=path.split(".")[0],
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


def _kind_of(annotation: Any) -> tuple[FieldKind, list[str]]:
    item = _alternatives(annotation)[0]
    if get_origin(item) is Literal:
        return "choice", list(get_args(item))
    if get_origin(item) is list:
        return "pair", []
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
        for label, unit in (_label(path),)
    ]


def _label(path: str) -> tuple[str, str]:
    """Return what a path is called, and the unit of what stands there."""
    steps = path.split(".")
    if steps[0] == "provenance":
        return "What is known of " + (_label(".".join(steps[1:-1]))[0] if steps[2:] else "it"), ""
    pattern = ".".join("*" if step.isdecimal() else step for step in steps)
    found = next((field for field in _all_fields() if field.path == pattern), None)
    if found is None:
        return {"gearing": "Stages"}.get(path, path), ""
    stage = f"Stage {int(steps[1]) + 1} " if steps[0] == "gearing" else ""
    return (stage + found.label.lower() if stage else found.label), found.unit
