"""Vehicles to begin from: whole builds whose every value is an honest guess, marked as one."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Any, Literal

from powertrain.documents.build import FORMAT, Build
from powertrain.documents.reading import check_build

GroupId = Literal["models", "one_person", "loads", "fields", "air"]
"""What it moves: itself, a rider, a load, itself over soft ground, or by a propeller."""


@dataclass(frozen=True)
class Archetype:
    """A kind of vehicle, with a build that is typical of it."""

    id: str
    group: GroupId
    title: str
    say: str
    document: Build


@cache
def all_archetypes() -> tuple[Archetype, ...]:
    """Return every archetype, in the order of the file."""
    text = resources.files(__name__).joinpath("archetypes.json").read_text("utf-8")
    return tuple(_read(entry) for entry in json.loads(text))


def _read(entry: dict[str, Any]) -> Archetype:
    document = {"format": FORMAT, "name": entry["title"], **entry["build"]}
    document["provenance"] = {path: {"origin": "default"} for path in _numbers(document)}
    return Archetype(
        entry["id"], entry["group"], entry["title"], entry["say"], check_build(document)
    )


def _numbers(value: Any, path: str = "") -> Iterator[str]:
    """Yield the path of every number in a plain document."""
    items: Iterator[tuple[Any, Any]] = iter(())
    if isinstance(value, dict):
        items = iter(value.items())
    elif isinstance(value, list):
        items = iter(enumerate(value))
    elif isinstance(value, int | float):
        yield path
    for key, inner in items:
        yield from _numbers(inner, f"{path}.{key}" if path else str(key))
