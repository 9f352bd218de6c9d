"""What is heavy goes to the pool and comes back as if it had been answered here."""

import json
from pathlib import Path

import pytest

from serving import hand
from serving.gate import Busy, Gone
from serving.pool import ProcessExpired, TookTooLong
from tests.asked import sound_requests


class InPlace:
    """A pool that answers in this very process, as a hand would."""

    def __init__(self) -> None:
        self.asked: list[tuple[str, bytes | Path, bool]] = []
        self.problem: Exception | None = None

    def answer(self, environ, body, weight, client, gone):
        assert all(isinstance(value, str) for value in environ.values())
        assert not gone()
        self.asked.append((environ["PATH_INFO"], body, weight.long))
        if self.problem is not None:
            raise self.problem
        return hand.answer(environ, body)


@pytest.fixture
def pool():
    return InPlace()


@pytest.fixture
def ask(api, pool, monkeypatch):
    # The hand's own requests must not close the test's connection.
    monkeypatch.setattr("django.db.connection.close_if_unusable_or_obsolete", lambda: None)
    brought = {"young_torrent.pool": pool, "waitress.client_disconnected": lambda: False}

    def ask(path: str, body: bytes | str, kind: str = "application/json"):
        return api.client.post(f"/api{path}", body, content_type=kind, **brought)

    return ask


def test_an_answer_from_the_pool_is_the_same(api, ask, pool, trike):
    for path in ("/solve", "/windings", "/shelf/motors/look"):
        body = json.dumps(sound_requests()[path])
        here, there = api.post(path, body), ask(path, body)
        assert (there.status_code, json.loads(there.content)) == here
        assert there.headers["Content-Type"].startswith("application/json")
        assert there.headers["Cache-Control"] == "no-store"
    assert [long for *_, long in pool.asked] == [False, True, True]


def test_refusals_come_back_as_well(ask):
    response = ask("/solve", "{")
    assert (response.status_code, json.loads(response.content)["error"]["where"]) == (422, "")


@pytest.mark.parametrize("odd", ["%F0%9F%90%B8", "%ff", "%25", "a b", "%C3%A4"])
def test_any_address_reaches_the_pool_whole(api, ask, pool, odd):
    path = f"/builds/{odd}/meets"
    response = ask(path, "{}")
    assert (response.status_code, json.loads(response.content)) == api.post(path, "{}")
    assert len(pool.asked) == 1


def test_what_is_light_is_answered_here(ask, pool, trike):
    assert ask("/builds", json.dumps({"document": trike})).status_code == 422
    assert pool.asked == []


def test_a_long_body_goes_in_a_file_that_is_gone_afterwards(ask, pool):
    lines = "id,name,chemistry,capacity_ah,resistance_mohm\n" + "".join(
        f"c{n},{'Reed ' * 20},li_ion,3,26\n" for n in range(40_000)
    )
    response = ask("/shelf/bring-in/cells", lines, "text/csv")
    assert (response.status_code, json.loads(response.content)["added"]) == (200, 40_000)
    ((_, body, _),) = pool.asked
    assert isinstance(body, Path)
    assert not body.exists()


@pytest.mark.parametrize(
    ("problem", "retry"),
    [(Busy(), "1"), (Gone(), "1"), (ProcessExpired("killed"), "1"), (TookTooLong(), None)],
)
def test_where_there_is_no_answer_it_says_why(ask, pool, problem, retry):
    pool.problem = problem
    response = ask("/solve", "{}")
    assert response.status_code == 503
    assert response.headers.get("Retry-After") == retry
    assert json.loads(response.content)["error"]["where"] == "engine"
