"""Which controllers do for a build, and which of them is best by the user's own weights."""

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel

from powertrain.catalogue.fits import with_part
from powertrain.documents.build import Build
from powertrain.documents.shelf import ControllerPart
from powertrain.match.options import shared_out
from powertrain.plain import number
from powertrain.set_up.advise import trade_table
from powertrain.set_up.advised_by import figures_of_build
from powertrain.set_up.gates import Gate, Wanted, gates_of
from powertrain.set_up.needs import Needs, needs_of
from powertrain.set_up.tastes import (
    Taste,
    TasteWeight,
    TasteWeights,
    litres_of,
    price_of,
    tastes_of,
    told_weights,
)
from powertrain.verdicts.context import RuleContext


class NeedsAnswer(BaseModel):
    """What the build asks of a controller; None where it can't be known."""

    full_v: float
    empty_v: float
    long_motor_a: float | None
    long_pack_a: float | None
    start_motor_a: float | None
    start_pack_a: float | None
    held_on: str
    started_on: str
    erpm: float | None


class ControllerChoice(BaseModel):
    """One controller, or as many equal ones linked as the motors need.

    `rank` is out of a hundred, None where a gate is failed; `change` puts it into the build, its
    limits set as a careful builder would.
    """

    id: str
    name: str
    count: int
    price: float | None
    litres: float | None
    rank: float | None
    gates: list[Gate]
    tastes: list[Taste]
    change: dict[str, Any]


class ChooseAnswer(BaseModel):
    """What is needed, what counts for how much, who passes (the best first), who fails by what."""

    needs: NeedsAnswer
    weights: list[TasteWeight]
    passed: list[ControllerChoice]
    failed: list[ControllerChoice]
    school: str | None


def choose_controller(
    build: Build,
    parts: Sequence[ControllerPart],
    weights: TasteWeights | None = None,
    wanted: Wanted | None = None,
) -> ChooseAnswer:
    """Return every controller, held against a build: hard gates first, then taste."""
    weights, wanted = weights or TasteWeights(), wanted or Wanted()
    needs = needs_of(build, RuleContext.of(build))
    tried = [shared_out(part, needs.motors) for part in parts]
    gates = [gates_of(part, needs, wanted) for part in tried]
    does = [all(gate.passed is not False for gate in some) for some in gates]
    able = [part for part, ok in zip(tried, does, strict=True) if ok]
    passed, failed = [], []
    for part, some, ok in zip(tried, gates, does, strict=True):
        if ok:
            passed.append(_choice(build, part, some, tastes_of(part, needs, able, weights)))
        else:
            failed.append(_choice(build, part, some, []))
    passed.sort(key=lambda one: (-(one.rank or 0.0), one.id))
    # The nearest to passing first.
    failed.sort(key=lambda one: (*_failing(one.gates), one.id))
    school = trade_table(figures_of_build(build)) if build.wheel is not None else None
    return ChooseAnswer(
        needs=_told(needs),
        weights=told_weights(weights),
        passed=passed,
        failed=failed,
        school=school,
    )


def _failing(gates: list[Gate]) -> tuple[bool, int]:
    """Return how far from passing one is: another kind of motor is farthest."""
    failing = [gate.id for gate in gates if gate.passed is False]
    return "drives" in failing, len(failing)


def _choice(
    build: Build, part: ControllerPart, gates: list[Gate], tastes: list[Taste]
) -> ControllerChoice:
    placed = with_part(build, part)
    assert placed is not None
    controller = placed.controller.model_dump(mode="json", exclude_unset=True)
    return ControllerChoice(
        id=part.id,
        name=part.name,
        count=part.controller.count,
        price=price_of(part),
        litres=litres_of(part),
        rank=sum(taste.adds for taste in tastes) if tastes else None,
        gates=gates,
        tastes=tastes,
        change={"controller": controller},
    )


def _told(needs: Needs) -> NeedsAnswer:
    return NeedsAnswer(
        full_v=needs.full_v,
        empty_v=needs.empty_v,
        long_motor_a=number(needs.long_motor_a),
        long_pack_a=number(needs.long_pack_a),
        start_motor_a=number(needs.start_motor_a),
        start_pack_a=number(needs.start_pack_a),
        held_on=needs.held_on,
        started_on=needs.started_on,
        erpm=number(needs.erpm),
    )
