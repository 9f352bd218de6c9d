"""How shops write of motors."""

import re
from collections.abc import Iterator

from powertrain.listing.pattern import (
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

CAN_NOTE = "Diameter and length of the can; some shops mean the iron inside, which is smaller."
PEAK_NOTE = "No time is said, so it is taken for the peak."


def _code(match: re.Match[str]) -> Iterator[Said]:
    yield "diameter_mm", number(match[1]), CAN_NOTE
    yield "length_mm", number(match[2]), CAN_NOTE


def _sizes(match: re.Match[str]) -> Iterator[Said]:
    yield "diameter_mm", number(match[1]), ""
    yield "length_mm", number(match[2]), ""


def _cells(match: re.Match[str]) -> Iterator[Said]:
    low = whole(match[1])
    high = whole(match[2]) if match[2] else low
    yield "rated_cells", [min(low, high), max(low, high)], "The maker's advice, not a limit."


def _iron(match: re.Match[str]) -> Iterator[Said]:
    yield "slots", whole(match[1]), ""
    yield "poles", whole(match[2]), ""


def _poles(match: re.Match[str]) -> Iterator[Said]:
    yield "poles", whole(match[1]), ""


def _free(match: re.Match[str]) -> Iterator[Said]:
    yield "no_load_current_a", number(match[1]), ""


PATTERNS: tuple[Pattern, ...] = (
    pattern(r"brush-?\s?less|bldc", word("commutation", "brushless")),
    pattern(r"brushed", word("commutation", "brushed")),
    pattern(r"sensor-?\s?less", word("sensor", "none")),
    pattern(r"sensored|hall(?:\s+sensors?)?|with\s+(?:hall\s+)?sensors?", word("sensor", "hall")),
    pattern(r"encoder", word("sensor", "encoder")),
    pattern(rf"{NUMBER}\s*(?:kv|rpm\s*/\s*v)|kv\s*[:=]?\s*{NUMBER}(?:\s*rpm\s*/\s*v)?",
            one("kv_rpm_per_v")),
    pattern(rf"{NUMBER}\s*(?:mΩ|mΩ|m\s?ohms?|milliohms?)", one("resistance_ohm", 0.001)),
    pattern(rf"{NUMBER}\s*(?:Ω|Ω|ohms?)", one("resistance_ohm")),
    pattern(rf"(?:no[\s-]?load|idle|free)(?:\s+(?:current|amps))?\s*[:=]?\s*{NUMBER}\s*A", _free),
    pattern(rf"{NUMBER}\s*A\s+(?:no[\s-]?load|idle|free)", _free),
    pattern(rf"(?:max(?:imum)?\.?|peak|burst)(?:\s+(?:current|amps))?\s*[:=]?\s*{NUMBER}\s*A",
            one("peak_current_a")),
    pattern(rf"{NUMBER}\s*A\s*(?:max(?:imum)?|peak|burst)", one("peak_current_a")),
    pattern(rf"(?:cont(?:inuous)?\.?|rated)(?:\s+(?:current|amps))?\s*[:=]?\s*{NUMBER}\s*A",
            one("continuous_current_a")),
    pattern(rf"{NUMBER}\s*A\s*(?:cont(?:inuous)?|rated)", one("continuous_current_a")),
    pattern(rf"{NUMBER}\s*A(?:mps?)?", one("peak_current_a", note=PEAK_NOTE)),
    pattern(rf"{NUMBER}\s*kW", one("max_power_w", 1000.0)),
    pattern(rf"{NUMBER}\s*W(?:atts?)?", one("max_power_w")),
    pattern(rf"(?:max(?:imum)?\.?|limit)\s*{NUMBER}\s*rpm", one("max_rpm")),
    pattern(rf"{NUMBER}\s*rpm\s*(?:max(?:imum)?|limit)", one("max_rpm")),
    pattern(rf"(?:max(?:imum)?\.?|up\s+to)\s*{NUMBER}\s*V(?:olts?)?", one("max_voltage_v")),
    pattern(rf"{NUMBER}\s*V\s*max(?:imum)?", one("max_voltage_v")),
    pattern(r"(\d{1,2})\s*N\s*(\d{1,2})\s*P", _iron),
    pattern(r"(\d{1,2})[\s-]*(?:poles?|magnets)", _poles),
    pattern(rf"{NUMBER}\s*mm\s*(?:output\s+)?(?:shaft|axle)", one("shaft_mm")),
    pattern(rf"(?:shaft|axle)(?:\s+(?:diameter|dia\.?|size))?\s*[:=]?\s*[Øø]?\s*{NUMBER}\s*mm",
            one("shaft_mm")),
    pattern(rf"[Øø]?\s*{NUMBER}\s*[x×*]\s*{NUMBER}\s*mm", _sizes),
    pattern(rf"(\d{{1,2}})\s*S?{TO}(\d{{1,2}})\s*S(?:\s*li-?po)?", _cells),
    pattern(r"(\d{1,2})\s*S(?:\s*li-?po)?()", _cells),
    *MASS,
    *PRICE,
    pattern(r"(\d{2})(\d{2})", _code),
    pattern(r"(\d{2,3})(\d{3})", _code),
)  # fmt: skip
