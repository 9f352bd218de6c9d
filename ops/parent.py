"""Ending with the process that one was begun for."""

import os
import threading


def leave_with(parent: int) -> None:
    """End this process as soon as its parent is no longer `parent`, killed or not.

    `parent` comes from whoever began this process: read here, it might be too late already.
    """
    threading.Thread(target=_leave_with, args=(parent,), daemon=True).start()


def _leave_with(parent: int) -> None:
    pause = threading.Event()
    while os.getppid() == parent:
        pause.wait(0.5)
    os._exit(0)
