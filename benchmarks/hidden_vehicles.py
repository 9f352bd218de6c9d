"""How well calibration knows vehicles that it never saw: ``python -m benchmarks.hidden_vehicles``.

Vehicles are drawn from the tolerances of ten builds; simulated instruments read each on one to five
days, and of every day only some readings are told. Bands of 80 % should hold the truth four times
in five, of inputs and of figures that nobody measured. The draws are fixed.
"""

import json
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from powertrain.archetypes import all_archetypes
from powertrain.calibrate.answer import Calibrated, calibrated
from powertrain.compile.build import compile_build
from powertrain.documents.log import FORMAT, check_log
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.documents.run import check_run
from powertrain.errors import Refusal
from powertrain.instruments.hidden import day_of
from powertrain.results import figures_of, results_of

DEMO = Path(__file__).parents[1] / "server/builds/demo"
BUILDS = 10
VEHICLES = 200
COURSE = {"kind": "stops", "times": 1, "to_kmh": 8, "hold_s": 10}
SPARSE = 0.6
"""Part of the readings of a day that is told."""


def vehicles() -> Iterator[tuple[dict[str, Any], int]]:
    """Yield build documents with the seeds of vehicles near them."""
    demos = [json.loads(one.read_text()) for one in sorted(DEMO.glob("*.json"))]
    others = [
        one.document.model_dump(mode="json", exclude_unset=True)
        for one in all_archetypes()
        if one.document.vehicle.on_wheels
    ]
    builds = [*demos, *others][:BUILDS]
    for seed in range(VEHICLES):
        yield builds[seed % len(builds)], seed


def sparse_log(document: dict[str, Any], seed: int) -> tuple[dict[str, Any], dict[str, float]]:
    """Return some days of a hidden vehicle, of each only some readings, and its truth."""
    chance = np.random.default_rng([seed, 99])
    run = check_run({"format": "young-torrent.run/1", "build": document, "course": COURSE})
    runs, truth = [], {}
    for day in range(1, 2 + seed % 5):
        seen = day_of(run, seed, day=day)
        truth = seen.truth
        all_of_it = seen.log["runs"][0]["observations"]
        some = [one for one in all_of_it if chance.random() < SPARSE] or all_of_it[:1]
        runs.append({**seen.log["runs"][0], "id": f"day {day}", "observations": some})
    return {"format": FORMAT, "runs": runs}, truth


def held(told: Calibrated, truth: dict[str, float], document: dict[str, Any]) -> dict[str, Any]:
    """Return which bands hold the truth, and how far off the top speed is."""
    inputs = [
        one.after[0] <= truth[one.path] <= one.after[2] for one in told.inputs if one.path in truth
    ]
    own = compile_build(check_build(changed(document, truth)))
    figures = figures_of(own, results_of(own))
    out = []
    for key, band in told.figures.items():
        value = float(np.ravel(figures.get(key, np.nan))[0])
        low, _, high = band.after
        if np.isfinite(value) and low is not None and high is not None:
            out.append(low <= value <= high)
    top = told.figures["top_speed_kmh"].after[1] or np.nan
    off = top / float(np.ravel(figures["top_speed_kmh"])[0]) - 1
    wider = [
        one.path
        for one in told.inputs
        if one.after[2] - one.after[0] > 1.05 * (one.before[2] - one.before[0])
        and not one.why_wider
    ]
    return {"inputs": inputs, "figures": out, "off": off, "wider": wider}


def main() -> None:
    """Print how often the bands hold what is true."""
    begun, inputs, figures, off, unsaid, refused = time.time(), [], [], [], 0, 0
    for document, seed in vehicles():
        try:
            log, truth = sparse_log(document, seed)
        except Refusal:
            refused += 1
            continue
        told = held(calibrated(check_build(document), check_log(log)), truth, document)
        inputs += told["inputs"]
        figures += told["figures"]
        unsaid += len(told["wider"])
        if len(log["runs"]) >= 2:
            off.append(abs(told["off"]))
        if seed % 20 == 19:
            print(f"{seed + 1} vehicles, {time.time() - begun:.0f} s", file=sys.stderr)
    print(f"vehicles {VEHICLES - refused}, that could not be ridden {refused}")
    print(f"inputs held {np.mean(inputs):.3f} of {len(inputs)}")
    print(f"figures held {np.mean(figures):.3f} of {len(figures)}")
    print(f"top speed within 3 % after two days or more: {np.mean(np.array(off) < 0.03):.3f}")
    print(f"bands that widened without saying why: {unsaid}")


if __name__ == "__main__":
    main()
