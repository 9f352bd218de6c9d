"""A pack amps limit raised by hand: something soldered beside the sense resistor.

A controller holds its amps by the volts across a small resistor. What lies beside it takes part of
the amps past it, so that the same volts mean more: ``new limit = limit R/(R || R2)``.
"""

from typing import Any

from pydantic import BaseModel

from powertrain.constants import COPPER_OHM_M
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.vehicle import ToothedStage
from powertrain.errors import Refusal
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all
from powertrain.verdicts.verdict import Verdict

FEWEST_TEETH = 9

BY_HAND = 0.2
"""Share by which what is soldered on by hand is more or less than meant; common practice."""

LOSES = [
    "The controller still believes in its old amps: its power parts, its board's copper and its "
    "wires carry more than they were made for.",
    "Its cut-back with heat and its peak of short duration count the old amps, too.",
    "A short circuit is caught later, if at all.",
    "Solder and copper drift with heat: the limit is no longer what anybody knows.",
    "Warranty, approval and insurance are gone.",
]


class BetterWay(BaseModel):
    """What does the same without it."""

    say: str
    change: dict[str, Any]


class ShuntAnswer(BaseModel):
    """The resistances, the new limit and its spread, every limit judged at it, what is lost.

    `better` is a way to the same push that leaves the controller as it is.
    """

    parallel_mohm: float
    new_mohm: float
    factor: float
    new_limit_a: float
    limit_between_a: tuple[float, float]
    verdicts: list[Verdict]
    loses: list[str]
    better: BetterWay


def copper_mohm(
    parallel_mohm: float | None, length_mm: float | None, area_mm2: float | None
) -> float:
    """Return what is laid beside: as stated, or copper of a length and an area.

    Raises
    ------
    Refusal
        Unless exactly one of both ways is given.
    """
    copper = (length_mm, area_mm2)
    if parallel_mohm is not None:
        if copper != (None, None):
            raise Refusal("parallel-mohm", "is given with copper; give one of them")
        return parallel_mohm
    if length_mm is None or area_mm2 is None:
        raise Refusal("parallel-mohm", "is needed, or copper-mm and copper-mm2 together")
    return 1000 * COPPER_OHM_M * (length_mm / 1000) / (area_mm2 * 1e-6)


def shunt_of(build: Build, original_mohm: float, limit_a: float, added_mohm: float) -> ShuntAnswer:
    """Return the new limit and what it does to every part of a build."""
    new_mohm = original_mohm * added_mohm / (original_mohm + added_mohm)
    factor = original_mohm / new_mohm
    limit = limit_a * factor

    def _limit(off: float) -> float:
        return limit_a * (1 + original_mohm / (added_mohm * off))

    document = build.model_dump(mode="json", exclude_unset=True)
    raised = check_build(changed(document, {"controller.battery_current_limit_a": limit}))
    verdicts, _ = judge_all(RuleContext.of(raised))
    return ShuntAnswer(
        parallel_mohm=added_mohm,
        new_mohm=new_mohm,
        factor=factor,
        new_limit_a=limit,
        limit_between_a=(_limit(1 + BY_HAND), _limit(1 - BY_HAND)),
        verdicts=verdicts,
        loses=LOSES,
        better=_better(build, factor),
    )


def _better(build: Build, factor: float) -> BetterWay:
    """Return the shorter gear that pushes as much more, else a controller made for the amps."""
    for index, stage in enumerate(build.gearing):
        if isinstance(stage, ToothedStage):
            driver = max(round(stage.driver_teeth / factor), FEWEST_TEETH)
            if driver < stage.driver_teeth:
                more = 100 * (stage.driver_teeth / driver - 1)
                return BetterWay(
                    say=f"A driver of {driver} teeth on stage {index + 1} pushes {more:.0f} % more "
                    "from the same amps; the top speed goes down as much. For both, a controller "
                    "whose limits are set by program and made for the amps.",
                    change={f"gearing.{index}.driver_teeth": driver},
                )
    return BetterWay(
        say="A controller whose limits are set by program, made for the amps that are wanted.",
        change={"controller.battery_current_limit_a": build.controller.battery_current_limit_a},
    )
