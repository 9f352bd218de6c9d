"""Which toothed wheels that are sold belong to a stage, and what they cost."""

import math

from powertrain.documents.shelf import Shelf, ToothedRange
from powertrain.documents.vehicle import ToothedStage


def fits(stage: ToothedStage, item: ToothedRange) -> bool:
    """Return whether a range of wheels is of a stage's kind and pitch."""
    if item.kind != stage.kind:
        return False
    own, theirs = (
        (stage.module_mm, item.module_mm)
        if stage.kind == "spur"
        else (stage.pitch_mm, item.pitch_mm)
    )
    return own is None or theirs is None or abs(own - theirs) < 1e-6


def least_price(stage: ToothedStage, side: str, teeth: int, shelf: Shelf) -> float:
    """Return what a wheel of a stage costs at least; NaN where none is sold with its price."""
    prices = [
        size.price
        for item in shelf.teeth
        if item.side == side and fits(stage, item)
        for size in item.sizes
        if size.teeth == teeth and size.price is not None
    ]
    return min(prices, default=math.nan)
