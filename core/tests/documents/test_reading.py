"""What a build document may hold, and how it is refused."""

import json

import pytest

from core.tests.conftest import TRIKE, document_with
from powertrain.archetypes import all_archetypes
from powertrain.documents.describe import all_fields
from powertrain.documents.reading import check_build, read_build, warnings_of
from powertrain.errors import Refusal
from powertrain.motor.kinds import winding_of
from powertrain.stated import Stated


def refused(document) -> Refusal:
    with pytest.raises(Refusal) as caught:
        check_build(document)
    return caught.value


NAN, HUGE = float("nan"), 10**300


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("battery.series", 0, "least is 1"),
        ("battery.series", 12.5, "whole number"),
        ("battery.series", True, "must be a number"),
        ("battery.series", "13", "must be a number"),
        ("vehicle.mass_kg", -195, "below anything possible"),
        ("vehicle.mass_kg", NAN, ""),
        ("vehicle.mass_kg", HUGE, "beyond anything possible"),
        ("vehicle.mass_kg", 1e300, "beyond anything possible"),
        ("gearing.0.driver_teeth", 0, "least is 1"),
        ("gearing.1.efficiency", 1.2, "most is 1"),
        ("gearing.1.efficiency", 0, "least"),
        ("motor.kv_rpm_per_v", 0, "below anything possible"),
        ("battery.chemistry", "coal", "must be"),
        ("controller.battery_current_limit_a", -5, "below anything possible"),
        ("motor.rated_cells", [3], "too few"),
        ("name", "   ", "must not be empty"),
        ("conditions", 3, "must be an object"),
        ("gearing", {}, "must be a list"),
    ],
)
def test_a_bad_value_is_refused_at_its_place(path, value, words):
    refusal = refused(document_with({path: value}))
    assert refusal.where == path
    assert words in refusal.what


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("vehicle.mass_kg", 0, "the least is 0.00002"),
        ("vehicle.mass_kg", 1e12, "the most is 200,000,000"),
        ("battery.series", 0, "the least is 1"),
        ("gearing.0.efficiency", 1.2, "the most is 1"),
    ],
)
def test_limits_are_written_as_people_write_them(path, value, words):
    assert refused(document_with({path: value})).what.endswith(words)


@pytest.mark.parametrize("key", ["vehicle", "wheel", "gearing", "motor", "battery", "format"])
def test_a_missing_part_is_named(key, trike):
    del trike[key]
    refusal = refused(trike)
    assert refusal.where == key
    assert "missing" in refusal.what


def test_an_unknown_key_is_named_with_its_likely_meaning(trike):
    trike["motor"]["kv_rpm_per_volt"] = 60
    refusal = refused(trike)
    assert refusal.where == "motor.kv_rpm_per_volt"
    assert "kv_rpm_per_v" in refusal.what


def test_an_unknown_kind_of_stage_is_named(trike):
    trike["gearing"][1]["kind"] = "worm"
    assert refused(trike).where == "gearing.1.kind"


def test_origins_must_be_of_values_that_exist(trike):
    trike["provenance"] = {"motor.kv": {"origin": "measured"}}
    assert refused(trike).where == "provenance.motor.kv"


@pytest.mark.parametrize(
    "text",
    [
        "[" * 5000,
        "[" * 5000 + "]" * 5000,
        '{"a":' * 5000 + "1" + "}" * 5000,
        json.dumps({**TRIKE, "gearing": [TRIKE["gearing"][0]] * 100_000}),
        json.dumps({**TRIKE, "name": "x" * 10_000_000}),
        '{"name": 1, "name": 2}',
        '{"name": NaN}',
        json.dumps({**TRIKE, "name": "a\0b"}),
        json.dumps({**TRIKE, "name": "a\ud800b"}),
        '{"name": -Infinity}',
        '{"name": ' + "9" * 6000 + "}",
        "{",
        "",
        "[]",
        "null",
    ],
    ids=lambda text: text[:12],
)
def test_text_that_is_no_document_is_refused(text):
    with pytest.raises(Refusal):
        read_build(text)


def test_too_many_stages_are_refused_at_the_list(trike):
    trike["gearing"] *= 1000
    assert refused(trike).where == "gearing"


def test_whole_numbers_may_be_written_as_floats():
    assert check_build(document_with({"battery.series": 13.0})).battery.series == 13


@pytest.mark.parametrize(
    "path",
    [
        "vehicle.mass_kg",
        "motor.kv_rpm_per_v",
        "motor.resistance_ohm",
        "battery.cell_resistance_mohm",
        "wheel.rolling_circumference_mm",
    ],
)
@pytest.mark.parametrize("times", [1000, 1 / 1000])
def test_a_thousand_times_off_is_accepted_with_a_warning(path, times):
    section, key = path.split(".")
    document = document_with({path: TRIKE[section][key] * times})
    assert [w["where"] for w in warnings_of(check_build(document))] == [path]


@pytest.mark.parametrize("volts", [400, 12.6, 0.01])
def test_volts_that_no_cell_has_are_refused(volts):
    with pytest.raises(Refusal, match="anything possible") as refused:
        check_build(document_with({"battery.cell_voltage_v": volts}))
    assert refused.value.where == "battery.cell_voltage_v"


def test_usual_builds_carry_no_warning():
    assert warnings_of(check_build(TRIKE)) == []
    assert {a.id: warnings_of(a.document) for a in all_archetypes()} == {
        a.id: [] for a in all_archetypes()
    }


def test_archetypes_mark_every_number_as_a_starting_guess():
    for archetype in all_archetypes():
        origins = archetype.document.provenance
        winding = winding_of(Stated(archetype.document.motor))
        assert winding is not None
        for path in ("vehicle.mass_kg", winding.path, "battery.series"):
            assert origins[path].origin == "default"


def test_optional_values_of_the_format_are_accepted():
    document = document_with(
        {
            "motor.max_rpm": 4200,
            "motor.rated_cells": [10, 14],
            "motor.max_power_w": 1500,
            "motor.power_is": "shaft",
            "motor.insulation_class": "F",
            "motor.sensor": "hall",
            "controller.rating_side": "battery",
            "controller.signal": "analogue",
            "battery.cut_off_cell_v": 3.0,
            "vehicle.rated_speed_kmh": 25,
            "vehicle.traction": {"friction": 0.6, "driven_share": 0.5, "wheelbase_m": 1.4},
            "moments.climb_grade_pct": 8,
            "provenance": {"gearing.0.efficiency": {"origin": "estimated", "tolerance_pct": 3}},
        }
    )
    build = check_build(document)
    assert build.model_dump(exclude_unset=True)["motor"]["rated_cells"] == [10, 14]


def test_every_field_has_a_label_and_an_explanation():
    for field in all_fields():
        assert field.label, field.path
        if field.kind != "choice":
            assert len(field.explain) > 4, field.path


@pytest.mark.parametrize(("key", "along"), [("open_circuit", "soc_pct"), ("resistance_by_c", "c")])
def test_two_points_of_a_curve_at_one_place_are_refused(trike, key, along):
    value = "cell_v" if key == "open_circuit" else "factor"
    points = [{along: at, value: 3.0} for at in (0, 20, 20)]
    with pytest.raises(Refusal) as told:
        check_build({**trike, "battery": {**trike["battery"], key: points}})
    assert told.value.where == f"battery.{key}.2.{along}"
