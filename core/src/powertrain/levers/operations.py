"""What a person does to a build on the bench, one operation after another.

An operation presses a lever, sets values, or says how a value is known. Operations are data,
so that a screen can send several pressed in quick succession, and they are carried out in order.
"""

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from powertrain.documents.build import Provenance
from powertrain.documents.motors import MotorKind, SharedMotor
from powertrain.documents.paths import changed, value_at
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.levers.followers import followed
from powertrain.levers.registry import press
from powertrain.motor.kinds import turned
from powertrain.stated import Stated


class Press(BaseModel):
    """Press a lever one step up or down."""

    model_config = ConfigDict(extra="forbid")
    do: Literal["press"]
    lever: str
    step: Literal[1, -1]


class SetValues(BaseModel):
    """Set values by document path; None takes an optional value out."""

    model_config = ConfigDict(extra="forbid")
    do: Literal["set"]
    values: dict[str, Any] = Field(max_length=50)


class Describe(BaseModel):
    """Say how the value at `path` is known."""

    model_config = ConfigDict(extra="forbid")
    do: Literal["describe"]
    path: str
    known: Provenance | None


class Learn(BaseModel):
    """Set values together with how each of them is known."""

    model_config = ConfigDict(extra="forbid")
    do: Literal["learn"]
    values: dict[str, Any] = Field(max_length=50)
    known: dict[str, Provenance] = Field(max_length=50)


class Turn(BaseModel):
    """Make the motor one of another kind, about as fast and as strong: a first guess."""

    model_config = ConfigDict(extra="forbid")
    do: Literal["turn"]
    kind: MotorKind


Operation = Annotated[Press | SetValues | Describe | Learn | Turn, Field(discriminator="do")]


def carry_out(document: dict[str, Any], operation: Operation) -> dict[str, Any]:
    """Return the plain document after one operation; it is a valid build.

    A value that a person sets is no longer a default: what was known as `default` is known as
    `estimated` from then on. Defaults that nobody has touched follow it (`levers.followers`).

    Raises
    ------
    Refusal
        Naming the place, if the outcome would be no valid build.
    """
    after = _outcome(document, operation)
    check_build(after)
    return after


def _outcome(document: dict[str, Any], operation: Operation) -> dict[str, Any]:
    if isinstance(operation, Press):
        return changed(document, press(check_build(document), operation.lever, operation.step))
    if isinstance(operation, SetValues):
        typed = set(operation.values)
        after = followed(document, changed(document, operation.values), typed)
        return _with_origins(after, typed)
    if isinstance(operation, Turn):
        return _turned(document, operation.kind)
    if isinstance(operation, Learn):
        return _known(changed(document, operation.values), operation.known)
    return _known(document, {operation.path: operation.known})


def _known(document: dict[str, Any], known: Mapping[str, Provenance | None]) -> dict[str, Any]:
    """Return a document that says how some of its values are known, or no longer says so."""
    origins = dict(document.get("provenance") or {})
    for path, item in known.items():
        if item is None:
            origins.pop(path, None)
        elif value_at(document, path) is None:
            raise Refusal(f"provenance.{path}", "is of a value this document does not have")
        else:
            origins[path] = item.model_dump(exclude_none=True)
    return changed(document, {"provenance": origins})


def _turned(document: dict[str, Any], kind: str) -> dict[str, Any]:
    build = check_build(document)
    if build.motor.kind == kind:
        return document
    volts = build.battery.series * build.battery.cell_voltage_v
    # What all kinds share stays as it was said, but for what makes the new kind what it is.
    shared = set(SharedMotor.model_fields) & build.motor.model_fields_set
    kept = build.motor.model_dump(mode="json", include=shared, exclude_none=True)
    constants = turned(Stated(build.motor), kind, volts)
    after = changed(document, {"motor": {"kind": kind, **kept, **constants}})
    guesses = {f"motor.{key}": {"origin": "default"} for key in constants}
    return changed(after, {"provenance": {**(after.get("provenance") or {}), **guesses}})


def _with_origins(document: dict[str, Any], paths: set[str]) -> dict[str, Any]:
    typed = {
        path: {**known, "origin": "estimated"}
        for path, known in (document.get("provenance") or {}).items()
        if path in paths
        and known.get("origin") == "default"
        and value_at(document, path) is not None
    }
    if not typed:
        return document
    return {**document, "provenance": {**document["provenance"], **typed}}
