"""Published cycles of speed over time.

ECE-15: the urban cycle of UN Regulation 83, annex 4 (from memory; its breakpoints give 1,014.6 m).
WLTC class 1: UN GTR 15, annex 1, low then medium, a value a second; its check sums, 11,988.4 and
17,162.8, are those of the annex.
"""

import json
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def _data() -> dict[str, Any]:
    return json.loads((files("powertrain.runs") / "cycles.json").read_text())  # type: ignore[no-any-return]


def cycle_points(name: str) -> list[tuple[float, float]]:
    """Return seconds and km/h of a cycle, straight between them."""
    stored = _data()[name]
    if name == "wltc-1":
        return [(float(second), float(kmh)) for second, kmh in enumerate(stored)]
    return [(float(second), float(kmh)) for second, kmh in stored]
