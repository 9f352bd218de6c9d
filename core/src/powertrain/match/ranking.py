"""The order of what is feasible: what a candidate is worth, the best of them, and the front.

Every part of the worth lies between nought and one and depends on the candidate and the brief
alone, never on the others, so that the order is the same whatever else is on the shelf:
margin ``min(m, 1/2) 2`` of the tightest wish or temperature, cost ``1/(1 + price/budget)``,
mass ``1/(1 + added/(a tenth of the vehicle))``, range ``r/(r + wish)``, simplicity
``1/(1 + stages)``. The score is their mean by the weights of the brief.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, least
from powertrain.documents.brief import Brief
from powertrain.heat.limits import NodeId
from powertrain.match.candidates import Candidates
from powertrain.match.wish import OfPart, Wished
from powertrain.operating.distance import range_km

FULL_MARGIN = 0.5
"""A margin beyond which more does not count."""

USUAL_BUDGET_PER_KG, USUAL_BUDGET = 8.0, 60.0
"""What stands for the budget where none is stated: so much, and so much a kilogram of vehicle."""

USUAL_RANGE_KM = 15.0
DIGITS = 9
"""Scores that differ by less than this are the same; arithmetic in arrays and alone may blur."""

CRITERIA = ("margin", "cost", "mass", "range", "simplicity")


@dataclass(frozen=True)
class Worth:
    """Scores of many candidates, and the parts they are made of, in the order of `CRITERIA`."""

    score: Array
    parts: Array
    margin: Array


def worth_of(brief: Brief, seen: Candidates, margins: dict[str, Array]) -> Worth:
    """Return what candidates are worth; what is not known counts for nothing."""
    wishes = brief.wishes
    budget = wishes.budget or USUAL_BUDGET + USUAL_BUDGET_PER_KG * brief.vehicle.mass_kg
    margin = tightest(seen, margins)
    batch = seen.batch
    trip_km = range_km(batch.drive, batch.settings.usable, batch.moments.cruise.state)
    trip_km = np.nan_to_num(trip_km, nan=0.0, posinf=1e9)
    parts = np.stack(
        np.broadcast_arrays(
            np.clip(margin, 0.0, FULL_MARGIN) / FULL_MARGIN,
            np.nan_to_num(1 / (1 + seen.price / budget)),
            1 / (1 + seen.added_kg / (0.1 * brief.vehicle.mass_kg)),
            trip_km / (trip_km + (wishes.range_km or USUAL_RANGE_KM)),
            1 / (1.0 + seen.stages),
        )
    )
    weights = np.array([getattr(brief.weights, key) for key in CRITERIA])
    score = np.round(weights @ parts.reshape(len(CRITERIA), -1) / weights.sum(), DIGITS)
    return Worth(score, parts, np.asanyarray(margin))


MOTOR_NODES: tuple[NodeId, ...] = ("winding", "case")


def tightest(seen: Candidates, margins: dict[str, Array]) -> Array:
    """Return the least margin of all wishes, and of winding and case at the end of the climb."""
    batch = seen.batch
    reached, air_c = batch.results.after_climb(), batch.thermal.ambient_c
    rooms: list[Array] = [
        (limit_c - reached[node]) / (limit_c - air_c)
        for node in MOTOR_NODES
        for limit_c in (batch.limits.of(node),)
    ]
    # NaN stands for a figure that is found for one drive only, or of which nothing is known.
    known = [np.where(np.isnan(value), np.inf, value) for value in margins.values()]
    return least(*rooms, *known)


def counts_as_margin(wished: Wished) -> bool:
    """Return whether a wish has room to spare; a part fits or it does not."""
    return not isinstance(wished, OfPart)


@dataclass
class Best:
    """The best so many of all that were offered, best first; ties go by the order of the parts."""

    size: int
    score: Array
    keys: NDArray[np.int64]
    """Rows of places: motor, controller, pack, gearing."""

    @classmethod
    def empty(cls, size: int) -> "Best":
        """Return none yet."""
        return cls(size, np.zeros(0), np.zeros((0, 4), np.int64))

    def offer(self, score: Array, keys: NDArray[np.int64]) -> None:
        """Take what is among the best."""
        if len(self.score) == self.size:
            among = score >= self.score[-1]
            score, keys = score[among], keys[among]
        if not len(score):
            return
        score, keys = np.concatenate([self.score, score]), np.concatenate([self.keys, keys])
        order = ordered(score, keys)[: self.size]
        self.score, self.keys = score[order], keys[order]


def ordered(score: Array, keys: NDArray[np.int64]) -> NDArray[np.int64]:
    """Return the order by falling score, then by the places of the parts."""
    return np.lexsort((keys[:, 3], keys[:, 2], keys[:, 1], keys[:, 0], -score))


@dataclass
class ParetoFront:
    """What no other candidate beats in price, mass and margin at once."""

    points: Array
    """Rows of price, mass and minus margin; less is better in each."""
    keys: NDArray[np.int64]

    @classmethod
    def empty(cls) -> "ParetoFront":
        """Return none yet."""
        return cls(np.zeros((0, 3)), np.zeros((0, 4), np.int64))

    def offer(self, points: Array, keys: NDArray[np.int64]) -> None:
        """Take what is not beaten, and drop what now is."""
        finite = np.all(np.isfinite(points), axis=1)
        points, keys = points[finite], keys[finite]
        points, keys = _unbeaten(points, keys, self.points)
        order = np.lexsort((*(keys[:, i] for i in (3, 2, 1, 0)), points.sum(axis=1)))
        points, keys = points[order], keys[order]
        # Sorted by their sum none is beaten by a later one.
        while len(points):
            self.points = np.concatenate([self.points, points[:1]])
            self.keys = np.concatenate([self.keys, keys[:1]])
            points, keys = _unbeaten(points[1:], keys[1:], points[:1])
        self._drop_beaten()

    def _drop_beaten(self) -> None:
        at_most = np.all(self.points[:, None, :] <= self.points[None, :, :], axis=2)
        less = np.any(self.points[:, None, :] < self.points[None, :, :], axis=2)
        beaten = np.any(at_most & less, axis=0)
        self.points, self.keys = self.points[~beaten], self.keys[~beaten]


def _unbeaten(points: Array, keys: NDArray[np.int64], by: Array) -> tuple[Array, NDArray[np.int64]]:
    """Return the points that none of `by` equals or betters in everything."""
    left, columns = np.arange(len(points)), np.ascontiguousarray(points.T)
    for point in by:
        betters = columns[0] < point[0]
        for column, value in zip(columns[1:], point[1:], strict=True):
            betters |= column < value
        # What one point beats need not be held against the next.
        if not betters.all():
            left, columns = left[betters], columns[:, betters]
    return points[left], keys[left]
