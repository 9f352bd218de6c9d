"""The two schools of how near to its rpm limit a small motor should run."""

from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.units import rpm_from_rad_s
from powertrain.verdicts.verdict import Case, Severity, Verdict

LOW_RPM, HIGH_RPM = 36_000.0, 38_000.0
"""What one school aims small ground vehicles at; common practice, no source."""

SMALL_KG, FAST_RPM = 25.0, 20_000.0
"""The window is spoken of for small vehicles with small fast motors."""


def judge(case: Case) -> Iterator[Verdict]:
    """Judge free rpm at storage volts against the one school's window; name the other's."""
    build, drive = case.build, case.drive
    volts = build.battery.series * CHEMISTRIES[build.battery.chemistry].storage_v
    rpm = float(rpm_from_rad_s(drive.motor.speed_at_voltage_rad_s(scalar(0.0), scalar(volts))))
    if build.vehicle.mass_kg > SMALL_KG or not FAST_RPM < rpm < 1e6:
        return
    inside = LOW_RPM <= rpm <= HIGH_RPM
    severity: Severity = "watch" if rpm > HIGH_RPM else "ok"
    limit = build.motor.max_rpm
    other = "the rated rpm, which is not known here" if limit is None else f"all {limit:,.0f} rated"
    yield Verdict(
        id="rpm_window",
        part="motor",
        title=f"{rpm:,.0f} rpm at storage volts; one school aims at 36,000 to 38,000",
        severity=severity,
        value=rpm,
        limit=HIGH_RPM,
        unit="rpm",
        moment=None,
        why=("That balances speed and heat. " if inside else "")
        + f"The other school uses {other}: half the rpm is half the power.",
        fix=None,
    )
