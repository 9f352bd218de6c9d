"""How quick the ladder is: every rung of two stages, beside the plain solver in the same run."""

import json
import time
from pathlib import Path

from powertrain.compile.build import compile_build
from powertrain.documents.reading import check_build
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import StageSizes
from powertrain.results import figures_of, results_of

TRIKE = check_build(
    json.loads((Path(__file__).parents[1] / "server/builds/demo/causeway-trike.json").read_text())
)
SIZES = [StageSizes(stage, tuple(range(11, 41)), tuple(range(30, 60))) for stage in (0, 1)]


def test_thirty_by_thirty_teeth_over_two_stages(benchmark):
    rungs = benchmark.pedantic(lambda: rungs_of(TRIKE, SIZES), rounds=5, warmup_rounds=1)
    begun, count = time.perf_counter(), 20
    for _ in range(count):
        compiled = compile_build(TRIKE)
        figures_of(compiled, results_of(compiled))
    each = (time.perf_counter() - begun) / count
    seconds = benchmark.stats.stats.median
    print(
        f"\n{len(rungs):,} rungs, {len(rungs.ratio):,} reductions in {seconds:.2f} s at the "
        f"median: {each * len(rungs) / seconds:,.0f} x the plain solver"
    )
