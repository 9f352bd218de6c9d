"""Findings: values with how they were come by, weighed against one another."""

import math
from collections.abc import Iterable, Sequence
from typing import Literal

from pydantic import BaseModel

Origin = Literal["measured", "data_sheet", "estimated"]


class Finding(BaseModel):
    """One value by one route: off by a factor of 1 + `tolerance`, either way, at the most.

    `uses` names the facts that it rests on.
    """

    key: str
    value: float
    tolerance: float
    origin: Origin
    route: str
    uses: list[str]


class Contradiction(BaseModel):
    """Two findings that can't both be true, and what to look at."""

    key: str
    one: Finding
    other: Finding
    say: str


class Identified(BaseModel):
    """The surest finding for each value, all that was found, and what does not agree.

    `missing` says, for each value that is wanted and was not found, which fact would give it.
    """

    values: dict[str, Finding]
    found: list[Finding]
    contradictions: list[Contradiction]
    missing: dict[str, str]


def weighed(found: Iterable[Finding], wanted: dict[str, str]) -> Identified:
    """Return the findings weighed: the surest of each key stands, contradictions are named."""
    sensible = [f for f in found if math.isfinite(f.value) and f.value >= 0]
    sensible.sort(key=lambda finding: finding.tolerance)
    values: dict[str, Finding] = {}
    clashes: list[Contradiction] = []
    for finding in sensible:
        surest = values.setdefault(finding.key, finding)
        if surest is not finding and clash(surest, finding):
            clashes.append(_said(surest, finding))
    missing = {key: how for key, how in wanted.items() if key not in values}
    return Identified(values=values, found=sensible, contradictions=clashes, missing=missing)


USUALLY_APART = math.log(1.16)
"""What facts of one motor usually differ by (a free run and a stall torque by 15 %); common
practice, no source."""


def clash(one: Finding, other: Finding) -> bool:
    """Return whether the two bands do not touch, beyond what print usually differs."""
    if one.value <= 0 or other.value <= 0:
        return one.value != other.value
    apart = abs(math.log(one.value / other.value))
    return apart > max(math.log1p(one.tolerance) + math.log1p(other.tolerance), USUALLY_APART)


def surest(found: Sequence[Finding], key: str) -> Finding | None:
    """Return the finding of `key` with the smallest tolerance."""
    of_key = [finding for finding in found if finding.key == key]
    return min(of_key, key=lambda finding: finding.tolerance, default=None)


def _said(one: Finding, other: Finding) -> Contradiction:
    say = (
        f"{one.value:.4g} by {one.route}, {other.value:.4g} by {other.route}: more apart than "
        "their doubts allow. One of the facts is wrong, or they are of different motors or volts."
    )
    return Contradiction(key=one.key, one=one, other=other, say=say)
