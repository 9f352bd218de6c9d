"""What each part must be by itself: volts, brushes, and room for it."""

from collections.abc import Iterator
from functools import partial
from typing import Any

import numpy as np

from powertrain.arrays import Array, greatest, scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.brief import Box, Brief, Round
from powertrain.match.wish import OfPart, Rejection, Wished
from powertrain.stated import Stated

WISHES = {
    "full_charge_volts": Rejection(
        "fresh off the charger it has more volts than allowed", ("max_full_charge_v",)
    ),
    "motor_space": Rejection("the motor does not fit its room", ("motor_space",)),
    "controller_space": Rejection("the controller does not fit its room", ("controller_space",)),
    "pack_space": Rejection("the pack does not fit its room", ("pack_space",)),
    "commutation": Rejection("the motor is not of the kind asked for", ("commutation",)),
}


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield the wishes that a part's document answers."""
    wishes = brief.wishes
    if wishes.max_full_charge_v is not None:
        yield OfPart(
            "full_charge_volts",
            "Full charge at most",
            "V",
            wishes.max_full_charge_v,
            -1,
            "straight off the charger",
            "pack",
            charger_v,
        )
    if wishes.commutation is not None:
        wanted = wishes.commutation
        yield OfPart(
            "commutation",
            f"Is {wanted}",
            "",
            1.0,
            1,
            "always",
            "motor",
            lambda said: scalar(float(said.word("commutation") == wanted)),
        )
    if wishes.motor_space is not None:
        yield from _round(wishes.motor_space)
    for part, room in (("controller", wishes.controller_space), ("pack", wishes.pack_space)):
        if room is not None:
            yield _box(part, room)


def charger_v(said: Stated) -> Array:
    """Return the volts at which charging ends."""
    return said.number("series") * CHEMISTRIES[said.word("chemistry")].charger_v


def _round(room: Round) -> Iterator[Wished]:
    for noun, limit_mm in (("diameter", room.diameter_mm), ("length", room.length_mm)):
        if limit_mm is not None:
            yield OfPart(
                "motor_space",
                f"Motor's {noun} at most",
                "mm",
                limit_mm,
                -1,
                "always",
                "motor",
                partial(Stated.number, key=f"{noun}_mm", otherwise=np.nan),
            )


def _box(part: Any, room: Box) -> Wished:
    places = sorted((room.length_mm, room.width_mm, room.height_mm))

    def fills(said: Stated) -> Array:
        """Return the share of the tightest side that it fills, turned as it fits best."""
        keys = ("length_mm", "width_mm", "height_mm")
        sides = np.stack(np.broadcast_arrays(*(said.number(key, np.nan) for key in keys)))
        sides = np.sort(sides, axis=0)
        return greatest(*(side / place for side, place in zip(sides, places, strict=True)))

    return OfPart(
        f"{part}_space", f"Room for the {part}, filled", "", 1.0, -1, "always", part, fills
    )
