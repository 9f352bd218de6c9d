"""The processes that do what is heavy, so that the one that answers everybody stays free."""

import os
import time
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import TimeoutError
from dataclasses import dataclass, field
from hashlib import blake2b
from pathlib import Path
from threading import Event, Lock

from pebble import ProcessExpired, ProcessPool

from serving.gate import Busy, Gate, Gone
from serving.hand import PipedAnswer, answer, attached
from serving.heavy import Weight
from serving.processes import context

MOST_WAITING = 256
REMEMBERED_BYTES = 64_000_000
PATIENT_S = 1.0
"""A question that nobody waits for is stopped after this time; a shorter one costs less than a
new process."""


class TookTooLong(Exception):
    """The answer was not there in the time that its kind of question has."""


@dataclass(eq=False)
class _Flight:
    """A question that is being answered, and all who wait for it."""

    landed: Event = field(default_factory=Event)
    told: PipedAnswer | None = None
    problem: Exception | None = None
    gone: list[Callable[[], bool]] = field(default_factory=list)

    def nobody_waits(self) -> bool:
        return all(gone() for gone in list(self.gone))


class Pool:
    """Answers heavy questions in processes of its own, in fair turns.

    Equal pure questions are answered once: those asked meanwhile wait for the same answer, and
    the last ones are remembered.
    """

    def __init__(
        self,
        places: int | None = None,
        answer: Callable[[dict[str, str], bytes | Path], PipedAnswer] = answer,
    ) -> None:
        self._answer = answer
        places = max(2, min(4, places or os.cpu_count() or 2))
        self._processes = ProcessPool(max_workers=places, context=context(), initializer=attached)
        self.gate = Gate(places, MOST_WAITING)
        self._lock = Lock()
        self._flights: dict[bytes, _Flight] = {}
        self._remembered = Remembered(REMEMBERED_BYTES)

    def close(self) -> None:
        """Stop at once; what is under way is not answered."""
        self._processes.stop()  # type: ignore[no-untyped-call]
        self._processes.join(timeout=5)

    def answer(
        self,
        environ: dict[str, str],
        body: bytes | Path,
        weight: Weight,
        client: str,
        gone: Callable[[], bool],
    ) -> PipedAnswer:
        """Return the answer to a request.

        Raises
        ------
        Busy, Gone, TookTooLong, ProcessExpired
            If there is none; the last when its process was killed.
        """
        if not weight.pure or isinstance(body, Path):
            return self._ask(environ, body, weight, client, gone)
        key = _key(environ, body)
        with self._lock:
            known = self._remembered.get(key)
            if known is not None:
                return known
            flight = self._flights.get(key)
            leads = flight is None
            if flight is None:
                flight = self._flights[key] = _Flight()
            flight.gone.append(gone)
        if leads:
            self._lead(key, flight, environ, body, weight, client)
        else:
            flight.landed.wait()
        if flight.told is None:
            raise flight.problem or Gone()
        return flight.told

    def _lead(
        self,
        key: bytes,
        flight: _Flight,
        environ: dict[str, str],
        body: bytes,
        weight: Weight,
        client: str,
    ) -> None:
        try:
            flight.told = self._ask(environ, body, weight, client, flight.nobody_waits)
        except Exception as problem:
            flight.problem = problem
        with self._lock:
            del self._flights[key]
            if flight.told is not None and flight.told.status == 200:
                self._remembered.keep(key, flight.told)
        flight.landed.set()

    def _ask(
        self,
        environ: dict[str, str],
        body: bytes | Path,
        weight: Weight,
        client: str,
        gone: Callable[[], bool],
    ) -> PipedAnswer:
        with self.gate.turn(client, long=weight.long, gone=gone):
            future = self._processes.schedule(
                self._answer, args=[environ, body], timeout=weight.most_s
            )
            begun = time.monotonic()
            while True:
                try:
                    told: PipedAnswer = future.result(timeout=0.5)
                    return told
                except TimeoutError:
                    if future.done():
                        raise TookTooLong from None
                    if time.monotonic() - begun > PATIENT_S and gone():
                        future.cancel()  # type: ignore[no-untyped-call]
                        raise Gone from None


class Remembered:
    """The last answers, up to a number of bytes."""

    def __init__(self, most_bytes: int) -> None:
        self._most, self._bytes = most_bytes, 0
        self._answers: OrderedDict[bytes, PipedAnswer] = OrderedDict()

    def get(self, key: bytes) -> PipedAnswer | None:
        """Return an answer that is remembered, and remember it longer."""
        told = self._answers.get(key)
        if told is not None:
            self._answers.move_to_end(key)
        return told

    def keep(self, key: bytes, told: PipedAnswer) -> None:
        """Remember an answer, and forget the oldest where there is no room."""
        if key in self._answers or len(told.body) > self._most // 4:
            return
        self._answers[key] = told
        self._bytes += len(told.body)
        while self._bytes > self._most:
            self._bytes -= len(self._answers.popitem(last=False)[1].body)


def _key(environ: dict[str, str], body: bytes) -> bytes:
    asked = f"{environ['REQUEST_METHOD']} {environ['PATH_INFO']}?{environ['QUERY_STRING']}\n"
    return blake2b(asked.encode("latin-1", "replace") + body, digest_size=20).digest()


__all__ = ["Busy", "Gone", "Pool", "ProcessExpired", "TookTooLong"]
