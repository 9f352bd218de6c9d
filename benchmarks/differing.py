"""Where two answers differ, number by number."""

import math
from collections.abc import Iterator
from typing import Any

CLOSE = 1e-9


NOTHING = 1e-6
"""Share of a figure below which a lever's effect is arithmetic; such levers are not held against
one another."""


def settled(answer: Any) -> Any:
    """Return an answer without what only the last digit of a figure decides."""
    if isinstance(answer, list):
        return [settled(item) for item in answer]
    if not isinstance(answer, dict):
        return answer
    kept = {key: settled(value) for key, value in answer.items()}
    if {"ranked", "rows", "now"} <= set(kept):
        kept["ranked"] = {
            key: sorted(
                row
                for row in ranked
                if _counts(kept["rows"][row]["effects"][key], kept["now"][key])
            )
            for key, ranked in kept["ranked"].items()
        }
    if {"levers", "wish", "now"} <= set(kept):
        wish = kept["wish"]
        kept["levers"] = sorted(
            (
                row
                for row in kept["levers"]
                if _counts([row["effects"][wish]["delta"]], kept["now"][wish])
            ),
            key=lambda row: (row["lever"], row["step"]),
        )
    return kept


def _counts(effect: list[float] | None, now: float | None) -> bool:
    return effect is not None and abs(effect[0]) > NOTHING * abs(now or 1.0)


RENAMED = {"stays": "width_left"}
"""What a key of an older answer is called now."""


def differences(was: Any, now: Any, place: str = "") -> Iterator[tuple[str, Any, Any]]:
    """Yield place, before and after of everything that is not the same to a billionth."""
    if isinstance(was, dict) and isinstance(now, dict):
        was = {RENAMED.get(key, key) if key not in now else key: old for key, old in was.items()}
        for key in [*was, *(key for key in now if key not in was)]:
            yield from differences(was.get(key, "<none>"), now.get(key, "<none>"), f"{place}.{key}")
    elif isinstance(was, list) and isinstance(now, list) and len(was) == len(now):
        for index, (one, other) in enumerate(zip(was, now, strict=True)):
            yield from differences(one, other, f"{place}.{index}")
    elif _number(was) and _number(now):
        if not math.isclose(was, now, rel_tol=CLOSE, abs_tol=1e-9):
            yield place, was, now
    elif "efficiency" in place and {_whole(was), _whole(now)} == {None, 0.0}:
        # A shaft that turns free pushes nothing, be it a billionth of a watt or less than none.
        return
    elif was != now:
        yield place, was, now


def _whole(value: Any) -> Any:
    return 0.0 if _number(value) and abs(value) < CLOSE else value


def _number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)
