"""The one page of the application."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse


def page(request: HttpRequest) -> HttpResponse:
    """Return the page that the front-end build made."""
    try:
        text = (settings.WEB_DIST / "index.html").read_bytes()
    except FileNotFoundError:
        return HttpResponse("The interface is not built yet; run bin/start.", status=503)
    response = HttpResponse(text)
    response.headers["Cache-Control"] = "no-cache"
    return response


def nowhere(request: HttpRequest) -> HttpResponse:
    """Return the API's refusal of an address that it does not have."""
    error = {"where": "address", "what": "leads nowhere"}
    return JsonResponse({"error": error}, status=404)
