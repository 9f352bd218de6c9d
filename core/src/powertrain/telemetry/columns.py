"""What a logger's columns hold: by their names, by their units, and by their values."""

import re
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.runs.answer import COLUMNS

Numbers = NDArray[np.float64]


@dataclass(frozen=True)
class Known:
    """A column that is understood: its name in a run's table, and what its values are times."""

    key: str
    factor: float
    offset: float = 0.0


UNITS: dict[str, dict[str, tuple[float, float]]] = {
    "speed": {
        "km/h": (1, 0),
        "kmh": (1, 0),
        "kph": (1, 0),
        "kmph": (1, 0),
        "m/s": (3.6, 0),
        "mps": (3.6, 0),
        "ms": (3.6, 0),
        "mph": (1.609344, 0),
        "kn": (1.852, 0),
        "knots": (1.852, 0),
        "kt": (1.852, 0),
    },
    "rpm": {"rpm": (1, 0), "1/min": (1, 0), "u/min": (1, 0), "min-1": (1, 0), "rps": (60, 0)},
    "amps": {"a": (1, 0), "amps": (1, 0), "amp": (1, 0), "ma": (1e-3, 0), "ca": (0.01, 0)},
    "volts": {"v": (1, 0), "volts": (1, 0), "volt": (1, 0), "mv": (1e-3, 0)},
    "warmth": {
        "c": (1, 0),
        "°c": (1, 0),
        "degc": (1, 0),
        "celsius": (1, 0),
        "k": (1, -273.15),
        "f": (5 / 9, -160 / 9),
        "°f": (5 / 9, -160 / 9),
        "degf": (5 / 9, -160 / 9),
    },
    "way": {
        "m": (1, 0),
        "km": (1000, 0),
        "mi": (1609.344, 0),
        "ft": (0.3048, 0),
        "cm": (0.01, 0),
    },
    "share": {"%": (1, 0), "pct": (1, 0), "percent": (1, 0)},
    "time": {
        "s": (1, 0),
        "sec": (1, 0),
        "seconds": (1, 0),
        "ms": (1e-3, 0),
        "us": (1e-6, 0),
        "min": (60, 0),
        "h": (3600, 0),
        "millis": (1e-3, 0),
    },
    "height": {"m": (1, 0), "ft": (0.3048, 0)},
}
"""Units by what they measure, as a factor and what is added after it."""

OTHER_UNITS = {"w", "wh", "ah", "mah", "deg", "nm", "n"}
"""Units of what is not taken in."""

WORDS: tuple[tuple[str, str, str], ...] = (
    (r"(motor|phase|stator|winding).*(temp|°c)|temp.*motor|mot_?t(emp)?$", "case_c", "warmth"),
    (
        r"(esc|controller|fet|mosfet|inverter|driver).*(temp|°c)|temp.*(esc|fet|mos|contr)",
        "controller_c",
        "warmth",
    ),
    (r"(batt?|pack|cell|akku).*temp|temp.*(batt?|pack|akku)", "pack_c", "warmth"),
    (r"erpm|electrical.*rpm", "erpm", "rpm"),
    (r"(motor|shaft).*(rpm|speed|revs|drehzahl)|^rpm|drehzahl|revs|^n_mot", "motor_rpm", "rpm"),
    (
        r"(motor|phase).*(curr|amp|strom)|^i_?(mot|ph)|curr.*(motor|phase)|^mot.*_?a$",
        "motor_current_a",
        "amps",
    ),
    (
        r"(batt?|pack|input|supply|dc|akku).*(curr|amp|strom|_m?a$)|^i_?(bat|in|dc)|curr.*(batt?|in|pack)|"
        r"^(current|amps|strom|i)$|^bat.*_?a$",
        "battery_current_a",
        "amps",
    ),
    (r"(cell).*(volt|spann)|v.?cell|u_?cell", "cell_voltage_v", "volts"),
    (
        r"(batt?|pack|input|supply|dc|akku).*(volt|spann|_m?v$)|^[uv]_?(bat|in|dc)|volt.*(batt?|in|pack)|"
        r"^(voltage|volts|spannung|u|v)$|^bat.*_?v$",
        "battery_voltage_v",
        "volts",
    ),
    (r"soc|charge.*(left|state)|battery.?level|^(bat|akku).*%", "soc_pct", "share"),
    (r"throttle|gas|accel.*ped|hand|^thr", "throttle_pct", "share"),
    (r"duty", "duty", "share"),
    (r"speed|velocity|geschw|tempo|^v_?(veh|gps|ground)|gps.*spd|^spd", "speed_kmh", "speed"),
    (r"dist|odo|weg|trip", "distance_m", "way"),
    (r"grade|slope|steigung", "grade_pct", "share"),
    (r"alt|elev|h(oe|ö)he|^ele", "elevation_m", "height"),
    (
        r"^(time|t|sec|seconds|ms|zeit|timestamp|uptime|elapsed|clock|date.?time|datum.*zeit|local)"
        r"|time|zeit|stamp",
        "time_s",
        "time",
    ),
    (r"date|datum|^day", "date", ""),
)
"""How columns are called, as patterns of their plain names, the surest first."""

NAME_UNIT = re.compile(r"^(?P<name>.*?)\s*[\[(/]\s*(?P<unit>[^\[\]()]{1,12}?)\s*[\])]?$")
TAIL = re.compile(r"^(?P<name>.*?)[ _](?P<unit>[A-Za-z°%/]{1,7})$")


def is_unit(text: str) -> bool:
    """Return whether a cell is nothing but a unit."""
    plain = text.strip("[]() ").lower()
    return any(plain in units for units in UNITS.values()) or plain in {
        "w",
        "wh",
        "ah",
        "mah",
        "deg",
    }


def split_name(text: str) -> tuple[str, str]:
    """Return a column's name and its unit, empty where it says none."""
    plain = text.strip().strip('"')
    for pattern in (TAIL, NAME_UNIT):
        found = pattern.match(plain)
        if found and is_unit(found["unit"]) and found["name"].strip():
            return found["name"].strip(), found["unit"].strip()
    return plain, ""


def known_column(name: str, unit: str, values: Numbers) -> Known | None:
    """Return what a column holds, None where that can't be told.

    `values` settle what a name leaves open: a speed that nobody gave a unit, a share of one.
    """
    if name in COLUMNS:
        return Known(name, 1.0)
    whole = f"{name} {unit}".lower()
    plain = re.sub(r"[^a-z0-9%°äöü/]+", " ", whole).strip().replace(" ", "_")
    spaced = plain.replace("_", " ")
    for pattern, key, of in WORDS:
        if not (re.search(pattern, plain) or re.search(pattern, spaced)):
            continue
        if key == "date":
            return Known("date", 1.0)
        units = UNITS[of]
        said = unit.strip("[]() ").lower()
        if said and said not in units:
            continue
        factor, offset = units[said] if said else _guessed(of, values)
        if key == "erpm":
            return Known("erpm", factor)
        return Known(key, factor, offset)
    return None


def _guessed(of: str, values: Numbers) -> tuple[float, float]:
    """Return the factor of a column that says no unit, by what its values can be."""
    known = values[np.isfinite(values)]
    most = float(np.abs(known).max()) if len(known) else 0.0
    if of == "share" and 0 < most <= 1.0:
        return 100.0, 0.0
    if of == "volts" and most > 1500:
        return 1e-3, 0.0
    if of == "amps" and most > 3000:
        return 1e-3, 0.0
    if of == "time":
        steps = np.diff(known)
        usual = float(np.median(steps[steps > 0])) if (steps > 0).any() else 1.0
        # Of a clock that ticks in whole tens, thousands of which make a ride: milliseconds.
        if usual >= 5 and most > 3000 and bool(np.all(known == np.round(known))):
            return (1e-6 if usual >= 3000 else 1e-3), 0.0
        return 1.0, 0.0
    return 1.0, 0.0
