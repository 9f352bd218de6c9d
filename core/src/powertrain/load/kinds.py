"""The kinds of load there are, by the kind of vehicle that a document names."""

from collections.abc import Mapping
from typing import Any

from powertrain.load.hoist import Hoist
from powertrain.load.propelled import Propelled
from powertrain.load.protocol import Load
from powertrain.load.wheel_on_road import WheelOnRoad
from powertrain.stated import Stated

KINDS: Mapping[str, Any] = {"ground": WheelOnRoad, "hoist": Hoist}


def load_of(build: Stated) -> Load:
    """Return the load that a document describes: what a propeller pushes is pushed by air."""
    pushed = build.word("propeller") is not None
    kind: Any = Propelled if pushed else KINDS[build.under("vehicle").word("kind")]
    made: Load = kind.of(build)
    return made
