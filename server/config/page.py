"""The one page of the application."""

from django.conf import settings
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse, JsonResponse

from config.api_errors import UNEXPECTED


def page(request: HttpRequest) -> HttpResponse:
    """Return the page that the front-end build made."""
    try:
        text = (settings.WEB_DIST / "index.html").read_bytes()
    except FileNotFoundError:
        return HttpResponse("The interface is not built yet; run bin/start.", status=503)
    response = HttpResponse(text)
    response.headers["Cache-Control"] = "no-cache"
    return response


def nowhere(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """Return the refusal of an address that is not there."""
    return _error("address", "leads nowhere", 404)


def bad(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """Return the refusal of a request that can't be read, or comes by a name not ours."""
    if isinstance(exception, DisallowedHost):
        what = "is not this machine; use 127.0.0.1 or localhost"
        return _error("host", what, 400)
    return _error("request", "can't be read", 400)


def failed(request: HttpRequest) -> HttpResponse:
    """Return what is said when nothing else could be."""
    return _error("", UNEXPECTED, 500)


def _error(where: str, what: str, status: int) -> JsonResponse:
    return JsonResponse({"error": {"where": where, "what": what}}, status=status)
