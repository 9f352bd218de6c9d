"""Craft through the API: every question of a build is answered or refused, never a fault."""

import copy
import json
import uuid

import pytest

from tests.asked import sound_requests

WING = {
    "format": "young-torrent.build/1",
    "name": "Survey wing",
    "vehicle": {"kind": "aircraft", "mass_kg": 1.25, "wing_area_m2": 0.25, "span_m": 1.3},
    "propeller": {"diameter_mm": 203.2, "pitch_mm": 101.6},
    "gearing": [],
    "motor": {
        "kind": "permanent_magnet",
        "kv_rpm_per_v": 1400,
        "resistance_ohm": 0.06,
        "no_load_current_a": 1.2,
        "mass_kg": 0.09,
    },
    "controller": {"resistance_ohm": 0.005, "max_voltage_v": 17, "battery_current_limit_a": 30},
    "battery": {
        "chemistry": "lipo",
        "series": 3,
        "parallel": 1,
        "cell_capacity_ah": 2.2,
        "cell_resistance_mohm": 6,
        "cell_voltage_v": 3.9,
    },
    "moments": {"cruise_kmh": 50},
}
HULL = {**WING, "vehicle": {"kind": "hull", "mass_kg": 4.0, "drag_area_m2": 0.0006}}
CART = {
    **WING,
    "vehicle": {
        "kind": "ground",
        "mass_kg": 4.0,
        "rolling_resistance": 0.02,
        "drag_area_m2": 0.05,
    },
}
OF_A_BUILD = sorted(
    path
    for path, body in sound_requests().items()
    if isinstance(body.get("document"), dict)
    and str(body["document"].get("format", "")).startswith("young-torrent.build")
)


@pytest.mark.parametrize("path", OF_A_BUILD)
def test_every_question_about_a_craft_is_answered_or_refused_with_a_place(api, path):
    for craft in (WING, HULL, CART):
        body = {**copy.deepcopy(sound_requests()[path]), "document": craft}
        body.pop("operations", None)
        if "change_id" in body:
            body["change_id"] = str(uuid.uuid4())
        status, told = api.post(path, body)
        assert status in (200, 201, 422), (path, craft["vehicle"]["kind"], told)
        if status == 422:
            assert told["error"]["what"]


WORDS = ("wheel", "road", "tyre", "grade", "hill")


@pytest.mark.parametrize("craft", [WING, HULL])
def test_the_bench_of_a_craft_speaks_of_air(api, craft):
    status, told = api.post("/solve", {"document": craft})
    assert status == 200, told
    answer = told["answer"]
    assert [moment["title"] for moment in answer["moments"]] == [
        "Standing",
        "Hump" if craft is HULL else "Climb",
        "Cruise",
        "Top speed",
        "Propeller off",
    ]
    said = [one["words"] for one in answer["in_short"]]
    said += [f"{one['title']} {one['why']}" for one in answer["verdicts"]]
    said += [one["say"] for one in answer["not_judged"]]
    said += [lever["label"] for lever in answer["levers"]]
    for text in said:
        assert not any(word in text.lower() for word in WORDS), text
    assert answer["doubt"]["figures"]["thrust_to_weight"]["band"][0] > 0


def test_a_craft_is_kept_and_pressed(api):
    build = api.begin(WING)
    press = {"do": "press", "lever": "propeller.pitch_mm", "step": 1}
    status, told = api.post("/solve", {"document": build["document"], "operations": [press]})
    assert status == 200, json.dumps(told)[:300]
    assert told["document"]["propeller"]["pitch_mm"] == 127.0


def test_a_craft_is_stood_on_the_scale_and_learns_from_it(api):
    build = api.begin(WING)
    logbook = f"/builds/{build['id']}/logbook"
    seen = [
        {"kind": "static", "thrust_n": 10.2, "motor_rpm": 13300, "battery_current_a": 22.0},
        {"kind": "top_speed", "speed_kmh": 84.0},
    ]
    body = {"version": 1, "run": {"observations": seen}}
    sent = api.client.put(
        f"/api{logbook}/runs/{uuid.uuid4()}", json.dumps(body), content_type="application/json"
    )
    assert sent.status_code == 200, sent.content
    status, told = api.post(f"{logbook}/expected", body)
    assert status == 200
    assert {reading["field"] for reading in told["readings"]} >= {"thrust_n", "speed_kmh"}
    assert all(reading["before"][1] for reading in told["readings"])
    status, learned = api.get(f"{logbook}/learn")
    assert status == 200, learned
    moved = {one["path"] for one in learned["found"]["inputs"] if one["moved"]}
    assert "propeller.thrust_share" in moved
    accept = {"base": 1, "runs": learned["runs"], "change_id": str(uuid.uuid4())}
    status, fitted = api.post(f"{logbook}/accept", accept)
    assert status == 200, fitted
    assert fitted["document"]["propeller"]["static"]["thrust_n"] > 0
    # What is learned once is no change of the craft, and teaches nothing twice.
    status, again = api.get(f"{logbook}/learn")
    assert (status, again["runs"]) == (200, [])
    log = json.loads(api.client.get(f"/api{logbook}/document").content)
    assert log["runs"][0]["changes"] == {}
    status, day = api.get(f"{logbook}/day-list")
    assert status == 200
    assert "propeller" in {check["id"] for check in day["before"]}


def test_craft_are_compared_with_craft_alone(api, trike):
    other = {**WING, "name": "Another", "propeller": {"diameter_mm": 228.6, "pitch_mm": 114.3}}
    status, told = api.post("/compare", {"documents": [WING, other], "terms": {}})
    assert status == 200, told
    rows = {row["id"]: row for row in told["rows"]}
    assert rows["thrust_to_weight"]["values"][1] > rows["thrust_to_weight"]["values"][0]
    assert not {"climb", "launch"} & set(rows)
    for row in told["rows"]:
        assert not any(word in row["label"].lower() for word in WORDS), row["label"]
    status, told = api.post("/compare", {"documents": [WING, trike], "terms": {}})
    assert (status, told["error"]["where"]) == (422, "propeller")


def test_motors_of_the_shelf_are_held_against_a_craft(api):
    status, told = api.post("/shelf/motors/look", {"words": "", "build": WING})
    assert status == 200, told
    reasons = {row["unfit"] for row in told["rows"]}
    assert "It drives a wheel itself; a propeller needs a shaft." in reasons
    assert not any("needs gearing" in (reason or "") for reason in reasons)
