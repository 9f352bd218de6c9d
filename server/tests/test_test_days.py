"""What belongs to a test day beside its runs: the list before it, photos, a logger that sends."""

import io
import json
import uuid
from urllib.parse import quote

import pytest
from PIL import Image

from common.streams import MOST_WATCHING, WATCHING
from logbook.lines import watched
from logbook.models import LoggerLine, MeasuredRun, RunPhoto
from logbook.photos import MOST_PHOTOS

TOP = {"kind": "top_speed", "speed_kmh": 32.0}


@pytest.fixture
def build(api, trike):
    return api.begin(trike)


@pytest.fixture
def run(api, build):
    own = uuid.uuid4()
    sent = api.client.put(
        f"/api/builds/{build['id']}/logbook/runs/{own}",
        json.dumps({"version": 1, "run": {"observations": [TOP]}}),
        content_type="application/json",
    )
    assert sent.status_code == 200
    return f"/api/builds/{build['id']}/logbook/runs/{own}/photos/"


def picture(form="JPEG", size=(2400, 1200), color=(200, 40, 40), **more):
    into = io.BytesIO()
    Image.new("RGB", size, color).save(into, form, **more)
    return into.getvalue()


def with_place():
    """A picture as a phone makes it: held upright, with where it was taken and by what."""
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by a quarter
    exif[0x010F] = "Reedmere Works"
    exif.get_ifd(0x8825).update({1: "N", 2: (51.0, 30.0, 0.0)})
    return picture(exif=exif)


def send(api, path, body):
    sent = api.client.put(path, body, content_type="application/octet-stream")
    return sent.status_code, json.loads(sent.content)


def test_a_photo_is_made_small_turned_upright_and_knows_no_place(api, run):
    own = uuid.uuid4()
    taken = with_place()
    assert b"Reedmere" in taken
    assert send(api, f"{run}{own}", taken)[0] == 200
    assert send(api, f"{run}{own}", taken)[0] == 200
    assert RunPhoto.objects.count() == 1
    answer = api.client.get(f"{run}{own}")
    assert answer["Content-Type"] == "image/jpeg"
    assert b"Reedmere" not in answer.content
    with Image.open(io.BytesIO(answer.content)) as seen:
        # Longest side 1,600, and a quarter turned: what was wide is high.
        assert seen.size == (800, 1600)
        assert not seen.getexif()
        assert seen.getpixel((400, 800))[0] > 150


def test_a_photo_that_is_taken_out_comes_back_without_being_sent_anew(api, build, run):
    own = uuid.uuid4()
    send(api, f"{run}{own}", picture("PNG", size=(30, 20)))
    _, cards = api.get(f"/builds/{build['id']}/logbook")
    assert cards[0]["photos"] == [str(own)]
    assert api.client.delete(f"{run}{own}").status_code == 204
    assert api.client.get(f"{run}{own}").status_code == 404
    assert api.get(f"/builds/{build['id']}/logbook")[1][0]["photos"] == []
    assert send(api, f"{run}{own}", b"")[0] == 200
    assert api.client.get(f"{run}{own}").status_code == 200


@pytest.mark.parametrize(
    "body",
    [
        b"no picture",
        picture()[:900],
        b"GIF89a" + bytes(40),
        b'<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>',
    ],
)
def test_what_is_no_photo_is_refused_and_not_kept(api, run, body):
    status, told = send(api, f"{run}{uuid.uuid4()}", body)
    assert (status, told["error"]["where"]) == (422, "photo")
    assert RunPhoto.objects.count() == 0


def test_a_picture_of_too_many_points_is_not_opened(api, run):
    # A PNG header says 60,000 by 60,000; its few bytes never get unpacked.
    small = bytearray(picture("PNG", size=(8, 8)))
    small[16:24] = (60_000).to_bytes(4, "big") * 2
    status, told = send(api, f"{run}{uuid.uuid4()}", bytes(small))
    assert (status, told["error"]["where"]) == (422, "photo")


def test_a_run_has_only_so_many_photos_and_none_of_other_runs(api, build, run):
    first = uuid.uuid4()
    send(api, f"{run}{first}", picture(size=(9, 9)))
    for _ in range(MOST_PHOTOS - 1):
        assert send(api, f"{run}{uuid.uuid4()}", picture(size=(9, 9)))[0] == 200
    assert send(api, f"{run}{uuid.uuid4()}", picture(size=(9, 9)))[0] == 422
    elsewhere = f"/api/builds/{build['id']}/logbook/runs/{uuid.uuid4()}/photos/{first}"
    assert send(api, elsewhere, picture(size=(9, 9)))[0] == 404
    assert api.client.get(elsewhere).status_code == 404


def test_photos_come_along_in_an_archive_once(api, build, run):
    own = uuid.uuid4()
    send(api, f"{run}{own}", picture(size=(40, 30)))
    kept = bytes(RunPhoto.objects.get(pk=own).jpeg)
    archive = b"".join(api.client.get("/api/archive").streaming_content)
    RunPhoto.objects.all().delete()
    for _ in range(2):
        told = api.client.post("/api/archive", archive, content_type="application/zip")
        assert told.status_code == 200, told.content
    assert bytes(RunPhoto.objects.get().jpeg) == kept
    MeasuredRun.objects.all().delete()
    api.client.post("/api/archive", archive, content_type="application/zip")
    assert bytes(RunPhoto.objects.get().jpeg) == kept


# --- a logger that sends -----------------------------------------------------------------------


def opened(api, build):
    status, line = api.post(f"/builds/{build['id']}/logbook/line", {})
    assert status == 200
    return line


def post(api, line, text, token=None, piece=None):
    path = line["path"] + ("" if piece is None else f"?piece={piece}")
    sent = api.client.post(
        path,
        text.encode(),
        content_type="text/plain",
        headers={"Authorization": f"Bearer {token or line['token']}"},
    )
    return sent.status_code, json.loads(sent.content)


def test_pieces_of_a_table_are_kept_once_and_read_as_one(api, build):
    line = opened(api, build)
    assert line["token"] not in str(LoggerLine.objects.values())
    assert post(api, line, "time_s,speed,battery current", piece=1) == (200, {"piece": 1})
    assert post(api, line, "0,0,0\n1,5,9\n", piece=2)[0] == 200
    assert post(api, line, "0,0,0\n1,5,9\n", piece=2)[0] == 200
    assert post(api, line, "2,10,8.5\n") == (200, {"piece": 3})
    table = api.client.get(f"/api/builds/{build['id']}/logbook/line/table").content.decode()
    assert table == "time_s,speed,battery current\n0,0,0\n1,5,9\n2,10,8.5\n"
    events = watched(LoggerLine.objects.get(), clock=lambda: 0.0, sleep=lambda _: None)
    shown = json.loads(next(events).decode().removeprefix("data: "))
    assert shown == {"pieces": 3, "shows": {"speed_kmh": 10.0, "battery_current_a": 8.5}}
    events.close()
    assert WATCHING._value == MOST_WATCHING


def test_a_line_opens_to_its_own_token_alone_and_to_nothing_else(api, build, settings):
    line = opened(api, build)
    assert post(api, line, "a,b\n", token="guessed")[0] == 404
    settings.KEY = "the key of the house"
    assert post(api, line, "time_s,speed\n")[0] == 200
    bearer = {"Authorization": f"Bearer {line['token']}"}
    assert api.client.get(f"/api/builds/{build['id']}", headers=bearer).status_code == 401


def test_another_line_shuts_the_first_and_a_shut_one_takes_nothing(api, build):
    first = opened(api, build)
    post(api, first, "time_s,speed\n0,1\n")
    second = opened(api, build)
    assert post(api, first, "1,2\n")[0] == 404
    assert post(api, second, "time_s,speed\n0,4\n")[0] == 200
    assert api.delete(f"/builds/{build['id']}/logbook/line") == 204
    assert post(api, second, "1,2\n")[0] == 404
    status, state = api.get(f"/builds/{build['id']}/logbook/line")
    assert (status, state["open"], state["pieces"]) == (200, False, 1)
    told = b"".join(watched(LoggerLine.objects.first(), sleep=lambda _: None)).decode()
    assert told.endswith("event: end\ndata: {}\n\n")


@pytest.mark.parametrize(
    ("text", "where"), [("", "body"), (" \n", "body"), ("1,\0\n", "body"), ("x" * 300_000, "body")]
)
def test_odd_pieces_are_refused_by_name(api, build, text, where):
    status, told = post(api, opened(api, build), text)
    assert (status, told["error"]["where"]) == (422, where)


def test_what_a_line_sends_and_nobody_understands_is_said(api, build):
    line = opened(api, build)
    post(api, line, "foo,bar\n1,2\n3,4\n")
    events = watched(LoggerLine.objects.get(), clock=lambda: 0.0, sleep=lambda _: None)
    shown = json.loads(next(events).decode().removeprefix("data: "))
    assert "known" in shown["trouble"]
    events.close()


def test_a_build_without_a_line_says_so(api, build):
    assert api.get(f"/builds/{build['id']}/logbook/line")[0] == 404


# --- before a day, and two files of one ride ---------------------------------------------------


def test_the_list_before_a_day_fits_the_machine_and_its_ticks_stay(api, build):
    status, told = api.get(f"/builds/{build['id']}/logbook/day-list")
    assert status == 200
    ids = [check["id"] for check in told["before"]]
    assert {"chain", "helmet", "logger"} <= set(ids)
    sent = api.client.put(
        f"/api/builds/{build['id']}/ticks/day",
        json.dumps({"done": ["chain"], "of": len(ids)}),
        content_type="application/json",
    )
    assert sent.status_code in (200, 204), sent.content
    assert api.get(f"/builds/{build['id']}")[1]["ticks"]["day"]["done"] == ["chain"]


def two(first, second):
    body = first.encode() + second.encode()
    return f"/api/log-tables?first_bytes={len(first.encode())}", body


def test_two_files_of_one_ride_are_read_as_one(api):
    speed = [0, 0, 3, 8, 12, 15, 16, 16, 16, 16, 16, 16, 15, 12, 8, 4, 1, 0, 0, 0]
    seconds = [speed[at // 6] for at in range(120)]
    first = "time_s,speed\n" + "\n".join(f"{at},{v}" for at, v in enumerate(seconds))
    late = list(enumerate(seconds))[15:]
    second = "time_s,rpm,battery current\n" + "\n".join(
        f"{at - 15},{v * 200},{v / 2}" for at, v in late
    )
    path, body = two(first, second)
    sent = api.client.post(path, body, content_type="text/plain")
    told = json.loads(sent.content)
    assert sent.status_code == 200, told
    assert any("begins 15.0 s later" in note for note in told["notes"])
    held = [one for one in told["proposed"] if one["observation"]["kind"] == "steady"]
    assert held[0]["observation"]["battery_current_a"] == pytest.approx(8)
    path = f"/api/log-tables?first_bytes={len(body) + 4}&column={quote('rpm=motor_rpm')}"
    sent = api.client.post(path, body, content_type="text/plain")
    assert json.loads(sent.content)["error"]["where"] == "first_bytes"


# --- what was otherwise on the day -------------------------------------------------------------


def test_a_change_that_no_version_has_is_told_with_the_run(api, build, trike):
    put = f"/api/builds/{build['id']}/logbook/runs/"
    for changes in ({}, {"vehicle.rolling_resistance": 0.03}):
        body = {"version": 1, "run": {"observations": [TOP], "changes": changes}}
        sent = api.client.put(
            f"{put}{uuid.uuid4()}", json.dumps(body), content_type="application/json"
        )
        assert sent.status_code == 200, sent.content
    log = json.loads(api.client.get(f"/api/builds/{build['id']}/logbook/document").content)
    assert [run["changes"] for run in log["runs"]] == [{}, {"vehicle.rolling_resistance": 0.03}]
    learned = api.get(f"/builds/{build['id']}/logbook/learn")[1]
    # More rolling resistance is slower; the speed was the same: something else made up for it.
    gap = learned["found"]["explained"][0]
    assert gap["by_changes"]["vehicle.rolling_resistance"] < -0.5
    body["run"]["changes"] = {"vehicle.wings": 2}
    sent = api.client.put(f"{put}{uuid.uuid4()}", json.dumps(body), content_type="application/json")
    assert sent.status_code == 422
    assert "wings" in json.loads(sent.content)["error"]["where"]
