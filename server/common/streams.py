"""Streams of events: each holds a thread of the server, so there may be only so many."""

from collections.abc import Iterator
from threading import BoundedSemaphore

from django.db import connection

from common.errors import Busy

MOST_WATCHING = 40

WATCHING = BoundedSemaphore(MOST_WATCHING)


def held_open(what: str, events: Iterator[bytes]) -> Iterator[bytes]:
    """Return a stream of events that takes one of the places there are until it is over.

    Raises
    ------
    Busy
        If all are taken.
    """
    if not WATCHING.acquire(blocking=False):
        raise Busy(what, "is looked at on as many pages as may be; close one of them")
    return _freeing(events)


def _freeing(events: Iterator[bytes]) -> Iterator[bytes]:
    try:
        yield from events
    finally:
        WATCHING.release()


def let_go() -> None:
    """Give the connection to the database back while a stream waits: others wait for it."""
    if not connection.in_atomic_block:
        connection.close()
