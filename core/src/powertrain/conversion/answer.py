"""Everything that a conversion asks of one build."""

from pydantic import BaseModel

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.conversion.engine import (
    Engine,
    School,
    Told,
    engine_of,
    school_of_engine,
    school_of_road,
)
from powertrain.conversion.fit import FitAnswer, fit_of
from powertrain.conversion.gears import GearsAnswer, gears_of
from powertrain.conversion.high_volts import HighVoltsAnswer, high_volts
from powertrain.conversion.offers import Offer, offers_of
from powertrain.conversion.price import PriceAnswer, price_of
from powertrain.conversion.upkeep import upkeep_of
from powertrain.conversion.volts import VoltsAnswer, volts_of
from powertrain.documents.build import Build
from powertrain.documents.conversion import Replaces
from powertrain.documents.shelf import Shelf
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import RuleContext


class Along(BaseModel):
    """What runs along: its watts together, and whether the converter gives them."""

    pack_w: float
    shaft_w: float
    converter_w: float | None
    say: str


class ConversionAnswer(BaseModel):
    """The engine beside the drive, gear by gear; volts, fit, high volts, what runs along, price."""

    engine: Told | None
    schools: list[School]
    gears: GearsAnswer
    volts: VoltsAnswer | None
    has_field: bool
    """Whether its field carries the armature's amps, so that its coils can be joined otherwise."""
    fit: FitAnswer
    high_volts: HighVoltsAnswer
    along: Along | None
    price: PriceAnswer
    upkeep: list[str]
    offers: list[Offer]
    """What of a shelf fits where a price is not told; none without a shelf."""


def conversion_of(build: Build, shelf: Shelf | None = None) -> ConversionAnswer:
    """Return what the conversion of a vehicle asks.

    Raises
    ------
    Refusal
        If it has no driven wheels.
    """
    _ = build.driven_wheel  # refuses what has none
    context = RuleContext.of(build)
    replaces: Replaces | None = getattr(build.vehicle, "replaces", None)
    engine, told = engine_of(replaces) or (None, None)
    high, along = high_volts(build), _along(build, context)
    return ConversionAnswer(
        engine=told,
        schools=_schools(context, engine, replaces.driven_at_rpm if replaces else None),
        gears=gears_of(build, context, engine),
        volts=volts_of(build, context),
        has_field="field" in type(build.motor).model_fields,
        fit=fit_of(build, context),
        high_volts=high,
        along=along,
        price=price_of(build),
        upkeep=upkeep_of(build, context),
        offers=[] if shelf is None else _offers(build, shelf, high, along),
    )


def _offers(build: Build, shelf: Shelf, high: HighVoltsAnswer, along: Along | None) -> list[Offer]:
    battery = build.battery
    empty_v = battery.series * CHEMISTRIES[battery.chemistry].empty_v
    capacity_ah = battery.parallel * battery.cell_capacity_ah
    return offers_of(shelf, high, capacity_ah, empty_v, 0.0 if along is None else along.pack_w)


def _schools(
    context: RuleContext, engine: Engine | None, driven_at_rpm: float | None
) -> list[School]:
    found = [] if engine is None else [school_of_engine(engine, driven_at_rpm)]
    for moment, where in (
        (context.moments.climb, "The hill"),
        (context.moments.cruise, "The trip"),
    ):
        if bool(moment.met.all()):
            state = moment.state
            count = float(context.drive.motor.count)
            school = school_of_road(
                float(state.shaft_w),
                count * float(state.shaft_torque_nm),
                float(state.motor_rpm),
                f"{where} at {float(kmh_from_mps(state.speed_mps)):.3g} km/h",
            )
            if school is not None:
                found.append(school.model_copy(update={"id": f"road_{moment.id}"}))
    return found


def _along(build: Build, context: RuleContext) -> Along | None:
    along = context.drive.auxiliaries
    if along is None:
        return None
    pack_w, shaft_w = float(along.pack_w), float(along.shaft_w)
    gives = build.battery.dc_dc_w
    if gives is not None and pack_w > gives:
        say = f"The converter gives {gives:g} W, and {pack_w:g} W hang on it: a larger one."
    elif gives is not None:
        say = f"The converter gives {gives:g} W, {gives - pack_w:g} W more than hang on it."
    elif pack_w > 0:
        say = f"{pack_w:g} W hang on a converter; see that it gives as much."
    else:
        say = "All of it hangs on the shaft, and rests when the motor does."
    return Along(pack_w=pack_w, shaft_w=shaft_w, converter_w=gives, say=say)
