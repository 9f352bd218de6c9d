"""What a rule sees and what it says."""

from dataclasses import dataclass
from typing import Any, Literal, overload

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.arrays import Array
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.figures import Picture, picture_of
from powertrain.heat.limits import Limits
from powertrain.heat.stall import Stall, stall_of
from powertrain.heat.store import Store
from powertrain.operating.moments import Moments

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
