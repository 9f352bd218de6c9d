"""Text that comes in piece by piece, too long to be held whole."""

import codecs
import io
from collections.abc import Iterable, Iterator

from django.http import HttpRequest

from powertrain.errors import Refusal

PIECE = 65536

LONGEST_LINE = 1_000_000
"""Letters of a line; the longest cell that a table may have is a fifth of that."""

MARKS = {codecs.BOM_UTF8: "utf-8-sig", codecs.BOM_UTF16_LE: "utf-16", codecs.BOM_UTF16_BE: "utf-16"}
"""What a text in some coding begins with, as spreadsheets save it."""


def pieces(request: HttpRequest) -> Iterator[bytes]:
    """Yield a request's body piece by piece."""
    return iter(lambda: request.read(PIECE), b"")


def text_lines(chunks: Iterable[bytes]) -> Iterator[str]:
    """Yield lines with their ends, whichever of the three kinds these are.

    Raises
    ------
    Refusal
        Naming the line, if it is no text in UTF-8 (or UTF-16 that says so), or too long.
    """
    source = io.BufferedReader(_Pieces(chunks), PIECE)
    beginning = source.peek(4)[:4]
    coding = next((name for mark, name in MARKS.items() if beginning.startswith(mark)), "utf-8")
    text = io.TextIOWrapper(source, coding, newline="")
    number = 1
    try:
        while line := text.readline(LONGEST_LINE):
            if len(line) == LONGEST_LINE:
                raise Refusal(f"line {number}", f"is longer than {LONGEST_LINE:,} letters")
            yield line
            number += 1
    except UnicodeError:
        what = "is not text in UTF-8; save the table as CSV in UTF-8"
        raise Refusal(f"line {number}", what) from None


class _Pieces(io.RawIOBase):
    """Pieces of bytes as a file to read from."""

    def __init__(self, chunks: Iterable[bytes]) -> None:
        super().__init__()
        self._chunks, self._rest = iter(chunks), b""

    def readable(self) -> bool:
        return True

    def readinto(self, buffer: memoryview) -> int:  # type: ignore[override]
        while not self._rest:
            chunk = next(self._chunks, None)
            if chunk is None:
                return 0
            self._rest = chunk
        length = min(len(buffer), len(self._rest))
        buffer[:length], self._rest = self._rest[:length], self._rest[length:]
        return length
