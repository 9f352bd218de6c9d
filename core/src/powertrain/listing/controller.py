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
    Qualified,
    Reader,
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
    yield Said("max_voltage_v", volts, f"{most} lithium cells straight off the charger.")


PACK_V = {12.0, 24.0, 36.0, 48.0, 52.0, 60.0, 72.0, 84.0, 96.0}
"""Volts that packs are sold by: a range that ends in one may mean packs, not what it stands."""


def _volt_range(match: re.Match[str]) -> Iterator[Said]:
    low, high = sorted((number(match[1]), number(match[2])))
    if {low, high} <= PACK_V:
        yield Said("facts.nominal_v", high, "Packs it is sold for; what it stands is not said.")
        return
    yield Said("min_voltage_v", low, "The lower end of the range.")
    yield Said("max_voltage_v", high, "The upper end of the range.")


def _either(match: re.Match[str]) -> Iterator[Said]:
    volts = max(number(part) for part in re.findall(r"\d+(?:[.,]\d+)?", match[0]))
    yield Said("facts.nominal_v", volts, "Packs it is sold for; what it stands is not said.")


def _bec(match: re.Match[str]) -> Iterator[Said]:
    volts = match["v1"] or match["v2"] or match["v3"]
    amps = match["a1"] or match["a2"] or match["a3"]
    if volts:
        yield Said("facts.bec_voltage_v", number(volts))
    if amps:
        yield Said("facts.bec_current_a", number(amps))


def _burst(match: re.Match[str]) -> Iterator[Said]:
    yield Said("peak_duration_s", number(match[1]))


def _amps(key: str | None, value: float) -> Iterator[Said]:
    if key == "most":
        yield Said("peak_current_a", value)
    elif key == "phase":
        yield Said("motor_current_limit_a", value)
    elif key == "pack":
        yield Said("battery_current_limit_a", value)
    else:
        yield Said("continuous_current_a", value)


def _volts(key: str | None, value: float) -> Iterator[Said]:
    if key == "most":
        yield Said("max_voltage_v", value)
    elif key == "cut":
        yield Said("facts.cut_off_v", value)
    elif key == "least":
        yield Said("min_voltage_v", value)
    else:
        yield Said("facts.nominal_v", value, "Packs it is sold for; what it stands is not said.")


VOLTS = r"\d+(?:[.,]\d+)?"
BEC = (
    rf"(?:s|u)?bec\s*[:=]?\s*(?:(?P<v1>{VOLTS})\s*V)\s*(?:[/@,x]?\s*(?P<a1>{VOLTS})\s*A)?"
    rf"|(?P<a3>{VOLTS})\s*A\s*(?:s|u)?bec\s*(?:at|@)\s*(?P<v3>{VOLTS})\s*V"
    rf"|(?P<v2>{VOLTS})\s*V\s*(?:[/@,x]?\s*(?P<a2>{VOLTS})\s*A)?\s*(?:s|u)?bec"
)

PATTERNS: tuple[Reader, ...] = (
    pattern(
        r"sensored\s*(?:/|and|&|or|\+)\s*sensor-?\s?less|sensor-?\s?less\s*(?:/|and|&|or|\+)\s*"
        r"sensored",
        word("sensor", ["none", "hall"]),
    ),
    pattern(r"sensor-?\s?less", word("sensor", ["none"])),
    pattern(r"sensored|with\s+hall(?:\s+sensors?)?|hall\s+sensors?", word("sensor", ["hall"])),
    pattern(r"brush-?\s?less|bldc", word("part.drives", "brushless")),
    pattern(r"brushed", word("part.drives", "brushed")),
    pattern(
        r"(?:with|incl(?:uding|\.)?|includes)\s+(?:a\s+)?(?:remote|transmitter)",
        word("part.remote_included", True),
    ),
    pattern(r"not\s+programmable|fixed\s+limits?", word("part.settable", False)),
    pattern(
        r"programmable|settable|adjustable\s+limits?|app\s+settable", word("part.settable", True)
    ),
    pattern(
        r"(?:dual|twin|double|two)[\s-]+(?:motors?|esc|outputs?|channels?|controller)"
        r"|2\s*x(?=\s*\d+\s*A)",
        word("outputs", 2),
    ),
    pattern(
        r"hall\s+throttle|analog(?:ue)?(?:\s+0\s*-\s*5\s*V)?(?:\s+throttle)?|0\s*-\s*5\s*V",
        word("signal", "analogue"),
    ),
    pattern(BEC, _bec),
    pattern(r"no\s+bec|opto", word("facts.bec_voltage_v", 0.0)),
    pattern(
        rf"(?:caps?|capacitors?)\s*(?:rated\s*|are\s*)?[:=]?\s*{NUMBER}\s*V"
        rf"|{NUMBER}\s*V\s*(?:caps?|capacitors?)",
        one("capacitor_voltage_v"),
    ),
    pattern(r"(?:for\s+|\()\s*(\d{1,3})\s*(?:s|sec(?:onds)?)\)?(?=\W|$)", _burst),
    Qualified(
        r"A|amps?|amperes?",
        1.0,
        (
            ("most", r"max(?:imum|\.)?|peak|burst"),
            ("phase", "phase|motor"),
            ("pack", "battery|batt|supply|bus"),
            ("lasting", r"cont(?:inuous|\.)?|rated"),
        ),
        _amps,
    ),
    pattern(rf"{NUMBER}\s*k\s*erpm", one("max_erpm", 1000.0)),
    pattern(rf"{NUMBER}\s*erpm", one("max_erpm")),
    pattern(rf"(\d{{1,2}})\s*S?{TO}(\d{{1,2}})\s*S(?:\s*li-?po)?", _cells),
    pattern(r"(?:up\s+to\s+)?(\d{1,2})\s*S(?:\s*li-?po)?()", _cells),
    # Read from its first number on, so that a long row is not gone through from each.
    pattern(
        r"(?<!/)(?<!/\s)(?:\d+(?:[.,]\d+)?(?:\s*V)?\s*/\s*)+\d+(?:[.,]\d+)?\s*V(?:olts?)?", _either
    ),
    pattern(rf"(\d+(?:[.,]\d+)?)\s*V?\s*(?:-|–|to|~)\s*{NUMBER}\s*V(?:olts?)?", _volt_range),
    Qualified(
        r"V(?:olts?|dc)?",
        1.0,
        (
            ("most", r"max(?:imum|\.)?|up\s+to|input\s+max"),
            ("least", r"min(?:imum|\.)?|from"),
            ("cut", r"lvc|(?:low[\s-]?voltage\s+)?cut-?\s?off|under-?\s?voltage"),
        ),
        _volts,
    ),
    pattern(rf"{NUMBER}\s*kW", one("facts.power_w", 1000.0)),
    pattern(rf"{NUMBER}\s*W(?:atts?)?", one("facts.power_w")),
    pattern(r"servo\s+pulse|pwm|pulse", word("signal", "pulse")),
    *BOX,
    *MASS,
    *PRICE,
)
