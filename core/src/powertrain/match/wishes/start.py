"""How quickly it accelerates, and in what length it is up to speed."""

from collections.abc import Iterator

from powertrain.arrays import Array, scalar
from powertrain.documents.brief import Brief
from powertrain.match.candidates import Candidates
from powertrain.match.wish import OfDrive, Rejection, Wished
from powertrain.operating.launch import launch
from powertrain.units import mps_from_kmh

NEARLY = 0.95
"""Part of the top speed that counts as being up to speed, where no least speed is wished for."""


WISHES = {
    "launch": Rejection("it accelerates too slowly", ("launch",)),
    "run_up": Rejection("it is not up to speed in the length there is", ("run_up_m",)),
}


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield the wishes for start and run-up."""
    start, run_up_m, top = brief.wishes.launch, brief.wishes.run_up_m, brief.wishes.top_speed_kmh
    if start is not None:
        yield OfDrive(
            "launch",
            f"To {start.to_kmh:g} km/h within",
            "s",
            start.within_s,
            -1,
            brief.judged_at,
            _launch_s,
        )
    if run_up_m is not None:
        least_kmh = top.min if top is not None else None
        yield OfDrive(
            "run_up",
            "Up to speed within",
            "m",
            run_up_m,
            -1,
            brief.judged_at,
            lambda candidates: _run_up_m(candidates, least_kmh),
        )


def _launch_s(candidates: Candidates) -> Array:
    run = candidates.batch.moments.launch_run
    return scalar(0.0) if run is None else run.time_s


def _run_up_m(candidates: Candidates, least_kmh: float | None) -> Array:
    top_mps = candidates.batch.moments.top_speed.state.speed_mps
    to_mps = NEARLY * top_mps if least_kmh is None else scalar(mps_from_kmh(least_kmh))
    return launch(candidates.batch.drive, to_mps, fine=False).distance_m
