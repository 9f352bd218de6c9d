"""The ladder of teeth: every rung is the build with those teeth, solved alone."""

import math
from itertools import chain, pairwise

import numpy as np
import pytest

from core.tests.conftest import TRIKE
from powertrain.archetypes import all_archetypes
from powertrain.arrays import scalar
from powertrain.bench.solve import solve
from powertrain.compile.build import compile_build, compile_drive, with_moments
from powertrain.documents.brief import Brief
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.gearing.ladder.answer import ladder_answer
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import MOST_RUNGS, StageSizes, sizes_of
from powertrain.heat.temperatures import after, flows_of
from powertrain.operating.on_road import full_throttle_at
from powertrain.operating.top_speed import top_speed
from powertrain.shelf.shipped import shipped_shelf
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

SIZES = [StageSizes(0, (11, 13, 16, 20), (32, 48, 60)), StageSizes(1, (14, 18), (40, 44, 88))]


@pytest.fixture
def build(trike):
    return with_moments(check_build(trike))


@pytest.fixture
def rungs(build):
    return rungs_of(build, SIZES)


@pytest.fixture(scope="module")
def sold():
    """A build and all rungs of what the shelf has for its first stage."""
    build = with_moments(check_build(TRIKE))
    sizes = sizes_of(build, shipped_shelf())
    return build, rungs_of(build, [sizes[0], StageSizes(1, (16, 18), (40, 44, 48))])


def alone(build, rungs, rung):
    """The build with a rung's teeth, read anew as a document."""
    document = build.model_dump(mode="json", exclude_unset=True)
    change = {
        f"gearing.{index}.{side}_teeth": teeth
        for index, pair in enumerate(rungs.teeth(rung))
        for side, teeth in zip(("driver", "driven"), pair, strict=True)
    }
    return check_build(changed(document, change))


def test_every_rung_equals_the_build_solved_alone(build, rungs):
    assert len(rungs) == 4 * 3 * 2 * 3
    for rung in range(len(rungs)):
        one = alone(build, rungs, rung)
        drive = compile_drive(one)
        flat = top_speed(drive, scalar(0.0))
        figure = {name: rungs.figure(name)[rung] for name in rungs.figures}
        assert figure["top_speed_kmh"] == pytest.approx(float(flat.speed_mps) * 3.6, rel=1e-6)
        start = full_throttle_at(drive, scalar(0.0))
        assert figure["launch_n"] == pytest.approx(float(start.force_n), rel=1e-9)
        hot = after(compile_build(one).thermal, flows_of(drive, flat), scalar(60.0))
        assert figure["winding_minute_c"] == pytest.approx(float(hot["winding"]), abs=1e-3)
        case = RuleContext.of(one)
        climbed = case.results.after_climb()
        assert figure["winding_climb_c"] == pytest.approx(float(climbed["winding"]), abs=1e-3)


def test_magnets_that_weaken_warm_a_rung_as_they_warm_the_bench(trike):
    # Long steady climbs, on which warm magnets need more amps for the same push.
    change = {
        "moments.climb_length_m": 6000,
        "moments.climb_speed_kmh": 12,
        "moments.climb_grade_pct": 5,
    }
    found = {}
    for weaken in (0.0, 0.2):
        build = check_build(changed(trike, {**change, "motor.thermal.magnet_pct_per_k": weaken}))
        own = [
            StageSizes(i, (stage.driver_teeth,), (stage.driven_teeth,))
            for i, stage in enumerate(build.gearing)
        ]
        present = ladder_answer(build, rungs_of(build, own)).present
        bench = solve(build)
        of_bench = bench.doubt.figures["winding_c"]
        assert present.figures["winding_climb_c"] == pytest.approx(of_bench.value, abs=1e-6)
        assert present.bands["winding_climb_c"] == of_bench.band
        low, _, high = present.bands["launch_n"]
        assert low < present.figures["launch_n"] < high
        verdict = next(one for one in bench.verdicts if one.id == "winding_temperature")
        assert verdict.moment == "climb"
        assert verdict.value == pytest.approx(of_bench.value, abs=1e-6)
        found[weaken] = of_bench.value
    assert found[0.2] > found[0.0] + 1


def test_what_stops_a_rung_stops_the_build_alone(build, rungs):
    stop = rungs.stop()
    assert 0 < np.count_nonzero(stop < 0) < len(rungs)
    for rung in range(len(rungs)):
        one = alone(build, rungs, rung)
        verdicts, _ = judge_all(RuleContext.of(one))
        stopped = [verdict.id for verdict in verdicts if verdict.severity == "stop"]
        assert (stop[rung] >= 0) == bool(stopped), (rungs.teeth(rung), stopped)


def test_rungs_of_one_reduction_are_one_and_no_others(rungs):
    exact = {}
    for rung in range(len(rungs)):
        (a, b), (c, d) = rungs.teeth(rung)
        common = math.gcd(b * d, a * c)
        exact.setdefault((b * d // common, a * c // common), set()).add(rungs.of[rung])
        assert rungs.ratio[rungs.of[rung]] == pytest.approx(b * d / (a * c), rel=1e-12)
        assert rungs.rung(rungs.teeth(rung)) == rung
    assert all(len(places) == 1 for places in exact.values())
    assert len(exact) == len(rungs.ratio)


def test_taller_is_faster_until_the_road_asks_for_more_than_there_is(build):
    sizes = [StageSizes(0, tuple(range(10, 40)), (60,))]
    rungs = rungs_of(build, sizes)
    order = np.argsort(-rungs.figure("launch_n"))
    # Push from standstill goes with the reduction, at the same amps (definition of a reduction).
    push = rungs.figure("launch_n")[order] / rungs.ratio[rungs.of[order]]
    assert push == pytest.approx(push[0])
    speed = rungs.figure("top_speed_kmh")[order]
    peak = int(np.argmax(speed))
    assert np.all(np.diff(speed[: peak + 1]) > 0)
    assert np.all(np.diff(speed[peak:]) < 0)


def test_the_plan_begins_at_todays_speed_and_goes_one_size_at_a_time(sold):
    build, rungs = sold
    keep = 25.0
    answer = ladder_answer(build, rungs, keep_kmh=keep)
    first = answer.plan[0].rung
    assert first.figures["top_speed_kmh"] <= keep
    assert first.stopped is None
    ratios = [step.rung.ratio for step in answer.plan]
    assert all(a > b for a, b in pairwise(ratios))
    for one, after_it in pairwise(answer.plan):
        pairs = zip(chain(*one.rung.teeth), chain(*after_it.rung.teeth), strict=True)
        assert sum(a != b for a, b in pairs) == 1
        assert after_it.rung.stopped is None


def test_the_best_are_the_best_of_all(sold):
    build, rungs = sold
    answer = ladder_answer(build, rungs, limit=len(rungs))
    speeds = [rung.figures["top_speed_kmh"] for rung in answer.rungs]
    assert speeds == sorted(speeds, reverse=True)
    assert len(answer.rungs) == answer.open
    assert answer.best["fastest"].figures["top_speed_kmh"] == speeds[0]
    today = answer.present.figures["top_speed_kmh"]
    keeping = [rung for rung in answer.rungs if rung.figures["top_speed_kmh"] >= 0.98 * today]
    coolest = min(rung.figures["winding_climb_c"] for rung in keeping)
    assert answer.best["coolest"].figures["winding_climb_c"] == coolest
    assert sum(point.rungs for point in answer.map) == len(rungs)


@pytest.mark.parametrize(
    ("wishes", "meets"),
    [
        ({"top_speed_kmh": {"max": 34}}, lambda f: f["top_speed_kmh"] <= 34),
        ({"top_speed_kmh": {"min": 30, "max": 38}}, lambda f: 30 <= f["top_speed_kmh"] <= 38),
        ({"climb": {"grade_pct": 8, "speed_kmh": 31}}, lambda f: f["climb_kmh"] >= 31),
    ],
)
def test_a_brief_narrows_what_is_the_best(sold, wishes, meets):
    build, rungs = sold
    brief = Brief.model_validate(
        {
            "format": "young-torrent.brief/1",
            "wishes": wishes,
            "vehicle": build.vehicle.model_dump(mode="json", exclude_unset=True),
            "wheel": build.wheel.model_dump(mode="json", exclude_unset=True),
        }
    )
    answer = ladder_answer(build, rungs, brief=brief, limit=len(rungs))
    free = ladder_answer(build, rungs, limit=len(rungs))
    wanted = [rung for rung in free.rungs if meets(rung.figures)]
    assert 0 < len(wanted) < len(free.rungs)
    assert [rung.teeth for rung in answer.rungs] == [rung.teeth for rung in wanted]
    assert answer.best["fastest"].teeth == wanted[0].teeth
    assert all(meets(rung.figures) for rung in answer.best.values())
    # What nothing meets leaves the list as it is, and no best.
    asked = {"top_speed_kmh": {"min": 300}}
    none = brief.model_copy(update={"wishes": brief.wishes.model_validate(asked)})
    told = ladder_answer(build, rungs, brief=none, limit=len(rungs))
    assert told.best == {}
    assert len(told.rungs) == len(free.rungs)


def test_what_no_gearing_changes_is_told_once_and_is_no_reason_against_a_rung(trike):
    # A motor that may not turn at all: free rpm is told above, and the present rung is left.
    build = check_build(changed(trike, {"motor.max_rpm": 100}))
    own = [
        StageSizes(i, (stage.driver_teeth,), (stage.driven_teeth,))
        for i, stage in enumerate(build.gearing)
    ]
    answer = ladder_answer(build, rungs_of(build, own))
    assert any("Free, it turns" in one for one in answer.fixed)
    assert any("Loaded, it turns" in one for one in answer.already)
    assert answer.present.stopped is None
    assert [step.rung for step in answer.plan] == [answer.rungs[0]]


def test_the_neighbourhood_holds_the_present_rung_and_one_size_around(sold):
    build, rungs = sold
    answer = ladder_answer(build, rungs)
    for stage, (driver, driven) in zip(answer.stages, answer.present.teeth, strict=True):
        row = stage.near[stage.near_drivers.index(driver)][stage.near_driven.index(driven)]
        assert row == answer.present.model_copy(update={"bands": {}})
        assert len(stage.near) == len(stage.near_drivers)


def test_every_archetype_with_teeth_has_a_ladder_and_the_others_say_why():
    for archetype in all_archetypes():
        build = archetype.document
        if any(hasattr(stage, "driver_teeth") for stage in build.gearing):
            rungs = rungs_of(build, sizes_of(build, shipped_shelf())[:1])
            assert len(rungs) > 5
        else:
            with pytest.raises(Refusal) as refusal:
                sizes_of(build, shipped_shelf())
            assert refusal.value.where == "gearing"


def test_too_many_rungs_are_refused(build):
    sizes = [StageSizes(i, tuple(range(10, 60)), tuple(range(10, 60))) for i in (0, 1)]
    assert MOST_RUNGS < 2500**2
    with pytest.raises(Refusal) as refusal:
        rungs_of(build, sizes)
    assert "6,250,000" in refusal.value.what
