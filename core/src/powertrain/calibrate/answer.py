"""What a log teaches a build: inputs before and after, figures, what each run taught, and more."""

from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.calibrate.explain import Explained, explained
from powertrain.calibrate.fit import Fit, fitted, problem_of
from powertrain.calibrate.in_words import KINDS, WORDS
from powertrain.calibrate.next import MeasureNext, measure_next
from powertrain.calibrate.predict import Predictor
from powertrain.calibrate.readings import Reading, check_paths, readings_of
from powertrain.compile.build import compile_build, compile_drive
from powertrain.documents.build import Build
from powertrain.documents.log import Log
from powertrain.documents.paths import changed, number_at
from powertrain.documents.reading import check_build
from powertrain.doubt.bands import QUANTILES, bands_of
from powertrain.doubt.draws import FOUR_IN_FIVE, NORMAL, Doubt, drawn_of
from powertrain.doubt.tolerances import FRICTION, POWER, THRUST, Doubtful
from powertrain.operating.in_air import in_air
from powertrain.plain import number
from powertrain.results import figures_of, results_of

Numbers = NDArray[np.float64]
Band = list[float | None]

MOVED_SHARE = 0.05
"""Part of its band before by which an input's middle or width changes when it has moved."""

AT = np.array([NORMAL.inv_cdf(share) for share in QUANTILES])

DRAWS = 256
LOOKED = 64
"""Draws by which each reading's predictions are banded."""


class InputFitted(BaseModel):
    """One doubtful input: its band before and after, and what of its doubt each run took."""

    path: str
    label: str
    before: Band
    after: Band
    taught_by: dict[str, float]
    moved: bool
    why_wider: str | None = None


class FigureFitted(BaseModel):
    """A figure's band before and after."""

    before: Band
    after: Band


class ReadingFitted(BaseModel):
    """A reading beside what was predicted of it, before and after the fit.

    `surprise` is how far it lay from what was predicted before, in standard deviations of both.
    """

    run: str
    kind: str
    field: str
    measured: float
    tolerance: float
    before: Band
    after: Band
    surprise: float | None


class Disagreement(BaseModel):
    """Runs that can't both be right, and what speaks against what."""

    runs: list[str]
    what: str


class Calibrated(BaseModel):
    """All that a log teaches; `build` is the build with the fitted values."""

    inputs: list[InputFitted]
    build: dict[str, Any]
    figures: dict[str, FigureFitted]
    fits: list[ReadingFitted]
    contradictions: list[Disagreement]
    measure_next: MeasureNext | None
    explained: list[Explained]
    untold: list[str]
    """What the log can't tell apart, in words."""


def calibrated(build: Build, log: Log) -> Calibrated:
    """Return what a log teaches a build.

    Raises
    ------
    Refusal
        If a run's changes make no build, or a run has nothing that was read.
    """
    check_paths(log)
    doubt = Doubt.of(build)
    predictor = Predictor(build, log, doubt)
    problem = problem_of(predictor, log, readings_of(log))
    fit = fitted(problem)
    size = problem.inputs
    prior = np.zeros((DRAWS, problem.unknowns))
    prior[:, :size] = doubt.deviates[:DRAWS]
    prior[:, size:] = doubt.deviates[:DRAWS, : problem.unknowns - size] if size else 0.0
    spread = np.linalg.cholesky(fit.covariance)
    after = fit.guess + prior @ spread.T
    inputs = _inputs(build, doubt, fit, log)
    fitted_build = _build(build, doubt, inputs, fit)
    return Calibrated(
        inputs=inputs,
        build=fitted_build.model_dump(mode="json", exclude_unset=True),
        figures=_figures(build, doubt, prior[:, :size], after[:, :size]),
        fits=_fits(fit, prior, after),
        contradictions=_contradictions(fit),
        measure_next=measure_next(build, doubt, fit),
        explained=list(explained(fitted_build, log)),
        untold=_untold(doubt, fit),
    )


def expected(build: Build, log: Log) -> list[ReadingFitted]:
    """Return every reading of a log beside what is predicted of it, nothing learned."""
    check_paths(log)
    doubt = Doubt.of(build)
    problem = problem_of(Predictor(build, log, doubt), log, readings_of(log))
    size = problem.unknowns
    fit = Fit(problem, np.zeros(size), np.eye(size), np.zeros((0, size)), np.zeros(0))
    prior = np.zeros((DRAWS, size))
    prior[:, : problem.inputs] = doubt.deviates[:DRAWS]
    return _fits(fit, prior, prior)


# --- inputs ------------------------------------------------------------------------------------


def _reach(item: Doubtful) -> float:
    return float(np.log1p(item.tolerance)) / FOUR_IN_FIVE


def _values(build: Build, item: Doubtful, deviates: Numbers) -> Numbers:
    """Return an input's values at some deviates."""
    factors = np.exp(deviates * _reach(item))
    value = value_of(build, item)
    if item.of_loss:
        return np.maximum(1 - (1 - value) * factors, 0.01)
    return value * factors


def value_of(build: Build, item: Doubtful) -> float:
    """Return an input's value; of one that stands in no document what is taken for it."""
    if item.path in (THRUST, POWER):
        return 1.0
    if item.path == FRICTION:
        stated = number_at(build, item.path)
        if stated is not None:
            return stated
        load = compile_build(build).drive.load
        return float(getattr(getattr(load, "grip", None), "friction", 1.0))
    if item.path.startswith("motor.thermal.") and number_at(build, item.path) is None:
        motor = compile_build(build).thermal.motor
        return float(getattr(motor, item.path.rsplit(".", 1)[-1]))
    if item.path == "conditions.air_density_kg_m3":
        from powertrain.load.air import density_of
        from powertrain.stated import Stated

        return float(density_of(Stated(build.conditions)))
    found = number_at(build, item.path)
    return 0.0 if found is None else found


def _inputs(build: Build, doubt: Doubt, fit: Fit, log: Log) -> list[InputFitted]:
    told = [fit.of_run(place) for place in range(len(log.runs))]
    found = []
    for place, item in enumerate(doubt.inputs):
        middle, sd = float(fit.guess[place]), float(np.sqrt(fit.covariance[place, place]))
        before = np.sort(_values(build, item, AT))
        after = np.sort(_values(build, item, middle + sd * AT))
        wide, narrow = before[2] - before[0], after[2] - after[0]
        gone = max(1 - narrow / wide, 0.0) if wide > 0 else 0.0
        alone = np.array([1 - _sd_by(run, place) for run in told])
        total = float(alone.sum())
        shares = gone * alone / total if total > 1e-9 else np.zeros(len(told))
        moved = wide > 0 and (
            abs(after[1] - before[1]) > MOVED_SHARE * wide
            or abs(narrow - wide) > MOVED_SHARE * wide
        )
        found.append(
            InputFitted(
                path=item.path,
                label=item.label,
                before=[float(one) for one in before],
                after=[float(one) for one in after],
                taught_by={
                    run.id: float(share)
                    for run, share in zip(log.runs, shares, strict=True)
                    if share > 1e-6
                },
                moved=bool(moved),
                why_wider=_why_wider(before, after),
            )
        )
    return found


def _why_wider(before: Numbers, after: Numbers) -> str | None:
    """Return why a band is wider than it was, None where it is not.

    A tolerance goes by shares: what turns out larger is off by more, for all that is known.
    """
    wide, narrow = before[2] - before[0], after[2] - after[0]
    if narrow <= wide * (1 + 1e-6):
        return None
    more = 100 * (after[1] / before[1] - 1)
    how = "larger" if more > 0 else "smaller"
    return f"It is {abs(more):.1f} % {how} than taken, and its band goes with it."


def _sd_by(told: Numbers, place: int) -> float:
    """Return the standard deviation of one input that one run alone leaves."""
    covariance = np.linalg.inv(np.eye(len(told)) + told)
    return float(np.sqrt(covariance[place, place]))


def _build(build: Build, doubt: Doubt, inputs: list[InputFitted], fit: Fit) -> Build:
    """Return the build with what has moved, each with its origin and how far it may be off."""
    changes: dict[str, Any] = {}
    known: dict[str, Any] = {}
    for place, (item, told) in enumerate(zip(doubt.inputs, inputs, strict=True)):
        stands = number_at(build, item.path) is not None or item.path.startswith("motor.thermal.")
        if not told.moved or not stands:
            continue
        sd = float(np.sqrt(fit.covariance[place, place]))
        middle = told.after[1]
        changes[item.path] = middle
        tolerance = (1 + item.tolerance) ** sd - 1
        known[item.path] = {"origin": "fitted", "tolerance_pct": 100 * tolerance}
    document = changed(build.model_dump(mode="json", exclude_unset=True), changes)
    shares = {
        item.path: (told, float(np.sqrt(fit.covariance[place, place])), item)
        for place, (item, told) in enumerate(zip(doubt.inputs, inputs, strict=True))
        if item.path in (THRUST, POWER)
    }
    if any(told.moved for told, _, _ in shares.values()):
        document["propeller"]["static"], own = _static_of(build, shares)
        known |= own
    if known:
        document["provenance"] = {**document.get("provenance", {}), **known}
    return check_build(document)


def _static_of(
    build: Build, shares: dict[str, tuple[InputFitted, float, Doubtful]]
) -> tuple[dict[str, float], dict[str, Any]]:
    """Return the static point that says what was learned of a propeller, and how it is known.

    What it gives and takes stands in no field of its own; a point on the scale says both.
    """
    air = in_air(compile_drive(build))
    if air is None:
        raise TypeError("only a craft has a propeller")
    standing = air.standing()
    turns = standing.output_rad_s / (2 * np.pi)
    at = air.load.blades.turning(turns, scalar(0.0))
    thrust, power = (shares[path][0].after[1] or 1.0 for path in (THRUST, POWER))
    static = {
        "rpm": float(60 * turns),
        "thrust_n": float(at.thrust_n) * thrust,
        "shaft_power_w": float(at.power_w) * power,
        "air_density_kg_m3": float(air.load.blades.density),
    }
    known = {}
    for path, field in ((THRUST, "thrust_n"), (POWER, "shaft_power_w")):
        _, sd, item = shares[path]
        off = 100 * ((1 + item.tolerance) ** sd - 1)
        known[f"propeller.static.{field}"] = {"origin": "fitted", "tolerance_pct": off}
    return static, known


# --- figures and readings ------------------------------------------------------------------------


def _figures(
    build: Build, doubt: Doubt, before: Numbers, after: Numbers
) -> dict[str, FigureFitted]:
    told = []
    for deviates in (before, after):
        drawn = drawn_of(build, doubt, deviates)
        compiled = drawn.applied(compile_build(build, drawn.columns))
        figures = figures_of(compiled, results_of(compiled, fine=False, timed=False))
        told.append(
            {
                name: _band(np.broadcast_to(values, (len(deviates),)))
                for name, values in figures.items()
            }
        )
    return {name: FigureFitted(before=told[0][name], after=told[1][name]) for name in told[0]}


def _band(samples: Numbers) -> Band:
    return [number(value) for value in bands_of(samples)]


def _fits(fit: Fit, prior: Numbers, after: Numbers) -> list[ReadingFitted]:
    """Return every reading with its predictions; rows of loggers as one for each column."""
    readings = fit.problem.readings
    if not readings:
        return []
    some = slice(0, LOOKED)
    before, behind = fit.problem.predicted(prior[some]), fit.problem.predicted(after[some])
    found: list[ReadingFitted] = []
    series: dict[tuple[int, int, str], list[int]] = {}
    for index, reading in enumerate(readings):
        if reading.kind == "telemetry":
            series.setdefault((reading.run, reading.observation, reading.field), []).append(index)
            continue
        found.append(_fit(reading, before[:, index], behind[:, index]))
    for indices in series.values():
        first = readings[indices[0]]
        mean = float(np.mean([readings[index].measured for index in indices]))
        whole = Reading(
            first.run,
            first.run_id,
            first.observation,
            first.kind,
            first.field,
            mean,
            first.tolerance,
        )
        at = np.array(indices)
        found.append(_fit(whole, np.nanmean(before[:, at], 1), np.nanmean(behind[:, at], 1)))
    return found


def _fit(reading: Reading, before: Numbers, after: Numbers) -> ReadingFitted:
    known = before[np.isfinite(before)]
    surprise = None
    if len(known) > len(before) / 2:
        low, middle, high = bands_of(known)
        doubt = np.hypot((high - low) / (2 * FOUR_IN_FIVE), reading.tolerance / FOUR_IN_FIVE)
        surprise = float(abs(reading.measured - middle) / doubt)
    return ReadingFitted(
        run=reading.run_id,
        kind=reading.kind,
        field=reading.field,
        measured=reading.measured,
        tolerance=reading.tolerance,
        before=_band(np.where(np.isfinite(before), before, np.inf)),
        after=_band(np.where(np.isfinite(after), after, np.inf)),
        surprise=surprise,
    )


def _contradictions(fit: Fit) -> list[Disagreement]:
    found = []
    told = fit.problem.predicted(fit.guess[None])[0] if fit.aside else np.zeros(0)
    by_run: dict[tuple[int, int], list[int]] = {}
    for index in fit.aside:
        reading = fit.problem.readings[index]
        by_run.setdefault((reading.run, reading.observation), []).append(index)
    for (run, _), indices in by_run.items():
        index = indices[0]
        reading = fit.problem.readings[index]
        words, unit = WORDS[reading.field]
        others = _others(fit, index, run)
        against = f"what {', '.join(others)} say" if others else "all else that is known"
        what = (
            f"{KINDS[reading.kind]}: {words} read {reading.measured:.4g} {unit}, but {against} "
            f"makes it {told[index]:.4g}; it is left out. Look at the instrument, at what was "
            "written down, and for a change that nobody noted."
        )
        found.append(Disagreement(runs=[reading.run_id, *others], what=what))
    return found


def _others(fit: Fit, index: int, run: int) -> list[str]:
    """Return the other runs that say most of what a reading should have been."""
    slopes = fit.slopes[index]
    weights = fit.weights()
    says: dict[str, float] = {}
    for place, reading in enumerate(fit.problem.readings):
        if reading.run == run or not weights[place]:
            continue
        shared = float(np.abs(slopes @ fit.covariance @ fit.slopes[place]))
        says[reading.run_id] = max(says.get(reading.run_id, 0.0), shared)
    most = max(says.values(), default=0.0)
    return [name for name, shared in says.items() if shared > 0.5 * most and most > 1e-6][:2]


APART = 0.6
"""Correlation from which two inputs can't be told apart."""


def _untold(doubt: Doubt, fit: Fit) -> list[str]:
    """Return pairs of inputs that the log moved together and can't tell apart, in words."""
    size = fit.problem.inputs
    covariance = fit.covariance[:size, :size]
    sds = np.sqrt(np.diag(covariance))
    together = covariance / np.outer(sds, sds)
    pairs = [
        (abs(float(together[one, other])), one, other)
        for one in range(size)
        for other in range(one)
        if abs(together[one, other]) > APART and max(sds[one], sds[other]) > 0.3
    ]
    told = []
    for _, one, other in sorted(pairs, reverse=True)[:4]:
        how = "they go up and down together"
        if together[one, other] < 0:
            how = "more of one looks like less of the other"
        first, second = doubt.inputs[other].label, doubt.inputs[one].label
        told.append(f"{first} and {second} can't be told apart by these runs: {how}.")
    return told
