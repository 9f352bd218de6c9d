"""One candidate judged by the plain solver: what it does, what it lacks, what it is worth."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.match.candidates import Candidates
from powertrain.match.compose import added_kg, build_of, driven_as
from powertrain.match.last import LastColumns
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
    """A candidate with its build, its figures, its wishes and the verdicts that stop it.

    What is asked of it is worked out when it is asked: whoever wants to know whether it will do is
    told so by the first thing that it lacks.
    """

    key: Key
    brief: Brief
    build: Build
    price: float
    last: LastColumns
    mismatch: str | None
    """Why the parts can't be joined at all, None where they can."""

    @cached_property
    def context(self) -> RuleContext:
        """The build, solved."""
        return RuleContext.of(self.build, cures=False)

    @cached_property
    def seen(self) -> Candidates:
        """What wishes are asked of."""
        said, last_kg = Stated(self.build), float(self.last.mass_kg[0])
        motor, controller, pack = (said.under(p) for p in ("motor", "controller", "battery"))
        return Candidates(
            said=said,
            batch=self.context,
            price=scalar(self.price),
            added_kg=added_kg(motor, controller, pack, self.brief.motor_count, last_kg),
            stages=scalar(float(self.last.stages[0])),
        )

    @cached_property
    def told(self) -> list[WishResult]:
        """What it does of each wish."""
        return told_of(self.brief, self.seen)

    @cached_property
    def stops(self) -> list[Verdict]:
        """The verdicts that stop it."""
        verdicts, _ = judge_all(self.context)
        return [verdict for verdict in verdicts if verdict.severity == "stop"]

    @cached_property
    def worth(self) -> Worth:
        """What it is worth by the brief's weights."""
        margins = {
            one.wish.id: one.wish.margin(scalar(np.nan if one.value is None else one.value))
            for one in self.told
            if counts_as_margin(one.wish)
            and not (isinstance(one.wish, OfDrive) and one.wish.ungeared)
        }
        return worth_of(self.brief, self.seen, margins)

    @cached_property
    def figures(self) -> dict[FigureId, Array]:
        """Its figures."""
        return figures_of(self.context.compiled, self.context.results)

    @property
    def feasible(self) -> bool:
        """Whether every wish is met and nothing stops it."""
        return (
            self.mismatch is None
            and all(_told(wish, self.seen).met for wish in wishes_of(self.brief))
            and not self.stops
        )


def judge(brief: Brief, options: Options, key: Key) -> Judged:
    """Return one candidate as the plain solver sees it."""
    motor, controller = options.motors[key[0]], options.controllers[key[1]]
    pack, place = options.packs[key[2]], key[3]
    last = options.last.columns(np.array([place]))
    last_kg = float(last.mass_kg[0])
    chosen = options.last.document_of(place)
    build = build_of(brief, motor.motor, controller.part, pack.battery, chosen, last_kg)
    return Judged(
        key=key,
        brief=brief,
        build=build,
        price=brief.motor_count * motor.price
        + controller.price
        + pack.price
        + float(last.price[0]),
        last=last,
        mismatch=_mismatch(brief, options, key),
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
