"""The timing budget: what is set, what the motor stands, and the tooth that pays for it."""

from typing import Any

from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.compile.build import compile_drive
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.motor.timing import stated_deg
from powertrain.operating.free import free_running
from powertrain.operating.top_speed import top_speed_mps
from powertrain.plain import number
from powertrain.stated import Stated
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.rules.timing_sum import limit_deg, tooth_that_pays


class Tooth(BaseModel):
    """A shorter gear that takes back what timing adds, and the top speed with it."""

    change: dict[str, Any]
    top_speed_kmh: float


class TimingAnswer(BaseModel):
    """All degrees together, what destroys, rpm in the air, and the tooth that pays."""

    total_deg: float
    limit_deg: float
    free_rpm: float | None
    tooth: Tooth | None


def timing_of(build: Build, context: RuleContext) -> TimingAnswer:
    """Return the timing budget of a build."""
    stated = Stated(build)
    degrees = stated_deg(stated.under("motor"), stated.under("controller"))
    fix = tooth_that_pays(context) if degrees else None
    tooth = None
    if fix is not None:
        document = build.model_dump(mode="json", exclude_unset=True)
        shorter = compile_drive(check_build(changed(document, fix.change)))
        top_kmh = float(kmh_from_mps(top_speed_mps(shorter, scalar(0.0))))
        tooth = Tooth(change=fix.change, top_speed_kmh=top_kmh)
    return TimingAnswer(
        total_deg=sum(float(value) for value in degrees.values()),
        limit_deg=float(limit_deg(context.ratings.motor.poles)),
        free_rpm=number(free_running(context.drive).now.motor_rpm),
        tooth=tooth,
    )
