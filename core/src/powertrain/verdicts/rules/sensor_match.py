"""Whether the controller can learn the rotor's place from this motor."""

from collections.abc import Iterator

from powertrain.verdicts.verdict import Case, Many, Mask, NotJudged, Severity, Verdict, nowhere

UNGEARED = True
"""Gearing makes no difference to it."""

WORDS = {"none": "the back-EMF alone", "hall": "Hall sensors", "encoder": "an encoder"}


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Judge a brushless motor's sensor against what its controller runs from."""
    motor, runs_from = case.build.motor, case.build.controller.sensor
    if motor.commutation != "brushless" or case.drive.motor.has_inverter:
        return
    if motor.sensor is None or runs_from is None:
        path = "motor.sensor" if motor.sensor is None else "controller.sensor"
        say = "Sensors: what the motor has and what the controller runs from is not all known."
        yield NotJudged(id="sensor_match", part="controller", path=path, say=say)
        return
    severity: Severity = "stop" if _fails(motor.sensor, tuple(runs_from)) else "ok"
    listed = " or ".join(WORDS[one] for one in runs_from)
    has = "no sensor" if motor.sensor == "none" else WORDS[motor.sensor]
    yield Verdict(
        id="sensor_match",
        part="controller",
        title=f"The controller runs from {listed}; the motor has {has}",
        severity=severity,
        value=0.0 if severity == "stop" else 1.0,
        limit=1.0,
        unit="",
        moment=None,
        why="It can't find the rotor: take a controller that runs from what the motor has."
        if severity == "stop"
        else "It finds the rotor.",
        fix=None,
    )


def _fails(has: str, runs_from: tuple[str, ...]) -> bool:
    """Return whether a controller finds no rotor: every motor has a back-EMF."""
    return not {"none", has} & set(runs_from)


def stops(many: Many) -> Mask:
    """Return whether the controller runs from none of what the motor has."""
    motor, runs_from = many.build.motor, many.build.controller.sensor
    unknown = motor.sensor is None or runs_from is None or many.drive.motor.has_inverter
    if unknown or motor.commutation != "brushless":
        return nowhere(many)
    return nowhere(many) | _fails(str(motor.sensor), tuple(runs_from or ()))
