"""Motors by the can: one size and its windings, all from a handful of rules.

In one can the copper stays what it is, whatever the winding: the motor constant
``Km = k/sqrt(R)`` is that of the can, so R goes as 1/KV^2, the no-load amps and the amps that
the copper stands go as KV, and torque hardly changes. Bigger cans hold more:
``Km^2 = q m^(5/3)`` with a quality q by the kind of motor (geometric scaling; the factors are
common practice, no source).
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from powertrain.constants import RPM_PER_RAD_S
from powertrain.documents.shelf import MotorPart

Build = Literal["ferrite", "outrunner", "flat", "inrunner", "mid_drive", "hub"]


@dataclass(frozen=True)
class Kind:
    """What motors of one construction have in common.

    `quality` is Km^2 in (N.m)^2/W of one that weighs a kilogram, `loss_share` the loss torque
    over the torque that it stands for long, `tip_mps` the speed at its rim at which magnets or
    commutator give up, `price` and `price_exponent` what a kilogram costs and how it grows.
    """

    quality: float
    loss_share: float
    tip_mps: float
    price: float
    price_exponent: float
    settings: dict[str, Any]
    surface_w_per_m2: float = 900.0
    """Copper heat that a square metre of the can carries off for long; those whose makers rate
    them in a stream of air say more."""


BRUSHLESS: dict[str, Any] = {"commutation": "brushless"}
KINDS: dict[Build, Kind] = {
    "ferrite": Kind(
        0.012,
        0.12,
        40.0,
        32.0,
        0.75,
        {
            "commutation": "brushed",
            "brush_drop_v": 0.3,
            "insulation_class": "B",
            "slots": 5,
            "max_case_c": 90.0,
        },
    ),
    "outrunner": Kind(
        0.06,
        0.04,
        70.0,
        95.0,
        0.8,
        {**BRUSHLESS, "poles": 14, "slots": 12, "insulation_class": "F", "max_case_c": 100.0},
        2500.0,
    ),
    "flat": Kind(
        0.09,
        0.05,
        60.0,
        125.0,
        0.85,
        {**BRUSHLESS, "poles": 28, "slots": 24, "insulation_class": "H", "max_case_c": 100.0},
        3500.0,
    ),
    "inrunner": Kind(
        0.03,
        0.05,
        70.0,
        210.0,
        0.85,
        {**BRUSHLESS, "poles": 4, "sensor": "hall", "insulation_class": "H", "max_case_c": 100.0},
    ),
    "mid_drive": Kind(
        0.06,
        0.035,
        60.0,
        70.0,
        0.85,
        {
            **BRUSHLESS,
            "poles": 10,
            "slots": 12,
            "sensor": "hall",
            "insulation_class": "F",
            "max_case_c": 110.0,
        },
        1500.0,
    ),
    "hub": Kind(
        0.14,
        0.04,
        30.0,
        42.0,
        0.9,
        {
            **BRUSHLESS,
            "poles": 46,
            "slots": 51,
            "sensor": "hall",
            "insulation_class": "F",
            "max_case_c": 100.0,
        },
    ),
}


@dataclass(frozen=True)
class Can:
    """One size of motor, and the KV values it is wound for."""

    maker: str
    code: str
    kind: Build
    diameter_mm: float
    length_mm: float
    mass_kg: float
    shaft_mm: float
    kvs: tuple[float, ...]
    extra: tuple[tuple[str, Any], ...] = ()

    @property
    def km2(self) -> float:
        """Km^2 of the can."""
        return float(KINDS[self.kind].quality * self.mass_kg ** (5 / 3))

    @property
    def lasting_w(self) -> float:
        """Copper heat that the can carries off for long."""
        wide, long = self.diameter_mm / 1000, self.length_mm / 1000
        surface = 3.1416 * wide * (long + wide / 2)
        return KINDS[self.kind].surface_w_per_m2 * surface

    @property
    def lasting_nm(self) -> float:
        """Torque for long: Km sqrt(P)."""
        return float((self.km2 * self.lasting_w) ** 0.5)

    @property
    def max_rpm(self) -> float:
        """Rpm at which the rim reaches its speed, or bearings and brushes their end."""
        rim = RPM_PER_RAD_S * KINDS[self.kind].tip_mps / (self.diameter_mm / 2000)
        return min(rim, 60_000.0)


CANS: tuple[Can, ...] = (
    Can("Tarnlow", "F24", "ferrite", 24.4, 30.8, 0.046, 2.0, (1900, 2600, 3500)),
    Can("Tarnlow", "F28", "ferrite", 27.7, 37.8, 0.071, 2.3, (1500, 2200, 3000)),
    Can("Tarnlow", "F36", "ferrite", 35.8, 50.0, 0.165, 3.17, (620, 900, 1300, 1800, 2400)),
    Can("Tarnlow", "F36L", "ferrite", 35.8, 57.0, 0.21, 3.17, (520, 760, 1100, 1600)),
    Can("Tarnlow", "F42", "ferrite", 42.0, 67.0, 0.345, 5.0, (310, 450, 640, 900)),
    Can("Tarnlow", "F78", "ferrite", 78.0, 112.0, 2.1, 8.0, (95, 130, 180)),
    Can("Tarnlow", "F102", "ferrite", 102.0, 150.0, 4.6, 10.0, (62, 85, 118)),
    Can("Sedgeholt", "O22", "outrunner", 22.0, 20.0, 0.028, 3.0, (1100, 1500, 2300)),
    Can("Sedgeholt", "O28", "outrunner", 28.0, 28.0, 0.062, 3.17, (750, 1000, 1400)),
    Can("Sedgeholt", "O35", "outrunner", 35.0, 48.0, 0.165, 5.0, (480, 600, 790, 900)),
    Can("Sedgeholt", "O42", "outrunner", 42.0, 55.0, 0.29, 5.0, (330, 450, 600)),
    Can("Sedgeholt", "O50", "outrunner", 50.0, 65.0, 0.52, 8.0, (170, 230, 320)),
    Can("Sedgeholt", "O63", "outrunner", 63.0, 74.0, 0.86, 8.0, (130, 170, 220)),
    Can("Sedgeholt", "O80", "outrunner", 80.0, 95.0, 1.75, 10.0, (75, 100, 130)),
    Can("Curlewen", "D42", "flat", 42.0, 22.0, 0.075, 4.0, (420, 560, 700)),
    Can("Curlewen", "D52", "flat", 52.0, 26.0, 0.14, 4.0, (290, 380, 480)),
    Can("Curlewen", "D66", "flat", 66.0, 28.0, 0.26, 6.0, (180, 240, 320)),
    Can("Curlewen", "D81", "flat", 81.0, 32.0, 0.42, 6.0, (110, 140, 190)),
    Can("Curlewen", "D102", "flat", 102.0, 40.0, 0.82, 8.0, (70, 95, 125)),
    Can("Curlewen", "D128", "flat", 128.0, 48.0, 1.55, 10.0, (42, 56, 75)),
    Can("Curlewen", "D160", "flat", 160.0, 60.0, 3.0, 12.0, (26, 34, 46)),
    Can("Reedquay", "N28", "inrunner", 28.0, 42.0, 0.095, 2.3, (3400, 4600, 5700, 7200)),
    Can("Reedquay", "N36", "inrunner", 36.0, 52.0, 0.19, 3.17, (1800, 2400, 3200, 4200, 5700)),
    Can("Reedquay", "N36L", "inrunner", 36.0, 69.0, 0.27, 5.0, (1400, 1900, 2600)),
    Can("Reedquay", "N42", "inrunner", 42.0, 80.0, 0.44, 5.0, (900, 1250, 1700)),
    Can("Reedquay", "N56", "inrunner", 56.0, 105.0, 1.15, 8.0, (420, 560, 780)),
    Can("Otterlode", "M90", "mid_drive", 90.0, 80.0, 2.4, 12.0, (60, 80, 110)),
    Can("Otterlode", "M110", "mid_drive", 110.0, 90.0, 3.6, 14.0, (45, 60, 80)),
    Can("Otterlode", "M138", "mid_drive", 138.0, 105.0, 6.4, 17.0, (36, 50, 70)),
    Can("Otterlode", "M166", "mid_drive", 166.0, 150.0, 13.0, 22.0, (24, 32, 44)),
    Can("Otterlode", "M206", "mid_drive", 206.0, 190.0, 27.0, 28.0, (16, 22, 30)),
    Can("Millsluice", "H200", "hub", 200.0, 55.0, 3.4, 14.0, (11, 15, 19)),
    Can("Millsluice", "H246", "hub", 246.0, 60.0, 6.2, 14.0, (7.5, 10, 13)),
)


def wound(can: Can, kv: float) -> dict[str, Any]:
    """Return the motor document of one winding."""
    kind = KINDS[can.kind]
    constant = RPM_PER_RAD_S / kv
    ohm = constant**2 / can.km2
    lasting_a = can.lasting_nm / constant
    cells = can.max_rpm / (kv * 4.2)
    document = {
        "kind": "permanent_magnet",
        "name": f"{can.maker} {can.code}-{kv:g}",
        "kv_rpm_per_v": float(kv),
        "resistance_ohm": _digits(ohm, 3),
        "no_load_current_a": _digits(kind.loss_share * lasting_a, 2),
        "continuous_current_a": _digits(lasting_a, 2),
        "peak_current_a": _digits(2.5 * lasting_a, 2),
        "peak_duration_s": 10.0,
        "max_rpm": _digits(can.max_rpm, 2),
        "diameter_mm": can.diameter_mm,
        "length_mm": can.length_mm,
        "shaft_mm": can.shaft_mm,
        "mass_kg": can.mass_kg,
        "price": round(4 + kind.price * can.mass_kg**kind.price_exponent, 1),
        **kind.settings,
        **dict(can.extra),
    }
    if can.kind != "hub" and cells >= 2:
        high = min(int(cells), 16)
        document["rated_cells"] = [max(2, high // 2), high]
    return document


def _digits(value: float, digits: int) -> float:
    return float(f"{value:.{digits}g}")


@dataclass(frozen=True)
class Old:
    """A series-wound motor: stall-proof field, from hoists and carts."""

    code: str
    diameter_mm: float
    length_mm: float
    mass_kg: float
    constants: tuple[float, ...]


OLD = (
    Old("G115", 115.0, 190.0, 9.5, (0.11, 0.15)),
    Old("G145", 145.0, 240.0, 19.0, (0.13, 0.18)),
    Old("G170", 170.0, 290.0, 32.0, (0.15, 0.21)),
    Old("G200", 200.0, 360.0, 52.0, (0.17, 0.24)),
    Old("G230", 230.0, 400.0, 74.0, (0.24, 0.33)),
)


def series_wound(old: Old, constant: float) -> dict[str, Any]:
    """Return the motor document of one winding; the can sets ``k_sat^2/R`` and the loss torque."""
    km2 = 0.012 * old.mass_kg ** (5 / 3)
    surface = 3.1416 * old.diameter_mm / 1000 * (old.length_mm + old.diameter_mm / 2) / 1000
    ohm = constant**2 / km2
    lasting_a = (1400 * surface / ohm) ** 0.5
    return {
        "kind": "series_wound",
        "name": f"Hollinfen {old.code}-{1000 * constant:.0f}",
        "saturated_constant_nm_per_a": constant,
        "half_saturation_current_a": _digits(0.5 * lasting_a, 2),
        "resistance_ohm": _digits(ohm, 3),
        "loss_torque_nm": _digits(0.03 * constant * lasting_a, 2),
        "brush_drop_v": 1.2,
        "continuous_current_a": _digits(lasting_a, 2),
        "peak_current_a": _digits(3 * lasting_a, 2),
        "peak_duration_s": 60.0,
        "max_rpm": 5000.0,
        "insulation_class": "H",
        "max_case_c": 130.0,
        "diameter_mm": old.diameter_mm,
        "length_mm": old.length_mm,
        "mass_kg": old.mass_kg,
        "price": round(20 + 17 * old.mass_kg**0.85, 1),
    }


@dataclass(frozen=True)
class Package:
    """A motor with its inverter, for conversions."""

    code: str
    diameter_mm: float
    length_mm: float
    mass_kg: float
    volts: tuple[float, ...]


PACKAGES = (
    Package("P150", 150.0, 260.0, 22.0, (48.0, 72.0)),
    Package("P180", 180.0, 300.0, 38.0, (72.0, 96.0)),
    Package("P210", 210.0, 340.0, 60.0, (96.0, 144.0)),
)


def packaged(package: Package, volts: float) -> dict[str, Any]:
    """Return the motor document: 1.9 N.m for each kilogram, base speed the same at each volts."""
    torque = _digits(1.9 * package.mass_kg, 2)
    power_w = torque * 2600 / RPM_PER_RAD_S
    return {
        "kind": "packaged",
        "name": f"Hollinfen {package.code}-{volts:g}",
        "peak_torque_nm": torque,
        "base_rpm": 2600.0,
        "base_voltage_v": volts,
        "top_rpm": 6500.0,
        "copper_loss_w": _digits(0.08 * power_w, 2),
        "iron_loss_w": _digits(0.018 * power_w, 2),
        "windage_loss_w": _digits(0.004 * power_w, 2),
        "max_voltage_v": _digits(1.3 * volts, 3),
        "insulation_class": "H",
        "max_case_c": 120.0,
        "diameter_mm": package.diameter_mm,
        "length_mm": package.length_mm,
        "mass_kg": package.mass_kg,
        "price": round(600 + 42 * package.mass_kg + 2 * volts, 0),
    }


def motors() -> Iterator[MotorPart]:
    """Yield every motor of the shelf."""
    for can in CANS:
        for kv in can.kvs:
            name = f"{can.maker} {can.code}-{kv:g}"
            yield _part(
                name,
                wound(can, kv),
                f"{can.maker} {can.code}",
                "hub" if can.kind == "hub" else "shaft",
            )
    for old in OLD:
        for constant in old.constants:
            document = series_wound(old, constant)
            yield _part(document["name"], document, f"Hollinfen {old.code}", "shaft")
    for package in PACKAGES:
        for volts in package.volts:
            document = packaged(package, volts)
            yield _part(document["name"], document, f"Hollinfen {package.code}", "shaft")


def _part(name: str, document: dict[str, Any], family: str, mounts: str) -> MotorPart:
    return MotorPart.model_validate(
        {
            "id": name.lower().replace(" ", "-"),
            "name": name,
            "family": family,
            "mounts": mounts,
            "motor": document,
            "provenance": {
                f"motor.{key}": {"origin": "data_sheet"}
                for key in ("kv_rpm_per_v", "resistance_ohm", "no_load_current_a")
                if key in document
            },
        }
    )
