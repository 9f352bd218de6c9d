"""What every request has to pass on loopback."""

import json

import pytest
from django.test import Client

from builds.models import Build
from common.bounds import TABLES

LARGEST = 2_000_000


@pytest.fixture
def client() -> Client:
    return Client(SERVER_NAME="127.0.0.1", raise_request_exception=False)


def written(client, path="/api/solve", text="{}", **headers):
    return client.post(path, text, content_type="application/json", headers=headers)


@pytest.mark.parametrize("host", ["evil.example", "127.0.0.1.evil.example", "10.0.0.7"])
def test_another_name_of_this_machine_leads_nowhere(client, host):
    # A page elsewhere could let its own name point here (DNS rebinding).
    assert client.get("/api/health", headers={"host": host}).status_code == 400


@pytest.mark.parametrize(
    ("origin", "status"),
    [
        ("http://evil.example", 403),
        ("https://127.0.0.1.evil.example", 403),
        ("http://127.0.0.1:9999", 403),
        ("null", 403),
        ("http://127.0.0.1", 422),
    ],
)
def test_only_this_page_writes(client, origin, status):
    sent = written(client, origin=origin)
    assert sent.status_code == status
    if status == 403:
        assert json.loads(sent.content)["error"]["where"] == "origin"


@pytest.mark.django_db
def test_a_refused_write_writes_nothing(client, trike):
    body = json.dumps({"document": trike, "change_id": "6f1c6d0e-6c3c-4f7e-9d5e-000000000001"})
    assert written(client, "/api/builds", body, origin="http://evil.example").status_code == 403
    assert not Build.objects.exists()
    assert written(client, "/api/builds", body, origin="http://127.0.0.1").status_code == 201
    assert Build.objects.count() == 1


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"origin": "http://evil.example"}, 403),
        ({"origin": "http://[evil"}, 403),
        ({"sec-fetch-site": "cross-site"}, 403),
        # Another port of this machine may be another user's.
        ({"sec-fetch-site": "same-site"}, 403),
        ({"sec-fetch-site": "same-origin", "origin": "http://127.0.0.1"}, 200),
        # Typed into the address line, or asked for by a script.
        ({"sec-fetch-site": "none"}, 200),
        ({}, 200),
    ],
)
def test_only_this_page_and_scripts_read(client, headers, status):
    assert client.get("/api/brief-starts", headers=headers).status_code == status


def test_a_page_elsewhere_may_lead_here(client):
    # A link is followed to the page; its own questions are then of the same origin.
    assert client.get("/", headers={"sec-fetch-site": "cross-site"}).status_code == 200


class TestWithAKey:
    """Where the product was begun by somebody, it answers them alone."""

    @pytest.fixture(autouse=True)
    def key(self, settings):
        settings.KEY = "a-key-for-this-test"

    def asked(self, client, **headers):
        return client.get("/api/brief-starts", headers=headers)

    def test_who_shows_none_is_told_how_to_get_it(self, client):
        refused = self.asked(client)
        assert refused.status_code == 401
        error = json.loads(refused.content)["error"]
        assert (error["where"], "bin/start" in error["what"]) == ("key", True)
        assert written(client).status_code == 401

    @pytest.mark.parametrize("shown", ["", "a-key", "a-key-for-this-test-", "Ä", "a" * 9000])
    def test_a_wrong_one_opens_nothing(self, client, shown):
        assert self.asked(client, authorization=f"Bearer {shown}").status_code == 401
        assert client.get("/", {"key": shown}).status_code == 401
        assert self.asked(client).status_code == 401

    def test_a_script_shows_it_in_a_header(self, client):
        assert self.asked(client, authorization="Bearer a-key-for-this-test").status_code == 200
        assert self.asked(client, authorization="Basic a-key-for-this-test").status_code == 401

    def test_a_browser_that_opened_the_address_is_known_from_then_on(self, client):
        opened = client.get("/?key=a-key-for-this-test")
        assert (opened.status_code, opened.headers["Location"]) == (302, "/")
        cookie = opened.cookies["young_torrent_80"]
        assert (cookie["httponly"], cookie["samesite"]) == (True, "Strict")
        assert self.asked(client).status_code == 200
        assert self.asked(client, origin="http://evil.example").status_code == 403

    def test_health_and_page_need_none(self, client, db):
        assert client.get("/api/health").status_code == 200
        assert client.get("/").status_code == 200


@pytest.mark.parametrize(
    ("path", "length", "status"),
    [
        ("/api/solve", LARGEST + 1, 413),
        ("/api/solve", 10**12, 413),
        (TABLES[0], 100_000_001, 413),
    ],
)
def test_what_is_too_long_is_refused_before_it_is_read(client, path, length, status):
    sent = client.generic(
        "POST", path, b"{}", content_type="application/json", CONTENT_LENGTH=str(length)
    )
    assert sent.status_code == status
    assert f"{length} bytes" in json.loads(sent.content)["error"]["what"]


@pytest.mark.parametrize("length", ["-1", "many", "1e3", "\u0661"])
def test_a_length_that_is_no_number_is_refused(client, length):
    sent = client.generic(
        "POST", "/api/solve", b"{}", content_type="application/json", CONTENT_LENGTH=length
    )
    assert sent.status_code in (400, 413, 422)
    assert json.loads(sent.content)["error"]["what"]


@pytest.mark.parametrize("path", ["/", "/api/archetypes", "/api/nowhere", "/builds/any"])
def test_every_answer_comes_with_its_policy(client, path):
    answer = client.get(path)
    policy = answer.headers["Content-Security-Policy"]
    # Nothing is fetched from elsewhere, and nobody frames the page.
    assert "default-src 'self'" in policy
    assert "frame-ancestors 'none'" in policy
    assert "http:" not in policy
    assert "https:" not in policy
    assert answer.headers["X-Content-Type-Options"] == "nosniff"
    kept = answer.headers.get("Cache-Control", "")
    assert ("no-store" in kept) == path.startswith("/api/")


def test_an_address_of_the_api_that_is_none_is_told_as_json(client):
    answer = client.get("/api/nowhere")
    assert answer.status_code == 404
    assert json.loads(answer.content) == {"error": {"where": "address", "what": "leads nowhere"}}
