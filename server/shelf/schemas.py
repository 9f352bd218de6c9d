"""The API's forms of parts. Documents and tables are the core's own models."""

from typing import Any, Literal

from ninja import Schema
from pydantic import Field

from common.schemas import StrictSchema
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.describe import FieldInfo
from powertrain.listing.pattern import ListedKind

Kind = Literal[
    "motors",
    "controllers",
    "packs",
    "cells",
    "wheels",
    "propellers",
    "teeth",
    "strands",
    "wires",
    "connectors",
    "gearboxes",
    "contactors",
    "fuses",
    "converters",
    "chargers",
]


class LookRequest(StrictSchema):
    """What is looked for on the shelf.

    With a `build` or a `brief` each part is told why it does not fit; with `only_fit` those are
    left out.
    """

    words: str = Field("", max_length=200)
    sort: str = Field("", max_length=80)
    falling: bool = False
    only_own: bool = False
    build: Build | None = None
    brief: Brief | None = None
    only_fit: bool = False
    limit: int = Field(200, ge=1, le=1000)


class PartName(Schema):
    """A part to choose."""

    id: str
    name: str


class ShelfNames(Schema):
    """Parts to choose from."""

    motors: list[PartName]
    controllers: list[PartName]
    packs: list[PartName]
    propellers: list[PartName]


class PartRequest(Schema):
    """A whole part."""

    document: dict[str, Any]


class PartAnswer(Schema):
    """A part as it stands; one that ships can't be changed, but copied."""

    id: str
    kind: str
    own: bool
    document: dict[str, Any]
    can_undo: bool
    removed: bool


class FieldsOfPart(Schema):
    """Every field of a kind of part."""

    fields: list[FieldInfo]


class ListingRequest(Schema):
    """A listing as it stands in a shop."""

    text: str = Field(max_length=4000)
    kind: ListedKind | None = None
