"""Motor amps of one motor against the motor's own ratings."""

from collections.abc import Iterator

from powertrain.arrays import Array
from powertrain.controller.chopper import dc_for
from powertrain.verdicts.currents import Rated, current_load, current_stops, judged_current
from powertrain.verdicts.verdict import Case, Many, Mask, NotJudged, Verdict


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Motor amps make the torque and heat the copper, at any duty."""
    yield from judged_current(case, _rated(case))


def stops(many: Many) -> Mask:
    """Return where its amps are above its ratings."""
    return current_stops(many, _rated(many))


def load(many: Many) -> Array:
    """Return its amps over its ratings."""
    return current_load(many, _rated(many))


def _rated(many: Many) -> Rated:
    motor = many.build.motor
    return Rated(
        part="motor",
        noun="motor",
        path="motor",
        amps=lambda state: state.motor_current_a,
        most_a=many.moments.peaks.motor_a,
        continuous_a=motor.continuous_current_a,
        peak_a=motor.peak_current_a,
        peak_s=motor.peak_duration_s,
        limit_path="controller.motor_current_limit_a",
        limit_scale=1 / dc_for(many.build.controller),
    )
