"""A brief and four parts made into a build: what is asked, what the limits are set to."""

import math
from collections.abc import Mapping
from typing import Any

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.controller.chopper import dc_for
from powertrain.documents.battery import Battery
from powertrain.documents.brief import Brief
from powertrain.documents.build import FORMAT, Build, Moments
from powertrain.documents.motors import MotorDocument
from powertrain.documents.shelf import ControllerPart
from powertrain.documents.vehicle import FixedStage, GearboxStage, Stage
from powertrain.load.craft import Wing
from powertrain.motor.kinds import driven_by
from powertrain.operating.moment import LAUNCH_SHARE
from powertrain.operating.moments_in_air import ABOVE_STALL
from powertrain.stated import Stated
from powertrain.units import kmh_from_mps

CRUISE_OF_WISHED = 0.7
"""A trip as a share of the least speed wished for; what meets it goes about a sixth faster, and 0.6
of that is the same trip (`operating.moments.CRUISE_SHARE`)."""

USUAL_KMH = 15.0
"""The speed that counts where none is wished for."""


def moments_of_brief(brief: Brief) -> Moments:
    """Return the moments at which every candidate is looked at; the same for all of them."""
    wishes, top = brief.wishes, brief.wishes.top_speed_kmh
    speeds = (top.min if top else None, top.max if top else None, wishes.cruise_kmh)
    speed_kmh = next((speed for speed in speeds if speed is not None), USUAL_KMH)
    cruise_kmh = wishes.cruise_kmh or max(CRUISE_OF_WISHED * speed_kmh, slowest_kmh(brief))
    hill, start = wishes.climb, wishes.launch
    said: dict[str, Any] = {
        "launch_to_kmh": start.to_kmh if start else LAUNCH_SHARE * speed_kmh,
        "cruise_kmh": float(f"{cruise_kmh:.12g}"),
        "climb_ms": wishes.climb_ms,
        "range_from_pct": brief.range_from_pct,
        "range_to_pct": brief.range_to_pct,
    }
    if hill is not None:
        said |= {
            "climb_grade_pct": hill.grade_pct,
            "climb_speed_kmh": hill.speed_kmh,
            "climb_length_m": hill.length_m,
        }
    return Moments(**{key: value for key, value in said.items() if value is not None})


FLIES_WITH = 1.3
"""Mass of an aircraft with its drive over that without, for a speed to cruise at; common practice,
no source."""


def slowest_kmh(brief: Brief) -> float:
    """Return the least speed of a trip that nobody said: of a wing well above its stall."""
    if brief.vehicle.kind != "aircraft":
        return 0.0
    stalls = Wing.of(Stated(brief)).least_mps(scalar(0.0))
    return ABOVE_STALL * float(kmh_from_mps(stalls)) * math.sqrt(FLIES_WITH)


def rested_v(brief: Brief, chemistry: str) -> float:
    """Return the rest volts of a cell at the state of charge in which the brief judges."""
    value: float = getattr(CHEMISTRIES[chemistry], f"{brief.judged_at}_v")
    return value


def limits_set(
    settable: bool, controller: Stated, motor: Stated, battery: Stated, motors: int
) -> dict[str, Array]:
    """Return what the controller's amps limits are set to; NaN for a limit that it has not.

    A careful builder sets what can be set to the least that any part names: motor amps to the
    peaks of motor and controller, pack amps to what pack and controllers give for long. Both
    are of one controller, in the amps that it is told in.
    """
    count, unknown = controller.number("count"), scalar(np.nan)
    motor_a = controller.number("motor_current_limit_a", np.nan)
    battery_a = controller.number("battery_current_limit_a", np.nan)
    if settable:
        pack_side = controller.word("rating_side") == "battery"
        own_peak = unknown if pack_side else controller.number("peak_current_a", np.nan)
        its_peak = motor.number("peak_current_a", np.nan) / dc_for(controller)
        motor_a = np.fmin(np.fmin(motor_a, own_peak), its_peak)
        # A rating is of one motor's path.
        lasting = controller.number("continuous_current_a", np.nan) * motors / count
        its_share = battery.number("continuous_current_a", np.nan) / count
        battery_a = np.fmin(np.fmin(battery_a, lasting if pack_side else unknown), its_share)
    return {"motor_current_limit_a": motor_a, "battery_current_limit_a": battery_a}


def added_kg(
    motor: Stated, controller: Stated, battery: Stated, count: int, last_kg: float
) -> Array:
    """Return the mass of all drive parts; what is not stated counts as nothing."""
    boxes_kg = controller.number("count") * controller.number("mass_kg", 0.0)
    motors_kg = count * motor.number("mass_kg", 0.0)
    return motors_kg + boxes_kg + battery.number("mass_kg", 0.0) + last_kg


def own_stages(brief: Brief) -> list[Stage] | None:
    """Return the stages of a gearing that is owned, with the axle's own; None where none is."""
    if brief.owned.gearing is None:
        return None
    return [*brief.owned.gearing, *final_stages(brief)]


def final_stages(brief: Brief) -> list[Stage]:
    """Return the axle's own reduction as a stage, or none."""
    final = brief.final_drive
    if final is None:
        return []
    return [FixedStage(kind="fixed", ratio=final.ratio, efficiency=final.efficiency)]


def own_gearbox(brief: Brief) -> bool:
    """Return whether the gearing is one whose speeds are changed while riding."""
    return any(isinstance(stage, GearboxStage) for stage in brief.owned.gearing or ())


def driven_as(motor: MotorDocument) -> str:
    """Return which controllers drive a motor, as `ControllerPart.drives` says it."""
    return driven_by(Stated(motor))


def build_of(
    brief: Brief,
    motor: MotorDocument,
    part: ControllerPart,
    battery: Battery,
    last: Mapping[str, Any],
    last_kg: float,
) -> Build:
    """Return the build of one candidate, as the plain solver takes it.

    `last` is what is chosen last, by field of the document: `gearing`, `propeller`.
    """
    controller, count = part.controller, brief.motor_count
    said = Stated(controller), Stated(motor), Stated(battery)
    settings = {
        key: float(value)
        for key, value in limits_set(part.settable, *said, count).items()
        if np.isfinite(value)
    }
    added = float(added_kg(said[1], said[0], said[2], count, last_kg))
    return Build(
        format=FORMAT,  # type: ignore[arg-type]
        name=f"{brief.name}: {motor.name or 'own motor'}"[:120],
        conditions=brief.conditions,
        vehicle=brief.vehicle.model_copy(update={"mass_kg": brief.vehicle.mass_kg + added}),
        wheel=brief.wheel,
        **last,
        motor=motor.model_copy(update={"count": count}),
        controller=controller.model_copy(update=settings),
        battery=battery.model_copy(update={"cell_voltage_v": rested_v(brief, battery.chemistry)}),
        moments=moments_of_brief(brief),
    )
