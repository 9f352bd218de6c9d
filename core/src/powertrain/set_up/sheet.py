"""The settings sheet of one build."""

from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.set_up.drag_brake import DragBrakeAnswer, drag_brake_of
from powertrain.set_up.first_power import FirstStep, first_power
from powertrain.set_up.limits import LimitsAnswer, limits_of
from powertrain.set_up.ramp import RampAnswer, ramp_of
from powertrain.set_up.rows import Known, SettingRow, rows_of
from powertrain.set_up.throttle import ThrottleAnswer, throttle_of
from powertrain.set_up.timing import TimingAnswer, timing_of
from powertrain.verdicts.context import RuleContext


class SheetAnswer(BaseModel):
    """Every setting, what it all comes to, and the way to the first ride."""

    settings: list[SettingRow]
    throttle: ThrottleAnswer
    timing: TimingAnswer
    ramp: RampAnswer
    drag_brake: DragBrakeAnswer
    limits: LimitsAnswer
    first_power: list[FirstStep]


def sheet_of(build: Build) -> SheetAnswer:
    """Return the settings sheet of a build."""
    context = RuleContext.of(build)
    throttle, ramp = throttle_of(build), ramp_of(context.compiled)
    limits = limits_of(build, context.compiled)
    return SheetAnswer(
        settings=rows_of(Known(build, context, throttle, ramp)),
        throttle=throttle,
        timing=timing_of(build, context),
        ramp=ramp,
        drag_brake=drag_brake_of(build, context.compiled),
        limits=limits,
        first_power=first_power(build, context, limits),
    )
