"""How quick rides are, as a ratio to the plain step: an hour at 10 Hz, and draws of a road.

``bin/bench -k ride``
"""

import json
import time
from pathlib import Path
from typing import Any

import pytest

from powertrain.documents.run import Run, check_run
from powertrain.runs.answer import ridden_draws
from powertrain.runs.ride import ride
from powertrain.runs.step_length import DRAW_STEP_S

TRIKE = Path(__file__).parents[1] / "server/builds/demo/causeway-trike.json"
HOUR = {"kind": "speed", "points": [{"t_s": 0, "speed_kmh": 20}, {"t_s": 3600, "speed_kmh": 20}]}
ROAD = {
    "kind": "route",
    "ride_kmh": 25,
    "there_and_back": True,
    "points": [
        {"distance_m": 0},
        {"distance_m": 2000, "elevation_m": 20},
        {"distance_m": 4000, "elevation_m": 10, "stop_s": 20},
        {"distance_m": 6250, "elevation_m": 30},
    ],
}
PLAIN_S = 20.0


def run_of(course: dict[str, Any]) -> Run:
    build = json.loads(TRIKE.read_text())
    return check_run({"format": "young-torrent.run/1", "build": build, "course": course})


def plain_step_s() -> float:
    """Return what one plain step takes."""
    points = [{"t_s": 0, "speed_kmh": 20}, {"t_s": PLAIN_S, "speed_kmh": 20}]
    run = run_of({"kind": "speed", "points": points})
    begun = time.perf_counter()
    found = ride(run, plain=True)
    assert found.rows is not None
    return (time.perf_counter() - begun) / len(found.rows["t_s"])


def test_ride_of_an_hour(benchmark: Any) -> None:
    run = run_of(HOUR)
    ride(run)
    benchmark.pedantic(ride, args=(run,), rounds=5)
    ratio = plain_step_s() * 36_000 / benchmark.stats.stats.min
    print(f"\nan hour: {benchmark.stats.stats.min:.2f} s, {ratio:.0f} times quicker than plain")


@pytest.mark.parametrize("draws", [64, 256])
def test_ride_of_a_road_drawn(benchmark: Any, draws: int) -> None:
    run = run_of(ROAD)
    one = ride(run)
    found = benchmark.pedantic(ridden_draws, args=(run, one, draws), rounds=3)
    # Draws take half a second at a time.
    steps = float(found.t_s.max()) / DRAW_STEP_S * draws
    ratio = plain_step_s() * steps / benchmark.stats.stats.min
    print(
        f"\n{draws} draws of {found.t_s.max() / 60:.0f} min: {benchmark.stats.stats.min:.2f} s, "
        f"{ratio:.0f} times quicker than plain"
    )
