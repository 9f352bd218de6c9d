"""Motor amps of one motor against the motor's own ratings."""

from collections.abc import Iterator

from powertrain.verdicts.currents import Rated, judged_current
from powertrain.verdicts.verdict import Case, NotJudged, Verdict


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Motor amps make the torque and heat the copper, at any duty."""
    motor, run = case.build.motor, case.moments.launch_run
    stalled_a = float(run.peak_motor_current_a) if run else 0.0
    rated = Rated(
        part="motor",
        noun="motor",
        path="motor",
        amps=lambda state: state.motor_current_a,
        launch_peak_a=max(stalled_a, float(case.moments.launch.state.motor_current_a)),
        continuous_a=motor.continuous_current_a,
        peak_a=motor.peak_current_a,
        peak_s=motor.peak_duration_s,
        limit_path="controller.motor_current_limit_a",
        limit_scale=1.0,
    )
    yield from judged_current(case, rated)
