"""How quick the match is: solved candidates a second, beside the plain solver in the same run."""

import json
import resource
import time
from pathlib import Path

from powertrain.documents.brief import Brief
from powertrain.match.judged import judge
from powertrain.match.prefilter import Prefilter
from powertrain.match.search import Search
from powertrain.shelf.shipped import shipped_shelf

BRIEF = Brief.model_validate(
    json.loads((Path(__file__).parents[1] / "docs/examples/brief-trike.json").read_text())
)


class Clock:
    """Adds up the seconds that some calls take."""

    def __init__(self):
        self.seconds = 0.0

    def over(self, method):
        def timed(*args):
            begun = time.perf_counter()
            try:
                return method(*args)
            finally:
                self.seconds += time.perf_counter() - begun

        return timed


def test_the_trike_brief_over_the_whole_shelf(benchmark, monkeypatch):
    Search(BRIEF, shipped_shelf()).run()  # what is made once of a shelf is not measured
    bounds, looping = Clock(), Clock()
    for name in ("_possible_gearings", "_possible_trios", "_ungeared", "_stretches"):
        monkeypatch.setattr(Prefilter, name, bounds.over(getattr(Prefilter, name)))
    monkeypatch.setattr(Search, "_in_a_loop", looping.over(Search._in_a_loop))
    runs = []

    def whole():
        bounds.seconds = looping.seconds = 0.0
        begun, first = time.perf_counter(), None
        search = Search(BRIEF, shipped_shelf())
        for tally in search.steps():
            if first is None and tally.feasible:
                first = time.perf_counter() - begun
        runs.append((time.perf_counter() - begun, first, bounds.seconds, looping.seconds, search))

    benchmark.pedantic(whole, rounds=5)
    seconds, first, on_bounds, in_loops, search = min(runs, key=lambda run: run[0])
    tally = search.tally
    keys = [tuple(int(place) for place in key) for key in search.best.keys]
    begun = time.perf_counter()
    for key in keys:
        assert judge(BRIEF, search.options, key).feasible
    each = (time.perf_counter() - begun) / len(keys)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    rate, looped = tally.solved / (seconds - on_bounds), search.in_loops / in_loops
    print(
        f"\n{tally.considered:,} considered, {tally.solved:,} solved, {tally.feasible:,} feasible "
        f"in {seconds:.1f} s, {on_bounds:.1f} s of it on bounds; first after {first:.2f} s; "
        f"peak memory {peak:.0f} MiB\n"
        f"solved a second, bounds apart: {rate:,.0f} with tracing and small groups, "
        f"{each * rate:,.0f} x the plain solver; {looped:,.0f} in the loops alone, "
        f"{each * looped:,.0f} x"
    )
