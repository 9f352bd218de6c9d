"""What is to be said of a ride as a whole: whether it arrives, and what it did to the parts."""

from collections.abc import Iterator

from powertrain.documents.run import Run
from powertrain.heat.limits import NODES, NodeId, limit_sources
from powertrain.operating.settings import Usable
from powertrain.runs.answer import NODE_WORDS, Event, RunAnswer
from powertrain.runs.ride import Ridden
from powertrain.stated import Stated
from powertrain.verdicts.verdict import PartId, Severity, Verdict

NEAR_C = 10.0
"""Kelvin below a limit from which a temperature is worth a word."""

LIKELY, UNLIKELY = 0.5, 0.02
"""Chances of a cut-off between which it is to be watched."""

SLOW_SHARE = 0.05
"""Part of the time for which it may be slower than asked without a word."""

PARTS: dict[NodeId, PartId] = {
    "winding": "motor",
    "case": "motor",
    "controller": "controller",
    "pack": "pack",
}

ENDS: dict[str, tuple[PartId, str]] = {
    "cut_off": ("pack", "Cut off on the way after {km:.1f} km, with {left:.0f} % left"),
    "empty": ("pack", "The pack is empty after {km:.1f} km"),
    "burnt": ("motor", "A part burns after {km:.1f} km"),
    "cannot_climb": ("vehicle", "It can't move on after {km:.1f} km: too steep"),
    "too_long": ("vehicle", "Not there after two days"),
}

CURES = {
    "cut_off": (
        "The sag of that moment, not the charge, ends it: fewer amps there (a lower pack amps "
        "limit, {shorter}, slower), a warmer pack, or cells with less resistance."
    ),
    "empty": "Slower, lighter, or more amp-hours; in the cold there are fewer than are stated.",
    "burnt": "It needs rests, a lower amps limit, {shorter} or more cooling.",
    "cannot_climb": "It needs {shorter}, more motor amps, or fewer kilograms.",
    "too_long": "The course asks for more than a day can hold.",
}


def ride_verdicts(run: Run, told: RunAnswer, ridden: Ridden) -> list[Verdict]:
    """Return what is to be said of a ride, the worst first."""
    order = ("stop", "watch", "ok")
    found = [*_arrival(run, told), *_heat(run, told, ridden), *_others(run, told)]
    return sorted(found, key=lambda verdict: order.index(verdict.severity))


def _arrival(run: Run, told: RunAnswer) -> Iterator[Verdict]:
    left, keeps = told.soc_end_pct, Usable.of(Stated(run.build.moments)).to_pct
    if not told.finished:
        part, title = ENDS.get(told.ended_by, ("vehicle", "It did not arrive"))
        title = title.format(km=told.distance_m / 1000, left=left)
        why = _cure(run, told.ended_by)
        yield _verdict("arrives", part, title, "stop", left, keeps, "%", why)
        return
    cuts = [event for event in told.events if event.kind == "cut_off"]
    chance = told.cut_off_chance or 0.0
    if cuts:
        title = f"Cut off {len(cuts)} times on the way, and on again"
        yield _verdict("arrives", "pack", title, "stop", left, keeps, "%", _cure(run, "cut_off"))
    elif chance >= UNLIKELY:
        title = f"Arrives with {left:.0f} %, if nothing is worse than stated"
        severity: Severity = "stop" if chance >= LIKELY else "watch"
        why = (
            f"In {100 * chance:.0f} of a hundred vehicles that may be yours as far as it is known "
            "the cells sag below cut-off on the way. " + _cure(run, "cut_off")
        )
        yield _verdict("arrives", "pack", title, severity, left, keeps, "%", why)
    elif left < keeps:
        title = f"Arrives with {left:.0f} %, less than the {keeps:g} % that shall be kept"
        yield _verdict("arrives", "pack", title, "watch", left, keeps, "%", _cure(run, "empty"))
    else:
        title = f"Arrives with {left:.0f} %"
        yield _verdict("arrives", "pack", title, "ok", left, keeps, "%", "")


def _heat(run: Run, told: RunAnswer, ridden: Ridden) -> Iterator[Verdict]:
    sources = limit_sources(Stated(run.build))
    for key in NODES:
        most, limit = float(getattr(told.peaks, f"{key}_c")), float(ridden.compiled.limits.of(key))
        if most <= limit - NEAR_C:
            continue
        first = _first(told.events, "over_limit", key)
        over = most > limit
        when = f" after {first.distance_m / 1000:.1f} km" if over and first else ""
        title = f"{NODE_WORDS[key]} reaches {most:.0f} °C{when}, may reach {limit:.0f} °C"
        why = f"Limit: {sources[key]}."
        severity: Severity = "stop" if over else "watch"
        yield _verdict(f"{key}_heat", PARTS[key], title, severity, most, limit, "C", why)


def _first(events: list[Event], kind: str, node: NodeId) -> Event | None:
    words = NODE_WORDS[node]
    return next((one for one in events if one.kind == kind and one.what.startswith(words)), None)


def _cure(run: Run, ended_by: str) -> str:
    turns = "less pitch" if run.build.propeller is not None else "a shorter gear"
    return CURES.get(ended_by, "").format(shorter=turns)


def _others(run: Run, told: RunAnswer) -> Iterator[Verdict]:
    rolled = next((one for one in told.events if one.kind == "rollback"), None)
    if rolled is not None:
        title = f"The controller gives less from {rolled.distance_m / 1000:.1f} km on, being hot"
        why = "It saves itself by that: better air for it, fewer motor amps, or a larger one."
        yield _verdict("rollback", "controller", title, "watch", rolled.t_s, 0.0, "s", why)
    share = told.behind_s / told.time_s if told.time_s > 0 else 0.0
    if share > SLOW_SHARE:
        title = f"Slower than asked for {100 * share:.0f} % of the time"
        steep = "the climb" if run.build.propeller is not None else "the hill"
        why = f"At full throttle it does no more there: its volts, its limits or {steep}."
        yield _verdict("behind", "vehicle", title, "watch", told.behind_s, told.time_s, "s", why)


def _verdict(
    name: str,
    part: PartId,
    title: str,
    severity: Severity,
    value: float,
    limit: float,
    unit: str,
    why: str,
) -> Verdict:
    return Verdict(
        id=name,
        part=part,
        title=title,
        severity=severity,
        value=value,
        limit=limit,
        unit=unit,
        moment=None,
        why=why,
        fix=None,
    )
