"""How quick a drive is in time, against steps of plain NumPy."""

import json
import time
from pathlib import Path

import numpy as np

from powertrain.arrays import scalar
from powertrain.compile.build import compile_build
from powertrain.documents.reading import check_build
from powertrain.dynamics.march import Marcher, flat
from powertrain.dynamics.step import step
from powertrain.dynamics.system_state import Demand, SystemState
from powertrain.stated import Stated

TRIKE = check_build(
    json.loads((Path(__file__).parents[1] / "server/builds/demo/causeway-trike.json").read_text())
)
TENTH = 0.1


def demand(steps):
    throttle = np.clip(0.6 + 0.4 * np.sin(np.arange(steps) / 300), 0.0, 1.0)
    return Demand(throttle, np.zeros(steps))


def test_an_hour_at_ten_hertz(benchmark):
    compiled, asked = compile_build(TRIKE), demand(36_000)
    begins = SystemState.at_rest(compiled, np.ones(1))
    benchmark.pedantic(lambda: Marcher(Stated(TRIKE), TENTH).run(begins, asked), rounds=5)
    state, begun, some = SystemState.at_rest(compiled, scalar(1.0)), time.perf_counter(), 300
    for index in range(some):
        now = Demand(scalar(float(asked.throttle[index])), scalar(0.0))
        state = step(compiled, flat(compiled), state, now, scalar(TENTH)).ends
    plain = (time.perf_counter() - begun) / some * 36_000
    ratio = plain / benchmark.stats.stats.median
    benchmark.extra_info["plain_over_compiled"] = round(ratio, 1)
    print(f"\nan hour step by step in NumPy takes {ratio:.0f} x the compiled march")


def test_ten_minutes_of_256_draws(benchmark):
    rng = np.random.default_rng(7)
    columns = {
        path: value * rng.lognormal(0.0, 0.1, 256)
        for path, value in {
            "vehicle.mass_kg": TRIKE.vehicle.mass_kg,
            "vehicle.rolling_resistance": TRIKE.vehicle.rolling_resistance,
            "vehicle.drag_area_m2": TRIKE.vehicle.drag_area_m2,
            "motor.resistance_ohm": 0.045,
            "battery.cell_resistance_mohm": TRIKE.battery.cell_resistance_mohm,
        }.items()
    }
    begins = SystemState.at_rest(compile_build(TRIKE, columns), np.ones(256))
    marcher = Marcher(Stated(TRIKE), TENTH, columns=columns)
    benchmark.pedantic(lambda: marcher.run(begins, demand(6_000)), rounds=3)
