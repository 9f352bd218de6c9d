"""The five moments at which a drive is looked at."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array, choose, each_array, everywhere, filled, pick, scalar, shape_of
from powertrain.drive import Drive
from powertrain.operating.free import free_running_full
from powertrain.operating.full_throttle import (
    fastest_rad_s,
    output_nm,
    without_idle_grip,
)
from powertrain.operating.in_air import in_air
from powertrain.operating.launch import Launch, launch, launch_at_most, launch_with_peaks
from powertrain.operating.limits import Limit
from powertrain.operating.moment import (
    CRUISE_SHARE,
    LAUNCH_SHARE,
    Moment,
    MomentStates,
    MomentTargets,
)
from powertrain.operating.moments_in_air import moments_in_air, standing_and_cruising
from powertrain.operating.peaks import Peaks, peaks_to
from powertrain.operating.settings import MomentId, MomentSettings
from powertrain.operating.state import State, state_at_full_throttle
from powertrain.operating.steady import can_hold, steady
from powertrain.operating.top_speed import at_top_speed, top_speed_mps
from powertrain.units import kmh_from_mps, mps_from_kmh


def moments_of(settings: MomentSettings, drive: Drive, *, fine: bool = True) -> MomentStates:
    """Return the five moments of a drive, or of an array of drives that vary one build.

    What the document leaves open is chosen from the first drive of the array and is the same for
    all, so that they can be compared.

    Parameters
    ----------
    drive : Drive
        Fields of shape ``()`` or ``(n,)``.
    fine : bool
        Whether the launch is integrated to many digits, or to the four that a comparison needs.
    """
    air = in_air(drive)
    if air is not None:
        return moments_in_air(settings, air)
    own_pct = settings.climb_grade_pct
    situation = drive.load.hard if own_pct is None else scalar(own_pct)
    first = pick(drive, 0) if shape_of(drive) else drive
    tops = _tops_in_situations(first, float(situation))
    drive = without_idle_grip(drive, np.abs(situation))
    flat, hill = _flat_and_hill(drive, tops, situation)
    targets = _targets(settings, drive, situation, float(np.ravel(flat.speed_mps)[0]))
    launching, run, peaks = _launch(drive, targets, flat, fine)
    always = np.ones(np.shape(flat.speed_mps), bool)
    free = free_running_full(drive)
    return MomentStates(
        launch=launching,
        climb=_climb(drive, targets, hill),
        cruise=_cruise(drive, targets, flat),
        top_speed=Moment("top_speed", flat, None, 0.0, False, flat.speed_mps > 0),
        wheels_up=Moment("wheels_up", free, None, 0.0, False, always),
        launch_run=run,
        peaks=peaks,
        climb_top=hill,
        tops=tops,
        targets=targets,
    )


def steady_moments(settings: MomentSettings, drive: Drive) -> MomentStates:
    """Return what can be told of many drives without any search: cruise, and a climb at a speed.

    Cruise stands in for the others, so that a limit that is passed here is passed in the whole
    picture too; of a craft standing does. The document must say where launch, climb and cruise are
    looked at.
    """
    air = in_air(drive)
    if air is not None:
        standing, cruising = standing_and_cruising(settings, air)
        targets = _targets(settings, drive, drive.load.hard, 0.0)
        return replace(_standing_in(standing, targets, climb=standing), cruise=cruising)
    own_pct = settings.climb_grade_pct
    situation = drive.load.hard if own_pct is None else scalar(own_pct)
    targets = _targets(settings, drive, situation, 0.0)
    state = steady(drive, targets.cruise_mps, drive.load.trip)
    cruise = _told("cruise", state, can_hold(drive, state))
    climb = replace(cruise, id="climb")
    if targets.climb_mps is not None:
        state = steady(drive, targets.climb_mps, situation)
        climb = _told("climb", state, can_hold(drive, state))
    return _standing_in(cruise, targets, climb=climb)


def searched_moments(settings: MomentSettings, drive: Drive, *, timed: bool) -> MomentStates:
    """Return the moments of many drives that need not be alike.

    A climb at a stated speed is not searched for the fastest one; `timed` says whether the
    launch is integrated, or only bounded from above.
    """
    air = in_air(drive)
    if air is not None:
        return moments_in_air(settings, air)
    told = steady_moments(settings, drive)
    targets = told.targets
    level = np.full(np.shape(told.cruise.met), float(drive.load.usual))
    flat = _top_state(drive, top_speed_mps(drive, level, _guess(drive)), level)
    climb, situation = told.climb, targets.climb_situation
    assumed = "climb" in targets.assumed
    if targets.climb_mps is None:
        steep = np.full(level.shape, float(situation))
        hill = _top_state(drive, top_speed_mps(drive, steep, _guess(drive)), steep)
        met = hill.limited_by != Limit.CANNOT_MOVE
        climb = Moment("climb", hill, None, float(situation), assumed, met)
    halfway_mps = np.minimum(targets.launch_to_mps, flat.speed_mps) / 2
    if timed:
        run, peaks = launch_with_peaks(drive, targets.launch_to_mps, flat.speed_mps)
    else:
        run = launch_at_most(drive, targets.launch_to_mps)
        peaks = peaks_to(drive, flat.speed_mps)
    state = state_at_full_throttle(drive, drive.output_at_mps(halfway_mps), drive.load.usual)
    return MomentStates(
        launch=Moment("launch", state, None, 0.0, False, np.isfinite(run.time_s)),
        climb=climb,
        cruise=told.cruise,
        top_speed=Moment("top_speed", flat, None, 0.0, False, flat.speed_mps > 0),
        wheels_up=replace(told.cruise, id="wheels_up"),
        launch_run=run,
        peaks=peaks,
        climb_top=climb.state,
        tops=flat,
        targets=targets,
    )


def _guess(drive: Drive) -> Array:
    """Return speeds near which the top speeds of unlike drives are looked for."""
    fastest = filled(_fastest_mps(drive), shape_of(drive))
    return np.where(np.isfinite(fastest) & (fastest > 0), HILLS_NEAR * fastest, FAR_MPS)


def wheels_up_moments(settings: MomentSettings, drive: Drive) -> MomentStates:
    """Return the wheels in the air, which stand in for all other moments too."""
    free = free_running_full(drive)
    told = _told("wheels_up", free, np.ones(np.shape(free.speed_mps), bool))
    return _standing_in(told, _targets(settings, drive, drive.load.hard, 0.0), climb=told)


def _told(which: MomentId, state: State, met: NDArray[np.bool_]) -> Moment:
    return Moment(which, state, None, 0.0, False, met)


def _standing_in(told: Moment, targets: MomentTargets, climb: Moment) -> MomentStates:
    return MomentStates(
        launch=replace(told, id="launch"),
        climb=replace(climb, id="climb"),
        cruise=replace(told, id="cruise"),
        top_speed=replace(told, id="top_speed"),
        wheels_up=replace(told, id="wheels_up"),
        launch_run=None,
        peaks=Peaks.of_state(told.state),
        climb_top=climb.state,
        tops=told.state,
        targets=targets,
    )


def _flat_and_hill(drive: Drive, tops: State, situation: Array) -> tuple[State, State]:
    """Return the states at top speed on the level and on the hill, of one drive or of many."""
    situations = tops.situation
    places = [
        int(np.searchsorted(situations, grade))
        for grade in (float(drive.load.usual), float(situation))
    ]
    shape = shape_of(drive)
    if shape == ():
        return pick(tops, places[0]), pick(tops, places[1])
    near_mps, two = tops.speed_mps[places], situations[places][:, None]
    near = None
    if everywhere(np.isfinite(near_mps) & (near_mps > 0)):
        near = np.repeat(near_mps[:, None], shape[0], axis=1)
    found_mps = top_speed_mps(drive, two, near)
    speeds_mps = np.array(filled(found_mps, (2, *shape)))
    # The first is known to the last digit already.
    speeds_mps[:, 0] = near_mps
    both = each_array(
        _top_state(drive, speeds_mps, two), lambda value: filled(value, speeds_mps.shape)
    )
    return pick(both, 0), pick(both, 1)


def _top_state(drive: Drive, speeds_mps: Array, situation: Array) -> State:
    """Return the states at top speeds, or overrun where a descent has no top speed."""
    held_mps = np.where(np.isfinite(speeds_mps), speeds_mps, _fastest_mps(drive))
    return at_top_speed(drive, held_mps, situation)


HILLS_NEAR = 0.8
"""Share of its free speed near which a drive's top speeds are looked for first."""

FAR_MPS = 10.0
"""Where they are looked for in a drive that has no free speed."""


def _tops_in_situations(drive: Drive, own: float) -> State:
    at_rest_nm = output_nm(drive, scalar(0.0), drive.load.usual)
    situations = drive.load.situations(at_rest_nm, own)
    drive = without_idle_grip(drive, scalar(np.abs(situations).max()))
    near_mps = np.full(situations.shape, max(HILLS_NEAR * float(_fastest_mps(drive)), 1e-6))
    return _top_state(drive, top_speed_mps(drive, situations, near_mps), situations)


def _fastest_mps(drive: Drive) -> Array:
    return drive.speed_mps(fastest_rad_s(drive))


def _round_kmh(speed_kmh: float) -> float:
    """Return `speed_kmh` with two digits, as a person would name it."""
    return float(f"{speed_kmh:.2g}")


def _targets(
    settings: MomentSettings, drive: Drive, situation: Array, top_mps: float
) -> MomentTargets:
    said, top_kmh = settings, float(kmh_from_mps(top_mps))
    launch_kmh, cruise_kmh = said.launch_to_kmh, said.cruise_kmh
    if launch_kmh is None:
        launch_kmh = _round_kmh(LAUNCH_SHARE * top_kmh)
    if cruise_kmh is None:
        cruise_kmh = _round_kmh(CRUISE_SHARE * top_kmh)
    climb_kmh = 0.0 if drive.load.is_held else said.climb_speed_kmh
    return MomentTargets(
        launch_to_mps=scalar(mps_from_kmh(launch_kmh)),
        climb_situation=situation,
        climb_mps=None if climb_kmh is None else scalar(mps_from_kmh(climb_kmh)),
        cruise_mps=scalar(mps_from_kmh(cruise_kmh)),
        # What is lifted has to be held, whether anyone said so or not.
        assumed=tuple(
            one for one in settings.assumed if not (one == "climb" and drive.load.is_held)
        ),
    )


def _launch(
    drive: Drive, targets: MomentTargets, flat: State, fine: bool
) -> tuple[Moment, Launch | None, Peaks]:
    to_mps = targets.launch_to_mps
    halfway_mps = np.minimum(to_mps, flat.speed_mps) / 2
    state = state_at_full_throttle(drive, drive.output_at_mps(halfway_mps), drive.load.usual)
    run: Launch | None = None
    if fine or not to_mps > 0:
        peaks = peaks_to(drive, flat.speed_mps)
        run = launch(drive, to_mps) if to_mps > 0 else None
    else:
        run, peaks = launch_with_peaks(drive, to_mps, flat.speed_mps)
    met = np.zeros(np.shape(flat.speed_mps), bool) if run is None else np.isfinite(run.time_s)
    kmh, assumed = _kmh(to_mps), "launch" in targets.assumed
    return Moment("launch", state, kmh, 0.0, assumed, met), run, peaks


def _climb(drive: Drive, targets: MomentTargets, hill: State) -> Moment:
    situation, assumed = targets.climb_situation, "climb" in targets.assumed
    if targets.climb_mps is None:
        met = hill.limited_by != Limit.CANNOT_MOVE
        return Moment("climb", hill, None, float(situation), assumed, met)
    state, met = _held_or(drive, targets.climb_mps, situation, hill)
    return Moment("climb", state, _kmh(targets.climb_mps), float(situation), assumed, met)


def _cruise(drive: Drive, targets: MomentTargets, flat: State) -> Moment:
    usual, trip = drive.load.usual, drive.load.trip
    # What comes down too fast to be held is let down as fast as it is lifted.
    instead = flat if trip == usual else steady(drive, flat.speed_mps, trip)
    state, met = _held_or(drive, targets.cruise_mps, trip, instead)
    return Moment("cruise", state, _kmh(targets.cruise_mps), 0.0, "cruise" in targets.assumed, met)


def _held_or(
    drive: Drive, speed_mps: Array, situation: Array, top: State
) -> tuple[State, NDArray[np.bool_]]:
    """Return the state that holds a speed, or the one at top speed where none does."""
    state = steady(drive, speed_mps, situation)
    holds = can_hold(drive, state) & ((speed_mps > 0) | drive.load.is_held)
    if everywhere(holds):
        return state, holds
    return choose(holds, state, top), holds


def _kmh(speed_mps: Array) -> float | None:
    """Return a target as it was said, None for one that is nothing."""
    return float(f"{float(kmh_from_mps(speed_mps)):.12g}") or None
