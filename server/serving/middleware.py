"""Hands what is heavy to the pool, once the guard has let it pass."""

import logging
import shutil
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse

from serving.gate import Busy, Gone
from serving.heavy import weight_of

log = logging.getLogger(__name__)

Answering = Callable[[HttpRequest], HttpResponse]


def heavy_apart(answer: Answering) -> Answering:
    """Answer heavy questions from the pool that the front brings along; all others here."""

    def answered(request: HttpRequest) -> HttpResponse:
        pool = request.META.get("young_torrent.pool")
        weight = weight_of(request.method or "", request.path) if pool is not None else None
        if weight is None:
            return answer(request)
        return _from(pool, weight, request)

    return answered


def _from(pool: Any, weight: Any, request: HttpRequest) -> HttpResponse:
    from serving.pool import ProcessExpired, TookTooLong

    environ = {key: value for key, value in request.META.items() if isinstance(value, str)}
    # Read as text here already; an application gets it as bytes that look like letters.
    environ["PATH_INFO"] = request.path_info.encode().decode("latin-1")
    gone = request.META.get("waitress.client_disconnected", lambda: False)
    client = f"{environ.get('REMOTE_ADDR')}:{environ.get('REMOTE_PORT')}"
    try:
        with _body(request) as body:
            told = pool.answer(environ, body, weight, client, gone)
    except (Busy, Gone):
        return _error("is busy with many questions; ask again in a moment", retry_s=1)
    except TookTooLong:
        log.warning("path=%s took more than %s s", request.path, weight.most_s)
        return _error(f"took more than {weight.most_s:.0f} seconds and was stopped; ask for less")
    except ProcessExpired:
        log.warning("path=%s its process ended", request.path)
        return _error("ended before it had answered; ask again", retry_s=1)
    response = HttpResponse(told.body, status=told.status)
    for name, value in told.headers:
        response.headers[name] = value
    return response


LONG_BODY = 4_000_000
"""Bytes above which a body is handed on in a file."""


@contextmanager
def _body(request: HttpRequest) -> Iterator[bytes | Path]:
    if int(request.META.get("CONTENT_LENGTH") or 0) <= LONG_BODY:
        yield request.read()
        return
    with tempfile.NamedTemporaryFile() as file:
        shutil.copyfileobj(request, file)
        file.flush()
        yield Path(file.name)


def _error(what: str, retry_s: int | None = None) -> HttpResponse:
    response = JsonResponse({"error": {"where": "engine", "what": what}}, status=503)
    if retry_s is not None:
        response.headers["Retry-After"] = str(retry_s)
    return response
