"""The first time under power: what to do in which order, what to watch, which figure to expect.

The order is common practice, no source: nothing turns near anybody, what can stop it is tried
before what can start it, limits stand before the trigger is pulled whole.
"""

from collections.abc import Iterator

from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.set_up.limits import LimitsAnswer
from powertrain.set_up.wires import direction_of
from powertrain.verdicts.context import RuleContext

TOUCH_V = 60.0
"""Above it a touch is dangerous, and the work that of a licensed trade."""


class FirstStep(BaseModel):
    """One thing to do; `expect` with its `unit` is the figure that should be read then."""

    id: str
    say: str
    watch: str
    expect: float | None = None
    unit: str = ""


def first_power(build: Build, context: RuleContext, limits: LimitsAnswer) -> list[FirstStep]:
    """Return the steps that fit a build."""
    return list(_steps(build, context, limits))


def _steps(build: Build, context: RuleContext, limits: LimitsAnswer) -> Iterator[FirstStep]:
    pack, motor = context.drive.pack, build.motor
    rests_v = float(pack.open_circuit_v)
    blade = build.propeller is not None
    lifted = "The wheels off the ground" if context.drive.rolls else "The drum without its load"
    lifted = "The propeller off" if blade else lifted
    yield FirstStep(
        id="lifted",
        say=f"{lifted}, guards on, fuse or loop key within reach.",
        watch="Nobody stands in the plane of anything that turns; no sleeves, laces, hair.",
    )
    if rests_v > TOUCH_V:
        yield FirstStep(
            id="touch",
            say="Insulated gloves and tools, one hand; leave it to a licensed trade if in doubt.",
            watch="Above 60 V a touch can kill.",
            expect=rests_v,
            unit="V",
        )
    signal = build.vehicle.throttle_signal or build.controller.throttle_signal
    if signal == "analogue":
        yield FirstStep(
            id="throttle",
            say="The throttle at rest, and see that it springs back by itself.",
            watch="A hall throttle without its ground gives full volts.",
        )
    else:
        yield FirstStep(
            id="throttle",
            say="What sends the throttle on first, its trigger let go.",
            watch="Off last, for the same reason.",
        )
    yield FirstStep(
        id="pack",
        say="Connect the pack: through a resistor first where it sparks.",
        watch="The volts at the controller are those of the pack; nothing warms, nothing smells.",
        expect=rests_v,
        unit="V",
    )
    yield FirstStep(
        id="ends",
        say="Teach the controller the ends of the trigger: rest, full, and back.",
        watch="Its lights or tones confirm each; the motor does not turn meanwhile.",
    )
    yield FirstStep(
        id="direction",
        say=f"See which way it turns. The wrong way? {direction_of(build, context)}",
        watch="A touch of trigger is enough.",
    )
    yield FirstStep(
        id="fail_safe",
        say="Take the signal away while it turns slowly: switch off what sends it, or unplug it.",
        watch="It must stop by itself; otherwise go no further.",
    )
    yield FirstStep(
        id="cut_off",
        say="Set the low-voltage cut-off.",
        watch="Chemistry and number of cells are those of this pack.",
        expect=limits.cut_off_v,
        unit="V",
    )
    if limits.battery_current_a is not None:
        yield FirstStep(
            id="limits",
            say="Set the amps limits: motor, pack, braking. Begin with half.",
            watch="No more from the pack than this.",
            expect=limits.battery_current_a,
            unit="A",
        )
    if context.drive.motor.races_unloaded:
        yield FirstStep(
            id="full",
            say="No full trigger without a load: a series-wound motor races until it bursts.",
            watch="A touch of trigger only.",
        )
    else:
        yield FirstStep(
            id="full",
            say="Full trigger for two seconds, nothing to push.",
            watch="Even sound, no smell; far fewer rpm is a wrong timing, wire or cell count.",
            expect=float(context.moments.wheels_up.state.motor_rpm),
            unit="rpm",
        )
    yield FirstStep(
        id="rest",
        say="Then curve, ramp and drag brake, each tried on the stand.",
        watch="One change at a time.",
    )
    case_c = float(context.limits.case)
    yield FirstStep(
        id="ride",
        say="The propeller on last, the craft held fast: a minute at full throttle from behind "
        "it, nobody in its plane; then feel and measure."
        if blade
        else "One minute on the level with helmet and brakes checked, then feel and measure.",
        watch="The hottest a motor's case should get; stop well below.",
        expect=case_c,
        unit="C",
    )
    if motor.count > 1:
        yield FirstStep(
            id="twins",
            say="Feel all motors: they should be alike warm.",
            watch="One that stays cold does not pull, one that is hot pulls for the others.",
        )
