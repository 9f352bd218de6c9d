"""Unloaded rpm straight off the charger against the motor's limit."""

from collections.abc import Iterator

from powertrain.verdicts.verdict import (
    Case,
    Fix,
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
    """Wheels in the air at full charge is the fastest the rotor can ever turn under power."""
    motor, battery = case.build.motor, case.build.battery
    if case.drive.motor.races_unloaded:
        # It always would; it is judged by its loaded rpm, and `loaded_rpm` says what racing does.
        return
    rpm = float(case.moments.wheels_up.state.motor_rpm)
    if motor.max_rpm is None:
        say = "Free rpm: the motor's highest rpm is not known."
        yield NotJudged(id="free_rpm", part="motor", path="motor.max_rpm", say=say)
        return
    severity = severity_of(rpm, motor.max_rpm)
    over = severity == "stop"
    cells = int(battery.series * motor.max_rpm / rpm) if over else battery.series
    yield Verdict(
        id="free_rpm",
        part="motor",
        title=f"Free, it turns {rpm:,.0f} rpm of {motor.max_rpm:,.0f} allowed",
        severity=severity,
        value=rpm,
        limit=motor.max_rpm,
        unit="rpm",
        moment="wheels_up",
        why="Straight off the charger with the wheels in the air nothing holds the motor back.",
        fix=Fix(say=f"Use {cells} cells in series", change={"battery.series": cells})
        if over and cells >= 1
        else None,
    )


def stops(many: Many) -> Mask:
    """Return where it turns faster than it may."""
    if many.build.motor.max_rpm is None or many.drive.motor.races_unloaded:
        return nowhere(many)
    rpm = many.moments.wheels_up.state.motor_rpm
    return nowhere(many) | exceeds(rpm, many.build.motor.max_rpm)
