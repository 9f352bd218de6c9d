"""Builds beside one another: every figure is the bench's of the document that is shown."""

import math

import pytest

from powertrain.archetypes import all_archetypes
from powertrain.bench.solve import solve
from powertrain.compare.baseline import CLASSES, baseline
from powertrain.compare.compared import compare
from powertrain.compare.terms import Terms, drive_kg
from powertrain.documents.build import Build
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal

ALL = {one.id: one.document for one in all_archetypes()}
BUILDS = {name: build for name, build in ALL.items() if build.wheel is not None}


def with_values(build: Build, **sections) -> Build:
    document = build.model_dump(mode="json", exclude_unset=True)
    for section, values in sections.items():
        document[section] = {**document.get(section, {}), **values}
    return check_build(document)


@pytest.fixture
def build(trike) -> Build:
    return check_build(trike)


def row(answer, key):
    return next(one for one in answer.rows if one.id == key)


def test_every_figure_is_the_benchs_of_the_document_shown(build):
    other = with_values(build, motor={"kv_rpm_per_v": build.motor.kv_rpm_per_v * 1.3})
    answer = compare([build, other], Terms())
    for place, candidate in enumerate(answer.candidates):
        bench = solve(check_build(candidate.document))
        top = next(moment for moment in bench.moments if moment.id == "top_speed")
        assert row(answer, "top_speed").values[place] == pytest.approx(top.state.speed_mps * 3.6)
        assert row(answer, "top_speed").bands[place] == bench.doubt.figures["top_speed_kmh"].band
        assert candidate.moments == bench.moments
        assert candidate.map == bench.map


def test_the_same_build_twice_is_the_same_twice(build):
    answer = compare([build, build], Terms(same_voltage=True))
    assert [one.changed for one in answer.candidates] == [[], []]
    for one in answer.rows:
        assert one.values[0] == one.values[1]


def test_another_drive_stands_in_the_first_ones_vehicle_with_its_own_mass(build):
    drive = {"mass_kg": 2.0}
    light = with_values(build, motor=drive, controller={"mass_kg": 0.5}, battery={"mass_kg": 3.0})
    heavy = with_values(
        list(BUILDS.values())[-1],
        motor={"mass_kg": 12.0},
        controller={"mass_kg": 1.5},
        battery={"mass_kg": 20.0},
    )
    answer = compare([light, heavy], Terms())
    shown = check_build(answer.candidates[1].document)
    gained = drive_kg(heavy) - drive_kg(light)
    assert shown.vehicle.mass_kg == pytest.approx(light.vehicle.mass_kg + gained)
    assert (shown.wheel, shown.motor, shown.gearing) == (light.wheel, heavy.motor, heavy.gearing)
    assert shown.moments.cruise_kmh == check_build(answer.candidates[0].document).moments.cruise_kmh
    assert "In the vehicle of" in answer.candidates[1].changed[0]
    apart = compare([light, heavy], Terms(same_vehicle=False))
    assert check_build(apart.candidates[1].document).vehicle == heavy.vehicle


def test_at_the_same_voltage_each_pack_comes_nearest_in_its_own_cells(build):
    iron = with_values(build, battery={"chemistry": "lifepo4", "series": 8, "cell_voltage_v": 3.2})
    answer = compare([build, iron], Terms(same_voltage=True))
    cells = check_build(answer.candidates[1].document).battery.series
    wanted = build.battery.series * 3.7
    assert abs(cells * 3.2 - wanted) <= 1.6
    assert f"{cells} cells in series for 8." in answer.candidates[1].changed


def test_the_practitioners_rows_against_closed_forms(build):
    answer = compare([build, build], Terms())
    motor, amps = build.motor, row(answer, "start_torque")
    # Kt = 60/(2 pi KV), torque at a start = Kt (limit - no-load amps); from the definitions.
    kt = 60 / (2 * math.pi * motor.kv_rpm_per_v)
    limit = build.controller.motor_current_limit_a
    assert row(answer, "torque_per_amp").values[0] == pytest.approx(kt)
    assert amps.notes[0] == f"at {limit:.3g} A"
    assert amps.values[0] == pytest.approx(kt * (limit - motor.no_load_current_a), rel=0.02)
    power = row(answer, "power")
    rpm = float(power.notes[0].split()[1].replace(",", ""))
    top = next(one for one in answer.candidates[0].moments if one.id == "top_speed")
    assert power.values[0] >= top.state.shaft_w
    assert rpm <= row(answer, "free_rpm").values[0]


def test_what_cannot_be_held_has_no_figure_but_a_word(build):
    weak = with_values(build, controller={"motor_current_limit_a": 4})
    answer = compare([build, weak], Terms())
    hill = row(answer, "climb_motor_a")
    assert (hill.values[1], hill.notes[1]) == (None, "can't be held")
    assert row(answer, "stops").values[1] > 0


@pytest.mark.parametrize("count", [0, 1, 6])
def test_two_to_five(build, count):
    with pytest.raises(Refusal) as refusal:
        compare([build] * count, Terms())
    assert refusal.value.where == "documents"


def test_the_table_names_the_class_a_builder_would_name():
    named = {ref: baseline(build).chosen for ref, build in BUILDS.items()}
    titles = {BUILDS[ref].name: chosen for ref, chosen in named.items()}
    assert titles["Bicycle with a motor"] == "bicycle"
    assert titles["Cargo trike"] == "cargo"
    assert titles["Kick scooter"] == "scooter"
    assert titles["Board on four wheels"] == "board"
    assert titles["Fast model car"] == "small_model"
    assert titles["Small tractor"] == "kart"


def test_table_and_computation_are_told_apart_by_what_the_table_takes_for_granted(build):
    told = baseline(build, "board")
    # The school's own figure for a rider on a board uphill: 50 A at least (common practice).
    controller = next(one for one in told.rows if one.id == "controller_a")
    assert controller.low == 50
    for one in told.rows:
        outside = one.computed > (one.high or one.low) or (
            one.high is not None and one.computed < one.low
        )
        assert (one.stands != "within") == outside
    assert "%" in told.rows[0].why
    assert {one.id for one in told.classes} == {one.id for one in CLASSES}
    with pytest.raises(Refusal):
        baseline(build, "submarine")


def test_a_drive_is_compared_in_the_hoist_of_another_and_apart_it_is_not(build):
    hoist = ALL["hoist"]
    answer = compare([hoist, build], Terms())
    shown = check_build(answer.candidates[1].document)
    assert (shown.vehicle, shown.wheel, shown.motor) == (hoist.vehicle, None, build.motor)
    assert answer.candidates[1].moments[1].title == "Hold"
    with pytest.raises(Refusal) as refused:
        compare([hoist, build], Terms(same_vehicle=False))
    assert refused.value.where == "vehicle.kind"


def test_no_table_has_a_class_for_a_hoist():
    with pytest.raises(Refusal) as refused:
        baseline(ALL["hoist"])
    assert (refused.value.where, "wheels" in refused.value.what) == ("vehicle.kind", True)
