"""How much further the pack goes from each place of a ride, and how sure that is.

Taken at what the whole ride used for each kilometre, down to the charge to which its document uses
the pack: an ordinary way to reckon it, which knows nothing of the hills that lie ahead.
"""

import numpy as np
from numpy.typing import NDArray

from powertrain.documents.run import Run
from powertrain.doubt.bands import bands_of
from powertrain.operating.settings import Usable
from powertrain.runs.ride import Ridden
from powertrain.stated import Stated

Numbers = NDArray[np.float64]

NEAR_M = 5.0
"""A draw that ends so near to a place has come there."""

LEAST_KM = 0.05
"""A ride that is shorter than this says nothing of how far a pack goes."""


def left_km(run: Run, ridden: Ridden, at_m: Numbers, charge: Numbers) -> Numbers:
    """Return the kilometres left at some places of a ride; NaN where it used nothing.

    `charge` is the share at those places.
    """
    used, way_km = run.ride.start.soc_pct / 100 - ridden.ends["charge"], ridden.at_m / 1000
    with np.errstate(divide="ignore", invalid="ignore"):
        per_km = np.where((used > 1e-6) & (way_km > LEAST_KM), used / way_km, np.nan)
        left: Numbers = np.maximum(charge - _empty(run), 0.0) / per_km
    return left


def left_bands(run: Run, many: Ridden, at_m: Numbers) -> Numbers:
    """Return the 10, 50 and 90 % points of that over draws, shape (places, 3).

    A draw that has ended before a place has nothing left there.
    """
    draws = len(many.at_m)
    charge = np.empty((draws, len(at_m)))
    for draw in range(draws):
        end, left = many.at_m[draw], many.ends["charge"][draw]
        # What has ended stands at its end for the rest of the samples.
        ways = np.minimum(many.sampled["at_m"][:, draw], end)
        charges = many.sampled["charge"][:, draw]
        begins = run.ride.start.soc_pct / 100
        way = np.append(np.append(0.0, ways), end)
        read = np.interp(at_m, way, np.append(np.append(begins, charges), left))
        charge[draw] = np.where(at_m <= end + NEAR_M, read, 0.0)
    left = np.stack([left_km(run, many, at_m, charge[:, place]) for place in range(len(at_m))])
    return bands_of(np.where(np.isnan(left), np.inf, left))


def _empty(run: Run) -> float:
    return Usable.of(Stated(run.build.moments)).to_pct / 100
