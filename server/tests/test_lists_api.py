"""Lists: a page at a time, found by words, figures worked out once, nothing hidden by another."""

import csv
import io
import json
from uuid import uuid4

import pytest

from accounts.personal import the_owner
from builds import cards
from builds.actions.change import save_version
from builds.actions.create import create_build
from builds.models import Build, Version


@pytest.fixture
def many(db, trike):
    """Two dozen builds, begun one after another."""
    return [
        create_build(the_owner(), {**trike, "name": f"{'Reed' if n % 3 else 'Sedge'} cart {n:02}"})
        for n in range(24)
    ]


def pages(api, **asked):
    """Return the names on each page, going from one to the next."""
    found, after = [], ""
    while True:
        query = "&".join(f"{key}={value}" for key, value in {**asked, "after": after}.items())
        status, told = api.get(f"/builds?{query}")
        assert status == 200, told
        found.append([build["name"] for build in told["builds"]])
        after = told["next"]
        if not after:
            return found, told["total"]


def test_pages_go_on_where_the_last_ended(api, many):
    found, total = pages(api, limit=7)
    newest_first = [build.name for build in reversed(many)]
    assert [len(page) for page in found] == [7, 7, 7, 3]
    assert [name for page in found for name in page] == newest_first
    assert total == 24


def test_a_build_that_is_begun_meanwhile_does_not_shift_the_pages(api, many, trike):
    _, first = api.get("/builds?limit=10")
    create_build(the_owner(), trike)
    _, second = api.get(f"/builds?limit=10&after={first['next']}")
    names = [build["name"] for build in first["builds"] + second["builds"]]
    assert names == [build.name for build in reversed(many)][:20]


def test_builds_are_found_by_words_and_ordered_by_name(api, many):
    found, total = pages(api, words="cart sEDGE", sort="name", limit=3)
    assert [name for page in found for name in page] == [
        f"Sedge cart {n:02}" for n in range(0, 24, 3)
    ]
    assert total == 8
    assert pages(api, words="100%") == ([[]], 0)


def test_examples_are_apart_until_they_are_changed(api, trike):
    api.begin({**trike, "name": "My own"})
    seed = create_build(the_owner(), {**trike, "name": "Punt"}, demo="punt")
    create_build(the_owner(), {**trike, "name": "Wherry"}, demo="wherry")

    def named(whose):
        return {card["name"] for card in api.get(f"/builds?whose={whose}")[1]["builds"]}

    assert named("own") == {"My own"}
    assert named("examples") == {"Punt", "Wherry"}
    save_version(the_owner(), seed.pk, 1, {**trike, "name": "Punt, mended"}, uuid4())
    assert named("own") == {"My own", "Punt, mended"}
    assert named("examples") == {"Wherry"}
    assert named("all") == {"My own", "Punt, mended", "Wherry"}


@pytest.mark.parametrize("after", ["x", "W10=", "WyJhIiwgImIiXQ==", "bnVsbA==", "%00"])
def test_a_page_that_is_none_is_refused(api, after):
    status, told = api.get(f"/builds?after={after}")
    assert (status, told["error"]["where"]) == (422, "after")


def test_figures_are_worked_out_once_and_again_when_the_build_changes(api, trike, monkeypatch):
    build = api.begin(trike)
    solved = []
    real = cards.glance
    monkeypatch.setattr(cards, "glance", lambda document: solved.append(1) or real(document))
    for _ in range(3):
        _, told = api.get("/builds")
        assert told["builds"][0]["figures"]["drive"].startswith("13S4P")
    assert len(solved) == 1
    changed = {**trike, "battery": {**trike["battery"], "series": 14}}
    before = Build.objects.get().changed_at
    assert api.save(build, 1, changed)[0] == 200
    _, told = api.get("/builds")
    assert told["builds"][0]["figures"]["drive"].startswith("14S4P")
    assert len(solved) == 2
    assert Build.objects.get().changed_at > before
    api.post(f"/builds/{build['id']}/undo", {"base": 2})
    assert api.get("/builds")[1]["builds"][0]["figures"]["drive"].startswith("13S4P")


def test_whoever_waits_waits_for_a_few_and_the_rest_follows(api, many):
    def waiting() -> int:
        _, told = api.get("/builds")
        return sum(build["figures"] is None for build in told["builds"])

    assert waiting() == 24 - cards.AT_ONCE
    cards.work_out(cards.out_of_date(limit=5))
    assert waiting() == 24 - cards.AT_ONCE - 5 - cards.AT_ONCE
    cards.work_out(cards.out_of_date(limit=50))
    assert (waiting(), cards.out_of_date(limit=50)) == (0, [])


def test_another_engine_works_them_out_anew(api, trike, monkeypatch):
    api.begin(trike)
    api.get("/builds")
    assert cards.out_of_date(limit=5) == []
    monkeypatch.setattr(cards, "fingerprint", lambda: "another")
    assert len(cards.out_of_date(limit=5)) == 1


class TestWithOneThatCanNoLongerBeRead:
    """A document that this program refuses is told as such, and hides no other."""

    @pytest.fixture(autouse=True)
    def builds(self, api, trike):
        self.sound = [api.begin({**trike, "name": name}) for name in ("First", "Third")]
        self.broken = api.begin({**trike, "name": "Second"})
        stored = {**trike, "name": "Second", "battery": {"series": "many"}}
        Version.objects.filter(build=self.broken["id"]).update(document=stored)

    def test_the_list_says_which_and_why(self, api):
        _, told = api.get("/builds")
        cards = {build["name"]: build for build in told["builds"]}
        assert set(cards) == {"First", "Second", "Third"}
        assert cards["Second"]["figures"] is None
        assert cards["Second"]["problem"]["where"].startswith("battery.")
        assert cards["First"]["problem"] is None
        assert cards["First"]["figures"]["motors"] == 1

    def test_it_is_opened_as_text(self, api):
        status, told = api.get(f"/builds/{self.broken['id']}/document")
        assert (status, told["battery"]) == (200, {"series": "many"})
        assert api.get(f"/builds/{self.broken['id']}")[0] == 422

    def test_the_table_has_a_row_for_each(self, api):
        response = api.client.get("/api/builds/table")
        rows = list(csv.DictReader(io.StringIO(b"".join(response.streaming_content).decode())))
        assert {row["name"] for row in rows} == {"First", "Second", "Third"}
        broken = next(row for row in rows if row["name"] == "Second")
        assert not any(value for key, value in broken.items() if key not in ("name", "format"))

    def test_one_that_is_compared_with_it_is_still_read(self, api, trike):
        build = self.sound[0]
        assert api.save(build, 1, {**trike, "name": "First again"})[0] == 200
        Version.objects.filter(build=build["id"], number=1).update(document={"name": "First"})
        status, told = api.get(f"/builds/{build['id']}")
        assert (status, told["pinned"]["number"]) == (200, 2)

    def test_it_can_be_gone_back_from(self, api, trike):
        build = self.sound[1]
        api.save(build, 1, {**trike, "name": "Third again"})
        Version.objects.filter(build=build["id"], number=2).update(document=json.loads("{}"))
        status, told = api.post(f"/builds/{build['id']}/undo", {"base": 2})
        assert (status, told["head"]) == (200, 1)


def test_a_table_has_one_row_for_a_build_however_often_it_was_changed(api, trike):
    build = api.begin(trike)
    for number, name in enumerate(("Second", "Third"), 1):
        api.save(build, number, {**trike, "name": name})
    api.post(f"/builds/{build['id']}/undo", {"base": 3})
    response = api.client.get("/api/builds/table")
    rows = list(csv.DictReader(io.StringIO(b"".join(response.streaming_content).decode())))
    assert [row["name"] for row in rows] == ["Second"]
