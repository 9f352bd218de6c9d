"""The routes to a motor's constants."""

import math
from collections.abc import Callable, Iterator, Sequence

import numpy as np

from powertrain.constants import RPM_PER_RAD_S
from powertrain.heat.estimate import MOTOR_KG_PER_M3, SLENDER
from powertrain.identify import series
from powertrain.identify.facts import MotorFacts
from powertrain.identify.finding import Finding, Identified, Origin, surest, weighed
from powertrain.identify.plate import impossible, lasting
from powertrain.motor.size import MAKES, Make, usual_km2

Found = Sequence[Finding]
Route = Callable[[MotorFacts, Found], Iterator[Finding]]

WANTED = {
    "kv_rpm_per_v": "Give a KV, a rated or free speed with its volts, or volts when spun.",
    "resistance_ohm": "Give volts at known amps, stall amps, or the motor's mass or can.",
    "no_load_current_a": "Give the amps of a free run, or the motor's mass or can.",
}
WANTED_SERIES = {
    "saturated_constant_nm_per_a": "Give its plate (volts, amps, rpm and watts or torque).",
    "half_saturation_current_a": "Give its plate, better two loads of it, or points of its curve.",
    "resistance_ohm": "Give volts at known amps, its plate, or points of its curve.",
    "loss_torque_nm": "Give its plate, or points of its curve, one of them nearly free.",
}

KV, OHM, FREE_A = "kv_rpm_per_v", "resistance_ohm", "no_load_current_a"

SIZE = "the usual for its size"

RATED_SPEED, TURNS, RATED_AMPS = "the rated speed", "turns and can", "the rated amps"

MOST_FREE_DROP = 0.12
"""Part of the volts that a free run loses in a motor at the most; common practice, no source."""

USUAL_EFFICIENCY = 0.80
"""Of a small motor at its rated watts; common practice, no source (0.75 to 0.9)."""

SINUS_OR_SIX_STEP = 0.047
"""A sinusoidal back-EMF makes a KV by its peak that differs so much from the six-step mean."""

LOADED = 0.88
"""Rated speed over free speed at the rated volts; common practice, no source (0.8 to 0.95)."""

TURNS_KV, TURNS_CAN_MM2 = 40_000.0, 36.0 * 50.0
"""KV times turns of a can of 36 by 50 mm; common practice, no source, wide."""


def identify_motor(facts: MotorFacts, *more: Route) -> Identified:
    """Return a motor's constants from what is known, by every route that the facts open.

    `more` are routes that rest on what is known besides, such as a stand with a propeller.
    """
    wound = facts.kind == "series_wound"
    found: list[Finding] = []
    # Some routes need what others find, so that they are gone through twice.
    for _ in range(2):
        seen: list[Finding] = []
        for route in SERIES_ROUTES if wound else (*ROUTES, *more):
            seen += [finding for finding in route(facts, found + seen) if finding.value > 0]
        found = seen
    weighed_up = weighed(found, WANTED_SERIES if wound else WANTED)
    clashes = [*weighed_up.contradictions, *impossible(facts)]
    return weighed_up.model_copy(update={"contradictions": clashes})


def _finding(
    key: str, value: float, tolerance: float, origin: Origin, route: str, *uses: str
) -> Finding:
    return Finding(
        key=key, value=value, tolerance=tolerance, origin=origin, route=route, uses=list(uses)
    )


def stated(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield the constants as the maker states them."""
    for key, tolerance in ((KV, 0.05), (OHM, 0.10), (FREE_A, 0.20)):
        value = getattr(facts, key)
        if value is not None:
            yield _finding(key, value, tolerance, "data_sheet", "the maker's figure", key)


def spun(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield KV from the volts of a motor that is turned from outside.

    ``KV = rpm / (sqrt 2 x line-to-line rms)`` for three phases, rpm over d.c. volts for brushes.
    """
    rpm, volts = facts.spun_rpm, facts.spun_line_v
    if rpm is None or volts is None:
        return
    brushless = facts.commutation == "brushless"
    value = rpm / (math.sqrt(2) * volts if brushless else volts)
    tolerance = SINUS_OR_SIX_STEP if brushless else 0.02
    yield _finding(KV, value, tolerance, "measured", "volts when spun", "spun_rpm", "spun_line_v")


def known_current(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield the winding's resistance from a known current: U/I."""
    amps, volts = facts.test_current_a, facts.test_voltage_v
    if amps is not None and volts is not None:
        yield _finding(
            OHM,
            volts / amps,
            0.04,
            "measured",
            "volts at known amps",
            "test_current_a",
            "test_voltage_v",
        )


def free_run(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield KV = rpm/(V - I0 R) and I0 from one free run; without R the drop is neglected."""
    volts, rpm, amps = facts.free_voltage_v, _free_rpm(facts), facts.free_current_a
    if amps is not None:
        yield _finding(FREE_A, amps, 0.05, "measured", "the free run", "free_current_a")
    if volts is None or rpm is None:
        return
    ohm = surest(found, OHM)
    drop_v = 0.0 if ohm is None or amps is None else ohm.value * amps
    # A resistance guessed from the size does not make a measured run impossible.
    if ohm is not None and ohm.origin == "estimated" and drop_v > MOST_FREE_DROP * volts:
        drop_v = 0.0
    tolerance = 0.06 if drop_v == 0 else 0.02
    if ohm is not None:
        tolerance += min(ohm.tolerance, 1.0) * drop_v / volts
    if drop_v < volts:
        yield _finding(
            KV,
            rpm / (volts - drop_v),
            tolerance,
            "measured",
            "the free run",
            "free_voltage_v",
            "free_speed_rpm",
        )


def _free_rpm(facts: MotorFacts) -> float | None:
    """Return the rotor's rpm in the free run: that of the output shaft times its reduction."""
    rpm = facts.free_speed_rpm
    return None if rpm is None else rpm * (facts.reduction or 1.0)


def two_free_runs(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield KV from the difference of two free runs, in which a constant loss drops out.

    Brush drop and no-load amps that do not change with volts cancel in it.
    """
    volts, rpm, amps = facts.free_voltage_v, _free_rpm(facts), facts.free_current_a
    more_v, more_rpm = facts.second_free_voltage_v, facts.second_free_speed_rpm
    more_rpm = None if more_rpm is None else more_rpm * (facts.reduction or 1.0)
    more_a = facts.second_free_current_a
    if volts is None or rpm is None or more_v is None or more_rpm is None:
        return
    ohm = surest(found, OHM)
    drop_v = 0.0
    if ohm is not None and amps is not None and more_a is not None:
        drop_v = ohm.value * (more_a - amps)
    apart_v = more_v - volts - drop_v
    if apart_v == 0 or (more_rpm - rpm) / apart_v <= 0:
        return
    # The readings' errors weigh the more, the nearer the two runs are to one another.
    tolerance = min(0.01 * (volts + more_v) / abs(apart_v), 0.5)
    yield _finding(
        KV,
        (more_rpm - rpm) / apart_v,
        tolerance,
        "measured",
        "two free runs",
        "free_speed_rpm",
        "second_free_speed_rpm",
    )


def rated(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield what a plate says: KV from rated speed, and with shaft watts and amps KV and R too.

    With shaft watts ``T = P/w``, ``k = T/(I - I0)`` and ``R = (V - k w)/I``. Electrical watts
    give the amps, P/V, and no torque.
    """
    volts, rpm = facts.rated_voltage_v, facts.rated_speed_rpm
    if volts is None or rpm is None:
        return
    yield _finding(
        KV,
        rpm / (LOADED * volts),
        0.12,
        "estimated",
        RATED_SPEED,
        "rated_voltage_v",
        "rated_speed_rpm",
    )
    watts, amps = facts.rated_power_w, facts.rated_current_a
    if watts is None or amps is None or facts.power_is != "shaft":
        return
    free = surest(found, FREE_A)
    free_a = free.value if free is not None and free.value < 0.5 * amps else 0.04 * amps
    speed = rpm / RPM_PER_RAD_S
    constant = watts / speed / (amps - free_a)
    route, uses = "rated shaft watts and amps", ("rated_power_w", "rated_current_a")
    if not 0 < constant * speed < volts:
        return
    yield _finding(KV, RPM_PER_RAD_S / constant, 0.08, "data_sheet", route, *uses)
    # A resistance from what is left of the volts is as doubtful as that rest is small.
    left = volts - constant * speed
    tolerance = min(0.05 * volts / left, 1.5)
    yield _finding(OHM, left / amps, tolerance, "data_sheet", route, *uses)


def stall(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield k = T/(I - I0) and R = V/I from stall torque and stall amps at the rated volts."""
    torque, amps = facts.stall_torque_nm, facts.stall_current_a
    volts = facts.rated_voltage_v or facts.free_voltage_v
    route = "stall torque and amps"
    free = surest(found, FREE_A)
    free_a = 0.0 if free is None else free.value
    if torque is not None and amps is not None and free_a < amps:
        value = RPM_PER_RAD_S * (amps - free_a) / torque
        yield _finding(KV, value, 0.08, "data_sheet", route, "stall_torque_nm", "stall_current_a")
    if amps is not None and volts is not None:
        yield _finding(OHM, volts / amps, 0.10, "data_sheet", route, "stall_current_a")


def turns(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield KV from the number of turns and the can, in a wide band."""
    count, wide, long = facts.turns, facts.diameter_mm, facts.length_mm
    if count is None:
        return
    area = (wide or 36.0) * (long or SLENDER * (wide or 36.0))
    value = TURNS_KV / count * TURNS_CAN_MM2 / area
    tolerance = 0.35 if wide is not None else 0.6
    yield _finding(KV, value, tolerance, "estimated", TURNS, "turns", "diameter_mm")


def curve(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield the constants that fit a published curve: I = T/k + I0, w = (V - I R)/k."""
    points, volts = facts.curve, facts.curve_voltage_v
    if volts is None or len(points) < 2:
        return
    torque = np.array([point.torque_nm for point in points])
    amps = np.array([point.current_a for point in points])
    speed = np.array([point.rpm for point in points]) / RPM_PER_RAD_S
    if np.ptp(torque) <= 0 or np.ptp(amps) <= 0:
        return
    slope, free_a = np.polyfit(torque, amps, 1)
    route = "the curve"
    if slope <= 0:
        return
    # The torque line and the speed line each hold k; that of the speeds is the better known.
    falls, start = np.polyfit(amps, speed, 1)
    if start <= 0 or falls >= 0:
        return
    constant = volts / start
    by_torque = 1 / slope
    spread = abs(math.log(by_torque / constant))
    uses = ("curve", "curve_voltage_v")
    yield _finding(KV, RPM_PER_RAD_S / constant, 0.04 + spread, "data_sheet", route, *uses)
    yield _finding(OHM, -falls * constant, 0.10, "data_sheet", route, *uses)
    if free_a > 0:
        yield _finding(FREE_A, float(free_a), 0.25, "data_sheet", route, *uses)


def rated_watts(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield a resistance from rated watts, volts and speed: ``R = (V - k w)/I``.

    The amps are those of the watts: ``P/V`` at the wires; at the shaft, P/w over the constant. With
    a KV of its own the rest of the volts is measured, without one it is usual. Shaft watts P can't
    come from volts V unless ``R < V^2/(4 P)``.
    """
    volts, rpm, watts = facts.rated_voltage_v, facts.rated_speed_rpm, facts.rated_power_w
    if volts is None or watts is None or facts.rated_current_a is not None:
        return
    shaft = facts.power_is == "shaft"
    amps = _amps_of(facts, watts, volts)
    most_ohm = volts**2 / (4 * watts)
    kv = surest([one for one in found if one.route not in (RATED_SPEED, TURNS)], KV)
    uses = ("rated_power_w", "rated_voltage_v", "rated_speed_rpm")
    if kv is not None and rpm is not None and 0 < rpm / kv.value < volts:
        constant, speed = RPM_PER_RAD_S / kv.value, rpm / RPM_PER_RAD_S
        if shaft:
            amps = watts / speed / constant * 1.04
        left_v = volts - constant * speed
        tolerance = min((kv.tolerance + 0.03) * volts / left_v, 2.0)
        yield _finding(
            OHM,
            min(left_v / amps, most_ohm),
            tolerance,
            "estimated",
            "rated watts and speed",
            *uses,
        )
    else:
        ohm = (1 - LOADED) * volts / amps
        yield _finding(OHM, min(ohm, most_ohm), 1.0, "estimated", "rated watts", *uses)


def _amps_of(facts: MotorFacts, watts: float, volts: float) -> float:
    """Return the amps that rated watts take at the wires."""
    return watts / volts / (USUAL_EFFICIENCY if facts.power_is == "shaft" else 1.0)


def most_ohm(facts: MotorFacts) -> float:
    """Return the resistance above which a motor can't give its rated watts, infinite if unsaid."""
    if facts.rated_voltage_v is None or facts.rated_power_w is None:
        return math.inf
    return facts.rated_voltage_v**2 / (4 * facts.rated_power_w)


def usual_of_size(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield what a motor of its size and make usually has, where nothing better is known.

    ``Km^2 = q m^(5/3)`` with k/sqrt(R) in N.m/sqrt(W) and mass in kg (`powertrain.motor.size`);
    no-load amps as the usual share of those that it carries for long.
    """
    kv, mass, make = surest(found, KV), _mass(facts), MAKES[_make(facts)]
    if kv is None or mass is None:
        return
    constant = RPM_PER_RAD_S / kv.value
    ohm = min(constant**2 / usual_km2(_make(facts), mass), most_ohm(facts))
    known = surest([finding for finding in found if finding.route != SIZE], OHM)
    uses = ("mass_kg", "diameter_mm", "commutation", "rotor")
    # What the KV is off by counts twice.
    tolerance = make.off * (1 + kv.tolerance) ** 2 - 1
    if known is None:
        yield _finding(OHM, ohm, tolerance, "estimated", SIZE, *uses)
    if not any(finding.key == FREE_A and finding.route != SIZE for finding in found):
        better = ohm if known is None else known.value
        amps = make.loss_share * math.sqrt(make.lasting_w_per_kg * mass / better)
        yield _finding(FREE_A, amps, make.off - 1, "estimated", SIZE, *uses)


def usual_when_free(facts: MotorFacts, found: Found) -> Iterator[Finding]:
    """Yield no-load amps as the usual share of the rated ones, where nothing else tells them."""
    volts, watts, make = facts.rated_voltage_v, facts.rated_power_w, MAKES[_make(facts)]
    amps = facts.rated_current_a
    if amps is None and volts is not None and watts is not None:
        amps = _amps_of(facts, watts, volts)
    told = any(finding.key == FREE_A and finding.route != RATED_AMPS for finding in found)
    if amps is not None and not told:
        yield _finding(
            FREE_A,
            make.loss_share * amps,
            1.0,
            "estimated",
            RATED_AMPS,
            "rated_power_w",
            "rated_voltage_v",
            "rated_current_a",
        )


def _make(facts: MotorFacts) -> Make:
    if facts.commutation == "brushed":
        return "brushed"
    return facts.rotor or "brushless"


def _mass(facts: MotorFacts) -> float | None:
    if facts.mass_kg is not None:
        return facts.mass_kg
    if facts.diameter_mm is None:
        return None
    long_mm = facts.length_mm or SLENDER * facts.diameter_mm
    return MOTOR_KG_PER_M3 * math.pi / 4 * facts.diameter_mm**2 * long_mm / 1e9


ROUTES: tuple[Route, ...] = (
    stated,
    known_current,
    free_run,
    two_free_runs,
    spun,
    stall,
    rated,
    curve,
    turns,
    rated_watts,
    usual_of_size,
    usual_when_free,
    lasting,
)
SERIES_ROUTES: tuple[Route, ...] = (known_current, series.curve, series.plate, lasting)
