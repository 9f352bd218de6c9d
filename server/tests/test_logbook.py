"""The logbook over HTTP: runs kept once, predicted, learned from, accepted, undone."""

import csv
import io
import json
import uuid

import numpy as np
import pytest
from django.core.management import call_command

from builds.models import Build
from logbook.actions import learned_from, open_runs
from logbook.models import MeasuredRun
from powertrain.documents.run import check_run
from powertrain.instruments.hidden import day_of

SHORT = {"kind": "stops", "times": 1, "to_kmh": 12, "hold_s": 10}


@pytest.fixture
def build(api, trike):
    return api.begin(trike)


def put(api, path, body):
    sent = api.client.put(f"/api{path}", json.dumps(body), content_type="application/json")
    return sent.status_code, json.loads(sent.content)


def keep(api, build, *observations, own=None, version=1, **more):
    body = {"version": version, "run": {"observations": list(observations), **more}}
    return put(api, f"/builds/{build['id']}/logbook/runs/{own or uuid.uuid4()}", body)


def readings(document, seed):
    run = check_run({"format": "young-torrent.run/1", "build": document, "course": SHORT})
    day = day_of(run, seed)
    return [one for one in day.log["runs"][0]["observations"] if one["kind"] != "trip"], day.truth


TOP = {"kind": "top_speed", "speed_kmh": 32.0}


def test_a_run_sent_twice_is_there_once_and_may_be_written_anew(api, build):
    own = uuid.uuid4()
    assert keep(api, build, TOP, own=own, note="A windless evening.")[0] == 200
    assert keep(api, build, TOP, own=own, note="A windless evening.")[0] == 200
    status, told = keep(api, build, {**TOP, "speed_kmh": 33.0}, own=own)
    assert (status, told["run"]["observations"][0]["speed_kmh"]) == (200, 33.0)
    _, runs = api.get(f"/builds/{build['id']}/logbook")
    assert [run["id"] for run in runs] == [str(own)]
    assert not runs[0]["learned"]


def test_what_is_taken_out_comes_back(api, build):
    own = uuid.uuid4()
    keep(api, build, TOP, own=own)
    path = f"/builds/{build['id']}/logbook/runs/{own}"
    assert api.delete(path) == 204
    assert api.delete(path) == 404
    assert api.get(f"/builds/{build['id']}/logbook")[1] == []
    keep(api, build, TOP, own=own)
    assert len(api.get(f"/builds/{build['id']}/logbook")[1]) == 1


def test_a_reading_stands_beside_what_was_predicted_of_it(api, build):
    body = {"version": 1, "run": {"observations": [TOP]}}
    status, told = api.post(f"/builds/{build['id']}/logbook/expected", body)
    assert status == 200, told
    [reading] = told["readings"]
    low, middle, high = reading["before"]
    assert low < middle < high
    # A sixth below what the trike should do is more than one in forty.
    assert reading["surprise"] > 2


def test_runs_teach_once_and_again_when_that_is_undone(api, build, trike):
    seen, truth = readings(trike, 4)
    own = uuid.uuid4()
    assert keep(api, build, *seen, own=own)[0] == 200
    status, learned = api.get(f"/builds/{build['id']}/logbook/learn")
    assert status == 200, learned
    assert learned["runs"] == [str(own)]
    kv = next(i for i in learned["found"]["inputs"] if i["path"] == "motor.kv_rpm_per_v")
    assert kv["moved"]
    assert abs(kv["after"][1] / truth["motor.kv_rpm_per_v"] - 1) < 0.02
    body = {"base": 1, "runs": [str(own)], "change_id": str(uuid.uuid4())}
    path = f"/builds/{build['id']}/logbook/accept"
    status, fitted = api.post(path, body)
    assert status == 200, fitted
    assert fitted["document"]["provenance"]["motor.kv_rpm_per_v"]["origin"] == "fitted"
    assert fitted["document"]["motor"]["kv_rpm_per_v"] == pytest.approx(kv["after"][1])
    # The same request again is the same answer; the run counts once.
    assert api.post(path, body)[1]["head"] == fitted["head"] == 2
    assert api.get(f"/builds/{build['id']}/logbook")[1][0]["learned"]
    assert api.get(f"/builds/{build['id']}/logbook/learn")[1]["runs"] == []
    twice = {**body, "base": 2, "change_id": str(uuid.uuid4())}
    status, told = api.post(path, twice)
    assert (status, told["error"]["where"]) == (422, "runs.0")
    api.post(f"/builds/{build['id']}/undo", {"base": 2})
    assert not api.get(f"/builds/{build['id']}/logbook")[1][0]["learned"]
    assert api.get(f"/builds/{build['id']}/logbook/learn")[1]["runs"] == [str(own)]


def test_versions_say_what_was_changed_between_runs(api, build, trike):
    keep(api, build, TOP)
    stages = [{**trike["gearing"][0], "driver_teeth": 18}, trike["gearing"][1]]
    api.save(build, 1, {**trike, "gearing": stages})
    keep(api, build, {**TOP, "speed_kmh": 34.0}, version=2)
    _, runs = api.get(f"/builds/{build['id']}/logbook")
    assert [change["path"] for change in runs[1]["changes"]] == ["gearing.0.driver_teeth"]
    sent = api.client.get(f"/api/builds/{build['id']}/logbook/document")
    log = json.loads(sent.content)
    # Told from the version that stands: the first run had two teeth fewer.
    assert log["runs"][0]["changes"] == {"gearing.0.driver_teeth": 16}
    assert log["runs"][1]["changes"] == {}
    learned = api.get(f"/builds/{build['id']}/logbook/learn")[1]
    assert learned["found"]["explained"][0]["by_changes"]["gearing.0.driver_teeth"] > 2
    assert learned["labels"]["gearing.0.driver_teeth"].startswith("Stage 1")


def test_what_is_only_known_better_was_not_changed(api, build, trike):
    keep(api, build, TOP)
    vehicle = {**trike["vehicle"], "drag_area_m2": 0.9}
    api.save(build, 1, {**trike, "vehicle": vehicle, "name": "Trike, looked at"})
    log = json.loads(api.client.get(f"/api/builds/{build['id']}/logbook/document").content)
    assert log["runs"][0]["changes"] == {}


def test_the_table_has_every_reading(api, build):
    keep(api, build, TOP, {"kind": "free", "motor_rpm": 3200.0}, date="2026-03-01")
    sent = api.client.get(f"/api/builds/{build['id']}/logbook/table")
    rows = list(csv.DictReader(io.StringIO(sent.content.decode())))
    assert [(row["what"], float(row["measured"])) for row in rows] == [
        ("speed_kmh", 32.0),
        ("motor_rpm", 3200.0),
    ]
    # By the usual doubt of a satellite's speed and of a tachometer.
    within = [float(row["within_four_times_in_five"]) for row in rows]
    assert np.allclose(within, [0.4, 16.0])


@pytest.mark.parametrize(
    ("run", "where"),
    [
        ({"observations": []}, "run.observations"),
        ({"observations": [{"kind": "free", "motor_rpm": -1}]}, "motor_rpm"),
        ({"observations": [{"kind": "flight"}]}, "run.observations"),
        ({"observations": [TOP], "date": "yesterday"}, "run.date"),
        ({"observations": [TOP], "start": {"soc_pct": 400}}, "soc_pct"),
    ],
)
def test_odd_runs_are_refused_and_nothing_is_kept(api, build, run, where):
    body = {"version": 1, "run": run}
    status, told = put(api, f"/builds/{build['id']}/logbook/runs/{uuid.uuid4()}", body)
    assert status == 422
    assert where in told["error"]["where"]
    assert MeasuredRun.objects.count() == 0


def test_runs_of_others_are_not_there(api, build, trike):
    own, other = uuid.uuid4(), api.begin(trike)
    keep(api, build, TOP, own=own)
    assert keep(api, other, TOP, own=own)[0] == 404
    assert keep(api, build, TOP, version=9)[0] == 404
    body = {"base": 1, "runs": [str(own)], "change_id": str(uuid.uuid4())}
    assert api.post(f"/builds/{other['id']}/logbook/accept", body)[0] == 404


def test_a_logger_s_table_proposes_what_can_be_learned(api):
    rows = "\n".join(f"{at / 2};{20 + 0.1 * (at % 2)};6,5".replace(".", ",") for at in range(80))
    text = f"Zeit;Geschwindigkeit;Batteriestrom\n{rows}"
    sent = api.client.post("/api/log-table", text.encode(), content_type="text/plain")
    told = json.loads(sent.content)
    assert sent.status_code == 200, told
    assert told["said"] == {
        "Zeit": "time_s",
        "Geschwindigkeit": "speed_kmh",
        "Batteriestrom": "battery_current_a",
    }
    held, fastest = told["proposed"]
    assert held["observation"]["battery_current_a"] == pytest.approx(6.5)
    # No throttle tells whether it was flat out.
    assert fastest["observation"]["kind"] == "top_speed"
    assert "if it was flat out" in fastest["say"]
    sent = api.client.post("/api/log-table", b"words\n", content_type="text/plain")
    assert (sent.status_code, json.loads(sent.content)["error"]["where"]) == (422, "line 1")


@pytest.mark.django_db
def test_the_demo_logbook_teaches_the_trike_its_true_drag(api):
    """Its readings were made of a vehicle with 0.97 m2 and a rolling resistance of 0.0098."""
    for _ in range(2):
        call_command("load_demo")
        call_command("load_demo_log")
    build = Build.objects.get(demo="causeway-trike")
    assert MeasuredRun.objects.filter(build=build).count() == 3
    found = learned_from(build, open_runs(build))
    told = {one.path: one for one in found.inputs}
    for path, true in (("vehicle.drag_area_m2", 0.97), ("vehicle.rolling_resistance", 0.0098)):
        assert told[path].after[0] < true < told[path].after[2]
        assert told[path].moved
    assert found.contradictions == []
    MeasuredRun.objects.filter(build=build).update(removed_at=build.made_at)
    call_command("load_demo_log")
    assert not MeasuredRun.objects.filter(build=build, removed_at=None).exists()


def test_what_a_column_holds_may_be_said(api):
    rows = "\n".join(f"{at},20,{6.5 + 0.01 * (at % 2)}" for at in range(40))
    text = f"time,foo,battery current\n{rows}".encode()
    sent = api.client.post("/api/log-table", text, content_type="text/plain")
    assert json.loads(sent.content)["said"]["foo"] is None
    path = "/api/log-table?column=foo%3Dspeed_kmh"
    told = json.loads(api.client.post(path, text, content_type="text/plain").content)
    assert told["said"]["foo"] == "speed_kmh"
    assert told["proposed"][0]["observation"]["speed_kmh"] == 20
