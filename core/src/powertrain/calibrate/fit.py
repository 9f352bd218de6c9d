"""The likeliest truth behind a log: Gauss-Newton on the engine, the tolerances as priors.

Every doubtful input is a standard normal deviate: positive ones log-normal, a stage's efficiency by
its loss. Minimised is ``|z|^2 + sum w r^2`` with ``r = (measured - predicted(z)) / sigma``; the
bands come of the curvature there (Laplace; e.g. MacKay, Information Theory, Inference, and Learning
Algorithms, ch. 27). A reading that all others speak against is set aside and named, the worst
first, and the fit made again.
"""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from powertrain.calibrate.predict import Predictor
from powertrain.calibrate.readings import Reading, tolerance_of
from powertrain.calibrate.riding import COMPARED, EFFECTIVE, IN_WINDOWS, rows_by_column, windows_of
from powertrain.documents.log import CoastDown, Log, Telemetry
from powertrain.doubt.draws import FOUR_IN_FIVE

Numbers = NDArray[np.float64]

ROUNDS = 12
STEP = 0.3
"""Standard deviations by which an input is moved to see what that does."""

SHORTER = (1.0, 0.5, 0.2, 0.05)
"""Parts of a step that are tried."""

SETTLED = 5e-3
"""Standard deviations of an input below which a step changes nothing that is told."""

AGAINST = 3.0
"""Standard deviations of all else together from which a reading is spoken against."""

IN_SERIES = 4.5
"""The same of one look in a series."""

NARROWED = 0.6
"""Others speak of a reading where they leave no more than this part of its doubt before."""

BEYOND = 4.5
"""Standard deviations of all that was known before beyond which no reading is believed."""

MOST_ASIDE = 6
FARTHEST = 6.0
"""No guess goes further than so many standard deviations."""


@dataclass(frozen=True)
class Problem:
    """All that is fitted: readings, their run's predictions, and where coast-downs begin.

    A guess is a row of deviates of the inputs, and after them one for each coast-down's first
    speed, in standard deviations of how it was read.
    """

    predictor: Predictor
    readings: list[Reading]
    inputs: int
    coasts: list[tuple[int, int, float, float]]
    """Run, observation, first speed and its standard deviation."""

    @property
    def unknowns(self) -> int:
        """How long a guess is."""
        return self.inputs + len(self.coasts)

    def predicted(self, guesses: Numbers) -> Numbers:
        """Return what every reading should be, shape (guesses, readings)."""
        told = np.full((len(guesses), len(self.readings)), np.nan)
        for run in sorted({reading.run for reading in self.readings}):
            begins = {
                observation: np.maximum(first + sigma * guesses[:, self.inputs + place], 0.1)
                for place, (of_run, observation, first, sigma) in enumerate(self.coasts)
                if of_run == run
            }
            found = self.predictor.predict(run, guesses[:, : self.inputs], begins)
            for index, reading in enumerate(self.readings):
                if reading.run != run:
                    continue
                values = found.get((reading.observation, reading.field))
                if values is None:
                    continue
                told[:, index] = values if values.ndim == 1 else values[:, reading.sample]
        return told


def problem_of(predictor: Predictor, log: Log, readings: list[Reading]) -> Problem:
    """Return what is to be fitted: the readings, and the rows of loggers beside them."""
    coasts = []
    for place, run in enumerate(log.runs):
        for at, observation in enumerate(run.observations):
            if isinstance(observation, CoastDown):
                own = [r for r in readings if r.run == place and r.observation == at]
                coasts.append((place, at, own[0].measured, own[0].sigma))
    rows = [
        reading
        for place, run in enumerate(log.runs)
        for at, observation in enumerate(run.observations)
        if isinstance(observation, Telemetry)
        for reading in _of_rows(place, run.id, at, observation)
    ]
    return Problem(predictor, [*readings, *rows], len(predictor.doubt.inputs), coasts)


def _of_rows(place: int, run_id: str, at: int, seen: Telemetry) -> list[Reading]:
    if seen.course is None:
        return [
            Reading(
                place,
                run_id,
                at,
                "telemetry",
                name,
                window.means[name],
                float(
                    np.hypot(
                        tolerance_of(name, window.means[name], "logger"),
                        FOUR_IN_FIVE * window.errors[name],
                    )
                ),
                row,
            )
            for row, window in enumerate(windows_of(seen))
            for name in IN_WINDOWS
            if name in window.means
        ]
    _, columns = rows_by_column(seen)
    found = []
    for name, values in columns.items():
        if name not in COMPARED and name != "speed_kmh":
            continue
        known = np.flatnonzero(np.isfinite(values))
        weight = min(1.0, EFFECTIVE / max(len(known), 1))
        field_of = name if name != "soc_pct" else "soc_end_pct"
        scale = float(np.nanmedian(np.abs(values[known]))) if len(known) else 1.0
        for row in known:
            off = tolerance_of(field_of, max(abs(float(values[row])), scale), "logger")
            found.append(
                Reading(
                    place, run_id, at, "telemetry", name, float(values[row]), off, int(row), weight
                )
            )
    return found


@dataclass(frozen=True)
class Fit:
    """Where it ends: the likeliest guess, the covariance about it, and the readings set aside."""

    problem: Problem
    guess: Numbers
    covariance: Numbers
    slopes: Numbers
    """Of each reading by each unknown, in standard deviations of the reading."""
    rests: Numbers
    """What is left of each reading, in its standard deviations."""
    aside: list[int] = field(default_factory=list)

    def weights(self) -> Numbers:
        """Return one for each reading that counts, nought for one that is set aside or unknown."""
        weights = np.isfinite(self.rests).astype(float)
        weights[self.aside] = 0.0
        return weights

    def of_run(self, run: int) -> Numbers:
        """Return what one run tells, as it adds to the inverse of the covariance."""
        mine = np.array([reading.run == run for reading in self.problem.readings])
        slopes = self.slopes * (self.weights() * mine)[:, None]
        return np.asarray(slopes.T @ slopes)


def fitted(problem: Problem) -> Fit:
    """Return the fit of a log, without the readings that all others speak against."""
    fit = _solved(problem, np.zeros(problem.unknowns), [])
    # With one reading a run there is nothing that could speak against it but the build itself.
    while len(fit.aside) < MOST_ASIDE:
        worst = _spoken_against(fit)
        if worst is None:
            return fit
        fit = _solved(problem, fit.guess, [*fit.aside, worst])
    return fit


def _solved(problem: Problem, guess: Numbers, aside: list[int]) -> Fit:
    if not problem.readings:
        size = problem.unknowns
        return Fit(problem, guess, np.eye(size), np.zeros((0, size)), np.zeros(0))
    sigmas = np.array([reading.sigma for reading in problem.readings])
    measured = np.array([reading.measured for reading in problem.readings])

    def rests_of(guesses: Numbers) -> Numbers:
        return np.asarray((measured - problem.predicted(guesses)) / sigmas)

    def cost_of(guesses: Numbers, rests: Numbers, counts: NDArray[np.bool_]) -> Numbers:
        some = np.where(counts, rests, 0.0)
        # A guess that can't do what was done is worse than any that can.
        lost = np.where(np.isnan(some), 1e6, some * some).sum(axis=1)
        total: Numbers = (guesses * guesses).sum(axis=1) + lost
        return total

    now = rests_of(guess[None])[0]
    slopes = np.zeros((len(measured), problem.unknowns))
    for _ in range(ROUNDS):
        counts = np.isfinite(now)
        counts[aside] = False
        slopes = _slopes(problem, guess, sigmas)
        known = counts[:, None] & np.isfinite(slopes)
        slopes = np.where(known, slopes, 0.0)
        weighed = np.where(counts, now, 0.0)
        curve = np.eye(problem.unknowns) + slopes.T @ slopes
        step = np.linalg.solve(curve, slopes.T @ weighed - guess)
        tries = np.clip(guess + np.outer(SHORTER, step), -FARTHEST, FARTHEST)
        rests = rests_of(tries)
        costs = cost_of(tries, rests, counts)
        best = int(np.argmin(costs))
        before = cost_of(guess[None], now[None], counts)[0]
        if costs[best] > before + 1e-9:
            break
        moved = float(np.abs(tries[best] - guess).max())
        guess, now = tries[best], rests[best]
        if moved < SETTLED:
            break
    slopes = _slopes(problem, guess, sigmas)
    slopes = np.where(np.isfinite(slopes) & np.isfinite(now)[:, None], slopes, 0.0)
    counted = np.isfinite(now)
    counted[aside] = False
    used = slopes * counted[:, None]
    covariance = np.linalg.inv(np.eye(problem.unknowns) + used.T @ used)
    return Fit(problem, guess, covariance, slopes, now, aside)


def _slopes(problem: Problem, guess: Numbers, sigmas: Numbers) -> Numbers:
    """Return what moving each unknown does to each reading, in its standard deviations."""
    size = problem.unknowns
    moved = np.concatenate([guess + STEP * np.eye(size), guess - STEP * np.eye(size)])
    told = problem.predicted(np.concatenate([guess[None], moved]))
    middle, up, down = told[0], told[1 : size + 1], told[size + 1 :]
    both = (up - down) / (2 * STEP)
    # Where one side can't do it, the other tells.
    one = np.where(np.isfinite(up), (up - middle) / STEP, (middle - down) / STEP)
    slopes: Numbers = (np.where(np.isfinite(both), both, one) / sigmas).T
    return slopes


def _spoken_against(fit: Fit) -> int | None:
    """Return the reading that all others speak most against, None where none stands out.

    How far it lies from what all others together predict of it, over the doubt of both. What only
    the build's own tolerances speak against is no bad reading: it is what the log has to teach,
    unless it lies beyond all that they allow.
    """
    weights = fit.weights()
    singles = np.array([reading.weight >= 1 for reading in fit.problem.readings])
    if not weights.any():
        return None
    lever = np.einsum("ri,ij,rj->r", fit.slopes, fit.covariance, fit.slopes)
    before = (fit.slopes * fit.slopes).sum(axis=1)
    rest = np.maximum(1 - lever, 1e-6)
    with np.errstate(divide="ignore", invalid="ignore"):
        off = np.abs(fit.rests) / np.sqrt(rest)
        by_others = lever / rest < NARROWED**2 * before
        unbelievable = np.abs(fit.rests + fit.slopes @ fit.guess) / np.sqrt(1 + before) > BEYOND
    counts = (weights > 0) & singles & np.isfinite(off) & (by_others | unbelievable)
    # Of a long series some lie far off by chance.
    bar = np.array([AGAINST if r.sample < 0 else IN_SERIES for r in fit.problem.readings])
    off = np.where(counts, off * (AGAINST / bar), 0.0)
    worst = int(np.argmax(off))
    return worst if off[worst] > AGAINST else None
