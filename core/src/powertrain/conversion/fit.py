"""Whether the motor fits where the engine was: lengths on the shaft's line, what the shaft bears.

Lengths run from the gearbox's face: adapter plate, coupler, motor. The torsion of a round shaft is
``16 T/(pi d^3)`` (any textbook of machine elements); a keyway is reckoned in by the stress allowed.
"""

import math
from typing import Literal

from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.documents.build import Build
from powertrain.operating.free import held
from powertrain.operating.full_throttle import full_throttle
from powertrain.verdicts.context import RuleContext

KEYED_MPA, SPLINED_MPA = 30.0, 45.0
"""Torsion that a shaft of plain carbon steel stands for years, with a keyway or a taper and with
splines (common practice; about a fifth of its tensile strength)."""

TIGHT_MM = 10.0
"""Room that hands, wires and a crooked frame want; common practice, no source."""

Word = Literal["ok", "watch", "stop", "open"]


class Length(BaseModel):
    """One piece on the shaft's line: from where to where, in mm from the gearbox's face."""

    id: Literal["adapter", "coupler", "motor"]
    label: str
    from_mm: float
    to_mm: float
    tall_mm: float | None


class Check(BaseModel):
    """One thing that must be so: `value` of `limit`, None where one is not known."""

    id: str
    word: Word
    title: str
    why: str
    value: float | None = None
    limit: float | None = None
    unit: str = ""


class FitAnswer(BaseModel):
    """The lengths as drawn, what they come to, and what was checked.

    `asks` are document paths that would let more be drawn or checked.
    """

    lengths: list[Length]
    needs_mm: float | None
    free_mm: float | None
    left_mm: float | None
    across_mm: float | None
    """How wide and high the room is."""
    checks: list[Check]
    asks: list[str]


def fit_of(build: Build, context: RuleContext) -> FitAnswer:
    """Return whether a build's motor fits, by what its document tells."""
    coupling, motor = build.coupling, build.motor
    pieces = [
        ("adapter", "Adapter plate", coupling and coupling.adapter_mm, motor.diameter_mm),
        ("coupler", "Coupler", coupling and coupling.coupler_mm, _coupler_mm(build)),
        ("motor", "Motor", motor.length_mm, motor.diameter_mm),
    ]
    lengths, at = [], 0.0
    for key, label, long, tall in pieces:
        if not long:
            continue
        lengths.append(
            Length.model_validate(
                {"id": key, "label": label, "from_mm": at, "to_mm": at + long, "tall_mm": tall}
            )
        )
        at += long
    known = motor.length_mm is not None
    free = None if coupling is None else coupling.free_length_mm
    needs = at if known else None
    left = None if needs is None or free is None else free - needs
    checks = [
        _length(needs, free, left, _untold(build)),
        *_across(build),
        *_shaft(build, context),
        *_overhung(build),
        *_flywheel(build),
        *_mount(build, context),
        *_direction(build),
    ]
    return FitAnswer(
        lengths=lengths,
        needs_mm=needs,
        free_mm=free,
        left_mm=left,
        across_mm=None if coupling is None else coupling.free_across_mm,
        checks=checks,
        asks=_asks(build),
    )


def _coupler_mm(build: Build) -> float | None:
    """Return how tall a coupler is drawn: twice its shaft, a usual hub."""
    return None if build.motor.shaft_mm is None else 2 * build.motor.shaft_mm


def _asks(build: Build) -> list[str]:
    coupling = build.coupling
    wanted = {
        "motor.length_mm": build.motor.length_mm,
        "motor.diameter_mm": build.motor.diameter_mm,
        "motor.shaft_mm": build.motor.shaft_mm,
        "coupling.adapter_mm": coupling and coupling.adapter_mm,
        "coupling.coupler_mm": coupling and coupling.coupler_mm,
        "coupling.free_length_mm": coupling and coupling.free_length_mm,
        "coupling.free_across_mm": coupling and coupling.free_across_mm,
        "coupling.shaft": coupling and coupling.shaft,
    }
    return [path for path, value in wanted.items() if value is None]


def _untold(build: Build) -> str:
    """Return in words what of the joint's length nobody has told; '' where all of it is."""
    coupling = build.coupling
    pieces = {
        "adapter": coupling and coupling.adapter_mm,
        "coupler": coupling and coupling.coupler_mm,
    }
    return " and ".join(name for name, length in pieces.items() if length is None)


def _length(needs: float | None, free: float | None, left: float | None, untold: str) -> Check:
    if needs is None or free is None or left is None:
        return Check(
            id="length",
            word="open",
            title="Whether it fits in length is not known",
            why="Hold a tape from the gearbox's face to the first thing in the way, and against "
            "the motor without its shaft.",
            value=needs,
            limit=free,
            unit="mm",
        )
    if left < 0:
        word: Word = "stop"
        title = f"{-left:.0f} mm too long: {needs:.0f} mm where {free:.0f} mm are free"
        why = (
            "A thinner adapter leaves the gearbox's shaft less to grip; look for a shorter motor, "
            "or for what can be moved out of the way: a cross member, the steering, the exhaust."
        )
    elif untold:
        word, title = "open", f"{left:.0f} mm are left for the {untold}"
        why = "How long they are is not told, so that nobody knows yet whether all of it fits."
    elif left < TIGHT_MM:
        word, title = "watch", f"{left:.0f} mm to spare of {free:.0f} mm"
        why = f"Wires, hands and a crooked frame want some {TIGHT_MM:.0f} mm."
    else:
        word, title = "ok", f"Fits in length, {left:.0f} mm to spare"
        why = f"Adapter, coupler and motor are {needs:.0f} mm of {free:.0f} mm."
    return Check(id="length", word=word, title=title, why=why, value=needs, limit=free, unit="mm")


def _across(build: Build) -> list[Check]:
    """Judge the motor's can against the room across it."""
    can = build.motor.diameter_mm
    room = None if build.coupling is None else build.coupling.free_across_mm
    if can is None or room is None:
        return []
    left = room - can
    why = "Its feet, terminals and cables stand out from the can: hold a board of its size there."
    if left < 0:
        word: Word = "stop"
        title = f"{-left:.0f} mm too thick: a can of {can:.0f} mm where {room:.0f} mm are free"
    elif left < 2 * TIGHT_MM:
        word, title = "watch", f"{left:.0f} mm to spare across"
    else:
        word, title = "ok", f"Fits across, {left:.0f} mm to spare"
    return [Check(id="across", word=word, title=title, why=why, value=can, limit=room, unit="mm")]


def shaft_mpa(torque_nm: float, diameter_mm: float) -> float:
    """Return the torsion of a round shaft, 16 T/(pi d^3), in MPa."""
    return 16 * 1000 * torque_nm / (math.pi * diameter_mm**3)


def _start_nm(context: RuleContext) -> float:
    """Return the most that one shaft gives at a start.

    A wheel that finds a stone holds it whatever grip it has on the level.
    """
    return float(full_throttle(held(context.drive), scalar(0.0)).shaft_torque_nm)


def _shaft(build: Build, context: RuleContext) -> list[Check]:
    diameter = build.motor.shaft_mm
    if diameter is None:
        return []
    torque = _start_nm(context)
    kind = build.coupling.shaft if build.coupling is not None else None
    allowed = SPLINED_MPA if kind == "spline" else KEYED_MPA
    stress = shaft_mpa(torque, diameter)
    say = {
        "key": "a key",
        "spline": "splines; count them, and measure across: they must fit without play",
        "taper": "a taper; it holds by its fit, so blue it in",
        None: "a key, taken for granted",
    }[kind]
    if not math.isfinite(stress):
        return []
    word: Word = "ok" if stress <= allowed else "stop"
    return [
        Check(
            id="shaft",
            word=word,
            title=f"The shaft of {diameter:g} mm is twisted by {stress:.0f} MPa of {allowed:.0f}",
            why=f"By {torque:.0f} N.m at a start, with {say}. A taken-up clutch or a wheel that "
            "bites doubles it.",
            value=stress,
            limit=allowed,
            unit="MPa",
        )
    ]


def _mount(build: Build, context: RuleContext) -> list[Check]:
    """Tell what the mount is twisted by: the torque that leaves the shaft, the other way round."""
    across = build.motor.diameter_mm
    if across is None or context.build.coupling is None:
        return []
    torque = _start_nm(context)
    if not math.isfinite(torque):
        return []
    pull = torque / (across / 1000)
    return [
        Check(
            id="mount",
            word="ok",
            title=f"The mount is twisted back by {torque:.0f} N.m",
            why=f"Two feet {across:.0f} mm apart are pulled by {pull:,.0f} N each way at a "
            "start, and once more when the load bites. The adapter holds one end; give the other a "
            "cradle.",
            value=torque,
            unit="N.m",
        )
    ]


def _direction(build: Build) -> list[Check]:
    """Tell a brushed motor's brushes from the gearbox's way round."""
    if build.coupling is None or build.motor.commutation != "brushed":
        return []
    return [
        Check(
            id="direction",
            word="watch",
            title="See which way round the gearbox is to be turned",
            why="Most engines turn clockwise seen from their front, some the other way. Brushes "
            "that were advanced for one way spark and burn the bars the other way round: ask which "
            "way yours are set, and move them before field or armature is swapped.",
        )
    ]


def _overhung(build: Build) -> list[Check]:
    coupling = build.coupling
    if coupling is None or coupling.flywheel != "kept":
        return []
    clutch = coupling.clutch == "kept"
    load = (
        "A flywheel on the motor's shaft hangs over its end bearing, and each press of the clutch "
        "pushes along the shaft with a thousand newtons or more"
        if clutch
        else "A flywheel on the motor's shaft hangs over its end bearing"
    )
    return [
        Check(
            id="bearing",
            word="watch",
            title="Ask whether the motor's end bearing carries a flywheel",
            why=f"{load}. Motors are made for a pull across their shaft at best: ask its maker, "
            "have the flywheel lightened and balanced, or carry it in a bearing of its own in the "
            "adapter.",
        )
    ]


def _flywheel(build: Build) -> list[Check]:
    coupling = build.coupling
    if coupling is None or coupling.flywheel != "removed" or coupling.clutch != "kept":
        return []
    return [
        Check(
            id="clutch",
            word="stop",
            title="A clutch without its flywheel has nothing to press against",
            why="Keep the flywheel for it, or leave both out and couple the shafts.",
        )
    ]
