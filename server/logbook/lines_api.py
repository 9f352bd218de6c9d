"""The API of lines over which a real logger sends what it reads."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Query, Router, Status

from common.incoming import pieces
from common.schemas import CSV, MISSING, TEXT
from logbook import schemas
from logbook.lines import line_of, line_text, open_line, shut_line, take_piece, watched
from powertrain.errors import Refusal

router = Router(tags=["logbook"])

AT = "/builds/{build_id}/logbook/line"
SENDING = "/logger-lines/{line_id}"
EVENTS = {"responses": {200: {"content": {"text/event-stream": {"schema": {"type": "string"}}}}}}


@router.post(AT, response={200: schemas.LineOpened, **MISSING}, operation_id="open_line")
def begin(request: HttpRequest, build_id: UUID) -> schemas.LineOpened:
    """Open a line with a token of its own; one that was open before is shut."""
    line, token = open_line(request.user, build_id)
    path = f"/api{SENDING.format(line_id=line.pk)}"
    return schemas.LineOpened(id=line.pk, token=token, path=path)


@router.get(AT, response={200: schemas.LineState, **MISSING}, operation_id="line_state")
def state(request: HttpRequest, build_id: UUID) -> schemas.LineState:
    """Return how the line stands that was opened last."""
    line = line_of(request.user, build_id)
    return schemas.LineState(id=line.pk, open=line.shut_at is None, pieces=line.pieces.count())


@router.delete(AT, response={204: None, **MISSING}, operation_id="shut_line")
def shut(request: HttpRequest, build_id: UUID) -> Status[None]:
    """Shut the line; what came over it stays."""
    shut_line(request.user, build_id)
    return Status(204, None)


@router.get(
    AT + "/live", response={200: None, **MISSING}, operation_id="watch_line", openapi_extra=EVENTS
)
def live(request: HttpRequest, build_id: UUID) -> StreamingHttpResponse:
    """Stream the last reading of the line as server-sent events."""
    return StreamingHttpResponse(
        watched(line_of(request.user, build_id)),
        content_type="text/event-stream",
        headers={"X-Accel-Buffering": "no"},
    )


@router.get(
    AT + "/table", response={200: str, **MISSING}, operation_id="line_table", openapi_extra=CSV
)
def table(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """Return everything that came over the line, as it came."""
    text = line_text(line_of(request.user, build_id))
    return HttpResponse(text, content_type="text/csv; charset=utf-8")


@router.post(
    SENDING,
    response={200: schemas.PieceTaken, **MISSING},
    operation_id="send_line_piece",
    openapi_extra=TEXT,
)
def send(
    request: HttpRequest, line_id: UUID, asked: Query[schemas.PieceAsked]
) -> schemas.PieceTaken:
    """Take whole lines of a logger's table, the header first, under the line's own token."""
    _, _, token = request.headers.get("Authorization", "").partition(" ")
    try:
        text = b"".join(pieces(request)).decode("utf-8-sig")
    except UnicodeError:
        raise Refusal("body", "is no text in UTF-8") from None
    return schemas.PieceTaken(piece=take_piece(line_id, token.strip(), text, asked.piece))
