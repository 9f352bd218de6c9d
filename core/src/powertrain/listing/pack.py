"""How shops write of packs."""

import re
from collections.abc import Iterator

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


def _made_of(match: re.Match[str]) -> Iterator[Said]:
    yield "series", whole(match[1]), ""
    yield "parallel", whole(match[2]), ""


def _series(match: re.Match[str]) -> Iterator[Said]:
    yield "series", whole(match[1]), ""


def _c_range(match: re.Match[str]) -> Iterator[Said]:
    yield "facts.c_rating", number(match[1]), ""
    yield "facts.peak_c", number(match[2]), ""


CAPACITY_NOTE = "Of the whole pack; shared out over its strings."

PATTERNS: tuple[Pattern, ...] = (
    pattern(r"li-?\s?po|lithium[\s-]polymer", word("chemistry", "lipo")),
    pattern(r"li-?\s?fe\s?po4|lfp|lithium\s+iron(?:\s+phosphate)?", word("chemistry", "lifepo4")),
    pattern(r"li-?ion|lithium[\s-]ion|18650|21700", word("chemistry", "li_ion")),
    pattern(r"lead(?:[\s-]acid)?|agm|sla|gel", word("chemistry", "lead_acid")),
    pattern(r"ni-?mh", word("chemistry", "nimh")),
    pattern(r"(\d{1,3})\s*S\s*(\d{1,3})\s*P", _made_of),
    pattern(r"(\d{1,3})\s*(?:S|cells?)", _series),
    pattern(rf"{NUMBER}\s*mAh", one("facts.capacity_ah", 0.001, CAPACITY_NOTE)),
    pattern(rf"{NUMBER}\s*Ah", one("facts.capacity_ah", note=CAPACITY_NOTE)),
    pattern(rf"{NUMBER}\s*C?{TO}{NUMBER}\s*C", _c_range),
    pattern(rf"{NUMBER}\s*C\s*(?:burst|peak|max)", one("facts.peak_c")),
    pattern(rf"{NUMBER}\s*C(?:\s*(?:cont(?:inuous)?|discharge))?", one("facts.c_rating")),
    pattern(rf"(?:max(?:imum)?\.?|peak|burst)\s*{NUMBER}\s*A", one("peak_current_a")),
    pattern(rf"{NUMBER}\s*A\s*(?:max(?:imum)?|peak|burst)", one("peak_current_a")),
    pattern(rf"(?:charge(?:s|\s+current)?\s*(?:at|:)?\s*){NUMBER}\s*A", one("charge_current_a")),
    pattern(rf"{NUMBER}\s*A\s+charge", one("charge_current_a")),
    pattern(rf"{NUMBER}\s*A(?:\s*(?:bms|cont(?:inuous)?|discharge))?", one("continuous_current_a")),
    pattern(rf"{NUMBER}\s*(?:mΩ|mΩ|m\s?ohms?)\s*(?:/|per|a)\s*cell", one("cell_resistance_mohm")),
    pattern(rf"{NUMBER}\s*V(?:olts?)?(?:\s+nominal)?", one("facts.nominal_v")),
    *BOX,
    *MASS,
    *PRICE,
)  # fmt: skip
