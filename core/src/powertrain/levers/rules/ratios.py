"""A stage known only by its ratio, a little taller or shorter."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.documents.vehicle import FixedStage
from powertrain.levers.lever import Lever, single, usual_step


def levers(build: Build) -> Iterator[Lever]:
    """Yield the ratio of each stage without counted teeth."""
    for index, stage in enumerate(build.gearing):
        if isinstance(stage, FixedStage):
            step = usual_step(stage.ratio)
            path = f"gearing.{index}.ratio"
            yield single(
                path, "gearing", f"Stage {index + 1} ratio", ": 1", stage.ratio, step, step
            )
