"""What is ticked off of a build's lists is kept with it, and moves with it."""

import io
import json
import uuid

import pytest

from builds.models import Build


def tick(api, build, of_list, done, of=3):
    sent = api.client.put(
        f"/api/builds/{build['id']}/ticks/{of_list}",
        json.dumps({"done": done, "of": of}),
        content_type="application/json",
    )
    return sent.status_code


@pytest.fixture
def build(api, trike):
    return api.begin(trike)


def ticks_of(api, build):
    return api.get(f"/builds/{build['id']}")[1]["ticks"]


def test_each_list_is_kept_by_itself_and_the_last_word_counts(api, build):
    assert ticks_of(api, build) == {}
    assert tick(api, build, "power", ["lifted"]) == 204
    assert tick(api, build, "teeth", ["15 to 60"], 5) == 204
    assert tick(api, build, "power", ["lifted", "pack"]) == 204
    assert ticks_of(api, build) == {
        "power": {"done": ["lifted", "pack"], "of": 3},
        "teeth": {"done": ["15 to 60"], "of": 5},
    }


def test_a_tick_is_no_change_of_the_build(api, build):
    before = Build.objects.get(pk=build["id"])
    tick(api, build, "power", ["lifted"])
    after = Build.objects.get(pk=build["id"])
    assert (after.head, after.changed_at) == (before.head, before.changed_at)


def test_what_is_no_list_or_no_build_is_refused(api, build):
    assert tick(api, build, "shopping", []) == 422
    assert tick(api, {"id": uuid.uuid4()}, "power", []) == 404
    assert tick(api, build, "power", ["x" * 201]) == 422
    assert ticks_of(api, build) == {}


def test_ticks_go_with_an_archive(api, build):
    tick(api, build, "power", ["lifted"])
    archive = b"".join(api.client.get("/api/archive").streaming_content)
    Build.objects.all().delete()
    sent = api.client.post(
        "/api/archive", io.BytesIO(archive).read(), content_type="application/zip"
    )
    assert sent.status_code == 200, sent.content
    assert ticks_of(api, build)["power"]["done"] == ["lifted"]
