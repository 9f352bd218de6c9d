"""What of a shelf fits a conversion: charger, converter, contactor and fuse for its volts."""

from collections.abc import Callable, Iterator, Sequence
from typing import Protocol, TypeVar

from pydantic import BaseModel

from powertrain.conversion.high_volts import HighVoltsAnswer
from powertrain.documents.shelf import (
    ChargerPart,
    ContactorPart,
    ConverterPart,
    FusePart,
    Shelf,
)

NEAR = 0.01
"""How far a charger may end from where the pack is full: a cell charged a hundredth too high ages
fast, one too low is never full; common practice."""

HOURS = 12.0
"""A night: a charger that takes longer is none for every day; common practice."""

SPARE = 1.25
"""Watts that a converter should give for each that hang on it, since lamps and pumps start with
more than they run with; common practice, no source."""


class Offer(BaseModel):
    """One part of the shelf that fits, the cheapest of its kind; `path` is where its price goes."""

    id: str
    path: str
    part: str
    name: str
    price: float
    why: str


class Priced(Protocol):
    """A part for sale."""

    @property
    def name(self) -> str:
        """What one asks for."""
        ...

    @property
    def price(self) -> float | None:
        """What it costs."""
        ...


Sold = TypeVar("Sold", bound=Priced)


def offers_of(
    shelf: Shelf, high: HighVoltsAnswer, capacity_ah: float, empty_v: float, pack_w: float
) -> list[Offer]:
    """Return what fits a pack.

    Parameters
    ----------
    capacity_ah, empty_v : float
        Of the pack: what a charger has to fill, and the least that a converter must work on.
    pack_w : float
        Watts that hang on the converter.
    """
    return list(_found(shelf, high, capacity_ah, empty_v, pack_w))


def _found(
    shelf: Shelf, high: HighVoltsAnswer, capacity_ah: float, empty_v: float, pack_w: float
) -> Iterator[Offer]:
    volts, gear = high.volts, high.switchgear

    def charges(part: ChargerPart) -> bool:
        near = abs(part.voltage_v - volts) <= NEAR * volts
        return near and part.current_a * HOURS >= capacity_ah

    def converts(part: ConverterPart) -> bool:
        return part.from_v <= empty_v and part.to_v >= volts and part.power_w >= SPARE * pack_w

    def opens(part: ContactorPart) -> bool:
        if gear.lasting_a is None or gear.most_a is None:
            return False
        stands = part.voltage_v >= volts and part.current_a >= gear.lasting_a
        return stands and part.breaks_a >= gear.most_a and part.sense != "one_way"

    def blows(part: FusePart) -> bool:
        if gear.fuse_a is None or gear.breaks_a is None:
            return False
        right = part.voltage_v >= volts and part.current_a == gear.fuse_a
        return right and part.breaks_a >= gear.breaks_a

    charger = cheapest(shelf.chargers, charges)
    if charger is not None:
        hours = capacity_ah / charger.current_a
        why = f"ends at {charger.voltage_v:g} V, fills it in {hours:.1f} h"
        yield _offer("charger", "prices.charger", [charger], why)
    converter = cheapest(shelf.converters, converts)
    if converter is not None:
        why = f"works from {converter.from_v:g} to {converter.to_v:g} V, {converter.power_w:g} W"
        yield _offer("dc_dc", "prices.dc_dc", [converter], why)
    contactor, fuse = cheapest(shelf.contactors, opens), cheapest(shelf.fuses, blows)
    if contactor is not None and fuse is not None:
        why = (
            f"opens {contactor.breaks_a:g} A either way; the fuse puts out {fuse.breaks_a:,.0f} A "
            f"at {fuse.voltage_v:g} V d.c."
        )
        yield _offer("contactors", "prices.contactors", [contactor, fuse], why)


def cheapest(parts: Sequence[Sold], fits: Callable[[Sold], bool]) -> Sold | None:
    """Return the cheapest part with a price that fits, None where none does."""
    fitting = [part for part in parts if part.price is not None and fits(part)]
    return min(fitting, key=lambda part: part.price or 0.0, default=None)


def _offer(
    key: str,
    path: str,
    parts: Sequence[ChargerPart | ConverterPart | ContactorPart | FusePart],
    why: str,
) -> Offer:
    return Offer(
        id=key,
        path=path,
        part=parts[0].id,
        name=" and ".join(part.name for part in parts),
        price=round(sum(part.price or 0.0 for part in parts), 2),
        why=why,
    )
