"""Turns at a few places, fairly: whoever asks much waits behind itself, not before others."""

import threading
from collections import OrderedDict, deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field

LOOKS_EVERY_S = 0.5
"""How often somebody who waits looks whether anybody still wants the answer."""


class Busy(Exception):
    """So many wait already that another would wait too long."""


class Gone(Exception):
    """Nobody waits for the answer any more."""


@dataclass(eq=False)
class _Ticket:
    long: bool
    called: threading.Event = field(default_factory=threading.Event)


class Gate:
    """Lets at most `places` in at a time, of which long ones leave at least one free.

    Of those that wait, each client's turn comes after the others' turns, however many questions
    it has asked.
    """

    def __init__(self, places: int, most_waiting: int) -> None:
        if places < 2:
            raise ValueError("one place for what is long and one for what is quick are needed")
        self._places, self._most_waiting = places, most_waiting
        self._lock = threading.Lock()
        self._inside = self._long_inside = 0
        self._waiting: OrderedDict[str, deque[_Ticket]] = OrderedDict()

    @property
    def waiting(self) -> int:
        """How many wait now."""
        with self._lock:
            return sum(map(len, self._waiting.values()))

    @contextmanager
    def turn(self, client: str, *, long: bool, gone: Callable[[], bool]) -> Iterator[None]:
        """Wait for a place and keep it inside the `with`.

        Raises
        ------
        Busy
            If too many wait already.
        Gone
            If `gone` says so before the turn came.
        """
        ticket = self._queue(client, long)
        while not ticket.called.wait(LOOKS_EVERY_S):
            if gone() and self._leave(client, ticket):
                raise Gone
        try:
            yield
        finally:
            with self._lock:
                self._inside -= 1
                self._long_inside -= ticket.long
                self._call()

    def _queue(self, client: str, long: bool) -> _Ticket:
        ticket = _Ticket(long)
        with self._lock:
            if sum(map(len, self._waiting.values())) >= self._most_waiting:
                raise Busy
            self._waiting.setdefault(client, deque()).append(ticket)
            self._call()
        return ticket

    def _leave(self, client: str, ticket: _Ticket) -> bool:
        """Leave the queue; False if the turn came just now."""
        with self._lock:
            if ticket.called.is_set():
                return False
            tickets = self._waiting[client]
            tickets.remove(ticket)
            if not tickets:
                del self._waiting[client]
            return True

    def _call(self) -> None:
        """Let in whoever may come in; the lock is held."""
        while self._inside < self._places:
            found = self._next()
            if found is None:
                return
            client, ticket = found
            tickets = self._waiting[client]
            tickets.remove(ticket)
            if tickets:
                self._waiting.move_to_end(client)
            else:
                del self._waiting[client]
            self._inside += 1
            self._long_inside += ticket.long
            ticket.called.set()

    def _next(self) -> tuple[str, _Ticket] | None:
        full = self._long_inside >= self._places - 1
        for client, tickets in self._waiting.items():
            for ticket in tickets:
                if not (ticket.long and full):
                    return client, ticket
        return None
