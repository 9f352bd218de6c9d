"""A tooth more or less on either side of every stage that has teeth."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.documents.vehicle import ToothedStage
from powertrain.levers.lever import Lever, single

FEWEST = 6
"""Fewer teeth than this are not sold for any drive; common practice."""


def levers(build: Build) -> Iterator[Lever]:
    """Yield driver and driven of each toothed stage, motor side first."""
    for index, stage in enumerate(build.gearing):
        if isinstance(stage, ToothedStage):
            place = f"gearing.{index}"
            for side, teeth in (("driver", stage.driver_teeth), ("driven", stage.driven_teeth)):
                yield single(
                    f"{place}.{side}_teeth",
                    "gearing",
                    f"Stage {index + 1} {side}",
                    "T",
                    teeth,
                    1,
                    FEWEST,
                )
