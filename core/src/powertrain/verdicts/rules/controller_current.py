"""Amps through one controller path against its ratings, on the side they are rated for."""

from collections.abc import Iterator

from powertrain.arrays import Array
from powertrain.controller.chopper import dc_for
from powertrain.operating.state import State
from powertrain.verdicts.currents import Rated, current_load, current_stops, judged_current
from powertrain.verdicts.verdict import Case, Many, Mask, NotJudged, Verdict


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """At part duty motor amps exceed pack amps, so the side of a rating matters."""
    yield from judged_current(case, _rated(case))


def stops(many: Many) -> Mask:
    """Return where its amps are above its ratings."""
    return current_stops(many, _rated(many))


def load(many: Many) -> Array:
    """Return its amps over its ratings."""
    return current_load(many, _rated(many))


def _rated(many: Many) -> Rated:
    controller, count = many.build.controller, many.build.motor.count
    per_dc = 1 / dc_for(controller)
    pack_side = controller.rating_side == "battery"

    def amps(state: State) -> Array:
        return state.battery_current_a / count if pack_side else state.motor_current_a * per_dc

    peaks = many.moments.peaks
    unsaid = "Its maker does not say which side; judged as motor amps, the harder way."
    limit = "battery" if pack_side else "motor"
    return Rated(
        part="controller",
        noun="controller",
        path="controller",
        amps=amps,
        most_a=peaks.battery_a / count if pack_side else peaks.motor_a * per_dc,
        continuous_a=controller.continuous_current_a,
        peak_a=controller.peak_current_a,
        peak_s=controller.peak_duration_s,
        limit_path=f"controller.{limit}_current_limit_a",
        limit_scale=count / controller.count if pack_side else 1.0,
        note="" if controller.rating_side else unsaid,
    )
