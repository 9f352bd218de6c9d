"""A cell more or less in series, a string more or less in parallel."""

from collections.abc import Iterator

from powertrain.documents.build import Build
from powertrain.levers.lever import Lever, single


def levers(build: Build) -> Iterator[Lever]:
    """Yield cells in series (volts) and strings in parallel (amps)."""
    battery = build.battery
    yield single("battery.series", "pack", "Cells in series", "S", battery.series, 1, 1)
    yield single("battery.parallel", "pack", "Strings in parallel", "P", battery.parallel, 1, 1)
