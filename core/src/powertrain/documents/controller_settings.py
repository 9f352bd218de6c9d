"""What a controller can be set to, beside its limits: curve, ramp, brakes, timing over time."""

import itertools
from datetime import date
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.fields import Number, measure, words
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


def _date(value: str) -> str:
    try:
        date.fromisoformat(value)
    except ValueError:
        raise PydanticCustomError("date", "must be a date like 2026-03-14") from None
    return value


Day = Annotated[str, StringConstraints(max_length=10), AfterValidator(_date)]
"""A date as ISO 8601 writes it."""

SettingValue = Number | Annotated[str, StringConstraints(max_length=40)]


class SetByHand(Model):
    """What somebody set at the controller, when, and what had been worked out for it by then.

    Where the build has a field for the setting, that field is what acts; this is kept beside it.
    """

    value: SettingValue = Field(title="Set to", description="In the unit of its row.")
    on: Day = Field(title="Set on", description="Year, month, day.")
    worked_out: SettingValue | None = Field(
        default=None, title="Worked out then", description="The value of the sheet on that day."
    )
    note: str | None = words("Why", "Why it is so.", default=None, longest=300)


class Rollback(Model):
    """How a hot controller gives less: all up to one temperature, nothing from the other on."""

    from_c: Number = measure(
        "Gives less from", "C", (50, 120), least=0, most=300, explain="Of the controller's case."
    )
    to_c: Number | None = measure(
        "Gives nothing from",
        "C",
        (60, 140),
        default=None,
        least=0,
        most=400,
        explain="If left out, what its case may reach, or 20 more.",
    )

    @model_validator(mode="after")
    def _rises(self) -> "Rollback":
        if self.to_c is not None and self.to_c <= self.from_c:
            raise PydanticCustomError(
                "rollback", "has to_c at or below from_c; it gives less upwards"
            )
        return self
