"""A motor more or less on the same shaft."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, single


def levers(build: Build) -> Iterator[Lever]:
    """Yield the number of equal motors."""
    yield single(
        "motor.count", "motor", "Motors", "", build.motor.count, 1, 1, tag="motors", rank=1
    )
