"""What a conversion buys beside motor, controller and pack: usual sizes of invented makers.

Ratios are those that such gearboxes usually have, volts and amps the steps that are sold (common
practice, no source); fuse-links come in the preferred ratings of IEC 60269-1 (from memory).
"""

from collections.abc import Iterator

from powertrain.documents.shelf import (
    ChargerPart,
    ContactorPart,
    ConverterPart,
    FusePart,
    GearboxPart,
)

GEARBOXES = (
    ("car-4", "four-speed of a small car", (3.6, 2.05, 1.36, 1.0), 0.96, 140.0, 420.0, 28.0, 160.0),
    ("car-5", "five-speed of a car", (3.5, 1.95, 1.3, 0.97, 0.78), 0.96, 200.0, 460.0, 36.0, 240.0),
    (
        "truck-4",
        "four-speed of a light truck",
        (4.4, 2.5, 1.5, 1.0),
        0.95,
        260.0,
        520.0,
        58.0,
        320.0,
    ),
    ("tractor-3", "three-speed of a tractor", (28.0, 16.0, 9.0), 0.88, 160.0, 700.0, 140.0, 380.0),
    (
        "tractor-6",
        "six-speed of a tractor",
        (52.0, 36.0, 25.0, 17.0, 12.0, 8.0),
        0.86,
        220.0,
        820.0,
        190.0,
        520.0,
    ),
    ("two-speed", "two-speed of a cart", (12.3, 6.2), 0.94, 60.0, 260.0, 14.0, 210.0),
    ("single", "single reduction of a cart", (10.4,), 0.95, 90.0, 220.0, 11.0, 150.0),
)

CONTACTORS = ((60, 100, 800), (96, 200, 1500), (150, 250, 2000), (400, 250, 2500), (400, 500, 5000))

FUSE_VOLTS = (80, 125, 250, 500)
FUSE_AMPS = (40, 63, 100, 160, 200, 250, 315, 400, 500, 630)

CONVERTERS = ((36, 60, 250), (60, 96, 300), (60, 96, 600), (90, 200, 500), (90, 200, 1000))

CHARGERS = (
    (29.4, 10),
    (54.6, 15),
    (58.4, 20),
    (87.6, 15),
    (87.6, 30),
    (116.8, 20),
    (131.4, 12),
    (131.4, 25),
    (164, 12),
    (164, 25),
)


def gearboxes() -> Iterator[GearboxPart]:
    """Yield gearboxes as they are found in the vehicles that are converted."""
    for code, what, ratios, share, torque, length, mass, price in GEARBOXES:
        yield GearboxPart(
            id=f"lockgate-{code}",
            name=f"Lockgate {what}",
            ratios=list(ratios),
            efficiency=share,
            max_torque_nm=torque,
            length_mm=length,
            mass_kg=mass,
            price=price,
        )


def contactors() -> Iterator[ContactorPart]:
    """Yield contactors that open either way."""
    for volts, amps, opens in CONTACTORS:
        yield ContactorPart(
            id=f"penstock-{volts}-{amps}",
            name=f"Penstock {volts} V {amps} A",
            voltage_v=float(volts),
            current_a=float(amps),
            breaks_a=float(opens),
            sense="either",
            coil_w=round(4 + 0.03 * amps, 1),
            mass_kg=round(0.15 + 0.0022 * amps, 2),
            price=round(12 + 0.22 * amps + 0.08 * volts, 1),
        )


def fuses() -> Iterator[FusePart]:
    """Yield fuse-links for d.c., twenty thousand amps of breaking capacity."""
    for volts in FUSE_VOLTS:
        for amps in FUSE_AMPS:
            yield FusePart(
                id=f"penstock-fuse-{volts}-{amps}",
                name=f"Penstock fuse {volts} V {amps} A",
                voltage_v=float(volts),
                current_a=float(amps),
                breaks_a=20_000.0,
                mass_kg=round(0.03 + 0.0004 * amps, 3),
                price=round(5 + 0.03 * amps + 0.03 * volts, 1),
            )


def converters() -> Iterator[ConverterPart]:
    """Yield converters to the twelve volts of lamps and pumps."""
    for low, high, watts in CONVERTERS:
        yield ConverterPart(
            id=f"penstock-dc-{high}-{watts}",
            name=f"Penstock DC {high} V {watts} W",
            from_v=float(low),
            to_v=float(high),
            gives_v=13.8,
            power_w=float(watts),
            efficiency=0.9,
            mass_kg=round(0.5 + 0.003 * watts, 2),
            price=round(25 + 0.19 * watts + 0.15 * high, 1),
        )


def chargers() -> Iterator[ChargerPart]:
    """Yield chargers, nine tenths of the mains' watts in the pack."""
    for volts, amps in CHARGERS:
        watts = volts * amps / 0.9
        yield ChargerPart(
            id=f"penstock-charger-{volts:g}-{amps}",
            name=f"Penstock charger {volts:g} V {amps} A",
            voltage_v=float(volts),
            current_a=float(amps),
            mains_w=float(round(watts)),
            mass_kg=round(0.8 + watts / 700, 1),
            price=round(20 + 0.17 * watts, 1),
        )
