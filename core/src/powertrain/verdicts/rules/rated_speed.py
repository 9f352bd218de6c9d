"""Top speed against what frame and brakes were made for."""

from collections.abc import Iterator

from powertrain.units import kmh_from_mps
from powertrain.verdicts.verdict import Case, Severity, Verdict, exceeds


def judge(case: Case) -> Iterator[Verdict]:
    """Brakes take energy with the square of speed; a stronger drive leaves them as they were."""
    rated_kmh = case.build.vehicle.rated_speed_kmh
    if rated_kmh is None:
        return
    top_kmh = float(kmh_from_mps(case.moments.top_speed.state.speed_mps))
    severity: Severity = "watch" if exceeds(top_kmh, rated_kmh) else "ok"
    more = (top_kmh / rated_kmh) ** 2
    yield Verdict(
        id="rated_speed",
        part="vehicle",
        title=f"Top speed is {top_kmh / rated_kmh * 100:.0f} % of what it was made for",
        severity=severity,
        value=top_kmh,
        limit=rated_kmh,
        unit="km/h",
        moment="top_speed",
        why=f"Each stop has to take {more:.1f} times the energy that its brakes were made for.",
        fix=None,
    )
