"""How shops write of packs."""

import re
from collections.abc import Iterator

from powertrain.listing.pattern import (
    BOX,
    MASS,
    NUMBER,
    PRICE,
    TO,
    Qualified,
    Reader,
    Said,
    number,
    one,
    pattern,
    whole,
    word,
)

COUNTS = {"two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "a": 1, "one": 1, "pair of": 2}


def _made_of(match: re.Match[str]) -> Iterator[Said]:
    yield Said("series", whole(match[1]))
    yield Said("parallel", whole(match[2]))


def _series(match: re.Match[str]) -> Iterator[Said]:
    yield Said("series", whole(match[1]))


def _blocks(match: re.Match[str]) -> Iterator[Said]:
    count = (match[1] or match[2]).lower()
    yield Said("facts.blocks", COUNTS.get(" ".join(count.split())) or int(count))
    yield Said("facts.block_v", number(match[3]))


def _c_range(match: re.Match[str]) -> Iterator[Said]:
    yield Said("facts.c_rating", number(match[1]))
    yield Said("facts.peak_c", number(match[2]))


def _charger(match: re.Match[str]) -> Iterator[Said]:
    volts = match["v1"] or match["v2"]
    if volts:
        yield Said("facts.charger_v", number(volts))
    if match["a1"]:
        yield Said("facts.charger_a", number(match["a1"]))


def _amps(key: str | None, value: float) -> Iterator[Said]:
    place = {"most": "peak_current_a", "charge": "charge_current_a", "fuse": "facts.fuse_a"}
    yield Said(place.get(key or "", "continuous_current_a"), value)


def _volts(key: str | None, value: float) -> Iterator[Said]:
    place = {"full": "facts.charger_v", "cut": "facts.cut_off_v"}
    yield Said(place.get(key or "", "facts.nominal_v"), value)


CAPACITY_NOTE = "Of the whole pack; shared out over its strings."
LITHIUM = word("chemistry", "li_ion", "Said as lithium alone; most such packs are.", sure=False)

PATTERNS: tuple[Reader, ...] = (
    pattern(r"li-?\s?fe\s?po4|lfp|lithium\s+iron(?:\s+phosphate)?", word("chemistry", "lifepo4")),
    pattern(r"li-?\s?po(?:ly(?:mer)?)?|lithium[\s-]poly(?:mer)?", word("chemistry", "lipo")),
    pattern(r"li-?ion|lithium[\s-]ion|18650|21700", word("chemistry", "li_ion")),
    pattern(r"lead(?:[\s-]?acid)?|agm|sla|vrla|gel", word("chemistry", "lead_acid")),
    pattern(r"ni-?mh", word("chemistry", "nimh")),
    pattern(r"lithium", LITHIUM),
    pattern(
        r"(?:(?P<v1>\d+(?:[.,]\d+)?)\s*V)\s*(?P<a1>\d+(?:[.,]\d+)?)?\s*A?\s*charger"
        r"|charger\s*[:=]?\s*(?P<v2>\d+(?:[.,]\d+)?)\s*V",
        _charger,
    ),
    pattern(rf"{NUMBER}\s*A\s*charger", one("facts.charger_a")),
    pattern(r"(\d{1,3})\s*S\s*(\d{1,3})\s*P", _made_of),
    pattern(r"(\d{1,3})\s*(?:S|cells?)", _series),
    pattern(
        r"(?:(\d{1,2})\s*(?:x|×|\*|pcs|blocks?(?:\s+of)?)\s*"
        r"|(two|three|four|five|six|pair\s+of)\s+)(6|12)\s*V(?:olts?)?(?:\s*blocks?)?",
        _blocks,
    ),
    pattern(rf"{NUMBER}\s*mAh", one("facts.capacity_ah", 0.001, CAPACITY_NOTE)),
    pattern(rf"{NUMBER}\s*Ah", one("facts.capacity_ah", note=CAPACITY_NOTE)),
    pattern(rf"{NUMBER}\s*kWh", one("facts.energy_wh", 1000.0)),
    pattern(rf"{NUMBER}\s*Wh", one("facts.energy_wh")),
    pattern(rf"{NUMBER}\s*C?{TO}{NUMBER}\s*C", _c_range),
    pattern(
        rf"{NUMBER}\s*C\s*(?:burst|peak|max)|(?:burst|peak|max)\s*{NUMBER}\s*C", one("facts.peak_c")
    ),
    pattern(rf"{NUMBER}\s*C(?:\s*(?:cont(?:inuous)?|discharge))?", one("facts.c_rating")),
    Qualified(
        r"A|amps?|amperes?",
        1.0,
        (
            ("most", r"max(?:imum|\.)?|peak|burst"),
            ("charge", r"charg(?:e|es|ing)"),
            ("fuse", "fused?"),
            ("lasting", r"cont(?:inuous|\.)?|discharge|bms|rated"),
        ),
        _amps,
    ),
    pattern(rf"{NUMBER}\s*(?:mΩ|mΩ|m\s?ohms?)\s*(?:/|per|a)\s*cell", one("cell_resistance_mohm")),
    Qualified(
        r"V(?:olts?)?",
        1.0,
        (
            ("full", r"full(?:y)?(?:\s+charged?)?|off\s+the\s+charger"),
            ("cut", r"lvc|cut-?\s?off|empty"),
            ("nominal", r"nominal|nom\.?"),
        ),
        _volts,
    ),
    *BOX,
    *MASS,
    *PRICE,
)
