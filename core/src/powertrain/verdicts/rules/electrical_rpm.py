"""Electrical rpm straight off the charger against what the controller can follow."""

from collections.abc import Iterator

from powertrain.verdicts.verdict import (
    Case,
    Many,
    Mask,
    NotJudged,
    Verdict,
    exceeds,
    nowhere,
    severity_of,
)

UNGEARED = True
"""Gearing makes no difference to it."""


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """A brushless motor turns its field once for each pair of poles in a turn of the shaft."""
    motor, limit = case.build.motor, case.build.controller.max_erpm
    if motor.commutation != "brushless" or limit is None:
        return
    if motor.poles is None:
        say = "Electrical rpm: the motor's number of poles is not known."
        yield NotJudged(id="electrical_rpm", part="controller", path="motor.poles", say=say)
        return
    rpm = float(case.moments.wheels_up.state.motor_rpm)
    electrical = rpm * motor.poles / 2
    yield Verdict(
        id="electrical_rpm",
        part="controller",
        title=f"It has to follow {electrical:,.0f} electrical rpm of {limit:,.0f}",
        severity=severity_of(electrical, limit),
        value=electrical,
        limit=limit,
        unit="erpm",
        moment="wheels_up",
        why=f"{rpm:,.0f} rpm free at full charge, times {motor.poles / 2:g} pairs of poles.",
        fix=None,
    )


def stops(many: Many) -> Mask:
    """Return where it can't follow."""
    motor, limit = many.build.motor, many.build.controller.max_erpm
    if motor.commutation != "brushless" or limit is None or motor.poles is None:
        return nowhere(many)
    rpm = many.moments.wheels_up.state.motor_rpm
    return nowhere(many) | exceeds(rpm * motor.poles / 2, limit)
