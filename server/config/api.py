"""The HTTP API: every app's router, one way of reading bodies, one way of telling errors."""

from typing import Any

from django.db import connection
from django.http import HttpRequest
from ninja import NinjaAPI, Schema
from ninja.parser import Parser
from pydantic import BaseModel

from builds.api import router as builds
from config.api_errors import tell_errors
from matching.api import router as matching
from powertrain.documents.text import parse
from powertrain.errors import Refusal
from shelf.api import router as shelf
from ways.api import router as ways


class GuardedParser(Parser):
    """Reads bodies with the core's guarded JSON reader."""

    def parse_body(self, request: HttpRequest) -> Any:
        """Return the value in the body; refusals are told like any other."""
        value = parse(request.body)
        if not isinstance(value, dict):
            raise Refusal("", "must be an object with keys and values")
        return value


class Health(Schema):
    """Whether the parts that a request needs answer."""

    database: bool


api = NinjaAPI(
    title="Young Torrent",
    version="1",
    description="Builds of small electric drives, briefs, and what the engine says of them.",
    docs_url=None,
    parser=GuardedParser(),
    urls_namespace="api",
)
tell_errors(api)
api.add_router("", builds)
api.add_router("", ways)
api.add_router("", shelf)
api.add_router("", matching)


@api.get("/health", response=Health, tags=["service"], operation_id="health")
def health(request: HttpRequest) -> BaseModel:
    """Return whether the database answers; 503 if it does not."""
    with connection.cursor() as cursor:
        cursor.execute("select 1")
    return Health(database=True)
