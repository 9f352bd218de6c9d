"""What a process of the pool does: the whole application's answer to one request."""

import os
import threading
from importlib import import_module
from io import BytesIO
from pathlib import Path
from typing import IO, Any, NamedTuple

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

from config.wsgi import application


class PipedAnswer(NamedTuple):
    """An answer as it goes over a pipe."""

    status: int
    headers: list[tuple[str, str]]
    body: bytes


def answer(environ: dict[str, str], body: bytes | Path) -> PipedAnswer:
    """Return the application's answer to a request; a long body is in a file."""
    if isinstance(body, Path):
        with body.open("rb") as source:
            return _answer(environ, source, body.stat().st_size)
    return _answer(environ, BytesIO(body), len(body))


def _answer(environ: dict[str, str], body: IO[bytes], length: int) -> PipedAnswer:
    begun: list[Any] = []
    response = application(
        {
            **environ,
            "CONTENT_LENGTH": str(length),
            "wsgi.input": body,
            "wsgi.errors": BytesIO(),
        },
        lambda status, headers: begun.extend((int(status.split()[0]), headers)),  # type: ignore[arg-type]
    )
    try:
        text = b"".join(response)
    finally:
        close = getattr(response, "close", None)
        if close is not None:
            close()
    return PipedAnswer(begun[0], begun[1], text)


def attached() -> None:
    """End with the process that this one is forked from, which ends with the pool's."""
    parent, pause = os.getppid(), threading.Event()

    def leave() -> None:
        while os.getppid() == parent:
            pause.wait(0.5)
        os._exit(0)

    threading.Thread(target=leave, daemon=True).start()


def warm() -> None:
    """Do once what the first question would wait for; each process is forked from here."""
    from builds.demo import demo_builds
    from powertrain.bench.solve import solve
    from powertrain.shelf.shipped import shipped_shelf

    shipped_shelf()
    import_module("config.urls")
    for document in demo_builds().values():
        solve(document)


if os.environ.get("YT_WARM"):
    warm()
