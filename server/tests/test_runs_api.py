"""Rides over HTTP: figures, picture and table, and odd courses told by their place."""

import csv
import io
import json
from pathlib import Path

import pytest

DEMO = Path(__file__).parents[1] / "builds/demo"

FORMAT = "young-torrent.run/1"
ROAD = {
    "kind": "route",
    "ride_kmh": 22,
    "points": [
        {"distance_m": 0, "elevation_m": 4},
        {"distance_m": 500, "elevation_m": 16, "stop_s": 5},
        {"distance_m": 900, "elevation_m": 4},
    ],
}


def body(document, course=ROAD, **more):
    return {"document": document, "ride": {"format": FORMAT, "course": course}, **more}


def test_a_ride_is_told_with_its_picture(api, trike):
    status, told = api.post("/ride", body(trike, draws=16))
    assert status == 200, told
    rows, figures = told["rows"], told["told"]
    assert figures["distance_m"] == pytest.approx(900, abs=0.1)
    assert rows["distance_m"][-1] == pytest.approx(900, abs=0.1)
    assert len(rows["time_s"]) <= 600
    assert {len(column) for column in rows.values()} == {len(rows["time_s"])}
    # The road's own height: twelve metres up and down again.
    assert max(told["height_m"]) == pytest.approx(12, rel=0.01)
    assert told["height_m"][-1] == pytest.approx(0, abs=0.1)
    low, middle, high = figures["bands"]["soc_end_pct"]
    assert low < middle < high


def test_its_table_has_every_tenth_of_a_second(api, trike):
    sent = api.client.post(
        "/api/ride/table", json.dumps(body(trike)), content_type="application/json"
    )
    rows = list(csv.DictReader(io.StringIO(sent.content.decode())))
    times = [float(row["time_s"]) for row in rows]
    assert times[1] == pytest.approx(0.1)
    assert float(rows[-1]["distance_m"]) == pytest.approx(900, abs=0.1)


@pytest.mark.parametrize(
    ("course", "where"),
    [
        ({"kind": "standing"}, "course.until_m"),
        ({**ROAD, "ride_kmh": -1}, "ride_kmh"),
        (
            {"kind": "route", "ride_kmh": 9, "points": [{"distance_m": 5}, {"distance_m": 1}]},
            "course.points.1.distance_m",
        ),
    ],
)
def test_odd_courses_are_told_by_their_place(api, trike, course, where):
    status, told = api.post("/ride", body(trike, course))
    assert status == 422
    assert told["error"]["where"].endswith(where)


def test_what_has_no_wheels_is_told(api, trike):
    hoist = {
        key: value for key, value in trike.items() if key not in ("wheel", "moments", "provenance")
    }
    hoist["vehicle"] = {"kind": "hoist", "mass_kg": 200, "drum_radius_m": 0.06}
    status, told = api.post("/ride", body(hoist))
    assert (status, told["error"]["where"]) == (422, "build.vehicle.kind")


WAY = {
    "kind": "route",
    "ride_kmh": 40,
    "points": [
        {"distance_m": 0, "elevation_m": 0},
        {"distance_m": 80, "elevation_m": 0},
        {"distance_m": 160, "elevation_m": 8},
        {"distance_m": 300, "elevation_m": 8},
    ],
}


@pytest.mark.parametrize("slug", ["tern-wing", "coot-airboat"])
def test_a_craft_is_ridden_with_its_wake_and_without_brakes(api, slug):
    document = json.loads((DEMO / f"{slug}.json").read_text(encoding="utf-8"))
    course = {**WAY, "ride_kmh": 45 if slug == "tern-wing" else 15}
    status, shown = api.post("/ride", {**body(document, course), "draws": 16})
    assert status == 200, shown
    told = shown["told"]
    assert told["finished"]
    assert told["distance_m"] == pytest.approx(300, rel=1e-3)
    ledger = dict(told["ledger_wh"])
    cells = ledger.pop("cells")
    assert sum(ledger.values()) == pytest.approx(cells, rel=1e-6)
    assert ledger["wake"] > 0 < ledger["blades"]
    assert (ledger["water"] > 0) == (slug == "coot-airboat")
    assert [event["kind"] for event in told["events"]] == []
    rows = {name: [value or 0 for value in shown["rows"][name]] for name in shown["rows"]}
    # What leaves the shaft pushes, or stirs the air: at every moment.
    ends = ("air_w", "rolling_w", "climbing_w", "speeding_up_w", "brakes_w")
    stirs = ("wake_w", "blades_w", "water_w")
    for place in range(0, len(rows["time_s"]), 40):
        parts = sum(rows[name][place] for name in (*ends, *stirs))
        assert parts == pytest.approx(rows["road_w"][place], rel=1e-4, abs=1e-3)
    words = json.dumps([shown["verdicts"], told["events"]]).lower()
    for word in ("wheel", "road", "tyre", "grade", "hill", "gear"):
        assert word not in words
    low, middle, high = told["bands"]["energy_wh"]
    assert low < middle < high
