"""Pack amps against what the pack may give."""

from collections.abc import Iterator

from powertrain.arrays import Array
from powertrain.verdicts.currents import Rated, current_load, current_stops, judged_current
from powertrain.verdicts.verdict import Case, Many, Mask, NotJudged, Verdict


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """All motors draw from the one pack."""
    yield from judged_current(case, _rated(case))


def stops(many: Many) -> Mask:
    """Return where its amps are above its ratings."""
    return current_stops(many, _rated(many))


def load(many: Many) -> Array:
    """Return its amps over its ratings."""
    return current_load(many, _rated(many))


def _rated(many: Many) -> Rated:
    battery = many.build.battery
    return Rated(
        part="pack",
        noun="pack",
        path="battery",
        amps=lambda state: state.battery_current_a,
        most_a=many.moments.peaks.battery_a,
        continuous_a=battery.continuous_current_a,
        peak_a=battery.peak_current_a,
        peak_s=None,
        limit_path="controller.battery_current_limit_a",
        limit_scale=1 / many.build.controller.count,
    )
