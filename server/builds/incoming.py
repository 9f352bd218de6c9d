"""Text that comes in piece by piece, too long to be held whole."""

import codecs
from collections.abc import Callable, Iterable, Iterator

from django.http import HttpRequest

from powertrain.errors import Refusal

PIECE = 65536


def pieces(request: HttpRequest) -> Iterator[bytes]:
    """Yield a request's body piece by piece."""
    return iter(lambda: request.read(PIECE), b"")


def text_lines(chunks: Iterable[bytes]) -> Iterator[str]:
    """Yield lines with their ends; raise `Refusal` if it is no text in UTF-8."""
    decode: Callable[..., str] = codecs.getincrementaldecoder("utf-8")().decode
    rest = ""
    try:
        for chunk in chunks:
            *lines, rest = (rest + decode(chunk)).split("\n")
            yield from (f"{line}\n" for line in lines)
        rest += decode(b"", final=True)
    except UnicodeDecodeError:
        raise Refusal("", "is not text in UTF-8; save the table as CSV in UTF-8") from None
    if rest:
        yield rest
