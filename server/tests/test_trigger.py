"""A drive by hand over HTTP: begun, held, streamed in time, ended with its page."""

import itertools
import json
import uuid

import pytest

from powertrain.documents.reading import check_build
from trigger import driving
from trigger.driving import DRIVES, Drive


@pytest.fixture
def begun(api, trike):
    status, told = api.post("/trigger", {"document": trike})
    assert status == 200, told
    yield told["id"]
    DRIVES.end(uuid.UUID(told["id"]))


def hold(api, key, **pull):
    sent = api.client.put(f"/api/trigger/{key}", json.dumps(pull), content_type="application/json")
    return sent.status_code


def test_frames_follow_the_trigger_and_end_with_the_stream(api, begun, monkeypatch):
    monkeypatch.setattr(driving.time, "sleep", lambda seconds: None)
    assert hold(api, begun, trigger=1.0) == 204
    response = api.client.get(f"/api/trigger/{begun}/frames")
    assert response["Content-Type"] == "text/event-stream"
    events = iter(response.streaming_content)
    frames = [json.loads(next(events).removeprefix(b"data: ")) for _ in range(3)]
    assert [frame["trigger_pct"] for frame in frames] == [100, 100, 100]
    speeds = [frame["speed_kmh"] for frame in frames]
    assert speeds == sorted(speeds)
    assert speeds[-1] > 0
    response.close()
    assert hold(api, begun, trigger=0.0) == 404


def test_late_frames_are_reckoned_but_not_sent(trike):
    drive = Drive(driving.TriggerDrive(check_build(trike)), 0.0, trigger=0.2)
    # The clock stands still but for one look, when a second has passed.
    clock = itertools.chain([0.0, 0.0, 0.0], itertools.repeat(1.0))
    frames = drive.frames(clock=lambda: next(clock), sleep=lambda seconds: None)
    at = [next(frames).t_s for _ in range(3)]
    assert at == pytest.approx([0.04, 0.08, 1.0])


def test_what_can_not_be_driven_is_told(api, trike, begun):
    assert hold(api, begun, trigger=1.5) == 422
    assert hold(api, uuid.uuid4(), trigger=0.5) == 404
    assert api.get(f"/trigger/{uuid.uuid4()}/frames")[0] == 404
    hoist = {
        key: value for key, value in trike.items() if key not in ("wheel", "moments", "provenance")
    }
    hoist["vehicle"] = {"kind": "hoist", "mass_kg": 200, "drum_radius_m": 0.06}
    status, told = api.post("/trigger", {"document": hoist})
    assert (status, told["error"]["where"]) == (422, "vehicle.kind")


def test_no_more_begin_than_there_is_room_for(api, trike, monkeypatch, begun):
    monkeypatch.setattr(driving, "MOST_DRIVES", 1)
    status, told = api.post("/trigger", {"document": trike})
    assert (status, told["error"]["where"]) == (503, "trigger")
    # One that nobody looks at makes room after a while.
    monkeypatch.setattr(driving, "UNSEEN_S", -1.0)
    status, told = api.post("/trigger", {"document": trike})
    assert status == 200
    DRIVES.end(uuid.UUID(told["id"]))


def test_a_pull_is_written_down(api, trike):
    status, told = api.post("/trigger/traced", {"document": trike, "trigger": 0.5})
    assert status == 200
    assert max(frame["speed_kmh"] for frame in told["frames"]) > 5
