"""What every request has to pass, and what every answer is sent with."""

from collections.abc import Callable
from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse

SAFE = {"GET", "HEAD", "OPTIONS"}

TABLES = ("/api/shelf/bring-in", "/api/builds/bring-in")
"""Where whole tables come in, which are longer than any document."""

POLICY = (
    "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)

Answering = Callable[[HttpRequest], HttpResponse]


def guard(answer: Answering) -> Answering:
    """Check host, origin and size before anything is read; send every answer with its policy.

    There is no password on loopback, so that a browser must not be made to write here by a
    page from elsewhere: a write that names an origin must name this one.
    """

    def guarded(request: HttpRequest) -> HttpResponse:
        response = _refusal(request) or answer(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        response.headers.setdefault("X-Content-Type-Options", "nosniff")
        response.headers.setdefault("Referrer-Policy", "same-origin")
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

    return guarded


def _refusal(request: HttpRequest) -> HttpResponse | None:
    host = request.get_host()
    if request.method in SAFE:
        return None
    origin = request.headers.get("Origin")
    if origin is not None and urlsplit(origin).netloc != host:
        return _error("origin", "is another page; only this application writes here", 403)
    length = request.headers.get("Content-Length") or "0"
    table = request.path.startswith(TABLES)
    most = settings.LARGEST_TABLE if table else settings.DATA_UPLOAD_MAX_MEMORY_SIZE
    if not length.isdecimal() or int(length) > most:
        return _error("", f"is {length} bytes long; there may be {most:,} here", 413)
    return None


def _error(where: str, what: str, status: int) -> JsonResponse:
    return JsonResponse({"error": {"where": where, "what": what}}, status=status)
