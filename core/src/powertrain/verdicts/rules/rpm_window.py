"""The two schools of how near to its rpm limit a small motor should run."""

from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.units import rpm_from_rad_s
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict

LOW_RPM, HIGH_RPM = 36_000.0, 38_000.0
"""What one school aims small ground vehicles at; common practice, no source."""

SMALL_KG, FAST_RPM = 25.0, 20_000.0
"""The window is spoken of for small vehicles with small fast motors."""


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge free rpm at storage volts against the one school's window."""
    pack = batch.ratings.pack
    volts = pack.series * pack.storage_cell_v
    rpm = rpm_from_rad_s(batch.drive.motor.speed_at_voltage_rad_s(scalar(0.0), volts))
    small = batch.ratings.vehicle.mass_kg <= SMALL_KG
    applies = small & (rpm > FAST_RPM) & (rpm < 1e6)
    severity = grades(watch=rpm > HIGH_RPM)
    yield Judgement("rpm_window", rpm, scalar(HIGH_RPM), severity, applies=applies)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Name both schools."""
    rpm, limit = float(found.value), context.build.motor.max_rpm
    other = "the rated rpm, which is not known here" if limit is None else f"all {limit:,.0f} rated"
    why = "That balances speed and heat. " if LOW_RPM <= rpm <= HIGH_RPM else ""
    why += f"The other school uses {other}: half the rpm is half the power."
    title = f"{rpm:,.0f} rpm at storage volts; one school aims at 36,000 to 38,000"
    return verdict(found, "motor", title, why, unit="rpm")


RULE = Rule(judge, say)
