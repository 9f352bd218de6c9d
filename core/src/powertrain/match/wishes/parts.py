"""What each part must be by itself: volts, brushes, and room for it."""

from collections.abc import Iterator
from operator import attrgetter
from typing import Any

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.brief import Box, Brief, Round
from powertrain.documents.electrics import Battery
from powertrain.match.wish import OfPart, Wished


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield the wishes that a part's document answers."""
    wishes = brief.wishes
    if wishes.max_full_charge_v is not None:
        yield OfPart("full_charge_volts", "Full charge at most", "V", wishes.max_full_charge_v, -1,
                     "straight off the charger", "pack", charger_v)  # fmt: skip
    if wishes.commutation is not None:
        wanted = wishes.commutation
        yield OfPart("commutation", f"Is {wanted}", "", 1.0, 1, "always", "motor",
                     lambda motor: float(motor.commutation == wanted))  # fmt: skip
    if wishes.motor_space is not None:
        yield from _round(wishes.motor_space)
    for part, room in (("controller", wishes.controller_space), ("pack", wishes.pack_space)):
        if room is not None:
            yield _box(part, room)


def charger_v(battery: Battery) -> float:
    """Return the volts at which charging ends."""
    return battery.series * CHEMISTRIES[battery.chemistry].charger_v


def _round(room: Round) -> Iterator[Wished]:
    for noun, limit_mm in (("diameter", room.diameter_mm), ("length", room.length_mm)):
        if limit_mm is not None:
            yield OfPart("motor_space", f"Motor's {noun} at most", "mm", limit_mm, -1, "always",
                         "motor", attrgetter(f"{noun}_mm"))  # fmt: skip


def _box(part: Any, room: Box) -> Wished:
    sides = sorted((room.length_mm, room.width_mm, room.height_mm))

    def fills(document: Any) -> float | None:
        """Return the share of the tightest side that it fills, turned as it fits best."""
        own = (document.length_mm, document.width_mm, document.height_mm)
        if any(side is None for side in own):
            return None
        return float(max(side / place for side, place in zip(sorted(own), sides, strict=True)))

    return OfPart(f"{part}_space", f"Room for the {part}, filled", "", 1.0, -1, "always", part,
                  fills)  # fmt: skip
