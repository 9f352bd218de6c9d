"""What a rule sees and what it says."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Literal, overload

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.arrays import Array, scalar
from powertrain.controller.chopper import dc_for
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.figures import Picture, picture_of
from powertrain.heat.limits import Limits
from powertrain.heat.stall import Stall, stall_of
from powertrain.heat.store import Store
from powertrain.operating.full_throttle import FullThrottle, full_throttle
from powertrain.operating.moments import Moment, Moments
from powertrain.operating.state import State

Severity = Literal["ok", "watch", "stop"]
PartId = Literal["pack", "controller", "motor", "gearing", "wheel", "vehicle"]

NEAR = 0.9
"""From this share of a limit on, a verdict says watch."""


Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class Many:
    """One build or an array of builds, with drives, moments and temperatures.

    Of an array, `build` is one document whose numbers are arrays; a number that one of them
    does not state, none does.
    """

    build: Build
    drive: Drive
    store: Store
    picture: Picture
    limits: Limits

    @property
    def moments(self) -> Moments:
        """The five moments."""
        return self.picture.moments

    @cached_property
    def start(self) -> FullThrottle:
        """Full throttle from standstill on the level."""
        return full_throttle(self.drive, scalar(0.0))


@dataclass(frozen=True)
class Case(Many):
    """One build, with what a stall does; `cures` says whether cures are searched for."""

    stall: Stall
    cures: bool = True

    @classmethod
    def of(cls, build: Build, drive: Drive) -> "Case":
        """Return the case of a build."""
        store = Store.of(build, drive)
        return cls.seen(build, drive, store, picture_of(build, drive, store))

    @classmethod
    def seen(cls, build: Build, drive: Drive, store: Store, picture: Picture) -> "Case":
        """Return the case of a build whose picture is there already."""
        limits = Limits.of(build)
        return cls(build, drive, store, picture, limits, stall_of(drive, store, limits))


class Fix(BaseModel):
    """A change that cures a verdict: what it is in words, and as values by document path."""

    say: str
    change: dict[str, Any]


class Verdict(BaseModel):
    """A limit judged. `moment` is the one in which `value` was met, None if it is in none."""

    id: str
    part: PartId
    title: str
    severity: Severity
    value: float
    limit: float
    unit: str
    moment: str | None
    why: str
    fix: Fix | None


class NotJudged(BaseModel):
    """A limit that can't be judged because the document does not state it."""

    id: str
    part: PartId
    path: str
    say: str


@overload
def exceeds(value: float, limit: float) -> bool: ...
@overload
def exceeds(value: Array, limit: float | Array) -> Mask: ...
def exceeds(value: Any, limit: Any) -> Any:
    """Return whether `value` is above `limit` by more than arithmetic can blur."""
    return value > limit * (1 + 1e-9)


def nowhere(many: Many) -> Mask:
    """Return a mask that is false for every build."""
    return np.zeros(np.shape(many.moments.cruise.met), bool)


def severity_of(value: float, limit: float) -> Severity:
    """Return stop above the limit, watch from `NEAR` of it on, else ok."""
    if exceeds(value, limit):
        return "stop"
    return "watch" if value > NEAR * limit else "ok"


LASTING = ("climb", "cruise", "top_speed")
"""Moments that last; a launch is over in seconds and is judged against the peak rating."""


def lasting(many: Many) -> list[Moment]:
    """Return the moments that last and may stop a build.

    A hill that nobody mentioned is not among them: it may be shown and warn, never stop.
    """
    moments = many.moments
    found = [moments.cruise, moments.top_speed]
    return found if assumed_hill(many) is not None else [moments.climb, *found]


def assumed_hill(many: Many) -> Moment | None:
    """Return the climb where nobody mentioned a hill, None where one was."""
    moments = many.moments
    return moments.climb if "climb" in moments.asked.assumed else None


def in_words(case: Case, moment: Moment) -> str:
    """Return when something is met, as people say it."""
    if moment.id == "climb" and assumed_hill(case) is not None:
        return f"on a hill of {moment.grade_pct:g} % that is assumed"
    if moment.id == "cruise" and moment.assumed and moment.target_kmh:
        return f"at a cruise of {moment.target_kmh:g} km/h that is assumed"
    return MOMENT_WORDS[moment.id]


MOMENT_WORDS = {
    "launch": "at full throttle on the way to top speed",
    "climb": "on the climb",
    "cruise": "at cruise",
    "top_speed": "at top speed",
}


@dataclass(frozen=True)
class Worst:
    """The moment in which a figure is greatest; `only_watch` where that is an assumed hill."""

    moment: Moment
    value: float
    only_watch: bool


def worst_of(
    case: Case,
    value: Callable[[State], Any],
    passes: Callable[[float], bool],
    peak: float = -math.inf,
) -> Worst:
    """Return where a figure is worst of the moments that may stop, else of an assumed hill.

    Parameters
    ----------
    passes : callable
        Whether a value is worth a word; only then an assumed hill is named in the place of the
        moments that were asked for.
    peak : float
        The figure's greatest at full throttle on the way to top speed, where that counts.
    """
    worst = max(lasting(case), key=lambda moment: float(value(moment.state)))
    most, hill = float(value(worst.state)), assumed_hill(case)
    if peak >= most:
        worst, most = case.moments.launch, peak
    if hill is not None and not passes(most) and passes(float(value(hill.state))):
        return Worst(hill, float(value(hill.state)), True)
    return Worst(worst, most, False)


def softened(severity: Severity, worst: Worst) -> Severity:
    """Return a severity that is no more than a warning where only an assumed hill says so."""
    return "watch" if worst.only_watch and severity == "stop" else severity


def may_limit(case: Case, path: str, amps: float) -> bool:
    """Return whether an amps limit leaves what the vehicle needs at its own top speed."""
    top, controller = case.moments.top_speed.state, case.build.controller
    needed = float(top.motor_current_a) / dc_for(controller)
    if path.endswith("battery_current_limit_a"):
        needed = float(top.battery_current_a) / controller.count
    return amps >= needed * (1 - 1e-9)
