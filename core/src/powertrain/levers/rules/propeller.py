"""Another propeller: an inch of diameter or pitch that is sold, or a blade."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, single

INCH_MM = 25.4
"""Propellers are sold by the inch, small ones by half of it."""

SMALL_MM = 9 * INCH_MM


def levers(build: Build) -> Iterator[Lever]:
    """Yield pitch, diameter and blades; a stated table is of one propeller and of no other."""
    said = build.propeller
    if said is None:
        return
    if not said.table:
        for key, label, size in (
            ("pitch_mm", "Pitch", said.pitch_mm),
            ("diameter_mm", "Diameter", said.diameter_mm),
        ):
            yield single(
                f"propeller.{key}", "wheel", label, "mm", size, INCH_MM, 2 * INCH_MM, rank=0
            )
        yield single("propeller.blades", "wheel", "Blades", "", said.blades, 1, 2, rank=1)
