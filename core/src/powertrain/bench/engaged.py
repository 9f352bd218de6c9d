"""A build looked at in one gear: its gearbox left where somebody has put it."""

from powertrain.bench.answer import Answer
from powertrain.bench.solve import solve
from powertrain.by_then import When
from powertrain.documents.build import Build
from powertrain.documents.vehicle import GearboxStage


def solve_in_gear(build: Build, when: When, gear: int | None) -> Answer:
    """Return what the bench shows with one gear engaged, in the best one where `gear` is None.

    Gears count from the shortest, 1. A build without a gearbox has none to engage, and beyond the
    tallest there is only the tallest.
    """
    if gear is None:
        return solve(build, when)
    one, number = engaged(build, gear)
    answer = solve(one, when)
    if number is not None:
        for moment in answer.moments:
            moment.gear = number
    return answer


def engaged(build: Build, gear: int) -> tuple[Build, int | None]:
    """Return a build whose gearbox has a single gear, and which; None where it has no gearbox."""
    boxes = [
        (place, stage)
        for place, stage in enumerate(build.gearing)
        if isinstance(stage, GearboxStage)
    ]
    if len(boxes) != 1:
        return build, None
    place, box = boxes[0]
    ratios = sorted(box.ratios, reverse=True)
    number = min(max(gear, 1), len(ratios))
    stages = list(build.gearing)
    stages[place] = box.model_copy(update={"ratios": [ratios[number - 1]]})
    of_ratios = f"gearing.{place}.ratios"
    known = {p: v for p, v in build.provenance.items() if not p.startswith(of_ratios)}
    return build.model_copy(update={"gearing": stages, "provenance": known}), number
