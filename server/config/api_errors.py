"""Errors of the domain and of the machine, mapped to HTTP once for the whole API."""

import logging
from typing import Any

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError, InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError
from psycopg import errors
from psycopg_pool import PoolTimeout

from common.errors import Busy, Conflict, NotFound, OperationRefused
from common.standing import database_says
from powertrain.documents.reading import TAGS, refusal_of
from powertrain.errors import Refusal

log = logging.getLogger(__name__)


def tell_errors(api: NinjaAPI) -> None:
    """Give every exception that may leave a view its status and its form."""

    def told(request: HttpRequest, where: str, what: str, status: int, **more: Any) -> HttpResponse:
        body = {"error": {"where": where, "what": what}, **more}
        return api.create_response(request, body, status=status)

    @api.exception_handler(Refusal)
    def refused(request: HttpRequest, problem: Refusal) -> HttpResponse:
        return told(request, problem.where, problem.what, 422)

    @api.exception_handler(OperationRefused)
    def operation_refused(request: HttpRequest, problem: OperationRefused) -> HttpResponse:
        return told(request, problem.where, problem.what, 422, operation=problem.index)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, problem: ValidationError) -> HttpResponse:
        first = problem.errors[0]
        refusal = refusal_of(first, _place(first["loc"]))  # type: ignore[arg-type]
        return told(request, refusal.where, refusal.what, 422)

    @api.exception_handler(Conflict)
    def conflict(request: HttpRequest, problem: Conflict) -> HttpResponse:
        what = "was changed elsewhere meanwhile; both versions are kept"
        return told(request, "version", what, 409, kept=problem.kept, head=problem.head)

    @api.exception_handler(NotFound)
    def not_there(request: HttpRequest, problem: NotFound) -> HttpResponse:
        return told(request, problem.where, problem.what, 404)

    @api.exception_handler(Busy)
    def no_room(request: HttpRequest, problem: Busy) -> HttpResponse:
        return told(request, problem.where, problem.what, 503)

    @api.exception_handler(Http404)
    def not_found(request: HttpRequest, problem: Http404) -> HttpResponse:
        return told(request, "address", "leads nowhere", 404)

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, problem: RequestDataTooBig) -> HttpResponse:
        return told(request, "", "is too long for a document", 413)

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, problem: HttpError) -> HttpResponse:
        if isinstance(problem.__cause__, Refusal):  # from reading the body
            return refused(request, problem.__cause__)
        return told(request, "request", str(problem), problem.status_code)

    @api.exception_handler(DatabaseError)
    @api.exception_handler(InterfaceError)
    def of_database(request: HttpRequest, problem: Exception) -> HttpResponse:
        status, what = in_words(problem)
        if status == 500:
            return unexpected(request, problem)
        log.warning("database path=%s problem=%s", request.path, type(problem.__cause__).__name__)
        return told(request, "database", what, status)

    @api.exception_handler(Exception)
    def unexpected(request: HttpRequest, problem: Exception) -> HttpResponse:
        log.exception("unexpected path=%s", request.path, exc_info=problem)
        return told(request, "", UNEXPECTED, 500)


UNEXPECTED = "went wrong here; nothing was changed. The program's log says more"


def in_words(problem: Exception) -> tuple[int, str]:
    """Return the status and the words for an error of the database."""
    match problem.__cause__:
        case errors.DiskFull() | errors.OutOfMemory():
            return 507, "has no room left on its disk; make some, then save again"
        case errors.QueryCanceled():
            return 503, "took too long over this and was stopped; ask for less"
        case errors.DataError():
            return 422, "can't keep a value in this; it has a character that no text may have"
        case errors.IntegrityError() | errors.SerializationFailure() | errors.DeadlockDetected():
            return 409, "was changed by another request at the same moment; send this again"
        case errors.OperationalError() | errors.InterfaceError() | PoolTimeout():
            return 503, database_says(settings.STATUS)
        case None if isinstance(problem, OperationalError | InterfaceError):
            return 503, database_says(settings.STATUS)
        case _:
            return 500, UNEXPECTED


def _place(location: tuple[int | str, ...]) -> str:
    """Return the document path in a place like ('body', 'payload', 'document', 'battery')."""
    steps = [step for step in location if step not in TAGS]
    if "document" in steps:
        steps = steps[steps.index("document") + 1 :]
    elif steps[:1] == ["body"]:
        steps = steps[2:]
    return ".".join(str(step) for step in steps)
