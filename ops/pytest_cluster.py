"""Gives a test run a PostgreSQL cluster of its own, before Django reads its settings.

What the engine compiles is kept for the next run, and for the products that journeys begin.

Each run has its own cluster, so that two at once don't meet in one test database. A run of the
core's tests alone needs none.
"""

import atexit
import os
import sys
from typing import Any

from ops.cluster import LOCAL, throw_away_cluster
from ops.machine_code import keep_below


def pytest_addoption(parser: Any) -> None:
    """Start the cluster; of pytest's hooks, this one comes before Django's settings are read."""
    keep_below(LOCAL)
    places = [argument for argument in sys.argv[1:] if os.path.exists(argument.split("::")[0])]
    if os.environ.get("YT_DB_PORT") or (
        places and all("core" in place or "benchmarks" in place for place in places)
    ):
        return
    cluster = throw_away_cluster()
    cluster.start()
    atexit.register(cluster.remove)
    os.environ.update(cluster.environment)
