"""Guesses that nobody has touched follow what they were guessed for.

A vehicle to begin from comes with the cells and the winding that are usual for it. Who types
another chemistry or KV has not said anything of resistance and volts; left as they were, they would
be those of a part that is not there any more.
"""

from collections.abc import Callable, Collection, Mapping
from typing import Any

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.paths import changed, value_at
from powertrain.documents.reading import check_build

USUAL_MOHM_AH = {
    "lipo": 12.0, "li_ion": 75.0, "lifepo4": 60.0, "lead_acid": 30.0, "nimh": 25.0,
}  # fmt: skip
"""Milliohms of a cell times its amp-hours; common practice, no source, good to a factor of two."""

Follows = Callable[[Mapping[str, Any], Mapping[str, Any], float], float]
"""What a guess becomes, given the part before and after and the guess itself."""


def _resistance_of_cells(before: Mapping[str, Any], after: Mapping[str, Any], mohm: float) -> float:
    if before["chemistry"] == after["chemistry"]:
        return mohm * float(before["cell_capacity_ah"]) / float(after["cell_capacity_ah"])
    return USUAL_MOHM_AH[after["chemistry"]] / float(after["cell_capacity_ah"])


def _volts_of_cells(before: Mapping[str, Any], after: Mapping[str, Any], volts: float) -> float:
    was, now = CHEMISTRIES[before["chemistry"]], CHEMISTRIES[after["chemistry"]]
    charged = (volts - was.empty_v) / (was.full_v - was.empty_v)
    return now.empty_v + min(max(charged, 0.0), 1.0) * (now.full_v - now.empty_v)


def _resistance_of_winding(
    before: Mapping[str, Any], after: Mapping[str, Any], ohm: float
) -> float:
    return ohm * (float(before["kv_rpm_per_v"]) / float(after["kv_rpm_per_v"])) ** 2


def _no_load_amps(before: Mapping[str, Any], after: Mapping[str, Any], amps: float) -> float:
    return amps * float(after["kv_rpm_per_v"]) / float(before["kv_rpm_per_v"])


FOLLOWERS: tuple[tuple[str, tuple[str, ...], str, Follows], ...] = (
    ("battery", ("chemistry", "cell_capacity_ah"), "cell_resistance_mohm", _resistance_of_cells),
    ("battery", ("chemistry",), "cell_voltage_v", _volts_of_cells),
    # In one can of copper R goes as 1/KV^2, and the torque of the losses stays.
    ("motor", ("kv_rpm_per_v",), "resistance_ohm", _resistance_of_winding),
    ("motor", ("kv_rpm_per_v",), "no_load_current_a", _no_load_amps),
)
"""The part, what is typed there, the guess that follows it, and how."""


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
        (f"{part}.{guess}", part, of, follows)
        for part, of, guess, follows in FOLLOWERS
        if f"{part}.{guess}" not in typed
        and (origins.get(f"{part}.{guess}") or {}).get("origin") == "default"
        and any(f"{part}.{key}" in typed for key in of)
    ]
    if not following:
        return after
    # Nothing follows what is no build.
    check_build(after)
    changes: dict[str, Any] = {}
    for path, part, of, follows in following:
        was, now, value = before[part], after[part], value_at(before, path)
        known = all(key in one for one in (was, now) for key in of)
        if value is not None and known and any(was[key] != now[key] for key in of):
            changes[path] = float(f"{follows(was, now, float(value)):.3g}")
    return changed(after, changes) if changes else after
