"""Streams of events: each holds a thread of the server, so there may be only so many."""

from threading import BoundedSemaphore

from django.db import connection

MOST_WATCHING = 40

WATCHING = BoundedSemaphore(MOST_WATCHING)


def let_go() -> None:
    """Give the connection to the database back while a stream waits: others wait for it."""
    if not connection.in_atomic_block:
        connection.close()
