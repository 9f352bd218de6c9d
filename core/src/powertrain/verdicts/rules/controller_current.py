"""Amps through one controller path against its ratings, on the side they are rated for."""

from collections.abc import Iterator

from powertrain.arrays import Array
from powertrain.operating.state import State
from powertrain.verdicts.currents import Rated, judged_current
from powertrain.verdicts.verdict import Case, NotJudged, Verdict


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """At part duty motor amps exceed pack amps, so the side of a rating matters."""
    controller, count = case.build.controller, case.build.motor.count
    run = case.moments.launch_run
    pack_side = controller.rating_side == "battery"

    def amps(state: State) -> Array:
        return state.battery_current_a / count if pack_side else state.motor_current_a

    peak_a = float(amps(case.moments.launch.state))
    if run is not None:
        side_a = run.peak_battery_current_a / count if pack_side else run.peak_motor_current_a
        peak_a = max(peak_a, float(side_a))
    unsaid = "Its maker does not say which side; judged as motor amps, the harder way."
    limit = "battery" if pack_side else "motor"
    rated = Rated(
        part="controller",
        noun="controller",
        path="controller",
        amps=amps,
        launch_peak_a=peak_a,
        continuous_a=controller.continuous_current_a,
        peak_a=controller.peak_current_a,
        peak_s=controller.peak_duration_s,
        limit_path=f"controller.{limit}_current_limit_a",
        limit_scale=count if pack_side else 1.0,
        note="" if controller.rating_side else unsaid,
    )
    yield from judged_current(case, rated)
