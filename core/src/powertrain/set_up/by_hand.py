"""What stands in a build for each setting, and what somebody set at the controller by hand.

A setting that the solver knows has a field of its own in the document; all others stand in
`controller.settings` alone. Either way that keeps what was set, when, and what had been worked out.
"""

from typing import Any

from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.documents.controller_settings import SetByHand, SettingId

FIELDS: dict[SettingId, str] = {
    "motor_current_limit_a": "controller.motor_current_limit_a",
    "battery_current_limit_a": "controller.battery_current_limit_a",
    "regen_current_limit_a": "controller.regen_current_limit_a",
    "cut_off_v": "battery.cut_off_cell_v",
    "timing_deg": "controller.timing_deg",
    "boost_timing_deg": "controller.boost_timing_deg",
    "turbo_timing_deg": "controller.turbo_timing_deg",
    "half_throttle_pct": "controller.half_throttle_pct",
    "ramp_pct_per_s": "controller.ramp_pct_per_s",
    "drag_brake_pct": "controller.drag_brake_pct",
    "brake_pct": "controller.brake_pct",
    "pwm_hz": "controller.pwm_hz",
    "reverse": "controller.reverse",
    "rollback_from_c": "controller.rollback.from_c",
}
"""Where the document holds a setting; those left out stand in `controller.settings` alone."""

SAME = 1e-6
"""Share of a value by which two are still the same."""


class Standing(BaseModel):
    """How a setting stands in the build.

    `path` is the field that acts, None where there is none; a value there is `per` times smaller
    than the row's (cells in series for volts of the pack). `now` is what is set, in the row's own
    unit. `by_hand` is what somebody set, None where nobody did or where it was changed since;
    `within` tells that what is set lies at or below a limit, and is left alone.
    """

    path: str | None
    per: float
    now: float | str | None
    by_hand: SetByHand | None
    within: bool
    differs: str


def standing_of(
    build: Build, setting: SettingId, worked_out: float | str | None, *, at_most: bool
) -> Standing:
    """Return how a setting stands, and how that differs from what is worked out now.

    Where `at_most`, what is worked out is a limit, and any lower value suits too.
    """
    path = FIELDS.get(setting)
    if setting == "half_throttle_pct" and build.controller.curve is not None:
        path = "controller.curve.half_throttle_pct"
    per = float(build.battery.series) if setting == "cut_off_v" else 1.0
    kept = (build.controller.settings or {}).get(setting)
    now = None if path is None else _at(build, path)
    if isinstance(now, float):
        now *= per
    if path is None and kept is not None:
        now = kept.value
    by_hand = kept if kept is not None and _same(kept.value, now) else None
    within = (
        at_most
        and isinstance(now, float)
        and isinstance(worked_out, float)
        and now <= worked_out * (1 + SAME)
    )
    return Standing(
        path=path,
        per=per,
        now=now,
        by_hand=by_hand,
        within=within,
        differs=_differs(now, by_hand, worked_out),
    )


def _differs(
    now: float | str | None, by_hand: SetByHand | None, worked_out: float | str | None
) -> str:
    """Return in words what a value set by hand differs by; '' where there is nothing to say."""
    if by_hand is None or worked_out is None or _same(now, worked_out):
        return ""
    then = by_hand.worked_out
    moved = then is not None and not _same(then, worked_out)
    if isinstance(now, str) or isinstance(worked_out, str):
        return "what is worked out has changed" if moved else f"worked out is {worked_out}"
    assert now is not None
    how = "above" if now > worked_out else "below"
    share = "" if worked_out == 0 else f"{abs(now / worked_out - 1):.0%} "
    since = f"; it was {then:g} that day" if moved and isinstance(then, float | int) else ""
    return f"{share}{how} what is worked out{since}"


def _same(one: Any, other: Any) -> bool:
    if isinstance(one, str) or isinstance(other, str) or one is None or other is None:
        return bool(one == other)
    return bool(abs(one - other) <= SAME * max(abs(one), abs(other)))


def _at(build: Build, path: str) -> float | str | None:
    found: Any = build
    for step in path.split("."):
        found = getattr(found, step, None)
        if found is None:
            return None
    return found if isinstance(found, str) else float(found)
