"""JSON text to plain values, guarded against text made to exhaust the reader."""

import json
from typing import Any, NoReturn

from powertrain.errors import Refusal

LARGEST_BYTES = 1_000_000
"""A build document of a few kilobytes is large; beyond this it is something else."""

DEEPEST = 32
"""The build document nests four deep; the rest is headroom."""


def parse(text: bytes | str, largest: int = LARGEST_BYTES, deepest: int = DEEPEST) -> Any:
    """Return the value that JSON `text` holds.

    Raises
    ------
    Refusal
        If the text is too large, too deeply nested, not JSON, names a key twice, or holds NaN
        or an infinity (which JSON does not have).
    """
    raw = text.encode() if isinstance(text, str) else text
    if len(raw) > largest:
        raise Refusal("", f"is {len(raw):,} bytes long; a document may have {largest:,}")
    try:
        plain = raw.decode("utf-8-sig")
    except UnicodeDecodeError as problem:
        raise Refusal("", f"is not UTF-8 text (byte {problem.start})") from None
    if "\\u0000" in plain:
        raise Refusal("", "holds a null character; no text of a document needs one")
    try:
        value = json.loads(plain, parse_constant=_no_constant, object_pairs_hook=_unique)
    except RecursionError:
        raise _too_deep(deepest) from None
    except json.JSONDecodeError as problem:
        place = f"line {problem.lineno}, column {problem.colno}"
        raise Refusal("", f"is not JSON: {problem.msg.lower()} at {place}") from None
    except ValueError:
        raise Refusal("", "holds a whole number of too many digits") from None
    _refuse_depth(value, deepest)
    return value


def _too_deep(deepest: int) -> Refusal:
    return Refusal("", f"nests more than {deepest} deep; a document needs four")


def _refuse_depth(value: Any, deepest: int) -> None:
    """Refuse nesting beyond `deepest`, gone through level by level."""
    level = [value]
    for _ in range(deepest):
        inner: list[Any] = []
        for one in level:
            if isinstance(one, dict):
                inner += one.values()
            elif isinstance(one, list):
                inner += one
        if not inner:
            return
        level = inner
    if any(isinstance(one, dict | list) for one in level):
        raise _too_deep(deepest)


def _no_constant(name: str) -> NoReturn:
    raise Refusal("", f"holds {name}, which is no number; leave the value out if it is unknown")


def _unique(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise Refusal(key, "stands twice in one object; keep one of the two")
        found[key] = value
    return found
