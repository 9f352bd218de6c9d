"""How shops write of propellers: diameter by pitch, in inches unless millimetres are said."""

import re
from collections.abc import Iterator

from powertrain.listing.pattern import (
    MASS,
    NUMBER,
    PRICE,
    Pattern,
    Reader,
    Said,
    number,
    one,
    pattern,
    word,
)

MM = {"mm": 1.0, "cm": 10.0}
INCH_MM = 25.4

MOST_INCHES = 70.0
"""Larger than any propeller of this trade; a greater number without a unit is millimetres."""

COUNTS = {"two": 2, "twin": 2, "three": 3, "tri": 3, "four": 4, "quad": 4, "five": 5, "six": 6}

REVERSED = "r", "p"
REVERSED_NOTE = "a letter behind the size; of many makes it says that it turns the other way"
RUN_TOGETHER = "two sizes without a mark between them, in inches and tenths"
SEEN_NOTE = "by most makers as seen from behind"


def _unit(text: str | None, size: float) -> float:
    unit = (text or "").lower()
    if unit in MM:
        return MM[unit]
    return 1.0 if not unit and size > MOST_INCHES else INCH_MM


def _size(match: re.Match[str]) -> Iterator[Said]:
    diameter, pitch = number(match["d"]), number(match["p"])
    scale = _unit(match["u"] or match["u0"], diameter)
    yield Said("diameter_mm", float(f"{diameter * scale:.6g}"))
    yield Said("pitch_mm", float(f"{pitch * scale:.6g}"))
    if match["b"]:
        yield Said("blades", int(match["b"]))
    if (match["letters"] or "").lower() in REVERSED:
        yield Said("rotation", "counter_clockwise", REVERSED_NOTE, False)


def _run_together(match: re.Match[str]) -> Iterator[Said]:
    digits = match["size"]
    diameter, rest = (digits[:2], digits[2:]) if digits[0] in "12" else (digits[:1], digits[1:])
    pitch = float(rest) / 10 if len(rest) > 1 else float(rest)
    diameter_in = float(diameter)
    if pitch > diameter_in or pitch < 0.2 * diameter_in:
        return
    yield Said("diameter_mm", float(f"{diameter_in * INCH_MM:.6g}"), RUN_TOGETHER, False)
    yield Said("pitch_mm", float(f"{pitch * INCH_MM:.6g}"), RUN_TOGETHER, False)


def _alone(path: str, group: str = "v") -> Pattern:
    """Return a pattern of one length with its unit behind it, named by words before it."""
    names = {"diameter_mm": r"diam(?:eter|\.)?|dia\.?|Ø", "pitch_mm": "pitch"}

    def says(match: re.Match[str]) -> Iterator[Said]:
        value = number(match[group])
        yield Said(path, float(f"{value * _unit(match['u'], value):.6g}"))

    return pattern(
        rf"(?:{names[path]})\s*(?:of|[:=])?\s*(?P<v>{NUMBER})\s*(?P<u>mm|cm|in(?:ch(?:es)?)?|\"|″)?",
        says,
    )


def _blades(match: re.Match[str]) -> Iterator[Said]:
    said = match[1].lower()
    yield Said("blades", COUNTS[said] if said in COUNTS else int(said))


def _thrust_of(match: re.Match[str]) -> Iterator[Said]:
    told = re.search(rf"({NUMBER})\s*(kg|g|N)", match[0], re.IGNORECASE)
    if told is None:
        return
    scale = {"g": 0.00980665, "kg": 9.80665, "n": 1.0}[told[3].lower()]
    yield Said("facts.thrust_n", float(f"{number(told[1]) * scale:.4g}"))


THRUST = pattern(
    rf"(?:static\s+)?(?:thrust|pull)\s*(?:of|[:=])?\s*{NUMBER}\s*(?:kg|g|N)"
    rf"|{NUMBER}\s*(?:kg|g|N)\s+(?:of\s+)?(?:static\s+)?(?:thrust|pull)",
    _thrust_of,
)


def _pieces(match: re.Match[str]) -> Iterator[Said]:
    yield Said("facts.pieces", int(match[1] or match[2] or 2))


SIZE = pattern(
    rf"(?P<d>{NUMBER})\s*(?P<u0>mm|cm|in(?:ch(?:es)?)?|\"|″)?\s*[x×*]\s*(?P<p>{NUMBER})"
    rf"(?:\s*[x×*]\s*(?P<b>[2-6]))?\s*(?P<u>mm|cm|in(?:ch(?:es)?)?|\"|″)?(?P<letters>[a-z]{{1,2}})?",
    _size,
)

PATTERNS: tuple[Reader, ...] = (
    SIZE,
    _alone("diameter_mm"),
    _alone("pitch_mm"),
    pattern(r"(\d|two|twin|three|tri|four|quad|five|six)[\s-]*blade[sd]?", _blades),
    pattern(
        r"counter[\s-]?clockwise|anti[\s-]?clockwise|ccw",
        word("rotation", "counter_clockwise", SEEN_NOTE),
    ),
    pattern(r"clockwise|cw", word("rotation", "clockwise", SEEN_NOTE)),
    pattern(r"pusher", word("position", "pusher")),
    pattern(r"tractor|puller", word("position", "tractor")),
    THRUST,
    pattern(
        rf"(?:max(?:imum|\.)?|up\s+to|limit(?:ed\s+to)?|not\s+above|rated\s+to)\s*(?:speed|rpm)?\s*"
        rf"[:=]?\s*(?:of\s+)?{NUMBER}\s*(?:rpm|r/min|/\s?min)"
        rf"|max(?:imum|\.)?\s*rpm\s*[:=]?\s*{NUMBER}|rpm\s+limit\s*[:=]?\s*{NUMBER}|{NUMBER}\s*(?:rpm|r/min|/\s?min)\s*(?:max(?:imum|\.)?|limit)",
        one("max_rpm"),
    ),
    pattern(
        rf"(?:bore|hole|hub|shaft)\s*(?:of|[:=])?\s*[Øø]?\s*{NUMBER}\s*mm"
        rf"|{NUMBER}\s*mm\s*(?:bore|hole|shaft)",
        one("facts.bore_mm"),
    ),
    pattern(r"(?:pair|set)\s+of\s+(\d)|(\d)\s*(?:pcs|pieces)|pair()", _pieces),
    pattern(
        r"(?P<size>\d{3,4})(?:\s*(?:prop(?:eller)?s?))?",
        _run_together,
    ),
    *MASS,
    *PRICE,
)
