"""How shops write of speed controllers."""

import re
from collections.abc import Iterator

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.listing.pattern import (
    BOX,
    MASS,
    NUMBER,
    PRICE,
    TO,
    Pattern,
    Said,
    number,
    one,
    pattern,
    whole,
    word,
)


def _cells(match: re.Match[str]) -> Iterator[Said]:
    most = max(whole(match[1]), whole(match[2] or "0"))
    volts = round(most * CHEMISTRIES["lipo"].charger_v, 2)
    yield "max_voltage_v", volts, f"{most} lithium cells straight off the charger."


def _volts(match: re.Match[str]) -> Iterator[Said]:
    yield "max_voltage_v", max(number(match[1]), number(match[2])), "The upper end of the range."


PATTERNS: tuple[Pattern, ...] = (
    pattern(r"brush-?\s?less|bldc", word("part.drives", "brushless")),
    pattern(r"brushed", word("part.drives", "brushed")),
    pattern(r"(?:with|incl(?:uding|\.)?|includes)\s+(?:a\s+)?(?:remote|transmitter)",
            word("part.remote_included", True)),
    pattern(r"programmable|settable|adjustable\s+limits?|app\s+settable",
            word("part.settable", True)),
    pattern(r"not\s+programmable|fixed\s+limits?", word("part.settable", False)),
    pattern(rf"(?:max(?:imum)?\.?|peak|burst)(?:\s+(?:current|amps))?\s*[:=]?\s*{NUMBER}\s*A",
            one("peak_current_a")),
    pattern(rf"{NUMBER}\s*A\s*(?:max(?:imum)?|peak|burst)", one("peak_current_a")),
    pattern(rf"(?:cont(?:inuous)?\.?|rated)?(?:\s+(?:current|amps))?\s*[:=]?\s*{NUMBER}\s*A(?:mps?)?"
            r"(?:\s*(?:cont(?:inuous)?|rated))?", one("continuous_current_a")),
    pattern(rf"(\d+(?:[.,]\d+)?)\s*V?{TO}{NUMBER}\s*V(?:olts?)?", _volts),
    pattern(rf"(?:max(?:imum)?\.?|up\s+to)?\s*{NUMBER}\s*V(?:olts?)?(?:\s*max(?:imum)?)?",
            one("max_voltage_v")),
    pattern(rf"{NUMBER}\s*k\s*erpm", one("max_erpm", 1000.0)),
    pattern(rf"{NUMBER}\s*erpm", one("max_erpm")),
    pattern(rf"(\d{{1,2}})\s*S?{TO}(\d{{1,2}})\s*S(?:\s*li-?po)?", _cells),
    pattern(r"(\d{1,2})\s*S(?:\s*li-?po)?()", _cells),
    pattern(r"pwm|servo\s+pulse|pulse", word("signal", "pulse")),
    pattern(r"hall\s+throttle|analogu?e|0\s*-\s*5\s*V", word("signal", "analogue")),
    *BOX,
    *MASS,
    *PRICE,
)  # fmt: skip
