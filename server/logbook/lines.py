"""A real logger's lines while it rides: sent over HTTP in pieces, watched, taken in as a table.

Whatever reads the serial line posts what it read; see "A logger that sends" in ``docs/formats.md``.
"""

import json
import time
from collections.abc import Callable, Iterator
from hashlib import sha256
from secrets import compare_digest, token_urlsafe
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction
from django.db.models import Max
from django.utils import timezone

from builds.models import Build
from common.errors import NotFound
from common.streams import held_open, let_go
from logbook.models import LinePiece, LoggerLine
from powertrain.errors import Refusal
from powertrain.plain import number
from powertrain.telemetry.read import read_log

MOST_PIECES = 40_000
MOST_LETTERS = 200_000
"""Of one piece."""

LATEST = 40
"""Lines at the end from which the last reading is understood."""

LOOKS_S = 0.5
RESTS_S = 15.0
"""Seconds of silence after which the page is told that the line still stands."""

WATCHED_S = 3600.0


def open_line(user: Any, build_id: UUID) -> tuple[LoggerLine, str]:
    """Open a line to a build and return it with its token, which is told this once.

    Raises
    ------
    NotFound
        If there is no such build.
    """
    token = token_urlsafe(24)
    with transaction.atomic():
        build = Build.objects.one(user, build_id, lock=True)
        LoggerLine.objects.filter(build=build, shut_at=None).update(shut_at=timezone.now())
        line = LoggerLine.objects.create(build=build, token_hash=_hash(token))
    return line, token


def shut_line(user: Any, build_id: UUID) -> None:
    """Shut the line of a build; what came over it stays to be taken in."""
    build = Build.objects.one(user, build_id)
    LoggerLine.objects.filter(build=build, shut_at=None).update(shut_at=timezone.now())


def _hash(token: str) -> str:
    return sha256(token.encode()).hexdigest()


def line_of(user: Any, build_id: UUID) -> LoggerLine:
    """Return the line that was opened last.

    Raises
    ------
    NotFound
        If none ever was.
    """
    build = Build.objects.one(user, build_id)
    line = LoggerLine.objects.filter(build=build).first()
    if line is None:
        raise NotFound("line", "was never opened for this build")
    return line


def take_piece(line_id: UUID, token: str, text: str, piece: int | None) -> int:
    """Keep lines that a logger sent, and return the number of their piece.

    A piece that is sent again under its number is there once.

    Raises
    ------
    NotFound
        If there is no such line, it is shut, or the token is not its own.
    Refusal
        If the piece is empty, too long, or one too many.
    """
    line = LoggerLine.objects.filter(pk=line_id, shut_at=None).first()
    if line is None or not compare_digest(line.token_hash, _hash(token)):
        raise NotFound("line", "is not open under this token")
    if not text.strip():
        raise Refusal("body", "is empty; send whole lines of the table, its header first")
    if len(text) > MOST_LETTERS:
        raise Refusal("body", f"is longer than {MOST_LETTERS:,} letters; send it in smaller pieces")
    if "\0" in text:
        raise Refusal("body", "holds a zero byte; a table is text")
    with transaction.atomic():
        LoggerLine.objects.select_for_update().get(pk=line.pk)
        last = line.pieces.aggregate(last=Max("number"))["last"] or 0
        own = piece if piece is not None else last + 1
        if own > MOST_PIECES:
            raise Refusal("piece", f"is beyond the {MOST_PIECES:,} that a line takes; open another")
        try:
            with transaction.atomic():
                LinePiece.objects.create(line=line, number=own, text=_whole(text))
        except IntegrityError:
            return own
    return own


def _whole(text: str) -> str:
    return text if text.endswith("\n") else text + "\n"


def line_text(line: LoggerLine) -> str:
    """Return everything that came over a line, in the order of its pieces."""
    return "".join(line.pieces.values_list("text", flat=True))


def last_reading(line: LoggerLine) -> dict[str, Any] | None:
    """Return what the last lines of a line say, as they are understood; None before they do."""
    first = line.pieces.first()
    if first is None:
        return None
    kept = list(line.pieces.order_by("-number").values_list("number", "text")[:LATEST])
    text = "".join(text for _, text in reversed(kept))
    header, _, _ = first.text.partition("\n")
    if kept[-1][0] == first.number:
        text = text.removeprefix(header + "\n")
    rows = text.splitlines()[-LATEST:]
    try:
        log = read_log("\n".join([header, *rows]).encode())
    except Refusal as refusal:
        return {"pieces": kept[0][0], "trouble": f"{refusal.where} {refusal.what}"}
    shows = {
        key: number(float(values[-1])) for key, values in log.columns.items() if key != "time_s"
    }
    return {"pieces": kept[0][0], "shows": shows}


def watched(
    line: LoggerLine,
    clock: Callable[[], float] = time.monotonic,
    sleep: Callable[[float], None] = time.sleep,
) -> Iterator[bytes]:
    """Yield the last reading whenever another came, as server-sent events, until the line is shut.

    Raises
    ------
    Busy
        If as many pages watch already as may.
    """
    return held_open("the line", _events(line, clock, sleep))


def _events(
    line: LoggerLine, clock: Callable[[], float], sleep: Callable[[float], None]
) -> Iterator[bytes]:
    begun = told_at = clock()
    known = -1
    while clock() - begun < WATCHED_S:
        last = line.pieces.aggregate(last=Max("number"))["last"] or 0
        if last != known:
            known, told_at = last, clock()
            reading = last_reading(line) or {"pieces": 0}
            yield b"data: " + json.dumps(reading).encode() + b"\n\n"
        elif clock() - told_at > RESTS_S:
            told_at = clock()
            yield b": nothing new\n\n"
        shut = LoggerLine.objects.filter(pk=line.pk, shut_at=None).first() is None
        let_go()
        if shut:
            break
        sleep(LOOKS_S)
    yield b"event: end\ndata: {}\n\n"
