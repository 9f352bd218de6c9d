"""The HTTP API: every app's router, one way of reading bodies, one way of telling errors."""

from importlib import import_module
from importlib.util import find_spec
from typing import Any

from django.db import OperationalError, connection
from django.http import HttpRequest
from ninja import NinjaAPI, Schema
from ninja.parser import Parser
from pydantic import BaseModel

from common.schemas import ErrorAnswer
from config.api_errors import tell_errors
from config.apps import APPS
from powertrain.documents.text import parse
from powertrain.errors import Refusal


class GuardedParser(Parser):
    """Reads bodies with the core's guarded JSON reader."""

    def parse_body(self, request: HttpRequest) -> Any:
        """Return the value in the body; refusals are told like any other."""
        value = parse(request.body)
        if not isinstance(value, dict):
            raise Refusal("", "must be an object with keys and values")
        return value


class Health(Schema):
    """Whether the parts that a request needs answer, and how many questions wait for a turn."""

    database: bool
    waiting: int = 0


api = NinjaAPI(
    title="Young Torrent",
    version="1",
    description="Builds of small electric drives, briefs, and what the engine says of them.",
    docs_url=None,
    parser=GuardedParser(),
    urls_namespace="api",
)
tell_errors(api)
for name in APPS:
    if find_spec(f"{name}.api"):
        api.add_router("", import_module(f"{name}.api").router)


@api.get(
    "/health", response={200: Health, 503: ErrorAnswer}, tags=["service"], operation_id="health"
)
def health(request: HttpRequest) -> BaseModel:
    """Return whether the database answers; 503, with words, if it does not."""
    watch, pool = (request.META.get(f"young_torrent.{part}") for part in ("watch", "pool"))
    if watch is None:
        with connection.cursor() as cursor:
            cursor.execute("select 1")
    elif not watch.database:
        raise OperationalError("did not answer")
    return Health(database=True, waiting=0 if pool is None else pool.gate.waiting)
