"""A toothed wheel on the axle against the ground that its wheel leaves it."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.documents.vehicle import ToothedStage
from powertrain.gearing.clearance import most_on_axle_mm, on_axle_mm
from powertrain.verdicts.verdict import Case, Many, Mask, Verdict, exceeds, nowhere

NEAR = 0.9


def judge(case: Case) -> Iterator[Verdict]:
    """Judge the driven wheel of the last stage, where it has teeth of a known size."""
    stage = _last(case.build)
    across = 0.0 if stage is None else on_axle_mm(stage)
    if stage is None or not across:
        return
    most = most_on_axle_mm(case.build.wheel.rolling_circumference_mm)
    over = exceeds(across, most)
    yield Verdict(
        id="ground_clearance",
        part="gearing",
        title=f"The wheel of {stage.driven_teeth} teeth on the axle is {across:.0f} mm across; "
        f"{most:.0f} mm clear the ground",
        severity="stop" if over else "watch" if across > NEAR * most else "ok",
        value=across,
        limit=most,
        unit="mm",
        moment=None,
        why="It would strike the ground, or its chain would: fewer teeth, a finer pitch, or "
        "another stage before it."
        if over
        else "Stones and grass pass under it.",
        fix=None,
    )


def _last(build: Build) -> ToothedStage | None:
    last = build.gearing[-1] if build.gearing else None
    return last if isinstance(last, ToothedStage) else None


def stops(many: Many) -> Mask:
    """Return whether it would strike the ground."""
    stage, rolls_mm = _last(many.build), many.build.wheel.rolling_circumference_mm
    if stage is None:
        return nowhere(many)
    return nowhere(many) | (on_axle_mm(stage) > most_on_axle_mm(rolls_mm) * (1 + 1e-9))
