"""The worker: takes searches from the queue in the database and does them, one at a time.

Any number of workers may run, on any machine that reaches the database. One that is killed
leaves its search marked as begun; another finds that its heartbeat stopped and begins anew.
"""

import argparse
import asyncio
import logging
import os
import sys
import threading
import time
from typing import Any

from ops.parent import leave_with

BEATS_EVERY_S, STALLED_AFTER_S = 2.0, 8.0
"""How often a worker says that it lives, and after which silence it is taken for dead."""

NICE = 5
"""How far a worker stands back for the server and the database, as `nice` has it."""


def main() -> int:
    """Work until a termination signal, or until whoever began this is gone."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--attached", type=int, help="process number of whoever began this")
    options = parser.parse_args()
    if options.attached is not None:
        leave_with(options.attached)
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    import django

    django.setup()
    from procrastinate.contrib.django import app

    # Whoever looks at a page comes first; a search has all that is left.
    os.nice(NICE)
    if os.environ.get("YT_WARM", "1") != "0":
        threading.Thread(target=_warm, daemon=True).start()
    connector: Any = app.connector
    try:
        asyncio.run(_work(app.with_connector(connector.get_worker_connector())))
    except Exception:
        # The database went away under it. A search may still run in a thread and would be waited
        # for; who keeps this process running begins another, which takes the search up.
        logging.getLogger("ops.work").exception("action=leave")
        os._exit(1)
    return 0


async def _work(app: Any) -> None:
    async with app.open_async():
        beside = [asyncio.create_task(_rescue(app)), asyncio.create_task(_keep_house())]
        try:
            await app.run_worker_async(
                queues=["searches"],
                concurrency=1,
                fetch_job_polling_interval=2.0,
                abort_job_polling_interval=2.0,
                update_heartbeat_interval=BEATS_EVERY_S,
                stalled_worker_timeout=STALLED_AFTER_S,
                shutdown_graceful_timeout=2.0,
            )
        finally:
            for task in beside:
                task.cancel()


HOUSE_EVERY_S, PRUNE_EVERY_S = 5.0, 3600.0
"""How often what was left behind is looked for, and what may go."""

CARDS_AT_ONCE = 10
"""Builds whose figures are worked out anew at each look, while nothing is searched for."""


async def _keep_house() -> None:
    """Look after what nobody else does."""
    from asgiref.sync import sync_to_async

    pruned = time.monotonic() - PRUNE_EVERY_S + 60.0
    while True:
        await asyncio.sleep(HOUSE_EVERY_S)
        prune = time.monotonic() - pruned > PRUNE_EVERY_S
        try:
            await sync_to_async(_house, thread_sensitive=False)(prune)
        except Exception:
            logging.getLogger("ops.work").exception("action=house")
        pruned = time.monotonic() if prune else pruned


def _house(prune: bool) -> None:
    from django.db import close_old_connections

    from builds.cards import out_of_date, work_out
    from matching.tasks import look_after, searching
    from upkeep.prune import prune as let_go

    close_old_connections()
    look_after()
    if not searching.is_set():
        work_out(out_of_date(CARDS_AT_ONCE))
    if prune:
        let_go()


async def _rescue(app: Any) -> None:
    """Put searches whose worker died back into the queue."""
    while True:
        try:
            stalled = await app.job_manager.get_stalled_jobs(
                seconds_since_heartbeat=STALLED_AFTER_S
            )
            for job in stalled:
                logging.getLogger("ops.work").warning("job=%s action=rescue", job.id)
                await app.job_manager.retry_job(job)
        except Exception:
            logging.getLogger("ops.work").exception("could not look for stalled searches")
        await asyncio.sleep(BEATS_EVERY_S)


def _warm() -> None:
    """Begin a search for each start, so that nobody waits for imports or gearings."""
    from matching.tasks import searching
    from powertrain.match.search import Search
    from powertrain.match.starts import start_briefs
    from powertrain.shelf.shipped import shipped_shelf

    pause = threading.Event()
    for start in start_briefs():
        while searching.is_set():
            pause.wait(0.2)
        next(Search(start.document, shipped_shelf()).steps(), None)


if __name__ == "__main__":
    sys.exit(main())
