"""The faces of instruments in the time in which a ride goes on, as server-sent events."""

import json
import time
from collections.abc import Callable, Iterator
from typing import Any

from common.streams import held_open, let_go

LATE_S = 1.0
"""A page that lags behind by more than this goes on from where the ride is."""


def faces_in_time(
    frames: list[dict[str, Any]],
    pace: float,
    clock: Callable[[], float] = time.monotonic,
    sleep: Callable[[float], None] = time.sleep,
) -> Iterator[bytes]:
    """Yield frames as events when they are due, `pace` times as fast as in life.

    Raises
    ------
    Busy
        If there may be no more of them.
    """
    return held_open("the test day", _sent(frames, pace, clock, sleep))


def _sent(
    frames: list[dict[str, Any]],
    pace: float,
    clock: Callable[[], float],
    sleep: Callable[[float], None],
) -> Iterator[bytes]:
    let_go()
    begun = clock()
    for frame in frames:
        wait_s = begun + frame["t_s"] / pace - clock()
        if wait_s > 0:
            sleep(wait_s)
        yield b"data: " + json.dumps(frame).encode() + b"\n\n"
    yield b"event: end\ndata: {}\n\n"
