"""Reading a build document: from text or plain values to a checked `Build`, with warnings."""

import difflib
from functools import cache
from typing import Any, TypeVar, get_args

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.build import Build
from powertrain.documents.model import Model
from powertrain.documents.motors import MOTOR_DOCUMENTS
from powertrain.documents.text import parse
from powertrain.documents.upgrade import upgraded
from powertrain.documents.vehicle import STAGE_DOCUMENTS
from powertrain.documents.vehicles import VEHICLE_DOCUMENTS
from powertrain.errors import Refusal

Document = TypeVar("Document", bound=BaseModel)


def read_build(text: bytes | str) -> Build:
    """Return the build that JSON `text` describes.

    Raises
    ------
    Refusal
        Naming the first place that is wrong.
    """
    return check_build(parse(text))


def check_build(document: Any) -> Build:
    """Return the build that a plain `document` describes; raise `Refusal` if it is not valid."""
    if not isinstance(document, dict):
        raise Refusal("", "must be an object with the keys of a build")
    return check_model(Build, document)


def check_model(kind: type[Document], document: Any) -> Document:
    """Return a plain document as one of `kind`; raise `Refusal` naming the first wrong place."""
    present = _form_of(kind)
    if present is not None and isinstance(document, dict):
        document = upgraded(document, present)
    try:
        return kind.model_validate(document)
    except ValidationError as problem:
        first = problem.errors(include_url=False)[0]
        raise refusal_of(first, _place(first["loc"])) from None


@cache
def _form_of(kind: type[BaseModel]) -> str | None:
    """Return the present form of documents of a kind, None for those that name none."""
    field = kind.model_fields.get("format")
    named = () if field is None else get_args(field.annotation)
    return str(named[0]) if named else None


TAGS = {
    kind
    for model in (*MOTOR_DOCUMENTS, *STAGE_DOCUMENTS, *VEHICLE_DOCUMENTS)
    for kind in get_args(model.model_fields["kind"].annotation)
}
"""Words that pydantic puts into the place of an error to say which kind was tried."""


def _place(location: tuple[int | str, ...]) -> str:
    """Return the document path of a pydantic location."""
    return ".".join(str(step) for step in location if step not in TAGS)


def refusal_of(error: ErrorDetails, where: str) -> Refusal:
    """Return what to tell a person about one pydantic error at `where`."""
    kind, context = error["type"], error.get("ctx", {})
    match kind:
        case "missing":
            what = "is missing; add it"
        case "extra_forbidden":
            what = "is not a key of this format" + _nearest(where)
        case "greater_than_equal":
            what = f"is below anything possible; the least is {_written(context['ge'])}"
        case "less_than_equal":
            what = f"is beyond anything possible; the most is {_written(context['le'])}"
        case "provenance":
            where, what = (
                f"provenance.{context['path']}",
                "is of a value this document does not have",
            )
        case "at_place":
            where, what = context["where"], context["what"]
        case "within":
            where, what = f"{where}.{context['where']}".lstrip("."), context["what"]
        case "finite_number":
            what = "must be a finite number"
        case "too_short":
            what = f"has too few items; the least is {context['min_length']}"
        case "too_long":
            what = f"has too many items; the most is {context['max_length']}"
        case "literal_error":
            what = f"must be {context['expected']}"
        case "union_tag_invalid":
            what = f"must be one of {context['expected_tags']}"
            where = f"{where}.{_tag(context)}"
        case "union_tag_not_found":
            what = "is missing; say which kind it is"
            where = f"{where}.{_tag(context)}"
        case "model_type" | "model_attributes_type" | "dict_type":
            what = "must be an object with keys"
        case "list_type" | "tuple_type":
            what = "must be a list"
        case "string_type":
            what = "must be text"
        case "string_unicode":
            what = "holds half of a character; write it anew"
        case "string_too_short":
            what = "must not be empty"
        case "string_too_long":
            what = f"is too long; the most is {context['max_length']} characters"
        case _:
            what = error["msg"][:1].lower() + error["msg"][1:]
    return Refusal(where, what)


def _tag(context: dict[str, Any]) -> str:
    """Return the key that says which kind of object is meant."""
    return str(context.get("discriminator", "kind")).strip("'")


def _written(number: float) -> str:
    """Return a number as people write it: no exponent, thousands told apart."""
    return f"{number:,.10f}".rstrip("0").rstrip(".")


def _nearest(where: str) -> str:
    """Return a hint at the key that was probably meant."""
    known = {name for part in _kinds_of(Model) for name in part.model_fields}
    near = difflib.get_close_matches(where.rsplit(".", 1)[-1], sorted(known), n=1)
    return f"; did you mean {near[0]}?" if near else "; take it out"


def _kinds_of(model: type[BaseModel]) -> list[type[BaseModel]]:
    """Return `model` and every model made from it."""
    return [model, *(kind for sub in model.__subclasses__() for kind in _kinds_of(sub))]


def warnings_of(build: Build) -> list[dict[str, str]]:
    """Return what is possible but far from usual, as a list of ``{"where", "what"}``."""
    found = list(_unusual(build, ""))
    cell = CHEMISTRIES[build.battery.chemistry]
    volts = build.battery.cell_voltage_v
    if not 0.8 * cell.empty_v <= volts <= 1.1 * cell.charger_v:
        rests = f"rests between {cell.empty_v:g} and {cell.full_v:g} V, not {volts:g}"
        found = [w for w in found if w["where"] != "battery.cell_voltage_v"]
        found.append({"where": "battery.cell_voltage_v", "what": f"a {cell.name} cell {rests}"})
    return found


def _unusual(part: BaseModel, path: str) -> list[dict[str, str]]:
    found: list[dict[str, str]] = []
    for name, field in type(part).model_fields.items():
        value, where = getattr(part, name), f"{path}{name}"
        if isinstance(value, BaseModel):
            found += _unusual(value, f"{where}.")
        elif isinstance(value, list):
            parts = [item for item in value if isinstance(item, BaseModel)]
            for index, item in enumerate(parts):
                found += _unusual(item, f"{where}.{index}.")
        elif isinstance(field.json_schema_extra, dict) and value is not None:
            low, high = field.json_schema_extra["usual"]  # type: ignore[misc,str-unpack]
            unit = field.json_schema_extra["unit"]
            if not low <= value <= high and value != field.default and value != 0:
                usual = f"{value:g} {unit} is far from the usual {low:g} to {high:g} {unit}"
                found.append({"where": where, "what": usual.replace("  ", " ").strip()})
    return found
