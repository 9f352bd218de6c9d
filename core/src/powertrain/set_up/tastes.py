"""What speaks for one controller rather than another, each from 0 to 1; the weights are the user's.

All rules are common practice without a source. What a controller does not state counts half.
"""

from collections.abc import Callable, Sequence
from typing import Literal, get_args

from pydantic import BaseModel, Field

from powertrain.documents.controller_settings import SettingId
from powertrain.documents.shelf import ControllerPart
from powertrain.set_up.needs import Needs

TasteId = Literal["ease", "price", "dependability", "configurable", "room", "cells"]

UNSTATED = 0.5
SPARE_AMPS = 1.5
"""Amps for long beyond which more head-room does not last longer."""

SPARE_VOLTS = 1.25
MORE_CELLS = 0.3
"""Part of the cells that a later pack may have more."""


class TasteWeights(BaseModel):
    """How much each counts; only their proportions matter."""

    ease: float = Field(1.0, ge=0, le=10)
    price: float = Field(2.0, ge=0, le=10)
    dependability: float = Field(3.0, ge=0, le=10)
    configurable: float = Field(1.0, ge=0, le=10)
    room: float = Field(1.0, ge=0, le=10)
    cells: float = Field(1.0, ge=0, le=10)


class TasteWeight(BaseModel):
    """How much one taste counts, and what it is called."""

    id: TasteId
    label: str
    weight: float


class Taste(BaseModel):
    """How one controller does by one taste, and what that adds to its rank."""

    id: TasteId
    label: str
    score: float
    adds: float
    say: str


Scored = tuple[float, str]


def _ease(part: ControllerPart, needs: Needs, others: Sequence[ControllerPart]) -> Scored:
    if part.remote_included:
        return 1.0, "comes with what sends its throttle"
    if not part.settable:
        return 0.9, "nothing to set"
    offers = part.controller.offers
    if offers is None:
        return UNSTATED, "how much there is to set is not stated"
    return 1 - 0.8 * len(offers) / ALL_SETTINGS, f"{len(offers)} settings to understand"


def _price(part: ControllerPart, needs: Needs, others: Sequence[ControllerPart]) -> Scored:
    price = price_of(part)
    known = [one for one in map(price_of, others) if one]
    if price is None or not known:
        return UNSTATED, "no price"
    return (min(known) / price if price else 1.0), f"{price:g} in all"


def _dependability(part: ControllerPart, needs: Needs, others: Sequence[ControllerPart]) -> Scored:
    controller = part.controller
    shares, words = [], []
    need_a = needs.long_motor_a
    if controller.rating_side == "battery":
        need_a = needs.long_pack_a / controller.count
    if controller.continuous_current_a and need_a > 0:
        spare = controller.continuous_current_a / need_a
        shares.append(min(spare / SPARE_AMPS, 1.0))
        words.append(f"{spare:.2g} times the amps for long")
    if controller.max_voltage_v:
        spare = controller.max_voltage_v / needs.full_v
        shares.append(min(max(spare - 1, 0.0) / (SPARE_VOLTS - 1), 1.0))
        words.append(f"{spare:.3g} times the volts")
    if not shares:
        return UNSTATED, "neither amps nor volts are stated"
    return sum(shares) / len(shares), ", ".join(words)


def _configurable(part: ControllerPart, needs: Needs, others: Sequence[ControllerPart]) -> Scored:
    offers = part.controller.offers
    if offers is not None:
        return len(offers) / ALL_SETTINGS, f"{len(offers)} of {ALL_SETTINGS} settings"
    if part.settable:
        return UNSTATED, "its limits can be set; what else is not stated"
    return 0.1, "as it is"


def _room(part: ControllerPart, needs: Needs, others: Sequence[ControllerPart]) -> Scored:
    litres = litres_of(part)
    known = [one for one in map(litres_of, others) if one]
    if litres is None or not known:
        return UNSTATED, "its size is not stated"
    return min(known) / litres, f"{litres:.2g} l"


def _cells(part: ControllerPart, needs: Needs, others: Sequence[ControllerPart]) -> Scored:
    stands = part.controller.max_voltage_v
    if stands is None:
        return UNSTATED, "its volts are not stated"
    more = stands / needs.full_v - 1
    return min(max(more, 0.0) / MORE_CELLS, 1.0), f"room for {max(more, 0):.0%} more cells"


def price_of(part: ControllerPart) -> float | None:
    """Return what all of them cost that are needed."""
    price = part.controller.price
    return None if price is None else price * part.controller.count


def litres_of(part: ControllerPart) -> float | None:
    """Return the room that all of them take, None where a side is not stated."""
    one = part.controller
    if one.length_mm is None or one.width_mm is None or one.height_mm is None:
        return None
    return one.count * one.length_mm * one.width_mm * one.height_mm / 1e6


ALL_SETTINGS = len(get_args(SettingId))

TASTES: dict[
    TasteId, tuple[str, Callable[[ControllerPart, Needs, Sequence[ControllerPart]], Scored]]
] = {
    "ease": ("Easy to set up", _ease),
    "price": ("Price", _price),
    "dependability": ("Dependable", _dependability),
    "configurable": ("Can be set", _configurable),
    "room": ("Small", _room),
    "cells": ("More cells later", _cells),
}
"""Label and score of each."""


def told_weights(weights: TasteWeights) -> list[TasteWeight]:
    """Return what counts for how much, what counts most first."""
    counts = weights.model_dump()
    found = [
        TasteWeight(id=key, label=label, weight=counts[key]) for key, (label, _) in TASTES.items()
    ]
    return sorted(found, key=lambda one: -TasteWeights.model_fields[one.id].default)


def tastes_of(
    part: ControllerPart, needs: Needs, others: Sequence[ControllerPart], weights: TasteWeights
) -> list[Taste]:
    """Return every taste of one of several controllers that can be had."""
    counts = weights.model_dump()
    whole = sum(counts.values()) or 1.0
    found = []
    for key, (label, ask) in TASTES.items():
        score, say = ask(part, needs, others)
        adds = 100 * score * counts[key] / whole
        found.append(Taste(id=key, label=label, score=score, adds=adds, say=say))
    return found
