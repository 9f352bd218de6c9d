"""What a controller can be set to, beside its limits: curve, ramp, brakes, timing over time."""

import itertools
from typing import Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.fields import Number, measure
from powertrain.documents.model import Model
from powertrain.points import whole_points

SettingId = Literal[
    "motor_current_limit_a",
    "battery_current_limit_a",
    "regen_current_limit_a",
    "cut_off_v",
    "max_rpm",
    "timing_deg",
    "boost_timing_deg",
    "turbo_timing_deg",
    "half_throttle_pct",
    "ramp_pct_per_s",
    "drag_brake_pct",
    "brake_pct",
    "start_power_pct",
    "dead_band_pct",
    "pwm_hz",
    "reverse",
    "rollback_from_c",
]
"""The settings of a common controller, in the order in which they are set."""


class TriggerPoint(Model):
    """So much of the volts at so much of the trigger."""

    trigger_pct: Number = measure("Trigger", "%", (0, 100), zero=True, most=100, explain="Pulled.")
    volts_pct: Number = measure("Volts", "%", (0, 100), zero=True, most=100, explain="Passed on.")


class Curve(Model):
    """How the volts follow the trigger: by what half a trigger gives, or by points."""

    half_throttle_pct: Number | None = measure(
        "Curve: half trigger gives",
        "%",
        (5, 60),
        default=None,
        least=1,
        most=99,
        explain="Share of the volts at half trigger; goes before the same of the controller.",
    )
    points: list[TriggerPoint] | None = Field(
        default=None,
        max_length=50,
        title="Points of the curve",
        description="Straight between them; nothing at rest and all at full trigger are added.",
    )

    @model_validator(mode="after")
    def _rises(self) -> "Curve":
        if self.points is None:
            return self
        if self.half_throttle_pct is not None:
            raise PydanticCustomError("curve", "has both points and half_throttle_pct; give one")
        whole = whole_points([(one.trigger_pct, one.volts_pct) for one in self.points])
        for before, after in itertools.pairwise(whole):
            if not (after[0] > before[0] and after[1] > before[1]):
                raise PydanticCustomError(
                    "rising", "must rise: each point above the one before in trigger and in volts"
                )
        return self
