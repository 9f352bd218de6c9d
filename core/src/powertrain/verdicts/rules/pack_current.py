"""Pack amps against what the pack may give."""

from collections.abc import Iterator

from powertrain.verdicts.currents import Rated, judged_current
from powertrain.verdicts.verdict import Case, NotJudged, Verdict


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """All motors draw from the one pack."""
    battery, run = case.build.battery, case.moments.launch_run
    launch_a = float(case.moments.launch.state.battery_current_a)
    rated = Rated(
        part="pack",
        noun="pack",
        path="battery",
        amps=lambda state: state.battery_current_a,
        launch_peak_a=max(launch_a, float(run.peak_battery_current_a) if run else 0.0),
        continuous_a=battery.continuous_current_a,
        peak_a=battery.peak_current_a,
        peak_s=None,
        limit_path="controller.battery_current_limit_a",
        limit_scale=1.0,
    )
    yield from judged_current(case, rated)
