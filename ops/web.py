"""The process that answers: connections in threads, what is heavy in processes of its own."""

import argparse
import json
import os
import resource
import signal
import sys
import threading
from pathlib import Path


def main() -> int:
    """Answer until a termination signal, or until whoever began this is gone."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--port", type=int, required=True)
    parser.add_argument("--attached", type=int, help="process number of whoever began this")
    options = parser.parse_args()
    from ops.parent import leave_with

    if options.attached is not None:
        leave_with(options.attached)
    _allow_files(4096)
    ended = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda *_: ended.set())
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    from serving.processes import begin

    begin()
    os.environ["YT_DB_POOL"] = "1"
    from config.wsgi import application
    from serving.front import Front
    from serving.pool import Pool
    from serving.watch import Watch

    pool = Pool()
    while not _prepared() and not ended.wait(0.05):
        pass
    front = Front(application, options.port, pool, Watch())
    front.start()
    ended.wait()
    front.stop()
    pool.close()
    return 0


def _allow_files(wanted: int) -> None:
    """Let this process hold open as many connections as it may take, if the machine lets it."""
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    most = wanted if hard == resource.RLIM_INFINITY else min(wanted, hard)
    if soft != resource.RLIM_INFINITY and soft < most:
        resource.setrlimit(resource.RLIMIT_NOFILE, (most, hard))


def _prepared() -> bool:
    """Return whether the database has its form, where whoever began this says so."""
    place = os.environ.get("YT_STATUS")
    if not place:
        return True
    try:
        return bool(json.loads(Path(place).read_text()).get("prepared", True))
    except (OSError, ValueError):
        return False


if __name__ == "__main__":
    sys.exit(main())
