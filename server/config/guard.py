"""What every request has to pass, and what every answer is sent with."""

from collections.abc import Callable
from secrets import compare_digest
from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect, JsonResponse

from common.bounds import most_bytes

SAFE = {"GET", "HEAD", "OPTIONS"}

OPEN = {"/api/health"}
"""What anybody on this machine may ask: it tells nothing of what is kept here."""

OWN_TOKEN = "/api/logger-lines/"
"""What is under here asks for a token of its own, which opens nothing else."""

KEPT_S = 400 * 24 * 3600
"""How long a browser keeps the key; browsers allow no longer."""

POLICY = (
    "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)

Answering = Callable[[HttpRequest], HttpResponse]


def guard(answer: Answering) -> Answering:
    """Check host, origin, key and size before anything is read; send every answer with its policy.

    A page from elsewhere must not make a browser read or write here, nor keep the engine busy;
    and that a program runs on this machine does not make it this user's.
    """

    def guarded(request: HttpRequest) -> HttpResponse:
        response = _refusal(request) or _with_key(request) or answer(request)
        if response.status_code == 405:
            response = _other_method(request, response)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        response.headers.setdefault("X-Content-Type-Options", "nosniff")
        response.headers.setdefault("Referrer-Policy", "same-origin")
        response.headers.setdefault("Cross-Origin-Resource-Policy", "same-origin")
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

    return guarded


def _refusal(request: HttpRequest) -> HttpResponse | None:
    host = request.get_host()
    if "\0" in request.path:
        return _error("address", "leads nowhere", 404)
    if not request.path.startswith("/api/"):
        return None
    origin = request.headers.get("Origin")
    if origin is not None and _netloc(origin) != host:
        return _error("origin", "is another page; only this application asks here", 403)
    if request.headers.get("Sec-Fetch-Site", "none") not in ("same-origin", "none"):
        return _error("origin", "is another page; only this application asks here", 403)
    own_token = request.path.startswith(OWN_TOKEN)
    if request.path not in OPEN and not own_token and not _has_key(request):
        what = "is missing; open the address that bin/start printed, once, in this browser"
        return _error("key", what, 401)
    if request.method in SAFE:
        return None
    length = request.headers.get("Content-Length") or "0"
    most = most_bytes(request.path)
    if not (length.isascii() and length.isdecimal()) or int(length) > most:
        return _error("", f"is {length[:40]} bytes long; there may be {most:,} here", 413)
    return None


def _other_method(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    allowed = ", ".join(sorted(response.headers.get("Allow", "").split(", ")))
    told = _error("method", f"can't be {request.method} here; it may be {allowed}", 405)
    told.headers["Allow"] = allowed
    return told


def _netloc(origin: str) -> str | None:
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None


def _has_key(request: HttpRequest) -> bool:
    """Return whether a request shows the key, as a cookie or in its header."""
    if not settings.KEY:
        return True
    shown = [request.COOKIES.get(_cookie(request), "")]
    scheme, _, value = request.headers.get("Authorization", "").partition(" ")
    if scheme.lower() == "bearer":
        shown.append(value)
    return any(_is_key(value) for value in shown)


def _is_key(value: str) -> bool:
    return compare_digest(value.strip().encode(), settings.KEY.encode())


def _with_key(request: HttpRequest) -> HttpResponse | None:
    """Take the key from an address that shows it, and go on to the address without it."""
    shown = request.GET.get("key") if "key=" in request.META.get("QUERY_STRING", "") else None
    if shown is None or not settings.KEY or request.path.startswith("/api/"):
        return None
    if not _is_key(shown):
        text = "This key opens nothing here. Open the address that bin/start printed last."
        return HttpResponse(text, content_type="text/plain; charset=utf-8", status=401)
    response = HttpResponseRedirect("/")
    response.set_cookie(
        _cookie(request), settings.KEY, max_age=KEPT_S, httponly=True, samesite="Strict"
    )
    return response


def _cookie(request: HttpRequest) -> str:
    # Browsers keep one set of cookies for all ports of a host.
    return f"young_torrent_{request.get_port()}"


def _error(where: str, what: str, status: int) -> JsonResponse:
    return JsonResponse({"error": {"where": where, "what": what}}, status=status)
