"""Rides kept with the version they were ridden on, tracks in and out, and meters of a test day."""

import csv
import io
import json
import uuid
from pathlib import Path

import gpxpy
import pytest
from django.core.management import call_command

from builds.models import Build
from common.streams import MOST_WATCHING, WATCHING
from powertrain.documents.run import check_run
from powertrain.runs.answer import run_answer
from runs.live import faces_in_time
from runs.models import KeptRide, MeterDay

ROAD = {
    "kind": "route",
    "ride_kmh": 20,
    "points": [{"distance_m": 0}, {"distance_m": 400, "elevation_m": 8}],
}
DEMO = Path(__file__).parents[1] / "builds/demo"
RIDE = {"format": "young-torrent.run/1", "course": ROAD, "start": {"soc_pct": 40}}


@pytest.fixture
def build(api, trike):
    return api.begin(trike)


def put(api, path, body):
    sent = api.client.put(f"/api{path}", json.dumps(body), content_type="application/json")
    return sent.status_code, json.loads(sent.content)


def keep(api, build, own=None, **more):
    body = {"version": 1, "name": "To the dyke", "ride": RIDE, **more}
    return put(api, f"/builds/{build['id']}/rides/{own or uuid.uuid4()}", body)


def test_a_ride_is_kept_as_it_came_out_and_says_when_the_build_has_changed(api, build, trike):
    status, kept = keep(api, build, air_c=-5)
    assert status == 200, kept
    assert not kept["older"]
    assert kept["told"]["bands"]["soc_end_pct"][0] < kept["told"]["soc_end_pct"]
    heavier = {**trike, "vehicle": {**trike["vehicle"], "mass_kg": 320}}
    api.save(build, 1, heavier)
    _, [later] = api.get(f"/builds/{build['id']}/rides")
    assert later["older"]
    assert later["told"] == kept["told"]
    # As it was before, it is of this version again, though its number is another.
    api.post(f"/builds/{build['id']}/undo", {"base": 2})
    assert not api.get(f"/builds/{build['id']}/rides")[1][0]["older"]


def test_its_run_document_says_all_that_it_was_reckoned_from(api, build):
    _, kept = keep(api, build, air_c=-5)
    path = f"/builds/{build['id']}/rides/{kept['id']}/document"
    document = json.loads(api.client.get(f"/api{path}").content)
    assert document["build"]["conditions"]["ambient_c"] == -5
    alone = run_answer(check_run(document))
    assert alone.soc_end_pct == pytest.approx(kept["told"]["soc_end_pct"], rel=1e-9)
    assert alone.least.cell_voltage_v == pytest.approx(kept["told"]["least"]["cell_voltage_v"])


def test_a_pack_that_begins_half_empty_rests_lower_than_it_is_stated(api, build):
    """The trike's cells are stated at 4.10 V; at 40 % lithium-ion rests at 3.65 V."""
    _, kept = keep(api, build)
    assert kept["told"]["least"]["cell_voltage_v"] < 3.65


def test_what_is_taken_out_comes_back_under_its_id(api, build):
    own = uuid.uuid4()
    keep(api, build, own)
    path = f"/builds/{build['id']}/rides/{own}"
    assert api.delete(path) == 204
    assert api.get(f"/builds/{build['id']}/rides")[1] == []
    assert api.delete(path) == 404
    before = KeptRide.objects.get(pk=own).made_at
    assert keep(api, build, own)[0] == 200
    assert [one["id"] for one in api.get(f"/builds/{build['id']}/rides")[1]] == [str(own)]
    assert KeptRide.objects.get(pk=own).made_at == before


def test_a_ride_of_another_build_can_t_be_had_here(api, build, trike):
    own, other = uuid.uuid4(), api.begin(trike)
    keep(api, build, own)
    assert keep(api, other, own)[0] == 404
    assert api.delete(f"/builds/{other['id']}/rides/{own}") == 404
    assert keep(api, build, version=7)[0] == 404


@pytest.mark.parametrize(
    ("more", "where"),
    [
        ({"name": " "}, "name"),
        ({"air_c": 200}, "air_c"),
        ({"ride": {**RIDE, "course": {"kind": "standing"}}}, "course.until_m"),
        ({"track": [[0, 0, 0], [91, 0, 5]]}, "track.1.0"),
    ],
)
def test_odd_rides_are_refused_by_their_place(api, build, more, where):
    status, told = keep(api, build, **more)
    assert status == 422
    assert where in told["error"]["where"]
    assert KeptRide.objects.count() == 0


@pytest.mark.django_db
def test_the_way_home_is_just_not_enough_in_winter():
    call_command("load_demo")
    call_command("load_demo_rides")
    call_command("load_demo_rides")
    kept = KeptRide.objects.get(build__demo="causeway-trike")
    assert kept.told["ended_by"] == "cut_off"
    # The last hill ends after 7.25 km.
    assert 7000 < kept.told["distance_m"] < 7300
    KeptRide.objects.filter(pk=kept.pk).update(removed_at=kept.made_at)
    call_command("load_demo_rides")
    assert KeptRide.objects.filter(removed_at=None).count() == 0
    document = Build.objects.get(demo="causeway-trike").versions.get().document
    assert document["conditions"]["ambient_c"] == 20


# --- tracks ------------------------------------------------------------------------------------


def track(*places, head=""):
    points = "".join(
        f'<trkpt lat="{lat}" lon="{lon}"><ele>{up}</ele></trkpt>' for lat, lon, up in places
    )
    return f'{head}<gpx version="1.1"><trk><trkseg>{points}</trkseg></trk></gpx>'


def read_way(api, text):
    sent = api.client.post("/api/ride/way", text, content_type="text/plain")
    return sent.status_code, json.loads(sent.content)


def test_a_track_becomes_a_road_and_its_ride_a_track(api, trike):
    places = [(51 + 0.001 * step, 1.0, 5.0 + step) for step in range(11)]
    status, way = read_way(api, track(*places))
    assert status == 200, way
    # A hundredth of a degree of latitude is 1,112 m of a sphere's 6,371 km.
    assert way["length_m"] == pytest.approx(1111.95, abs=0.1)
    ride = {**RIDE, "course": {**ROAD, "points": way["points"]}}
    body = {"document": trike, "ride": ride, "track": way["track"]}
    sent = api.client.post("/api/ride/gpx", json.dumps(body), content_type="application/json")
    found = gpxpy.parse(sent.content.decode())
    points = found.tracks[0].segments[0].points
    assert points[-1].latitude == pytest.approx(51.01, abs=1e-6)
    assert points[0].elevation == pytest.approx(5, abs=1)
    # A minute on, it goes as fast as it is ridden, and is where that has taken it.
    assert points[60].speed == pytest.approx(20 / 3.6, rel=1e-3)
    assert (points[60].time - points[0].time).total_seconds() == 60


@pytest.mark.parametrize(
    ("text", "where", "what"),
    [
        (track((51, 1, 0), (51.1, 1, 0), head='<!DOCTYPE gpx [<!ENTITY a "b">]>'), "gpx", "entit"),
        ("<gpx", "gpx", "well-formed"),
        (track((51, 1, 0)), "gpx", "two places"),
        (track((51, 1, 0), ("x", 1, 0)), "gpx, place 2", "lat"),
        ("<html/>", "gpx", "outermost"),
    ],
)
def test_what_is_no_track_is_told_with_its_place(api, text, where, what):
    status, told = read_way(api, text)
    assert (status, told["error"]["where"]) == (422, where)
    assert what in told["error"]["what"]


# --- meters ------------------------------------------------------------------------------------


def begin_day(api, build, **more):
    body = {"version": 1, "ride": RIDE, "seed": 4, **more}
    return api.post(f"/builds/{build['id']}/meter-days", body)


def test_instruments_are_watched_in_time_and_read_alike_for_the_same_seed(api, build, monkeypatch):
    status, day = begin_day(api, build)
    assert status == 200, day
    assert {face["instrument"] for face in day["faces"]} >= {"satellite", "clamp", "infrared"}
    slept = []
    monkeypatch.setattr("runs.live.time.sleep", slept.append)
    response = api.client.get(f"/api/builds/{build['id']}/meter-days/{day['id']}/live?pace=50")
    assert response["Content-Type"] == "text/event-stream"
    events = b"".join(response.streaming_content).decode().strip().split("\n\n")
    assert events[-1].startswith("event: end")
    frames = [json.loads(one.removeprefix("data: ")) for one in events[:-1]]
    assert frames == MeterDay.objects.get(pk=day["id"]).frames
    _, again = begin_day(api, build)
    assert MeterDay.objects.get(pk=again["id"]).frames == frames
    _, other = begin_day(api, build, seed=5)
    assert MeterDay.objects.get(pk=other["id"]).frames != frames


def test_a_logger_that_was_not_cleared_has_nothing_and_says_so_when_read(api, build):
    for cleared in (True, False):
        _, day = begin_day(api, build, cleared=cleared)
        path = f"/api/builds/{build['id']}/meter-days/{day['id']}/logger"
        rows = list(csv.DictReader(io.StringIO(api.client.get(path).content.decode())))
        assert (len(rows) > 10) == cleared
        assert len(rows) == day["logger_rows"]


def test_faces_wait_for_their_time_and_free_their_place():
    frames = [{"t_s": at, "shows": {}} for at in (0.0, 0.2, 0.4)]
    slept: list[float] = []
    sent = list(faces_in_time(frames, 2.0, clock=lambda: 10.0, sleep=slept.append))
    assert len(sent) == 4
    assert slept == pytest.approx([0.1, 0.2])
    assert WATCHING._value == MOST_WATCHING


def test_days_of_others_and_of_nobody_are_not_there(api, build, trike):
    _, day = begin_day(api, build)
    other = api.begin(trike)
    assert api.get(f"/builds/{other['id']}/meter-days/{day['id']}/logger")[0] == 404
    assert begin_day(api, build, seed=-1)[0] == 422


def test_a_crafts_ride_is_kept_and_given_no_test_day(api):
    boat = json.loads((DEMO / "coot-airboat.json").read_text(encoding="utf-8"))
    build = api.begin(boat)
    course = {**ROAD, "ride_kmh": 15, "points": [{"distance_m": 0}, {"distance_m": 100}]}
    ride = {**RIDE, "course": course}
    status, kept = keep(api, build, ride=ride)
    assert status == 200, kept
    assert kept["told"]["finished"]
    path = f"/builds/{build['id']}/rides/{kept['id']}/document"
    document = json.loads(api.client.get(f"/api{path}").content)
    assert document["build"]["vehicle"]["kind"] == "hull"
    day = {"version": 1, "ride": ride, "seed": 3}
    status, told = api.post(f"/builds/{build['id']}/meter-days", day)
    assert (status, told["error"]["where"]) == (422, "build.vehicle.kind")
