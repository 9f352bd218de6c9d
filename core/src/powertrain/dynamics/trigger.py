"""A build driven by hand in real time: a trigger through dead band, steps, curve, ramp and brakes.

Each frame is one step of the drive (`dynamics.march`). The trigger's own way comes before it: what
lies within the dead band is none, the controller's steps cut it, the curve bends it, and the duty
rises no faster than the ramp; it falls at once. With the trigger let go the drag brake acts, and
pushed away the brake, both as a share of a shorted motor's braking (common practice).
"""

from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.compile.build import CompiledBuild, compile_stated
from powertrain.controller.curve import ThrottleCurve
from powertrain.documents.build import Build
from powertrain.dynamics.march import POWERS, Marcher
from powertrain.dynamics.system_state import Demand, SystemState
from powertrain.errors import NO_WHEELS, Refusal
from powertrain.operating.limits import LimitWord
from powertrain.plain import limit_word, number
from powertrain.stated import Stated
from powertrain.units import kmh_from_mps, rpm_from_rad_s

FRAME_S = 0.04
"""How long a frame lasts, if nothing else is said: 25 a second."""

STEEPEST_PCT = 60.0

SECONDS_PER_HOUR = 3600.0


class TriggerFrame(BaseModel):
    """The drive at the end of a frame; watts and amps are those of its middle.

    Motor amps are of one motor, watts of all. `limited_by` is None where nothing holds back what
    the trigger asks for.
    """

    t_s: float
    distance_m: float
    speed_kmh: float
    motor_rpm: float
    duty_pct: float
    trigger_pct: float
    motor_current_a: float
    battery_current_a: float
    battery_voltage_v: float
    winding_c: float
    limited_by: LimitWord | None
    cells_w: float
    pack_heat_w: float
    terminals_w: float
    controller_heat_w: float
    copper_heat_w: float
    brush_heat_w: float
    turning_heat_w: float
    shaft_w: float
    gearing_heat_w: float
    road_w: float
    air_w: float
    rolling_w: float
    climbing_w: float
    speeding_up_w: float
    brakes_w: float


@dataclass(frozen=True)
class Trigger:
    """What a controller makes of the trigger before any volts flow; shares from 0 to 1."""

    curve: ThrottleCurve
    dead_band: float
    steps: int | None
    ramp_per_s: float
    drag_brake: float
    brake: float

    @classmethod
    def of(cls, build: Build) -> "Trigger":
        """Return how the controller of a build is set; what is not said does nothing."""
        controller = build.controller
        by_hand = (controller.settings or {}).get("dead_band_pct")
        band = by_hand.value if by_hand is not None else 0.0
        steps = controller.throttle_steps
        shared = controller.steps_shared is not False
        return cls(
            curve=ThrottleCurve.of(Stated(controller)),
            dead_band=band / 100 if isinstance(band, float) else 0.0,
            steps=None if steps is None else max(steps // 2 if shared else steps, 1),
            ramp_per_s=np.inf
            if controller.ramp_pct_per_s is None
            else controller.ramp_pct_per_s / 100,
            drag_brake=(controller.drag_brake_pct or 0.0) / 100,
            brake=1.0 if controller.brake_pct is None else controller.brake_pct / 100,
        )

    def asks(self, trigger: float) -> float:
        """Return the share of the volts that a trigger from nought to one asks for."""
        pulled = max(trigger - self.dead_band, 0.0) / max(1.0 - self.dead_band, 1e-9)
        pulled = min(pulled, 1.0)
        if self.steps is not None:
            pulled = np.floor(pulled * self.steps + 1e-9) / self.steps
        return float(self.curve.volts_share(np.asarray(pulled)))


class TriggerDrive:
    """A build that somebody drives by hand, a frame at a time, from rest."""

    def __init__(self, build: Build, *, frame_s: float = FRAME_S) -> None:
        """Trace and compile a frame.

        Raises
        ------
        Refusal
            If it is not on wheels.
        """
        if build.wheel is None or build.vehicle.kind != "ground":
            raise Refusal("vehicle.kind", NO_WHEELS)
        said = Stated(build)
        self.frame_s = frame_s
        self.trigger = Trigger.of(build)
        self._compiled: CompiledBuild = compile_stated(said)
        self._marcher = Marcher(said, frame_s, shorts=True)
        self._state = SystemState.at_rest(self._compiled, scalar(1.0))
        self._duty = 0.0
        self.t_s = self.distance_m = 0.0

    def frame(self, trigger: float, grade_pct: float) -> TriggerFrame:
        """Return what the next frame does.

        Parameters
        ----------
        trigger : float
            From 1, pulled all the way, over 0, let go, to -1, pushed all the way: the brake.
        grade_pct : float
            The slope, downhill below nought.
        """
        asks = self.trigger.asks(max(trigger, 0.0))
        self._duty = min(asks, self._duty + self.trigger.ramp_per_s * self.frame_s)
        brakes = self.trigger.brake * -trigger if trigger < 0 else self.trigger.drag_brake
        grade = min(max(grade_pct, -STEEPEST_PCT), STEEPEST_PCT)
        demand = Demand(np.array([self._duty]), np.array([grade]), np.array([min(brakes, 1.0)]))
        read = ("motor_current_a", "battery_current_a", "battery_voltage_v", "limited_by")
        march = self._marcher.run(self._state, demand, (*read, "speed_mps"))
        self._state = march.ends
        seen = {name: float(march.readings[name][0, 0]) for name in (*read, "speed_mps")}
        hours = self.frame_s / SECONDS_PER_HOUR
        watts = {name: float(wh[0]) / hours for name, wh in march.wh.items()}
        self.t_s += self.frame_s
        self.distance_m += seen["speed_mps"] * self.frame_s
        return self._told(trigger, seen, watts)

    def _told(
        self, trigger: float, seen: dict[str, float], watts: dict[str, float]
    ) -> TriggerFrame:
        drive, state = self._compiled.drive, self._state
        output = state.output_rad_s
        limit = limit_word(seen.pop("limited_by"))
        speed = kmh_from_mps(drive.speed_mps(output))
        seen.pop("speed_mps")
        renamed = {
            "turning_heat_w": watts["no_load_loss"],
            "road_w": watts["output"],
            "gearing_heat_w": watts["shaft"] - watts["output"],
            "air_w": watts["air"],
            "rolling_w": watts["rolling"],
            "climbing_w": watts["climbing"],
            "brakes_w": watts["held"],
        }
        kept = {name for name in POWERS if name in TriggerFrame.model_fields}
        return TriggerFrame(
            t_s=round(self.t_s, 6),
            distance_m=self.distance_m,
            speed_kmh=_one(speed),
            motor_rpm=_one(rpm_from_rad_s(drive.motor_rad_s(output))),
            duty_pct=100 * self._duty,
            trigger_pct=100 * trigger,
            winding_c=_one(state.winding_c),
            # Short of full duty the volts are what was asked for, and hold nothing back.
            limited_by=None if limit == "voltage" and self._duty < 1 else limit,
            **seen,
            **{name: watts[name.removesuffix("_w")] for name in kept},
            **renamed,
        )


def _one(value: object) -> float:
    return number(np.ravel(value)[0]) or 0.0  # type: ignore[call-overload]


class Traced(BaseModel):
    """A drive by hand that was written down: a pull, held, and let go."""

    frames: list[TriggerFrame]
    pull_s: float
    let_go_s: float


HELD_S, AFTER_S, BEFORE_S = 6.0, 4.0, 0.5


def traced_pull(build: Build, trigger: float, grade_pct: float) -> Traced:
    """Return a pull of the trigger from rest, held for six seconds and let go for four."""
    driven = TriggerDrive(build)
    ends = BEFORE_S + HELD_S + AFTER_S
    frames = []
    for index in range(round(ends / driven.frame_s)):
        at_s = index * driven.frame_s
        held = BEFORE_S <= at_s < BEFORE_S + HELD_S
        frames.append(driven.frame(trigger if held else 0.0, grade_pct))
    return Traced(frames=frames, pull_s=BEFORE_S, let_go_s=BEFORE_S + HELD_S)
