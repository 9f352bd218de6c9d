"""Pack amps against what the pack may give."""

from collections.abc import Iterator

import numpy as np

from powertrain.verdicts.currents import Rated, current_stops, judged_current
from powertrain.verdicts.verdict import Case, Many, Mask, NotJudged, Verdict


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """All motors draw from the one pack."""
    yield from judged_current(case, _rated(case))


def stops(many: Many) -> Mask:
    """Return where its amps are above its ratings."""
    return current_stops(many, _rated(many))


def _rated(many: Many) -> Rated:
    battery, run = many.build.battery, many.moments.launch_run
    launch_a = many.moments.launch.state.battery_current_a
    if run is not None:
        launch_a = np.maximum(launch_a, run.peak_battery_current_a)
    return Rated(
        part="pack",
        noun="pack",
        path="battery",
        amps=lambda state: state.battery_current_a,
        launch_peak_a=launch_a,
        continuous_a=battery.continuous_current_a,
        peak_a=battery.peak_current_a,
        peak_s=None,
        limit_path="controller.battery_current_limit_a",
        limit_scale=1.0,
    )
