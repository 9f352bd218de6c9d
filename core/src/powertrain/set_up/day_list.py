"""Before a day of testing: what to look at on this machine, in the order of the hands.

The order and the points are common practice, no source: what turns, what holds, what stops it,
what burns, what records, who stands where. Only what the machine has is asked for.
"""

from collections.abc import Iterator

from pydantic import BaseModel

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.build import Build
from powertrain.set_up.first_power import TOUCH_V
from powertrain.verdicts.context import RuleContext

RIDDEN_KG = 30.0
"""A machine of more than this carries somebody, or hurts as if it did (common practice)."""

FULL = 0.985
"""From this part of a full cell's volts on braking amps have nowhere to go (common practice)."""


class DayCheck(BaseModel):
    """Something to look at before riding; `expect` with its `unit` is what should be read."""

    id: str
    say: str
    expect: float | None = None
    unit: str = ""


def day_list(build: Build, context: RuleContext) -> list[DayCheck]:
    """Return what to look at before a build is tested."""
    return [*_turns(build, context), *_stops(build, context), *_around(build, context)]


STAGES = {
    "chain": "Chain runs true and has its slack; the clip of its joining link is closed, the open "
    "end trailing.",
    "belt": "Belt tight enough not to jump, no tooth torn; both wheels in line.",
    "spur": "Teeth mesh with a paper's width of play; the grub screw sits on the shaft's flat.",
    "gearbox": "Gearbox engaged and held in its gear, oil where it belongs.",
}


def _turns(build: Build, context: RuleContext) -> Iterator[DayCheck]:
    rolls, blade = context.drive.rolls, build.propeller is not None
    lifted = "Wheels up first" if rolls else "Without its load first"
    lifted = "Propeller off first" if blade else lifted
    yield DayCheck(
        id="lifted",
        say=f"{lifted}: turns the right way, freely, and stops when let go. Expected at full:",
        expect=None
        if context.drive.motor.races_unloaded
        else float(context.moments.wheels_up.state.motor_rpm),
        unit="rpm",
    )
    kinds = list(dict.fromkeys(stage.kind for stage in build.gearing))
    for kind in kinds:
        if kind in STAGES:
            yield DayCheck(id=kind, say=STAGES[kind])
    if not build.gearing and rolls:
        yield DayCheck(
            id="axle",
            say="Axle nuts tight and the torque arm in place; the cable is not twisted.",
        )
    if blade:
        yield DayCheck(
            id="propeller",
            say="Propeller without a nick, its nut tight and its thread such that turning tightens "
            "it; nothing it could strike.",
        )
    yield DayCheck(
        id="bolts",
        say="Bolts of motor and mounts tight."
        if blade
        else "Bolts of motor, mounts and wheels tight."
        if rolls
        else "Bolts of motor, mounts and drum tight; the rope is whole and lies in its turns.",
    )
    if rolls:
        yield DayCheck(id="tyres", say="Tyres pumped; write the pressure down.")


def _stops(build: Build, context: RuleContext) -> Iterator[DayCheck]:
    signal = build.vehicle.throttle_signal or build.controller.throttle_signal
    yield DayCheck(
        id="fail_safe",
        say="Throttle springs back by itself; the main switch or loop key is within reach."
        if signal == "analogue"
        else "Signal taken away while it turns slowly: it stops by itself.",
    )
    if context.drive.rolls and build.vehicle.mass_kg >= RIDDEN_KG:
        yield DayCheck(
            id="brakes", say="Brakes hold it on a slope by themselves, without the motor."
        )
    elif build.vehicle.kind == "hoist":
        yield DayCheck(id="brakes", say="The brake holds the load with the power off.")
    full_v = CHEMISTRIES[build.battery.chemistry].full_v
    regenerates = (build.controller.regen_current_limit_a or 0) > 0
    if regenerates and build.battery.cell_voltage_v >= FULL * full_v:
        yield DayCheck(
            id="regeneration",
            say="The pack is full: braking by the motor has nowhere to send its amps. Ride some "
            "down first, or brake by hand.",
        )


def _around(build: Build, context: RuleContext) -> Iterator[DayCheck]:
    pack = context.drive.pack
    rests_v = float(pack.open_circuit_v)
    yield DayCheck(
        id="pack",
        say="Pack fast in its place, nothing rubs on a wire; warm, and charged to",
        expect=rests_v,
        unit="V",
    )
    if rests_v > TOUCH_V:
        yield DayCheck(
            id="touch",
            say="Above 60 V a touch can kill: covers on, and a licensed trade where law asks it.",
        )
    yield DayCheck(id="logger", say="Logger cleared and its clock set; meters on, phone charged.")
    carries = context.drive.rolls and build.vehicle.mass_kg >= RIDDEN_KG
    if carries:
        yield DayCheck(id="helmet", say="Helmet, gloves, covered shoes.")
    yield DayCheck(
        id="bystanders",
        say="Everybody behind the propeller and out of its plane; armed last, disarmed first."
        if build.propeller is not None
        else "Bystanders behind something, none ahead; one of them knows the main switch."
        if context.drive.rolls
        else "Nobody under the load or beside the rope; one knows the main switch.",
    )
    yield DayCheck(
        id="place",
        say="The field is yours for it, nobody is flown over: local air law first."
        if build.vehicle.kind == "aircraft"
        else "Ground dry and closed to others, or allowed: local law and the place's owner first.",
    )
