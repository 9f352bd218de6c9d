"""Drives by hand that are going on: one for each page that holds a trigger.

They live in the process that answers everybody, for a frame takes a third of a millisecond; only
their beginning, which compiles a step, takes longer, and one begins at a time.
"""

import time
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from threading import Lock

from common.errors import Busy, NotFound
from powertrain.documents.build import Build
from powertrain.dynamics.trigger import TriggerDrive, TriggerFrame

MOST_DRIVES = 40
"""At once; each holds a thread of the server."""

LONGEST_S = 600.0
UNSEEN_S = 20.0
"""A drive that nobody looks at within this time is forgotten."""


@dataclass(eq=False)
class Drive:
    """One drive: how the trigger is held is written by one thread and read by another."""

    driven: TriggerDrive
    grade_pct: float
    trigger: float = 0.0
    begun: float = field(default_factory=time.monotonic)
    seen: bool = False
    ended: bool = False

    def frames(
        self,
        clock: Callable[[], float] = time.monotonic,
        sleep: Callable[[float], None] = time.sleep,
    ) -> Iterator[TriggerFrame]:
        """Yield a frame each time one is due; those that are late are reckoned, but not sent."""
        frame_s = self.driven.frame_s
        begun, count = clock(), 0
        while not self.ended and count * frame_s < LONGEST_S:
            wait_s = begun + (count + 1) * frame_s - clock()
            if wait_s > 0:
                sleep(wait_s)
            frame = self.driven.frame(self.trigger, self.grade_pct)
            count += 1
            if wait_s > -frame_s:
                yield frame


class Drives:
    """All that are going on."""

    def __init__(self) -> None:
        self._lock, self._beginning = Lock(), Lock()
        self._drives: dict[uuid.UUID, Drive] = {}

    def begin(self, build: Build, grade_pct: float) -> tuple[uuid.UUID, Drive]:
        """Return a new drive, at rest, and what it is asked for by, which nobody can guess.

        Raises
        ------
        Busy
            If there may be no more.
        Refusal
            If the build is not on wheels.
        """
        with self._lock:
            self._forget_unseen()
            if len(self._drives) >= MOST_DRIVES:
                raise Busy("trigger", "is held on as many pages as may be; close one of them")
        with self._beginning:
            drive = Drive(TriggerDrive(build), grade_pct)
        key = uuid.uuid4()
        with self._lock:
            self._drives[key] = drive
        return key, drive

    def of(self, key: uuid.UUID) -> Drive:
        """Return a drive that is going on.

        Raises
        ------
        NotFound
            If it is not.
        """
        drive = self._drives.get(key)
        if drive is None:
            raise NotFound("key", "is of no drive that is going on; begin another")
        return drive

    def end(self, key: uuid.UUID) -> None:
        """Forget a drive."""
        with self._lock:
            drive = self._drives.pop(key, None)
        if drive is not None:
            drive.ended = True

    def _forget_unseen(self) -> None:
        late = time.monotonic() - UNSEEN_S
        for key, drive in list(self._drives.items()):
            if not drive.seen and drive.begun < late:
                del self._drives[key]


DRIVES = Drives()
