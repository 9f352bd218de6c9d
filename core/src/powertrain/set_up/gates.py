"""What a controller must be able to do before taste counts: one function for each gate.

Each holds what the build needs against what the controller states. What it does not state is
neither passed nor failed: it is a question to its seller.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from powertrain.controller.chopper import DC_FOR
from powertrain.documents.shelf import ControllerPart
from powertrain.set_up.needs import Needs

GateId = Literal[
    "drives",
    "outputs",
    "full_volts",
    "capacitors",
    "least_volts",
    "amps_long",
    "amps_peak",
    "erpm",
    "sensor",
    "signal",
    "reverse",
    "regeneration",
]


class Gate(BaseModel):
    """One gate: what is needed, what is stated; `passed` is None where nothing is stated."""

    id: GateId
    passed: bool | None
    say: str


@dataclass(frozen=True)
class Wanted:
    """What the builder wants of it beside what the build needs."""

    reverse: bool = False
    regeneration: bool = False


Held = tuple[bool | None, str] | None
"""Whether it passes, and in words; None where the gate is not asked."""


def _drives(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    ok = part.drives == needs.drives
    return ok, f"drives {part.drives} motors; this one is {needs.drives}"


def _outputs(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    outputs, count = part.controller.outputs, part.controller.count
    if outputs is None:
        return (None, f"its outputs are not stated; {needs.motors} are needed")
    together = f"{count} of them, linked, with {outputs} each" if count > 1 else f"{outputs}"
    return outputs * count >= needs.motors, f"outputs {together} for {needs.motors}"


def _full_volts(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    return _most(part.controller.max_voltage_v, needs.full_v, "V", "off the charger", "rated")


def _capacitors(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    if part.controller.capacitor_voltage_v is None:
        return None
    return _most(part.controller.capacitor_voltage_v, needs.full_v, "V", "full", "capacitors")


def _least_volts(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    least = part.controller.min_voltage_v
    if least is None:
        return None, f"least volts not stated; the pack is empty at {needs.empty_v:.3g} V"
    early = ", before the pack is empty" if needs.empty_v < least <= needs.rest_v else ""
    # As its verdict has it: below what the pack rests at it starts at all.
    return least <= needs.rest_v, f"works from {least:g} V{early}; rests at {needs.rest_v:.3g} V"


def _amps(stated: float | None, part: ControllerPart, motor_a: float, pack_a: float) -> Held:
    controller = part.controller
    if stated is None:
        return None, f"not stated; {motor_a:.3g} A of a motor are needed"
    if controller.rating_side == "battery":
        share = pack_a / controller.count
        return stated >= share, f"{share:.3g} A of the pack; stands {stated:g}"
    stands = stated * DC_FOR[controller.motor_current_is or "dc"]
    side = "" if controller.rating_side == "motor" else ", if that is motor amps"
    return stands >= motor_a, f"{motor_a:.3g} A of a motor; stands {stands:.3g}{side}"


def _amps_long(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    lasting = part.controller.continuous_current_a
    return _amps(lasting, part, needs.long_motor_a, needs.long_pack_a)


def _amps_peak(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    controller = part.controller
    peak = controller.peak_current_a or controller.continuous_current_a
    return _amps(peak, part, needs.start_motor_a, needs.start_pack_a)


def _erpm(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    if needs.erpm == 0 or needs.drives != "brushless":
        return None
    if needs.erpm != needs.erpm:
        return None, "the motor's poles are not stated"
    return _most(part.controller.max_erpm, needs.erpm, "erpm", "free, full pack", "follows")


def _sensor(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    if needs.drives != "brushless":
        return None
    runs_from = part.controller.sensor
    if runs_from is None:
        return None, "what it runs from is not stated"
    has = needs.sensor or "none"
    words = {"none": "no sensor", "hall": "Hall sensors", "encoder": "an encoder"}
    listed = " or ".join(words[one] for one in runs_from)
    ok = has in runs_from or "none" in runs_from
    say = f"runs from {listed}; the motor has {words[has]}"
    if ok and needs.should_sense and has != "none" and has not in runs_from:
        return False, f"{say}, and it starts under load or crawls"
    return ok, say


def _signal(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    takes = part.controller.throttle_signal
    if needs.signal is None:
        return None
    if takes is None:
        return None, f"what it takes is not stated; the throttle gives {needs.signal}"
    return takes == needs.signal, f"takes {takes}; the throttle gives {needs.signal}"


def _reverse(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    if not wanted.reverse:
        return None
    how = part.controller.reverse
    return (None, "not stated") if how is None else (how != "none", f"reverse: {how}")


def _regeneration(part: ControllerPart, needs: Needs, wanted: Wanted) -> Held:
    if not wanted.regeneration:
        return None
    amps = part.controller.regen_current_limit_a
    return (None, "not stated") if amps is None else (amps > 0, f"gives back up to {amps:g} A")


def _most(stated: float | None, needed: float, unit: str, when: str, rated: str) -> Held:
    if stated is None:
        return None, f"{needed:,.4g} {unit} {when}; not stated what it stands"
    return stated >= needed, f"{needed:,.4g} {unit} {when}; {rated} {stated:,g}"


GATES: dict[GateId, tuple[str, Callable[[ControllerPart, Needs, Wanted], Held]]] = {
    "drives": ("Kind of motor", _drives),
    "outputs": ("Outputs", _outputs),
    "full_volts": ("Volts, full", _full_volts),
    "capacitors": ("Capacitors", _capacitors),
    "least_volts": ("Volts, empty", _least_volts),
    "amps_long": ("Amps for long", _amps_long),
    "amps_peak": ("Amps for a start", _amps_peak),
    "erpm": ("Electrical rpm", _erpm),
    "sensor": ("Sensors", _sensor),
    "signal": ("Throttle signal", _signal),
    "reverse": ("Reverse", _reverse),
    "regeneration": ("Gives back", _regeneration),
}
"""Label and question of each, the hardest first."""


def gates_of(part: ControllerPart, needs: Needs, wanted: Wanted) -> list[Gate]:
    """Return every gate that is asked of a controller."""
    found = ((key, ask(part, needs, wanted)) for key, (_, ask) in GATES.items())
    return [
        Gate(id=key, passed=held[0], say=f"{GATES[key][0]}: {held[1]}")
        for key, held in found
        if held is not None
    ]
