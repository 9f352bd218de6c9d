"""How shops write of motors."""

import re
from collections.abc import Iterator

from powertrain.listing.pattern import (
    MASS,
    NUMBER,
    PRICE,
    TO,
    Qualified,
    Reader,
    Said,
    first,
    number,
    one,
    pattern,
    whole,
    word,
)
from powertrain.listing.propeller import THRUST

CAN_NOTE = "Diameter and length of the can; some shops mean the iron inside, which is smaller."
STATOR_NOTE = "Diameter and height of the iron inside; the can is larger."

NM = r"N\.?\s?m|newton[\s-]?met(?:er|re)s?"
TORQUES = (
    (NM, 1.0),
    (r"mN\.?m", 0.001),
    (r"ft[\s.-]*lbs?|lbs?[\s.-]*ft|foot[\s-]pounds?", 1.3558179),
    (r"oz[\s.-]*in", 0.0070615518),
    (r"kgf?[\s.-]*cm", 0.0980665),
)

CAN_SIZES_MM: dict[str, tuple[float, float]] = {
    "130": (20.0, 25.0),
    "180": (20.4, 32.0),
    "280": (24.2, 31.0),
    "370": (24.4, 30.8),
    "380": (27.7, 37.8),
    "480": (28.5, 47.0),
    "540": (35.8, 50.0),
    "550": (35.8, 57.0),
    "555": (37.0, 57.0),
    "775": (42.0, 66.7),
    "795": (42.0, 66.7),
    "895": (46.0, 67.0),
}
"""Diameter and length of the cans that are named by a number; common practice, no source."""

FLATTEST_CAN_MM = 16
"""A four-digit code whose second half is less names the iron inside, not the can."""


def _code(match: re.Match[str]) -> Iterator[Said]:
    wide, long = number(match[1]), number(match[2])
    if long < FLATTEST_CAN_MM:
        yield Said("facts.stator_diameter_mm", wide, STATOR_NOTE)
        yield Said("facts.stator_height_mm", long, STATOR_NOTE)
    else:
        yield Said("diameter_mm", wide, CAN_NOTE)
        yield Said("length_mm", long, CAN_NOTE)


def _stator(match: re.Match[str]) -> Iterator[Said]:
    wide, long = (group for group in match.groups() if group is not None)
    yield Said("facts.stator_diameter_mm", number(wide))
    yield Said("facts.stator_height_mm", number(long))


def _can(match: re.Match[str]) -> Iterator[Said]:
    wide, long = CAN_SIZES_MM[first(match)]
    note = "The usual can of that number."
    yield Said("diameter_mm", wide, note)
    yield Said("length_mm", long, note)


def _sizes(match: re.Match[str]) -> Iterator[Said]:
    yield Said("diameter_mm", number(match[1]))
    yield Said("length_mm", number(match[2]))


def _cells(match: re.Match[str]) -> Iterator[Said]:
    low = whole(match[1])
    high = whole(match[2]) if match[2] else low
    yield Said("rated_cells", [min(low, high), max(low, high)], "The maker's advice, not a limit.")


def _iron(match: re.Match[str]) -> Iterator[Said]:
    yield Said("slots", whole(match[1]))
    yield Said("poles", whole(match[2]))


def _count(path: str) -> "object":
    def says(match: re.Match[str]) -> Iterator[Said]:
        yield Said(path, whole(first(match)))

    return says


def _free_at(match: re.Match[str]) -> Iterator[Said]:
    yield Said("no_load_current_a", number(match[1]))
    if match[2]:
        yield Said("facts.free_voltage_v", number(match[2]))


def _draws(match: re.Match[str]) -> Iterator[Said]:
    yield Said("facts.free_voltage_v", number(match[2]))
    yield Said("facts.free_current_a", number(match[1]))
    yield Said("no_load_current_a", number(match[1]), "if that is with nothing on its shaft", False)
    if match[3]:
        yield Said("facts.free_speed_rpm", number(match[3]))


def _duty(match: re.Match[str]) -> Iterator[Said]:
    minutes = number(match[1] or match[2] or "0")
    if minutes > 0:
        yield Said("facts.duty_min", minutes, "Its rated figures hold for so long.")


def _fraction(match: re.Match[str]) -> Iterator[Said]:
    yield Said("shaft_mm", round(25.4 * number(match[1]) / number(match[2]), 2))


def _pieces(match: re.Match[str]) -> Iterator[Said]:
    yield Said("facts.pieces", 2, "Price and mass may be of both.")


def _amps(key: str | None, value: float) -> Iterator[Said]:
    if key == "stall":
        yield Said("facts.stall_current_a", value)
    elif key == "free":
        yield Said("no_load_current_a", value)
    elif key == "lasting":
        yield Said("continuous_current_a", value)
    elif key == "most":
        yield Said("peak_current_a", value)
    else:
        yield Said("facts.amps", value)


def _watts(key: str | None, value: float) -> Iterator[Said]:
    yield Said(
        "facts.rated_power_w"
        if key == "lasting"
        else "facts.most_power_w"
        if key == "most"
        else "facts.power_w",
        value,
    )
    if key == "shaft":
        yield Said("power_is", "shaft")
    if key == "input":
        yield Said("power_is", "electrical")


def _speed(key: str | None, value: float) -> Iterator[Said]:
    place = {"most": "max_rpm", "free": "facts.free_speed_rpm"}
    yield Said(place.get(key or "", "facts.rated_speed_rpm"), value)


def _volts(key: str | None, value: float) -> Iterator[Said]:
    place = {"most": "max_voltage_v", "free": "facts.free_voltage_v"}
    yield Said(place.get(key or "", "facts.rated_voltage_v"), value)


def _volt_range(match: re.Match[str]) -> Iterator[Said]:
    low, high = sorted((number(match[1]), number(match[2])))
    yield Said("facts.lowest_voltage_v", low)
    yield Said("facts.highest_voltage_v", high, "What shops advise, not a limit.")


FREE = r"no[\s-]?load|idle|free(?:[\s-]running)?|unloaded|I[0o]"
LASTING = r"cont(?:inuous|\.)?|rated|nominal|nom\.?"
MOST = r"max(?:imum|\.)?|peak|burst|limit"


def _propeller(match: re.Match[str]) -> Iterator[Said]:
    """Yield the propeller that a shop's thrust is of, as diameter by pitch in inches."""
    yield Said("facts.propeller", "".join((match[1] or match[2]).split()))


PATTERNS: tuple[Reader, ...] = (
    pattern(r"brush-?\s?less|bldc|pmsm", word("commutation", "brushless")),
    pattern(
        r"brushed|brush(?:es)?(?:\s+(?:type|dc))?(?=\s+motor)|carbon\s+brush(?:es)?",
        word("commutation", "brushed"),
    ),
    pattern(r"sensor-?\s?less", word("sensor", "none")),
    pattern(r"sensored|halls?(?:\s+sensors?)?|with\s+(?:hall\s+)?sensors?", word("sensor", "hall")),
    pattern(r"encoder", word("sensor", "encoder")),
    pattern(r"out-?runner", word("facts.rotor", "outrunner")),
    pattern(r"in-?runner", word("facts.rotor", "inrunner")),
    pattern(r"S1(?:\s+duty)?", word("facts.duty", "for as long as you like")),
    pattern(
        rf"S2(?:\s*[:,-]?\s*{NUMBER}\s*min(?:utes?)?)?"
        rf"|{NUMBER}\s*min(?:utes?)?\s+(?:duty|rating|rated)",
        _duty,
    ),
    pattern(
        r"series[\s-](?:wound|field)|dc\s+series|(?<!\d\s)(?<!\d-)series[\s-](?:dc|motor)"
        r"(?:\s+dc)?",
        word("facts.kind", "series_wound"),
    ),
    pattern(r"(?:geared\s+)?(?:wheel\s+)?hub(?:[\s-]motor)?", word("part.mounts", "hub")),
    pattern(
        rf"{NUMBER}\s*(?:kv|rpm\s*/\s*v)|kv\s*[:=]?\s*{NUMBER}(?:\s*rpm\s*/\s*v)?",
        one("kv_rpm_per_v"),
    ),
    pattern(rf"{NUMBER}\s*(?:mΩ|mΩ|m\s?ohms?|milliohms?)", one("resistance_ohm", 0.001)),
    pattern(rf"{NUMBER}\s*(?:Ω|Ω|ohms?)", one("resistance_ohm")),
    *(
        pattern(
            rf"(?:max(?:imum|\.)?|peak)\s*torque\s*[:=]?\s*{NUMBER}\s*(?:{unit})"
            rf"|{NUMBER}\s*(?:{unit})\s*(?:max(?:imum|\.)?|peak)(?:\s*torque)?",
            one("facts.most_torque_nm", scale),
        )
        for unit, scale in TORQUES
    ),
    *(
        pattern(
            rf"(?:stall(?:ed)?|locked)\s*(?:rotor\s*)?(?:torque)?\s*[:=]?\s*{NUMBER}\s*(?:{unit})",
            one("facts.stall_torque_nm", scale),
        )
        for unit, scale in TORQUES
    ),
    *(
        pattern(
            rf"{NUMBER}\s*(?:{unit})\s*(?:stall(?:ed)?|locked)(?:\s*torque)?",
            one("facts.stall_torque_nm", scale),
        )
        for unit, scale in TORQUES
    ),
    *(
        pattern(
            rf"(?:rated\s*)?(?:torque\s*[:=]?\s*)?{NUMBER}\s*(?:{unit})(?:\s*(?:rated|torque))?",
            one("facts.rated_torque_nm", scale),
        )
        for unit, scale in TORQUES
    ),
    pattern(
        rf"(?:{FREE})(?:\s+(?:current|amps))?\s*[:=]?\s*{NUMBER}\s*A\s*(?:@|at|/)\s*{NUMBER}\s*V",
        _free_at,
    ),
    pattern(rf"{NUMBER}\s*A\s+(?:{FREE})\s*(?:@|at)\s*{NUMBER}\s*V", _free_at),
    pattern(
        rf"(?:draws|takes)\s+{NUMBER}\s*A\s*(?:@|at|on)\s*{NUMBER}\s*V"
        rf"(?:\s*(?:and|,)?\s*(?:turns|spins|does)\s*(?:at\s*)?{NUMBER}(?:\s*(?:rpm|/min))?)?",
        _draws,
    ),
    pattern(
        r"(?:that|it|and)\s+(?:turns|spins|does)\s+(?:at\s+)?(\d{1,3},\d{3}|\d{3,6})"
        r"(?:\s*(?:rpm|/min))?(?!\s*[a-z])",
        one("facts.rated_speed_rpm"),
    ),
    Qualified(
        r"A|amps?|amperes?",
        1.0,
        (
            ("stall", r"stall(?:ed)?|locked(?:[\s-]rotor)?"),
            ("free", FREE),
            ("lasting", LASTING),
            ("most", MOST),
        ),
        _amps,
    ),
    Qualified(
        r"hp|bhp|horse\s?power",
        745.69987,
        (("lasting", LASTING), ("most", MOST), ("shaft", "shaft")),
        _watts,
    ),
    Qualified(
        r"kW",
        1000.0,
        (
            ("lasting", LASTING),
            ("most", MOST),
            ("shaft", "shaft|out"),
            ("input", "input|electrical|in"),
        ),
        _watts,
    ),
    Qualified(
        r"W|watts?",
        1.0,
        (
            ("lasting", LASTING),
            ("most", MOST),
            ("shaft", "shaft|output"),
            ("input", "input|electrical"),
        ),
        _watts,
    ),
    Qualified(
        r"rpm|r/min|/\s?min|min-1|U/min|revs?",
        1.0,
        (("free", FREE), ("most", MOST), ("lasting", LASTING)),
        _speed,
    ),
    pattern(rf"(\d+(?:[.,]\d+)?)\s*V?{TO}{NUMBER}\s*V(?:olts?|dc)?", _volt_range),
    Qualified(
        r"V(?:olts?|dc)?|VDC",
        1.0,
        (("free", FREE), ("most", rf"{MOST}|up\s+to"), ("lasting", LASTING)),
        _volts,
    ),
    pattern(r"(\d{1,2})\s*N\s*(\d{1,2})\s*P", _iron),
    pattern(r"(\d{1,2})[\s-]*(?:poles?|magnets)", _count("poles")),  # type: ignore[arg-type]
    pattern(r"(\d{1,2})[\s-]*slots?", _count("slots")),  # type: ignore[arg-type]
    pattern(
        r"(\d{1,2})\s*/\s*(\d{1,2})\s*(?:\"|″|in(?:ch)?)\s*(?:output\s+)?(?:shaft|axle)", _fraction
    ),
    pattern(
        rf"{NUMBER}\s*mm\s*(?:d-?\s?|round\s+|output\s+|keyed\s+)?(?:shaft|axle)", one("shaft_mm")
    ),
    pattern(
        rf"(?:shaft|axle)(?:\s+(?:diameter|dia\.?|size))?\s*[:=]?\s*[Øø]?\s*{NUMBER}\s*mm",
        one("shaft_mm"),
    ),
    pattern(
        r"(?:recommended\s+|max(?:imum|\.)?\s+|test(?:ed)?\s+)?"
        r"(?:prop(?:eller)?s?\s*[:=]?\s*(\d{1,2}(?:\.\d)?\s*x\s*\d{1,2}(?:\.\d)?)(?:E|SF)?"
        r"|(\d{1,2}(?:\.\d)?\s*x\s*\d{1,2}(?:\.\d)?)(?:E|SF)?\s*\"?\s*prop(?:eller)?s?)",
        _propeller,
    ),
    THRUST,
    pattern(rf"[Øø]?\s*{NUMBER}\s*(?:mm)?\s*[x×*]\s*{NUMBER}\s*mm", _sizes),
    pattern(
        rf"(?:can\s+)?(?:diameter|dia\.?|Ø)\s*[:=]?\s*{NUMBER}\s*mm"
        rf"|{NUMBER}\s*mm\s*(?:can\s+)?(?:diameter|dia\.?)",
        one("diameter_mm"),
    ),
    pattern(rf"length\s*[:=]?\s*{NUMBER}\s*mm|{NUMBER}\s*mm\s*(?:long|length)", one("length_mm")),
    pattern(
        rf"{NUMBER}[\s-]*(?:inch(?:es)?|in|\"|″)(?:\s*(?:wheel|tyre|tire|rim))?",
        one("facts.wheel_mm", 25.4, "Of the wheel it is laced into."),
    ),
    pattern(rf"(\d{{1,2}})\s*S?{TO}(\d{{1,2}})\s*S(?:\s*li-?po)?", _cells),
    pattern(r"(\d{1,2})\s*S(?:\s*li-?po)?()", _cells),
    pattern(
        rf"{NUMBER}[\s-]*(?:turns?|T)(?!\s*(?:pinion|sprocket|gear|pulley|teeth|tooth))",
        one("facts.turns"),
    ),
    pattern(
        r"(?:dual|twin|double|pair\s+of|set\s+of\s+(?:2|two)|2\s*(?:x|×|pcs|pieces))"
        r"(?:\s+motors?)?",
        _pieces,
    ),
    *MASS,
    *PRICE,
    # By itself among figures that are read; behind a number it names a range of a shop.
    pattern(r"(?<=[|,;]\s)series|(?<=[|,;])series", word("facts.kind", "series_wound")),
    pattern(
        r"stator\s*[:=]?\s*(\d{2})\s*[x×]?\s*(\d{2})"
        r"|(\d{2})\s*[x×]?\s*(\d{2})\s*stator",
        _stator,
    ),
    pattern(rf"(?:RS-?)?({'|'.join(CAN_SIZES_MM)})(?:[\s-]*(?:size[d]?|can|class))?", _can),
    pattern(r"(\d{2})(\d{2})", _code),
    pattern(r"(\d{2,3})(\d{3})", _code),
)
