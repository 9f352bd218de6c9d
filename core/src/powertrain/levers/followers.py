"""Guesses that nobody has touched follow what they were guessed for.

A vehicle to begin from comes with the cells and the winding that are usual for it. Who types
another chemistry or KV has not said anything of resistance and volts; left as they were, they would
be those of a part that is not there any more.
"""

from collections.abc import Callable, Collection
from typing import Any

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.build import Build
from powertrain.documents.paths import changed, value_at
from powertrain.documents.reading import check_build
from powertrain.motor.kinds import rewound, winding_of
from powertrain.stated import Stated

Follows = Callable[[Build, Build], float | None]
"""What a guess becomes, given the build before and after; None where it can't be told."""


WOUND_BY = "motor.kv_rpm_per_v"
"""The number of a winding that people type, and whose other constants then follow."""


def _resistance_of_cells(before: Build, after: Build) -> float:
    was, now = before.battery, after.battery
    if was.chemistry == now.chemistry:
        return was.cell_resistance_mohm * was.cell_capacity_ah / now.cell_capacity_ah
    return CHEMISTRIES[now.chemistry].usual_mohm_ah / now.cell_capacity_ah


def _volts_of_cells(before: Build, after: Build) -> float:
    was, now = (CHEMISTRIES[build.battery.chemistry] for build in (before, after))
    charged = (before.battery.cell_voltage_v - was.empty_v) / (was.full_v - was.empty_v)
    return now.empty_v + min(max(charged, 0.0), 1.0) * (now.full_v - now.empty_v)


def _of_winding(constant: str) -> Follows:
    def follows(before: Build, after: Build) -> float | None:
        was, now = Stated(before.motor), Stated(after.motor)
        one, other = winding_of(was), winding_of(now)
        if one is None or other is None or not one.path == other.path == WOUND_BY:
            return None
        return rewound(was, other.value / one.value).get(constant)

    return follows


FOLLOWERS: tuple[tuple[tuple[str, ...], str, Follows], ...] = (
    (
        ("battery.chemistry", "battery.cell_capacity_ah"),
        "battery.cell_resistance_mohm",
        _resistance_of_cells,
    ),
    (("battery.chemistry",), "battery.cell_voltage_v", _volts_of_cells),
    ((WOUND_BY,), "motor.resistance_ohm", _of_winding("resistance_ohm")),
    ((WOUND_BY,), "motor.no_load_current_a", _of_winding("no_load_current_a")),
)
"""What is typed, the guess that follows it, and how."""


def followed(
    before: dict[str, Any], after: dict[str, Any], typed: Collection[str]
) -> dict[str, Any]:
    """Return a document in which guesses of the origin `default` have followed what was typed.

    Parameters
    ----------
    before, after : dict
        The plain document before and after the values at the paths `typed` were set.

    Raises
    ------
    Refusal
        Naming the place, where what was typed makes no valid build.
    """
    origins = before.get("provenance") or {}
    following = [
        (guess, follows)
        for of, guess, follows in FOLLOWERS
        if guess not in typed
        and (origins.get(guess) or {}).get("origin") == "default"
        and any(path in typed and value_at(before, path) != value_at(after, path) for path in of)
    ]
    if not following:
        return after
    was, now = check_build(before), check_build(after)
    found = {guess: follows(was, now) for guess, follows in following}
    changes = {path: float(f"{value:.3g}") for path, value in found.items() if value is not None}
    return changed(after, changes) if changes else after
