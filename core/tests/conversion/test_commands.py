"""The command lines of conversions, as scripts meet them."""

import json
import math

import pytest

from core.tests.conftest import TRIKE
from core.tests.conversion.conftest import TRACTOR
from powertrain.cli import main
from powertrain.compare.compared import compare
from powertrain.compare.terms import Terms
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.gearing.overvolt import overvolt


@pytest.fixture
def run(tmp_path, capsys):
    def run(command, *arguments, documents=(TRACTOR,)):
        places = []
        for index, document in enumerate(documents):
            place = tmp_path / f"{index}.json"
            place.write_text(json.dumps(document))
            places.append(str(place))
        status = main([command, *places, *arguments])
        printed = capsys.readouterr()
        if status == 0:
            return json.loads(printed.out)
        assert status == 2
        assert printed.err.count("\n") == 1
        return json.loads(printed.err)["error"]

    return run


def test_field_prints_the_motor_so_connected_and_why(run):
    told = run("field", "--connection", "series_parallel")
    assert set(told) == {"motor", "why"}
    # Two branches carry half each: the same iron at twice the amps.
    assert told["motor"]["half_saturation_current_a"] == pytest.approx(180)
    assert told["motor"]["field"]["connection"] == "series_parallel"
    again = run("field", "--connection", "series", documents=[{**TRACTOR, "motor": told["motor"]}])
    assert again["motor"]["half_saturation_current_a"] == pytest.approx(90)


def test_high_volts_prints_what_connecting_the_pack_does(run):
    told = run("high-volts", "--precharge-ohm", "100")
    assert {"energy_j", "time_s", "first_a"} <= set(told["precharge"])
    # 87.6 V, 9 mF, 100 ohm
    assert told["precharge"]["first_a"] == pytest.approx(0.876)
    assert told["precharge"]["time_s"] == pytest.approx(math.log(20) * 0.9)
    assert told["short_circuit_a"] == pytest.approx(87.6 / 0.0164)
    assert all(isinstance(say, str) for say in told["cautions"])


@pytest.mark.parametrize(
    ("command", "arguments", "where"),
    [
        ("field", ["--connection", "sideways"], "arguments"),
        ("field", [], "arguments"),
        ("high-volts", ["--precharge-ohm", "0"], "precharge-ohm"),
        ("high-volts", ["--precharge-ohm", "many"], "precharge-ohm"),
    ],
)
def test_what_cannot_be_asked_is_told_in_one_line(run, command, arguments, where):
    assert run(command, *arguments)["where"] == where


def test_compare_prints_what_the_api_answers(run):
    heavier = changed(TRIKE, {"name": "Heavier", "vehicle.mass_kg": 230, "battery.series": 14})
    builds = [check_build(TRIKE), check_build(heavier)]
    for flags, terms in (
        ([], Terms()),
        (["--same-voltage"], Terms(same_voltage=True)),
        (["--own-vehicles"], Terms(same_vehicle=False)),
    ):
        told = run("compare", *flags, documents=[TRIKE, heavier])
        assert told == json.loads(compare(builds, terms).model_dump_json())
    assert told["candidates"][1]["document"]["vehicle"]["mass_kg"] == 230


def test_compare_names_which_document_is_wrong(run):
    wrong = changed(TRIKE, {"battery.series": 0})
    assert run("compare", documents=[TRIKE, wrong])["where"] == "documents.1.battery.series"
    assert run("compare", documents=[TRIKE])["where"] == "documents"


def test_more_cells_are_held_against_the_makers_volts():
    def weight(limit):
        build = check_build(changed(TRACTOR, {"motor.max_voltage_v": limit}))
        conditions = {one.id: one for one in overvolt(build, 30).conditions}
        return conditions["motor_volts"]

    # 30 cells of 3.2 V are 96 V.
    assert weight(96).weight == "fine"
    assert weight(80).weight == "condition"
    assert "80 V" in weight(80).say
    assert weight(None).weight == "condition"
    assert "Nobody tells" in weight(None).say
