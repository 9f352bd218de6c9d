"""What a motor asks for over the years: brushes, dust, cooling, brakes, what it is worth later.

Common practice, no source; hours of brushes are those of `powertrain.motor.brush_life`.
"""

import math

from powertrain.documents.build import Build
from powertrain.motor.brush_life import BrushLife
from powertrain.plain import two_digits
from powertrain.verdicts.context import RuleContext

LOOKS = 4
"""How often brushes are looked at before they are due."""


def upkeep_of(build: Build, context: RuleContext) -> list[str]:
    """Return what has to be looked after, each in a sentence or two."""
    motor = context.drive.motor
    say = []
    if build.motor.commutation == "brushed":
        say.append(_brushes(build, context))
    if motor.has_inverter:
        say.append(
            "No brushes to look at. Its inverter wants air or a liquid loop, and a loop brings "
            "failure points of its own, pump, hoses, an air lock: watch its temperature, not the "
            "motor's alone."
        )
    if motor.races_unloaded:
        say.append(
            "It coasts freely and wins nothing back: the brakes do all of the braking, and have to "
            "be those of the heavier vehicle."
        )
    else:
        say.append(
            "It can brake into the pack and spares the brakes, not on a full pack and not in the "
            "frost; set it so that the driven wheels don't slide."
        )
    if build.motor.cooling.air == "open":
        say.append(
            "Its air goes through it: keep chaff and spray out, and mind that a fan on the shaft "
            "blows least where it is slow and needed most, on the hill."
        )
    say.append(
        "Sold again, an old series motor brings its copper and iron at least; a package is worth "
        "something as long as its inverter lives and can be had."
        if motor.races_unloaded or motor.has_inverter
        else "Sold again, it is worth more with its controller and the settings written down."
    )
    return say


def _brushes(build: Build, context: RuleContext) -> str:
    amps = abs(float(context.moments.cruise.state.motor_current_a))
    lasting = build.motor.continuous_current_a
    life = BrushLife.at(amps, math.inf if lasting is None else lasting, is_model=False)
    return (
        f"Brushes last some {two_digits(life.hours)} h at the trip's amps "
        f"({two_digits(life.least)} to {two_digits(life.most)}): look at them every "
        f"{two_digits(life.hours / LOOKS)} h, and blow their dust out; it conducts."
    )
