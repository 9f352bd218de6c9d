"""What a rule sees and what it says."""

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel

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


@dataclass(frozen=True)
class Case:
    """One build with its drive, its moments, its temperatures, and what a stall does."""

    build: Build
    drive: Drive
    store: Store
    picture: Picture
    limits: Limits
    stall: Stall

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

    @property
    def moments(self) -> Moments:
        """The five moments."""
        return self.picture.moments


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


def exceeds(value: float, limit: float) -> bool:
    """Return whether `value` is above `limit` by more than arithmetic can blur."""
    return value > limit * (1 + 1e-9)


def severity_of(value: float, limit: float) -> Severity:
    """Return stop above the limit, watch from `NEAR` of it on, else ok."""
    if exceeds(value, limit):
        return "stop"
    return "watch" if value > NEAR * limit else "ok"
