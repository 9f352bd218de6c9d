"""What a lever is."""

from collections.abc import Mapping
from typing import Any

from pydantic import BaseModel

from powertrain.verdicts.verdict import PartId


class Lever(BaseModel):
    """One thing that can go a step up or down.

    `value` in `unit` is what it stands at, `tag` a word that tells it from its neighbours; `up`
    and `down` are the changes of one step, by document path, and None at the end of the travel.
    `path` is the value it is about; levers of a part are shown by `rank`, and those that are
    not `at_part` only on the board of all levers. `say_up` and `say_down` say what a press does
    where the value alone would not.
    """

    id: str
    part: PartId
    label: str
    value: float
    unit: str
    path: str
    tag: str = ""
    rank: int = 0
    at_part: bool = True
    say_up: str = ""
    say_down: str = ""
    up: dict[str, Any] | None
    down: dict[str, Any] | None


def single(
    path: str,
    part: PartId,
    label: str,
    unit: str,
    value: float,
    step: float,
    least: float,
    *,
    tag: str = "",
    rank: int = 0,
) -> Lever:
    """Return the lever of one value that moves by a fixed step and not below `least`."""
    return Lever(
        id=path,
        part=part,
        label=label,
        value=value,
        unit=unit,
        path=path,
        tag=tag,
        rank=rank,
        up=_change(path, tidy(value + step)),
        down=_change(path, tidy(value - step)) if value - step >= least else None,
    )


def step_word(lever: Lever, step: int) -> str:
    """Return what one press of a lever does, in words."""
    said = lever.say_up if step > 0 else lever.say_down
    if said:
        return said
    changes = lever.up if step > 0 else lever.down
    value = (changes or {}).get(lever.path, lever.value)
    unit = f" {lever.unit}".rstrip() if lever.unit not in ("T", "S", "P") else f" {lever.unit}"
    return f"{lever.label} {lever.value:g} \u2192 {value:g}{unit}"


def tidy(value: float) -> float:
    """Return `value` without the dust of binary arithmetic, whole numbers as such."""
    rounded = float(f"{value:.10g}")
    return int(rounded) if rounded.is_integer() else rounded


def _change(path: str, value: float) -> Mapping[str, Any]:
    return {path: value}


def usual_step(value: float) -> float:
    """Return a step of about a twentieth of `value`, of the series 1, 2, 5 times a power of ten."""
    if value <= 0:
        return 1.0
    power = 10.0
    while power > value:
        power /= 10
    while power * 10 <= value:
        power *= 10
    return min((s * power / 100 for s in (1, 2, 5, 10, 20, 50)), key=lambda s: abs(s - value / 20))
