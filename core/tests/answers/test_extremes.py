"""No figure of any answer is outside what can exist, however odd the build."""

import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.tests.strategies import builds
from ops.draws import examples
from powertrain.bench.solve import solve
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.gearing.boost import boost
from powertrain.gearing.chart import speed_chart
from powertrain.gearing.ladder.answer import ladder_answer
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import sizes_of
from powertrain.gearing.overvolt import overvolt
from powertrain.gearing.roads import roads
from powertrain.gearing.runs import will_it_run
from powertrain.gearing.windings import windings
from powertrain.shelf.shipped import shipped_shelf

HOTTEST_C = 1000
"""Above this copper, magnets and solder are gone (copper melts at 1,085: CRC handbook)."""

ASSUMED_FRICTION = 1.0
"""Of clean tarmac: the most that is assumed where a build states none."""

GRAVITY = 9.80665


@st.composite
def odd(draw: st.DrawFn):
    """Return a build with some values at the very ends of what a document allows."""
    document = draw(builds())
    choose = random.Random(draw(st.integers(0, 10**9)))
    if choose.random() < 0.3:
        document["vehicle"]["mass_kg"] = choose.choice([0.05, 2000, 20])
    if "resistance_ohm" in document["motor"] and choose.random() < 0.2:
        document["motor"]["resistance_ohm"] = choose.choice([1e-4, 20])
    if choose.random() < 0.2:
        document["battery"]["series"] = choose.choice([1, 200])
    if choose.random() < 0.2:
        document["conditions"]["headwind_mps"] = choose.choice([-40, 40])
    if choose.random() < 0.2:
        document["wheel"]["rolling_circumference_mm"] = choose.choice([30, 6000])
    if choose.random() < 0.3:
        document["moments"] = {"climb_grade_pct": choose.choice([0, 45, -12, 90])}
    return document


def numbers(value):
    """Yield every number of an answer."""
    if isinstance(value, dict):
        for inner in value.values():
            yield from numbers(inner)
    elif isinstance(value, list | tuple):
        for inner in value:
            yield from numbers(inner)
    elif isinstance(value, float):
        yield value


@examples(60)
@given(odd())
def test_what_the_bench_tells_of_any_build_can_exist(document):
    # One answer is looked at from three sides, since an answer is what takes time.
    answer = solve(check_build(document))
    for moment in answer.moments:
        nothing_is_hotter_than_what_there_is_left_to_be_hot(moment)
        energy_is_balanced_at_each_part(moment.state)
    no_launch_is_quicker_than_grip_allows(document, answer)


def nothing_is_hotter_than_what_there_is_left_to_be_hot(moment):
    for node, heat in moment.heat.items():
        if heat.after_c is None:
            assert heat.burnt_after_s is not None
            assert heat.burnt_after_s <= moment.lasts_s * (1 + 1e-9)
        else:
            assert heat.after_c <= HOTTEST_C
        assert heat.steady_c is None or heat.steady_c <= HOTTEST_C
        for value in moment.bands.get(f"{node}_c") or ():
            assert value is None or value <= HOTTEST_C


def energy_is_balanced_at_each_part(at):
    close = 1e-6 * max(abs(at.cells_w), abs(at.road_w), 1.0)
    heat = at.copper_heat_w + at.brush_heat_w + at.turning_heat_w
    ends = at.rolling_w + at.climbing_w + at.air_w + at.speeding_up_w + at.brakes_w
    assert abs(at.cells_w - at.pack_heat_w - at.terminals_w) <= close
    assert abs(at.terminals_w - at.controller_heat_w - heat - at.shaft_w) <= close
    assert abs(at.shaft_w - sum(at.stage_losses_w) - at.road_w) <= close
    assert abs(at.road_w - ends) <= close
    assert at.motor_rpm >= 0


def no_launch_is_quicker_than_grip_allows(document, answer):
    launch = next(one for one in answer.moments if one.id == "launch")
    vehicle = document["vehicle"]
    friction = vehicle.get("traction", {}).get("friction", ASSUMED_FRICTION)
    # However much of the weight stands on the driven wheels, it is no more than all of it.
    assert launch.state.force_n <= friction * vehicle["mass_kg"] * GRAVITY * (1 + 1e-6)


@examples(12)
@given(odd(), odd())
def test_every_view_answers_or_says_what_is_missing(document, other):
    build, helper, shelf = check_build(document), check_build(other), shipped_shelf()
    more = min(build.battery.series + 2, 300)
    refused: list[Refusal] = []

    def ladder():
        return ladder_answer(build, rungs_of(build, sizes_of(build, shelf)))

    for asked in (
        lambda: will_it_run(build),
        lambda: speed_chart(build, shelf),
        lambda: windings(build, shelf),
        lambda: overvolt(build, more),
        lambda: roads(build, 120.0, shelf),
        lambda: boost(build, helper, max(1, build.battery.series - 1), 5.0),
        ladder,
    ):
        try:
            answer = asked()
        except Refusal as refusal:
            refused.append(refusal)
            continue
        assert all(math.isfinite(value) for value in numbers(answer.model_dump()))
    assert all(one.where and one.what for one in refused)


@pytest.mark.parametrize("volts", [400.0, 6.1, 0.1])
def test_a_cell_has_the_volts_of_a_cell(volts):
    document = {**PLAIN, "battery": {**PLAIN["battery"], "cell_voltage_v": volts}}
    with pytest.raises(Refusal) as refused:
        check_build(document)
    assert refused.value.where == "battery.cell_voltage_v"


PLAIN = {
    "format": "young-torrent.build/1",
    "name": "plain",
    "vehicle": {"kind": "ground", "mass_kg": 100, "rolling_resistance": 0.01, "drag_area_m2": 0.6},
    "wheel": {"rolling_circumference_mm": 2000},
    "gearing": [],
    "motor": {
        "kind": "permanent_magnet",
        "kv_rpm_per_v": 10,
        "resistance_ohm": 0.1,
        "no_load_current_a": 0.5,
    },
    "controller": {},
    "battery": {
        "chemistry": "li_ion",
        "series": 13,
        "parallel": 4,
        "cell_capacity_ah": 3,
        "cell_resistance_mohm": 30,
    },
}
