"""Where the pool's processes are forked from: a process that has read and warmed everything."""

import multiprocessing
import os
from multiprocessing import forkserver
from multiprocessing.context import ForkServerContext


def context() -> ForkServerContext:
    """Return the way in which the pool's processes are begun."""
    return multiprocessing.get_context("forkserver")


def begin() -> None:
    """Begin the process that all of the pool are forked from.

    It has this process's environment as it is now, and reads the application for itself; to be
    called before anything here reads the application's settings.
    """
    context().set_forkserver_preload(["serving.hand"])
    os.environ["YT_WARM"] = "1"
    forkserver.ensure_running()
    del os.environ["YT_WARM"]
