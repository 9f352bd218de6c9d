"""A chain neither tight nor slack, straight, clean and oiled."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.documents.vehicle import ToothedStage
from powertrain.levers.lever import Lever

KEPT = 0.7
"""Part of a chain's or belt's loss that is left once it is set up well; common practice."""


def levers(build: Build) -> Iterator[Lever]:
    """Yield the care of each chain and belt, told by its efficiency."""
    for index, stage in enumerate(build.gearing):
        if isinstance(stage, ToothedStage) and stage.kind in ("chain", "belt"):
            loss, path = 1 - stage.efficiency, f"gearing.{index}.efficiency"
            name = f"Stage {index + 1} {stage.kind}"
            yield Lever(
                id=f"gearing.{index}.care",
                part="gearing",
                label=f"{name} care",
                value=stage.efficiency,
                unit="",
                path=path,
                rank=4,
                at_part=False,
                say_up=f"{name} slackened, aligned, oiled (estimate)",
                up={path: float(f"{1 - loss * KEPT:.4g}")} if loss > 0 else None,
                down=None,
            )
