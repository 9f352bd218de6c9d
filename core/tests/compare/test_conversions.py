"""Two ways to convert one car: price, a trip in time, and each motor's own watts."""

import pytest

from powertrain.archetypes import all_archetypes
from powertrain.compare.compared import compare
from powertrain.compare.terms import Terms
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.shelf.shipped import shipped_shelf

HILLY = {"moments.climb_grade_pct": 9, "provenance": {}}


def small_car(changes) -> Build:
    car = next(one.document for one in all_archetypes() if one.id == "small-car")
    document = car.model_dump(mode="json", exclude_unset=True)
    return check_build(changed({**document, "provenance": {}}, {**HILLY, **changes}))


def packaged():
    motor = next(part.motor for part in shipped_shelf().motors if part.id == "hollinfen-p210-144")
    return {"name": "Packaged", "motor": motor.model_dump(mode="json", exclude_unset=True)}


@pytest.fixture(scope="module")
def rows():
    both = [small_car({"name": "Series"}), small_car(packaged())]
    return {row.id: row for row in compare(both, Terms()).rows}


def test_a_series_motor_wins_nothing_back_and_leaves_it_to_the_brakes(rows):
    series, other = rows["trip_back"].values
    assert series == 0
    assert other > 2
    assert rows["trip_back"].notes[0]
    # 1,000 kg come down 27 m: 73 Wh of height, and 60 km/h of motion are 39 Wh, less what rolls
    # and blows away meanwhile.
    braked, spared = rows["trip_brakes"].values
    assert 0 <= spared < 5 < braked < 73 + 39


def test_on_the_way_the_packaged_one_takes_less(rows):
    series, other = rows["trip_wh_km"].values
    # Rolling and air of 1,000 kg at 60 km/h take 117 + 119 N, 66 Wh/km at the wheel.
    assert 66 < other < series < 300


def test_the_price_of_all_is_told_only_when_all_of_it_is():
    told = {
        "motor.price": 700,
        "controller.price": 900,
        "battery.price": 3600,
        "prices": {"charger": 400, "dc_dc": 120, "contactors": 210, "adapter": 480},
    }
    both = [small_car(told), small_car({**told, "prices.adapter": None})]
    row = next(row for row in compare(both, Terms()).rows if row.id == "whole_price")
    assert row.values == [700 + 900 + 3600 + 400 + 120 + 210 + 480, None]
    assert "adapter" in row.notes[1]


def test_what_hangs_on_the_tail_is_no_loss_of_the_motor():
    pump = [{"name": "Pump", "power_w": 800, "driven_by": "tail_shaft"}]
    lamps = [{"name": "Lamps", "power_w": 800, "driven_by": "dc_dc"}]
    both = [small_car({"auxiliaries": along}) for along in (pump, lamps)]
    row = next(row for row in compare(both, Terms()).rows if row.id == "motor_cruise")
    # Loaded by the pump as well it runs nearer to its best; neither 800 W is its heat.
    with_pump, with_lamps = row.values
    assert with_lamps < with_pump < 95
    assert with_lamps > 75


def test_a_bicycle_has_no_such_rows(build_with):
    both = [build_with({}), build_with({"name": "Other", "battery.series": 14})]
    ids = {row.id for row in compare(both, Terms()).rows}
    assert ids.isdisjoint({"whole_price", "trip_back", "trip_wh_km", "trip_brakes"})
