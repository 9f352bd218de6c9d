"""The tooth counts that each stage may have."""

from dataclasses import dataclass

from powertrain.documents.build import Build
from powertrain.documents.shelf import Shelf, ToothedRange
from powertrain.documents.vehicle import ToothedStage
from powertrain.errors import Refusal
from powertrain.transmission.sold import fits

MOST_RUNGS = 1_000_000
"""Rungs of one ladder; more than that is no ladder any more."""


@dataclass(frozen=True)
class StageSizes:
    """Tooth counts on both sides of one stage, rising; `index` is its place in the train."""

    index: int
    drivers: tuple[int, ...]
    driven: tuple[int, ...]


def sizes_of(build: Build, shelf: Shelf) -> list[StageSizes]:
    """Return what is sold for each toothed stage, its own teeth among them.

    A stage that states pitch or module takes wheels of the same; one that does not, all of its
    kind.

    Raises
    ------
    Refusal
        If no stage has teeth, or there are too many rungs.
    """
    found = []
    for index, stage in enumerate(build.gearing):
        if isinstance(stage, ToothedStage):
            fitting = [item for item in shelf.teeth if fits(stage, item)]
            found.append(
                StageSizes(
                    index,
                    _teeth(fitting, "driver", stage.driver_teeth),
                    _teeth(fitting, "driven", stage.driven_teeth),
                )
            )
    checked(found)
    return found


def checked(sizes: list[StageSizes]) -> int:
    """Return how many rungs there are; raise `Refusal` for none or too many."""
    if not sizes:
        raise Refusal("gearing", "has no stage with teeth; a ladder needs one")
    count = 1
    for one in sizes:
        count *= len(one.drivers) * len(one.driven)
    if count > MOST_RUNGS:
        raise Refusal("gearing", f"makes {count:,} rungs; a ladder takes {MOST_RUNGS:,}")
    return count


def _teeth(fitting: list[ToothedRange], side: str, own: int) -> tuple[int, ...]:
    sold = {size.teeth for item in fitting if item.side == side for size in item.sizes}
    return tuple(sorted(sold | {own}))
