"""What a rule says in words."""

from typing import Any, Literal

from pydantic import BaseModel

Severity = Literal["ok", "watch", "stop"]
PartId = Literal["pack", "controller", "motor", "gearing", "wheel", "vehicle"]


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
