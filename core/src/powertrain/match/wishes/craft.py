"""What is wished of a craft that propellers push: thrust, pitch speed, climb, time, size."""

from collections.abc import Callable, Iterator

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.brief import Brief
from powertrain.drive import Drive
from powertrain.match.candidates import Candidates
from powertrain.match.compose import moments_of_brief
from powertrain.match.wish import OfDrive, OfPart, Rejection, Wished
from powertrain.operating.distance import hours_left
from powertrain.operating.in_air import InAir, in_air
from powertrain.operating.moments_in_air import climb_ms
from powertrain.operating.settings import Usable
from powertrain.operating.state import State
from powertrain.stated import Stated

WISHES = {
    "thrust_to_weight": Rejection("it would not push enough standing", ("thrust_to_weight",)),
    "pitch_speed_over_stall": Rejection(
        "its pitch would be too slow for the wing", ("pitch_speed_over_stall",)
    ),
    "climb_ms": Rejection("it would not climb fast enough", ("climb_ms",)),
    "endurance": Rejection("it would not stay out long enough", ("endurance_min",)),
    "max_diameter": Rejection("the propeller is too large", ("max_diameter_mm",)),
}

OfStanding = Callable[[InAir, State], Array]


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield what is wished of it; nothing of a vehicle that wheels drive."""
    wishes = brief.wishes
    if wishes.thrust_to_weight is not None:
        yield _standing(
            "thrust_to_weight",
            "Thrust over weight, standing",
            wishes.thrust_to_weight,
            brief.judged_at,
            lambda air, standing: standing.force_n / air.load.craft.weight_n,
        )
    if wishes.pitch_speed_over_stall is not None:
        yield _standing(
            "pitch_speed_over_stall",
            "Pitch speed over stall speed",
            wishes.pitch_speed_over_stall,
            brief.judged_at,
            _over_stall,
        )
    if wishes.climb_ms is not None:
        yield OfDrive(
            "climb_ms", "Rate of climb", "m/s up", wishes.climb_ms, 1, brief.judged_at, _climb_ms
        )
    if wishes.endurance_min is not None:
        cruise_kmh = moments_of_brief(brief).cruise_kmh or 0.0
        usable = Usable.of(Stated(moments_of_brief(brief)))
        yield OfDrive(
            "endurance",
            f"Stays out at {cruise_kmh:.3g} km/h",
            "min",
            wishes.endurance_min,
            1,
            f"{usable.from_pct:g} to {usable.to_pct:g} % charge",
            _endurance_min,
            steady=True,
        )
    if wishes.max_diameter_mm is not None:
        yield OfPart(
            "max_diameter",
            "Propeller at most",
            "mm",
            wishes.max_diameter_mm,
            -1,
            "always",
            "propeller",
            lambda propeller: propeller.number("diameter_mm"),
        )


def _standing(which: str, label: str, limit: float, at: str, figure: OfStanding) -> OfDrive:
    def value(candidates: Candidates) -> Array:
        return figure(_air(candidates.batch.drive), candidates.batch.moments.launch.state)

    return OfDrive(which, label, "", limit, 1, at, value, steady=True)


def _air(drive: Drive) -> InAir:
    air = in_air(drive)
    assert air is not None
    return air


def _over_stall(air: InAir, standing: State) -> Array:
    pitch_mps = standing.output_rad_s / (2 * np.pi) * air.load.blades.pitch_m
    return np.asarray(pitch_mps / air.load.craft.least_mps(scalar(0.0)))


def _climb_ms(candidates: Candidates) -> Array:
    batch = candidates.batch
    return climb_ms(batch.settings, _air(batch.drive), batch.moments)


def _endurance_min(candidates: Candidates) -> Array:
    batch = candidates.batch
    hours = hours_left(batch.drive, batch.settings.usable, batch.moments.cruise.state)
    return np.where(batch.moments.cruise.met, 60 * hours, 0.0)
