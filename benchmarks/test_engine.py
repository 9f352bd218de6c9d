"""How quick the engine is, as times and as ratios to a plain scalar loop in the same run."""

import json
import resource
import time
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from benchmarks import scalar_loop
from powertrain.arrays import pick, scalar
from powertrain.bench.solve import solve
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.doubt.draws import Doubt
from powertrain.levers.board import sweep_of
from powertrain.levers.registry import levers_of
from powertrain.operating.top_speed import top_speed_mps

TRIKE = json.loads(
    (Path(__file__).parents[1] / "server/builds/demo/causeway-trike.json").read_text()
)
MILLION = 1_000_000
BLOCK = 8192
"""Drives that are asked together, so that the numbers stay in the cache."""


def test_one_bench_answer(benchmark):
    document = check_build(TRIKE)
    benchmark(lambda: solve(document).model_dump_json())


def test_one_bench_answer_against_a_plain_loop(benchmark):
    """The whole answer, beside nothing but the top speeds of its variants, one by one."""
    document = check_build(TRIKE)
    levers = levers_of(document)
    rows = len(sweep_of(document, Doubt.of(document), levers).variants.draws)
    benchmark(lambda: solve(document))
    begun, some = time.perf_counter(), 100
    for index in range(some):
        scalar_loop.top_speed_mps(TRIKE, 8.0 * (index % 2))
    loop = (time.perf_counter() - begun) / some * 2 * rows
    ratio = loop / benchmark.stats.stats.median
    benchmark.extra_info["plain_loop_over_answer"] = round(ratio, 1)
    print(f"\n{rows} variants: their top speeds in a plain loop take {ratio:.1f} x the answer")


def test_one_bench_answer_from_its_plain_document(benchmark):
    benchmark(lambda: solve(check_build(TRIKE)).model_dump_json())


def test_a_million_top_speeds(benchmark):
    drive = compile_drive(check_build(TRIKE))
    rng = np.random.default_rng(7)
    constants = drive.motor.constant_nm_per_a * rng.uniform(0.5, 2.0, MILLION)
    masses = drive.wheels.road.mass_kg * rng.uniform(0.7, 1.3, MILLION)
    many = replace(
        drive,
        motor=replace(drive.motor, constant_nm_per_a=constants),
        load=replace(drive.wheels, road=replace(drive.wheels.road, mass_kg=masses)),
    )
    found = benchmark.pedantic(
        lambda: np.concatenate(
            [
                top_speed_mps(pick(many, slice(begin, begin + BLOCK)), scalar(0.0))
                for begin in range(0, MILLION, BLOCK)
            ]
        ),
        rounds=3,
    )
    some = rng.integers(0, MILLION, 2000)
    begun = time.perf_counter()
    for i in some:
        motor = {**TRIKE["motor"], "kv_rpm_per_v": 60 / (2 * np.pi * constants[i])}
        vehicle = {**TRIKE["vehicle"], "mass_kg": masses[i]}
        wanted = scalar_loop.top_speed_mps({**TRIKE, "motor": motor, "vehicle": vehicle})
        assert found[i] == pytest.approx(wanted, rel=1e-9)
    each = (time.perf_counter() - begun) / some.size
    ratio = each * MILLION / benchmark.stats.stats.min
    benchmark.extra_info["times_faster_than_scalar_loop"] = round(ratio, 1)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    benchmark.extra_info["peak_memory_mib"] = round(peak)
    print(f"\na million: {ratio:.1f} x the scalar loop, peak memory of the process {peak:.0f} MiB")
