"""Keeping things running: begun again when they end, later and later while that does not help."""

import subprocess
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Protocol

LOOKS_EVERY_S = 0.25


@dataclass
class Patience:
    """How long to wait before something that ended is begun again.

    The first time at once; each time it ends again before it ran `sound_s` seconds, twice as
    long as before, and never longer than `most_s`.
    """

    first_s: float = 0.2
    most_s: float = 5.0
    sound_s: float = 10.0
    _failures: int = 0

    def after(self, ran_s: float) -> float:
        """Return the seconds to wait, after something ended that ran for `ran_s`."""
        if ran_s >= self.sound_s:
            self._failures = 0
        wait_s = 0.0 if self._failures == 0 else self.first_s * 2.0 ** (self._failures - 1)
        self._failures += 1
        return min(wait_s, self.most_s)


class Thing(Protocol):
    """Something to keep running."""

    name: str

    def start(self) -> None:
        """Begin it; raise where that is not possible."""

    def runs(self) -> bool:
        """Return whether it runs."""

    def stop(self) -> None:
        """End it, in its own way if it will, and wait for that."""


class Process:
    """A program as something to keep running."""

    def __init__(self, name: str, command: Sequence[str], graceful_s: float = 6.0) -> None:
        self.name, self._command, self._graceful_s = name, command, graceful_s
        self._running: subprocess.Popen[bytes] | None = None

    @property
    def pid(self) -> int | None:
        """Its process number, while it runs."""
        return None if self._running is None or not self.runs() else self._running.pid

    def start(self) -> None:
        """Begin the program."""
        self._running = subprocess.Popen(self._command)

    def runs(self) -> bool:
        """Return whether the program runs."""
        return self._running is not None and self._running.poll() is None

    def stop(self) -> None:
        """Ask it to end, and make it."""
        if self._running is None:
            return
        self._running.terminate()
        try:
            self._running.wait(self._graceful_s)
        except subprocess.TimeoutExpired:
            self._running.kill()
            self._running.wait()


@contextmanager
def kept(things: Sequence[Thing], tell: Callable[[str, str], None]) -> Iterator[None]:
    """Keep things running inside the `with`, each in a thread of its own; then end them.

    `tell` gets a thing's name and how it stands each time that changes: "up", or why it is not.
    """
    over = threading.Event()
    keeping = [threading.Thread(target=_keep, args=(thing, tell, over)) for thing in things]
    for thread in keeping:
        thread.start()
    try:
        yield
    finally:
        over.set()
        for thread in keeping:
            thread.join()


def _keep(thing: Thing, tell: Callable[[str, str], None], over: threading.Event) -> None:
    patience = Patience()
    begun = time.monotonic()
    try:
        if thing.runs():
            tell(thing.name, "up")
        while not over.is_set():
            if thing.runs():
                over.wait(LOOKS_EVERY_S)
                continue
            over.wait(patience.after(time.monotonic() - begun))
            if over.is_set():
                return
            begun = time.monotonic()
            tell(thing.name, "is starting")
            try:
                thing.start()
                tell(thing.name, "up")
            except Exception as problem:
                tell(thing.name, str(problem))
    finally:
        thing.stop()
