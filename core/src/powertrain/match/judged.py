"""One candidate judged by the plain solver: what it does, what it lacks, what it is worth."""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.match.candidates import Candidates
from powertrain.match.compose import added_kg, build_of, driven_as
from powertrain.match.options import Options
from powertrain.match.ranking import Worth, counts_as_margin, worth_of
from powertrain.match.wish import OfDrive, Wished
from powertrain.match.wish_registry import wishes_of
from powertrain.results import FigureId, figures_of
from powertrain.stated import Stated
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all
from powertrain.verdicts.verdict import Verdict

Key = tuple[int, int, int, int]
"""Places of motor, controller, pack and what is chosen last among the options."""


@dataclass(frozen=True)
class WishResult:
    """One wish and what a candidate does of it; `value` is None where a part does not say."""

    wish: Wished
    value: float | None

    @property
    def met(self) -> bool:
        """Whether it is met; not where it is not known."""
        return self.value is not None and bool(self.wish.met(scalar(self.value)))


@dataclass(frozen=True)
class Judged:
    """A candidate with its build, its figures, its wishes and the verdicts that stop it."""

    key: Key
    build: Build
    seen: Candidates
    told: list[WishResult]
    stops: list[Verdict]
    mismatch: str | None
    """Why the parts can't be joined at all, None where they can."""
    worth: Worth
    figures: dict[FigureId, Array]

    @property
    def feasible(self) -> bool:
        """Whether every wish is met and nothing stops it."""
        return self.mismatch is None and not self.stops and all(told.met for told in self.told)


def judge(brief: Brief, options: Options, key: Key) -> Judged:
    """Return one candidate as the plain solver sees it."""
    motor, controller = options.motors[key[0]], options.controllers[key[1]]
    pack, place = options.packs[key[2]], key[3]
    last = options.last.columns(np.array([place]))
    last_kg = float(last.mass_kg[0])
    chosen = options.last.document_of(place)
    build = build_of(brief, motor.motor, controller.part, pack.battery, chosen, last_kg)
    said, context = Stated(build), RuleContext.of(build, cures=False)
    seen = Candidates(
        said=said,
        batch=context,
        price=scalar(
            brief.motor_count * motor.price + controller.price + pack.price + float(last.price[0])
        ),
        added_kg=added_kg(
            said.under("motor"),
            said.under("controller"),
            said.under("battery"),
            brief.motor_count,
            last_kg,
        ),
        stages=scalar(float(last.stages[0])),
    )
    told = told_of(brief, seen)
    verdicts, _ = judge_all(context)
    margins = {
        one.wish.id: one.wish.margin(scalar(np.nan if one.value is None else one.value))
        for one in told
        if counts_as_margin(one.wish) and not (isinstance(one.wish, OfDrive) and one.wish.ungeared)
    }
    return Judged(
        key=key,
        build=build,
        seen=seen,
        told=told,
        stops=[verdict for verdict in verdicts if verdict.severity == "stop"],
        mismatch=_mismatch(brief, options, key),
        worth=worth_of(brief, seen, margins),
        figures=figures_of(context.compiled, context.results),
    )


def told_of(brief: Brief, seen: Candidates) -> list[WishResult]:
    """Return what one build does of each wish."""
    return [_told(wish, seen) for wish in wishes_of(brief)]


def _told(wish: Wished, seen: Candidates) -> WishResult:
    value = float(wish.figure(seen))
    return WishResult(wish, None if np.isnan(value) else value)


def _mismatch(brief: Brief, options: Options, key: Key) -> str | None:
    motor, controller = options.motors[key[0]], options.controllers[key[1]]
    allowed, owned = brief.wishes.allowed_parts, brief.owned
    sides = [
        ({option.id for option in options.motors}, motor.id),
        ({option.id for option in options.controllers}, controller.id),
        ({option.id for option in options.packs}, options.packs[key[2]].id),
    ]
    if brief.is_craft:
        propellers = options.propellers
        sides.append((set(propellers.ids), propellers.ids[key[3]]))
    for ids, ref in sides:
        if allowed is not None and ids & set(allowed) and ref not in allowed:
            return "allowed_parts"
    said = owned.controller is None or isinstance(owned.controller, str)
    if said and controller.part.drives != driven_as(motor.motor):
        return "controller_kind"
    if brief.is_craft:
        return "hub_propeller" if motor.mounts == "hub" else None
    none = options.gearings.stages[key[3]] == 0
    if owned.gearing is None and (motor.mounts == "hub") != none:
        return "hub_motor"
    return None
