"""A client of the API and the trike, as the tests of the server use them."""

import json
import uuid
from typing import Any

import pytest
from django.test import Client

from builds.demo import demo_builds
from common.documents import plain


class Api:
    """The API as a script calls it: JSON in, status and JSON out."""

    def __init__(self) -> None:
        self.client = Client(SERVER_NAME="127.0.0.1", raise_request_exception=False)

    def get(self, path: str) -> tuple[int, Any]:
        return self._told(self.client.get(f"/api{path}"))

    def post(self, path: str, body: Any, **headers: str) -> tuple[int, Any]:
        text = body if isinstance(body, str | bytes) else json.dumps(body)
        sent = self.client.post(
            f"/api{path}", text, content_type="application/json", headers=headers
        )
        return self._told(sent)

    def delete(self, path: str) -> int:
        return self.client.delete(f"/api{path}").status_code

    def begin(self, document: dict[str, Any]) -> dict[str, Any]:
        status, build = self.post("/builds", {"document": document, "change_id": str(uuid.uuid4())})
        assert status == 201, build
        return build

    def save(self, build: dict[str, Any], base: int, document: dict[str, Any]) -> tuple[int, Any]:
        body = {"base": base, "document": document, "change_id": str(uuid.uuid4())}
        return self.post(f"/builds/{build['id']}/versions", body)

    def _told(self, response: Any) -> tuple[int, Any]:
        return response.status_code, json.loads(response.content) if response.content else None


@pytest.fixture
def api(db) -> Api:
    return Api()


@pytest.fixture
def trike() -> dict[str, Any]:
    return plain(demo_builds()["causeway-trike"])
