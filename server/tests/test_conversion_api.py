"""A conversion over HTTP: the demo tractor, what it is asked, and what is refused."""

import pytest

from builds.demo import demo_builds
from common.documents import plain


@pytest.fixture
def ruff():
    return plain(demo_builds()["ruff-tractor"])


def test_the_tractor_is_answered_whole(api, ruff):
    told = api.post("/conversion", {"document": ruff})[1]
    assert [gear["ratio"] for gear in told["gears"]["gears"]] == pytest.approx([88, 54, 33, 19.5])
    # 22 + 70 + 410 of 560 mm
    assert told["fit"]["left_mm"] == 58
    assert told["price"]["complete"]
    assert told["price"]["told"] == 160 + 520 + 1480 + 330 + 95 + 140 + 260
    assert told["along"]["pack_w"] == 90
    # 24 cells at 3.65 V
    assert told["high_volts"]["volts"] == pytest.approx(87.6)
    assert {school["id"] for school in told["schools"]} == {"engine", "road_climb", "road_cruise"}


def test_both_ways_of_the_same_tractor_can_be_compared(api):
    both = [plain(demo_builds()[slug]) for slug in ("ruff-tractor", "ruff-tractor-packaged")]
    told = api.post("/compare", {"documents": both, "terms": {"same_voltage": True}})[1]
    assert len(told["candidates"]) == 2
    rows = {row["id"]: row for row in told["rows"]}
    assert all(value is not None for value in rows["climb"]["values"])


def test_a_field_is_joined_in_another_way_and_back(api, ruff):
    told = api.post("/field", {"document": ruff, "connection": "parallel"})[1]
    after = {**ruff, "motor": told["motor"]}
    back = api.post("/field", {"document": after, "connection": "series"})[1]
    assert back["motor"]["resistance_ohm"] == pytest.approx(ruff["motor"]["resistance_ohm"])


def test_a_wing_has_no_conversion(api):
    wing = plain(demo_builds()["tern-wing"])
    status, told = api.post("/conversion", {"document": wing})
    assert status == 422
    assert told["error"]["where"] == "vehicle.kind"


def test_a_field_of_nothing_known_is_refused_by_name(api, ruff):
    del ruff["motor"]["field"]
    status, told = api.post("/field", {"document": ruff, "connection": "parallel"})
    assert status == 422
    assert told["error"]["where"] == "motor.field"


def test_what_is_not_priced_is_offered_from_the_shelf_ones_own_first(api, ruff):
    del ruff["prices"]
    own = {
        "id": "shed-charger",
        "name": "Charger from the shed",
        "voltage_v": 87.6,
        "current_a": 12.0,
        "price": 5.0,
    }
    status, told = api.post("/shelf/chargers/parts", {"document": own})
    assert status in (200, 201), told
    told = api.post("/conversion", {"document": ruff})[1]
    offers = {one["id"]: one for one in told["offers"]}
    assert offers["charger"]["name"] == "Charger from the shed"
    assert set(offers) == {"charger", "dc_dc", "contactors"}
