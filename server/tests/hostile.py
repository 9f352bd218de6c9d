"""Requests made to break something: whole bodies, single values, addresses, tables.

Generated from fixed draws, so that the same ones come each time.
"""

import copy
import json
import random
from collections.abc import Iterator
from typing import Any, NamedTuple

BODIES: dict[str, bytes] = {
    "nothing": b"",
    "blanks": b" " * 5000,
    "null": b"null",
    "list": b"[]",
    "text": b'"reed"',
    "number": b"1e400",
    "not a number": b'{"document": NaN}',
    "infinity": b'{"document": -Infinity}',
    "open": b'{"document": {',
    "deep": b'{"document": ' + b"[" * 100_000 + b"]" * 100_000 + b"}",
    "deep objects": b'{"a":' * 30_000 + b"1" + b"}" * 30_000,
    "twice": b'{"document": 1, "document": 2}',
    "backslashes": b'{"document": "' + b"\\" * 80_000 + b'"}',
    "backslash-quotes": b'{"document": "' + b'\\"' * 40_000 + b'"}',
    "backslash-quotes open": b'{"document": "' + b'\\"' * 40_000,
    "digits": b'{"document": ' + b"9" * 50_000 + b"}",
    "fraction": b'{"document": 0.' + b"1" * 50_000 + b"}",
    "null character": b'{"document": "a\\u0000b"}',
    "raw null": b'{"document": "a\x00b"}',
    "half a pair": b'{"document": "\\ud800"}',
    "half a pair as key": b'{"\\udfff": 1}',
    "broken text": b'{"document": "\xff\xfe"}',
    "other coding": '{"document": 1}'.encode("utf-16"),
    "mark": b"\xef\xbb\xbf{}",
    "escape": b'{"document": "\x1b[31m"}',
    "many keys": json.dumps({f"key {n}": n for n in range(20_000)}).encode(),
    "many entries": b'{"document": [' + b",".join([b"1"] * 200_000) + b"]}",
    "markup": b"<!DOCTYPE html><script>alert(1)</script>",
    "form": b"document=1&change_id=2",
    "prototype": b'{"__proto__": {"a": 1}, "constructor": {"b": 2}}',
}
"""Whole bodies, sent to everything that takes one."""

VALUES: list[Any] = [
    None,
    True,
    False,
    0,
    -1,
    1,
    -0.0,
    0.5,
    1e-320,
    1e-9,
    1e9,
    1e18,
    1e308,
    -1e308,
    2**31,
    2**63,
    2**64,
    10**30,
    "",
    " ",
    "0",
    "NaN",
    "1_95",
    "\uff11\uff12",
    "a" * 5000,
    "\ud800",
    "\u0000",
    "\u202e",
    "e\u0301" * 500,
    "'; drop table builds_build; --",
    "../../etc/passwd",
    "%s%s%n",
    "{{7*7}}",
    "=1+1",
    [],
    [None],
    [[]],
    [0] * 5000,
    {},
    {"a": 1},
    {"": ""},
    [{}] * 300,
]
"""Single values, each put in the place of another."""

REFS = [
    "%00",
    "a%00b",
    "%ff",
    "%2e%2e%2f",
    "..",
    "a" * 3000,
    "%F0%9F%90%B8",
    "null",
    "-1",
    " ",
    "%0d%0a",
    "%",
]
"""Parts of an address."""

METHODS = ["GET", "POST", "PUT", "PATCH", "DELETE", "OPTIONS", "HEAD", "TRACE"]

TABLES: dict[str, bytes] = {
    "nothing": b"",
    "one line": b"id",
    "null": b"id,name\na\x00,b\n",
    "other coding": "id,name\na,b\n".encode("utf-16"),
    "broken text": b"id,name\n\xff\xfe,b\n",
    "old ends": b"id,name\ra,b\rc,d\r",
    "semicolons": b"id;name\na;b\n",
    "tabs": b"id\tname\na\tb\n",
    "quotes in the header": b'"id","na""me"\na,b\n',
    "open quote": b'id,name\n"a,b\nc,d\n' * 50,
    "huge cell": b"id,name\na," + b"x" * 300_000 + b"\n",
    "huge quoted cell": b'id,name\na,"' + b"x" * 300_000 + b'"\n',
    "wide": b",".join([b"id"] * 20_000) + b"\n",
    "long line": b"," * 500_000 + b"\n",
    "many lines": b"\n" * 200_000,
    "twice": b"id,id,name,name\na,b,c,d\n",
    "bell": b"id,name\n\x07,\x1b[31m\n",
    "formula": b"id,name\n=1+1,@sum(a)\n",
    "digits of others": "id,name,price\nmine,Mine,\uff11\uff12\n".encode(),
    "json": b'{"format": 1}',
    "mark": b"\xef\xbb\xbfid,name\na,b\n",
}


class Request(NamedTuple):
    """One request, and what it tries."""

    name: str
    method: str
    path: str
    body: bytes
    content_type: str = "application/json"


def of_paths(paths: dict[str, Any]) -> Iterator[Request]:
    """Yield every hostile body, part of an address and method, for all paths of a contract."""
    for path, methods in paths.items():
        filled = path.replace("{kind}", "motors")
        plain = _filled(filled, "00000000-0000-4000-8000-000000000000")
        for method in METHODS:
            if method.lower() not in methods:
                yield Request(f"{method} of {path}", method, plain, b"{}")
        for ref in REFS if "{" in filled else []:
            for method in methods:
                yield Request(f"address {ref[:20]}", method.upper(), _filled(filled, ref), b"{}")
        for name, body in BODIES.items() if "post" in methods else ():
            yield Request(f"{name} to {path}", "POST", plain, body)
        if "bring-in" in path and "back" not in path:
            for name, body in TABLES.items():
                yield Request(f"table {name} to {path}", "POST", plain, body, "text/csv")


def of_documents(asked: dict[str, Any], count: int, seed: int) -> Iterator[Request]:
    """Yield sound requests with one or two of their values replaced, `count` of them."""
    draw = random.Random(seed)
    for number in range(count):
        path = draw.choice(sorted(asked))
        body = copy.deepcopy(asked[path])
        for _ in range(draw.choice((1, 1, 2))):
            _spoil(body, draw)
        text = json.dumps(body).encode()
        yield Request(f"drawn {number} to {path}", "POST", path, text)


def _filled(path: str, ref: str) -> str:
    while "{" in path:
        before, _, rest = path.partition("{")
        path = before + ref + rest.partition("}")[2]
    return path


def _spoil(body: Any, draw: random.Random) -> None:
    """Put a hostile value somewhere into a value."""
    places: list[tuple[Any, Any]] = []

    def walk(value: Any) -> None:
        items = value.items() if isinstance(value, dict) else enumerate(value)
        for key, inner in items:
            places.append((value, key))
            if isinstance(inner, dict | list):
                walk(inner)

    walk(body)
    if not places:
        return
    holder, key = draw.choice(places)
    if isinstance(holder, dict) and draw.random() < 0.15:
        holder[draw.choice(["format", "", "\ud800", "x" * 500, key + "_"])] = draw.choice(VALUES)
    else:
        holder[key] = copy.deepcopy(draw.choice(VALUES))
