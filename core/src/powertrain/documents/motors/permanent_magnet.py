"""The motor with magnets, as a document says it."""

from typing import Literal

from pydantic import model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.fields import Number, choice, measure
from powertrain.documents.motors.shared import SharedMotor


class PermanentMagnetMotor(SharedMotor):
    """A motor with magnets, brushed or brushless: three constants tell nearly all of it."""

    label = "permanent magnets"

    kind: Literal["permanent_magnet"] = choice("Kind", "A motor with permanent magnets.")
    commutation: Literal["brushed", "brushless"] = choice(
        "Commutation",
        "Brushed motors have two wires, brushless motors have three.",
        default="brushless",
    )
    kv_rpm_per_v: Number = measure(
        "KV",
        "rpm/V",
        (1, 20000),
        explain="Free rpm for each volt. Rated rpm over rated volts is a first guess.",
    )
    resistance_ohm: Number = measure(
        "Resistance",
        "ohm",
        (0.0005, 10),
        explain="Between two motor wires, cold. Measure with a known current, not a multimeter.",
    )
    no_load_current_a: Number = measure(
        "No-load amps",
        "A",
        (0.01, 200),
        zero=True,
        explain="What the motor draws when it turns freely at its usual volts.",
    )
    no_load_voltage_v: Number | None = measure(
        "No-load amps were at",
        "V",
        (0.5, 1000),
        default=None,
        explain="Volts at which the no-load amps were read; needed only with a second run.",
    )
    loss_growing_share: Number | None = measure(
        "Loss that grows with speed",
        "",
        (0.2, 0.8),
        default=None,
        zero=True,
        most=1,
        explain="Part of the no-load amps that goes with speed, where there was no second run.",
    )
    second_no_load_current_a: Number | None = measure(
        "Second no-load amps",
        "A",
        (0.01, 200),
        default=None,
        zero=True,
        explain="A second free run at other volts tells how much of the loss grows with speed.",
    )
    second_no_load_voltage_v: Number | None = measure(
        "Second run was at",
        "V",
        (0.5, 1000),
        default=None,
        explain="Volts of the second free run.",
    )

    @model_validator(mode="after")
    def _free_runs_agree(self) -> "PermanentMagnetMotor":
        volts, more_v = self.no_load_voltage_v, self.second_no_load_voltage_v
        amps, more_a = self.no_load_current_a, self.second_no_load_current_a
        if (volts is None) != (more_v is None) or (more_v is None) != (more_a is None):
            raise PydanticCustomError(
                "free_runs",
                "needs no_load_voltage_v, second_no_load_current_a and second_no_load_voltage_v "
                "together, or none of them",
            )
        if volts is None or more_v is None or more_a is None:
            return self
        drop_v = self.brush_drop_v or 0.0
        speed, more_speed = (
            v - drop_v - a * self.resistance_ohm for v, a in ((volts, amps), (more_v, more_a))
        )
        if min(speed, more_speed) <= 0 or speed == more_speed:
            raise PydanticCustomError(
                "free_runs", "has two free runs at one speed, or one that can't turn; check them"
            )
        slope = (more_a - amps) / (more_speed - speed)
        if slope < 0 or amps - slope * speed < 0:
            raise PydanticCustomError(
                "free_runs",
                "has free runs that contradict one another: amps must rise with volts, and less "
                "than in proportion",
            )
        return self
