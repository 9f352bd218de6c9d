"""Requests made to break something: each gets an answer in the API's own form, none is a fault."""

import json
from typing import Any

import pytest

from builds.models import Build
from config.api import api as contract
from tests.asked import sound_requests
from tests.hostile import Request, of_documents, of_paths

PATHS = {
    path.removeprefix("/api"): methods
    for path, methods in contract.get_openapi_schema()["paths"].items()
}


def wrong_answers(api, requests: list[Request]) -> list[str]:
    wrong = []
    for request in requests:
        response = api.client.generic(
            request.method, f"/api{request.path}", request.body, content_type=request.content_type
        )
        text = b"".join(response.streaming_content) if response.streaming else response.content
        fault = _fault(request, response.status_code, text)
        if fault:
            wrong.append(f"{request.name}: {response.status_code} {fault} {text[:200]!r}")
    return wrong


def _fault(request: Request, status: int, text: bytes) -> str:
    if status >= 500:
        return "is a fault"
    if status < 400 or request.method == "HEAD":
        return ""
    try:
        error: Any = json.loads(text)["error"]
    except (ValueError, KeyError, TypeError):
        return "is not in the form of the API"
    return "" if error.keys() == {"where", "what"} and error["what"] else "says nothing"


def test_the_sound_ones_are_sound(api, trike):
    build = api.begin(trike)
    brief = api.post("/briefs", sound_requests()["/briefs"])[1]
    for path, body in sound_requests(build["id"], brief["id"]).items():
        status, told = api.post(path, body)
        assert status in (200, 201), (path, told)


def test_hostile_bodies_addresses_methods_and_tables(api):
    requests = list(of_paths(PATHS))
    assert len(requests) > 1500
    assert wrong_answers(api, requests) == []


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_hostile_values_in_sound_documents(api, trike, seed):
    build = api.begin(trike)
    brief = api.post("/briefs", sound_requests()["/briefs"])[1]
    asked = sound_requests(build["id"], brief["id"])
    assert wrong_answers(api, list(of_documents(asked, 250, seed))) == []
    # What came in is still there to be read.
    for kept in Build.objects.all():
        assert api.get(f"/builds/{kept.pk}")[0] == 200
    assert api.get("/builds")[0] == 200


def test_another_method_is_told_which_there_are(api):
    response = api.client.put("/api/builds")
    assert (response.status_code, response.headers["Allow"]) == (405, "GET, POST")
    assert json.loads(response.content)["error"] == {
        "where": "method",
        "what": "can't be PUT here; it may be GET, POST",
    }


@pytest.mark.parametrize("address", ["/api/nothing", "/api/", "/api/builds/", "/api/x%00y"])
def test_an_address_that_is_not_there(api, address):
    response = api.client.get(address)
    assert response.status_code == 404
    assert json.loads(response.content)["error"]["where"] == "address"


def test_another_name_of_this_machine(api):
    response = api.client.get("/api/brief-starts", headers={"host": "evil.example"})
    assert response.status_code == 400
    assert json.loads(response.content)["error"]["where"] == "host"


def test_a_fault_is_told_in_the_form_of_the_api(api, monkeypatch):
    monkeypatch.setattr("gearing.api.split", lambda *_: 1 / 0)
    status, told = api.post("/split", {"wanted": 9.5})
    assert (status, told["error"]["where"]) == (500, "")
    assert "nothing was changed" in told["error"]["what"]
