"""The ways to change speed over HTTP: the bench's figures, and odd input told by its place."""

import copy
import json
from pathlib import Path

import pytest

ASKED = {
    "/ladder": {},
    "/will-it-run": {},
    "/speed-chart": {},
    "/windings": {},
    "/overvolt": {"series": 16},
    "/roads": {"wish_kmh": 42},
    "/speeds": {"wheel_rpm": 300},
    "/baseline": {},
}


@pytest.mark.parametrize("path", ASKED)
def test_each_question_is_answered(api, trike, path):
    status, told = api.post(path, {"document": trike, **ASKED[path]})
    assert status == 200, told


@pytest.mark.parametrize("path", ASKED)
@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"battery": {"series": 0}}, "battery.series"),
        ({"motor": {"kv_rpm_per_v": "fast"}}, "motor.kv_rpm_per_v"),
        ({"wheel": {"rolling_circumference_mm": None}}, "wheel.rolling_circumference_mm"),
    ],
)
def test_a_bad_document_is_told_by_its_place(api, trike, path, change, where):
    document = copy.deepcopy(trike)
    for section, values in change.items():
        document[section].update(values)
    status, told = api.post(path, {"document": document, **ASKED[path]})
    assert (status, told["error"]["where"]) == (422, where)


OF_WHEELS = {"/speeds", "/baseline"}


@pytest.mark.parametrize("path", ASKED)
def test_what_only_wheels_can_be_asked_is_told_of_a_hoist(api, trike, path):
    hoist = {key: value for key, value in trike.items() if key not in ("wheel", "moments")}
    hoist["vehicle"] = {"kind": "hoist", "mass_kg": 200, "drum_radius_m": 0.06}
    hoist["provenance"] = {}
    status, told = api.post(path, {"document": hoist, **ASKED[path], "wish_kmh": 2})
    if path in OF_WHEELS:
        assert (status, told["error"]["where"]) == (422, "vehicle.kind")
    else:
        assert status == 200, told


@pytest.mark.parametrize(
    ("path", "asked"),
    [
        ("/overvolt", {"series": 3}),
        ("/overvolt", {"series": "many"}),
        ("/overvolt", {}),
        ("/roads", {"wish_kmh": 1}),
        ("/roads", {"wish_kmh": -5}),
        ("/roads", {"wish_kmh": 1e9}),
        ("/speeds", {}),
        ("/speeds", {"wheel_rpm": 1, "motor_rpm": 1}),
        ("/speeds", {"wheel_rpm": -1}),
        ("/baseline", {"chosen": "boat"}),
        ("/ladder", {"limit": -1}),
        ("/ladder", {"pinned": {}}),
    ],
)
def test_an_odd_question_is_refused_not_answered(api, trike, path, asked):
    status, told = api.post(path, {"document": trike, **asked})
    assert status == 422
    assert told["error"]["what"]


def test_a_hub_motor_has_no_ladder_and_says_so(api, trike):
    hub = {**trike, "gearing": [], "provenance": {}}
    status, told = api.post("/ladder", {"document": hub})
    assert (status, told["error"]["where"]) == (422, "gearing")
    assert api.post("/will-it-run", {"document": hub})[1] == {"stages": [], "notes": []}
    assert api.post("/windings", {"document": hub})[0] == 200


def test_a_rung_set_on_the_bench_shows_the_ladders_figures(api, trike):
    _, told = api.post("/ladder", {"document": trike, "limit": 3})
    assert len(told["rungs"]) == 3
    for rung in (told["present"], told["best"]["coolest"], told["rungs"][0]):
        operation = {"do": "set", "values": rung["change"]}
        _, bench = api.post("/solve", {"document": trike, "operations": [operation]})
        figures = bench["answer"]["doubt"]["figures"]
        top = figures["top_speed_kmh"]["value"]
        assert rung["figures"]["top_speed_kmh"] == pytest.approx(top, rel=1e-6)
        peak = figures["motor_peak_a"]["value"]
        assert rung["figures"]["motor_peak_a"] == pytest.approx(peak, rel=1e-4)


def test_the_plan_begins_at_the_pinned_builds_speed(api, trike):
    faster = copy.deepcopy(trike)
    faster["motor"]["kv_rpm_per_v"] = 80
    _, told = api.post("/ladder", {"document": faster, "pinned": trike})
    _, pinned = api.post("/solve", {"document": trike, "operations": []})
    today = pinned["answer"]["doubt"]["figures"]["top_speed_kmh"]["value"]
    first = told["plan"][0]["rung"]["figures"]["top_speed_kmh"]
    assert 0.85 * today < first <= today * (1 + 1e-9)


def test_the_best_rungs_keep_to_a_brief(api, trike):
    place = Path(__file__).parents[2] / "docs/examples/brief-trike.json"
    wished = json.loads(place.read_text())["wishes"]["top_speed_kmh"]
    brief = json.loads(place.read_text())
    _, told = api.post("/ladder", {"document": trike, "brief": brief})
    for rung in told["rungs"]:
        assert wished["min"] <= rung["figures"]["top_speed_kmh"] <= wished["max"]
    _, free = api.post("/ladder", {"document": trike})
    assert free["rungs"][0]["figures"]["top_speed_kmh"] > wished["max"]


def test_ones_own_wheels_are_rungs_and_have_their_price(api, trike):
    stage = trike["gearing"][0]
    wheels = {
        "name": "Turned by a friend",
        "kind": stage["kind"],
        "side": "driven",
        "pitch_mm": 12.7,
        "efficiency": 0.96,
        "sizes": [{"teeth": 47, "mass_kg": 0.6, "price": 31}],
    }
    _, before = api.post("/ladder", {"document": trike})
    status, part = api.post("/shelf/teeth/parts", {"document": wheels})
    assert status == 201, part
    _, told = api.post("/ladder", {"document": trike})
    assert 47 not in before["stages"][0]["driven"]
    assert 47 in told["stages"][0]["driven"]
    _, roads = api.post("/roads", {"document": trike, "wish_kmh": 45})
    teeth = next(road for road in roads["roads"] if road["id"] == "gearing")
    assert teeth["change"] == {"gearing.0.driven_teeth": 47}
    assert teeth["price"] == 31


def test_gears_by_their_teeth(api):
    status, told = api.post("/planetary", {"sun": 18, "ring": 72})
    assert (status, told["ratio"], told["fits"]) == (200, 5.0, True)
    status, told = api.post("/planetary", {"sun": 30, "ring": 20})
    assert (status, told["error"]["where"]) == (422, "ring")
    assert api.post("/planetary", {"sun": 18.5, "ring": 72})[0] == 422
    assert api.post("/module", {"diametral_pitch": 32}) == (200, {"module_mm": 0.79375})
    assert api.post("/module", {"diametral_pitch": 0})[0] == 422


def test_split_and_tyre_without_a_build(api):
    status, told = api.post("/split", {"wanted": 60})
    assert (status, list(told["splits"])) == (200, ["3", "4"])
    assert api.post("/split", {"wanted": 0.5})[0] == 422
    assert api.post("/split", {"wanted": 60, "kinds": []})[0] == 422
    status, told = api.post("/tyre", {"marking": "47-406"})
    assert (status, told["diameter_mm"]) == (200, 500)
    status, told = api.post("/tyre", {"marking": "roundish"})
    assert (status, told["error"]["where"]) == (422, "marking")


def test_a_helper_needs_no_more_cells_than_there_are(api, trike):
    body = {"document": trike, "helper": trike, "tap_cells": 6, "from_kmh": 10}
    assert api.post("/boost", body)[0] == 200
    status, told = api.post("/boost", {**body, "tap_cells": 99})
    assert (status, told["error"]["where"]) == (422, "tap_cells")


def test_comparing_over_http(api, trike):
    status, told = api.post("/compare", {"documents": [trike, trike]})
    assert (status, len(told["candidates"])) == (200, 2)
    status, told = api.post("/compare", {"documents": [trike]})
    assert (status, told["error"]["where"]) == (422, "documents")
    terms = {"same_vehicle": 1}
    assert api.post("/compare", {"documents": [trike, trike], "terms": terms})[0] == 422
