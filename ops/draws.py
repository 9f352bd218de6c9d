"""How many random examples a property is tried on, and from which draws.

A test run tries the same examples for everyone, so that a failure is one of the change and not
of the draw. `bin/explore` tries `EXPLORE` times as many, drawn anew each time.
"""

import os
from typing import Any

from hypothesis import HealthCheck, settings

EXPLORE = int(os.environ.get("EXPLORE", "1"))

settings.register_profile("same", derandomize=True, deadline=None, database=None)
settings.register_profile(
    "explore",
    deadline=None,
    max_examples=100 * EXPLORE,
    print_blob=True,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large],
)
settings.load_profile("explore" if EXPLORE > 1 else "same")


def examples(count: int, **more: Any) -> Any:
    """Return the decorator of a property that an ordinary run tries on `count` examples."""
    return settings(max_examples=count * EXPLORE, deadline=None, **more)
