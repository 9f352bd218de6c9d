"""Motor and propeller held on a scale: what each gives, and which of the two is off.

One reading is throttle, volts, amps, turns and thrust. The motor by itself: ``V = k w + I R`` at
full throttle tells k. The propeller by itself: ``C_T = T/(rho n^2 D^4)`` and, from what the motor
hands to its shaft, ``C_P = k w (I_m - I0)/(rho n^3 D^5)``. At part throttle the motor's amps are
not the battery's; ``V I = k w I_m + I_m^2 R`` holds at any throttle and asks for no duty.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.documents.propeller import Propeller
from powertrain.identify.facts import MotorFacts, StandFacts, StandPoint
from powertrain.identify.finding import Finding, Identified, Origin, surest, weighed
from powertrain.identify.motor import FREE_A, KV, OHM, identify_motor
from powertrain.propeller.momentum import figure_of_merit
from powertrain.propeller.propeller import Blades
from powertrain.stated import Stated

ROUTE = "the stand"

FULL_PCT = 99.5
"""Throttle from which on a controller passes the battery's volts on whole."""

READ_KV, READ_POWER, READ_THRUST = 0.03, 0.03, 0.04
"""What instruments of a stand are off by together: turns 0.5 %, volts 1 %, the controller's own
drop 1 %; amps 2 %; a scale 3 % and its lever. Common practice, no source."""

BLADE = {"table": (0.10, 0.14), "static": (0.08, 0.10), "label": (0.30, 0.35)}
"""How far thrust and power lie from what is said of a propeller at the very most: by a table, a
static test, diameter and pitch alone (twice what four in five lie within, `doubt.tolerances`)."""

BEST_MERIT = 0.85
"""Figure of merit that no small propeller has; published ones reach 0.5 to 0.75, from memory."""

SAME = 1e-4
"""How near two figures are that are one, rounded."""

SAID = {"table": "its table", "static": "its static test", "label": "its label"}

Off = Literal["motor", "propeller", "readings"]

THRUST_WANTED = {"static.thrust_n": "Give the thrust that the scale says, less that at rest."}
POWER_WANTED = {
    "static.shaft_power_w": "Give the motor's resistance and no-load amps, or its mass or can."
}


class StandReading(BaseModel):
    """One reading beside what is expected of the parts as they are said to be.

    `expected_rpm` is the motor's at those volts and amps, by what was known of it before and at
    full throttle alone; thrust and power are the propeller's at the turns that were read.
    """

    rpm: float
    expected_rpm: float | None
    thrust_n: float | None
    expected_thrust_n: float
    motor_current_a: float | None
    shaft_power_w: float | None
    expected_shaft_power_w: float
    figure_of_merit: float | None


class StandAnswer(BaseModel):
    """What a stand tells of the propeller, which part is off, and each reading as it was meant."""

    propeller: Identified
    off: list[Off]
    say: list[str]
    readings: list[StandReading]


@dataclass(frozen=True)
class _Seen:
    """A reading with what the motor made of it."""

    point: StandPoint
    reduction: float
    amps: float | None
    shaft_w: float | None
    shaft_off: float
    thrust_share: float | None
    power_share: float | None
    reading: StandReading


def identify_stand(said: MotorFacts, stand: StandFacts) -> tuple[Identified, StandAnswer]:
    """Return what a stand tells of the motor, together with all else that is known, and the rest.

    Raises nothing: readings that no motor and no propeller could give are told as `readings`.
    """
    stand = stand.model_copy(update={"propeller": _of_others(stand)})
    before = identify_motor(said)
    motor = identify_motor(said, lambda facts, found: _kv(facts, stand, found))
    seen = [_seen(point, said, stand, motor, before) for point in stand.points]
    basis = _basis(stand.propeller)
    wanted = {} if any(one.thrust_share is not None for one in seen) else THRUST_WANTED
    wanted |= {} if any(one.shaft_w is not None for one in seen) else POWER_WANTED
    propeller = weighed([*_as_said(stand.propeller, basis), *_measured(seen)], wanted)
    off, say = _judged(seen, motor, before, propeller, basis)
    answer = StandAnswer(
        propeller=_as_document(propeller, seen),
        off=off,
        say=say,
        readings=[one.reading for one in seen],
    )
    return motor, answer


def _of_others(stand: StandFacts) -> Propeller:
    """Return the propeller as others say it is: a test that is one of these readings is no witness.

    Once a reading is kept as the static test it would otherwise agree with itself.
    """
    test = stand.propeller.static
    same = test is not None and any(
        math.isclose(point.rpm, test.rpm, rel_tol=SAME)
        and math.isclose(point.thrust_n or 0.0, test.thrust_n, rel_tol=SAME)
        for point in stand.points
    )
    return stand.propeller.model_copy(update={"static": None}) if same else stand.propeller


def _full(stand: StandFacts) -> list[StandPoint]:
    return [point for point in stand.points if point.throttle_pct >= FULL_PCT]


def _kv(facts: MotorFacts, stand: StandFacts, found: Sequence[Finding]) -> Iterator[Finding]:
    """Yield KV by the readings at full throttle, ``n/(V - I R)``; the middle one counts."""
    ohm = surest(found, OHM)
    if ohm is None:
        return
    each = []
    for point in _full(stand):
        left_v = point.voltage_v - point.current_a * ohm.value
        if left_v > 0:
            drop = point.current_a * ohm.value / left_v
            rpm = point.rpm * (facts.reduction or 1.0)
            each.append((rpm / left_v, READ_KV + min(ohm.tolerance, 1.0) * drop))
    if not each:
        return
    value, tolerance = sorted(each)[len(each) // 2]
    yield _finding(KV, value, tolerance, "measured", "voltage_v", "current_a", "rpm")


def _seen(
    point: StandPoint,
    said: MotorFacts,
    stand: StandFacts,
    motor: Identified,
    before: Identified,
) -> _Seen:
    """Return a reading with the motor's amps and watts, and the propeller's shares of them."""
    blades = Blades.of(Stated(stand.propeller), scalar(stand.air_density_kg_m3))
    turns = point.rpm / 60
    at = blades.turning(scalar(turns), scalar(0.0))
    reduction = said.reduction or 1.0
    amps, shaft_w, off = _of_motor(point, reduction, motor)
    thrust, power = float(at.thrust_n), float(at.power_w)
    kv, ohm = before.values.get(KV), before.values.get(OHM)
    expected_rpm = None
    if kv is not None and ohm is not None and point.throttle_pct >= FULL_PCT:
        expected_rpm = kv.value * (point.voltage_v - point.current_a * ohm.value) / reduction
    rho, size = stand.air_density_kg_m3, stand.propeller.diameter_mm / 1000
    merit = None
    if point.thrust_n is not None:
        # No motor hands on more than it takes: without one that is known, all of it.
        taken_w = shaft_w if shaft_w is not None else point.voltage_v * point.current_a
        ct = point.thrust_n / (rho * turns**2 * size**4)
        cp = taken_w / (rho * turns**3 * size**5)
        merit = float(figure_of_merit(scalar(ct), scalar(cp)))
    return _Seen(
        point=point,
        reduction=reduction,
        amps=amps,
        shaft_w=shaft_w,
        shaft_off=off,
        thrust_share=None if point.thrust_n is None else point.thrust_n / thrust,
        power_share=None if shaft_w is None else shaft_w / power,
        reading=StandReading(
            rpm=point.rpm,
            expected_rpm=expected_rpm,
            thrust_n=point.thrust_n,
            expected_thrust_n=thrust,
            motor_current_a=amps,
            shaft_power_w=shaft_w,
            expected_shaft_power_w=power,
            figure_of_merit=merit,
        ),
    )


def _of_motor(
    point: StandPoint, reduction: float, motor: Identified
) -> tuple[float | None, float | None, float]:
    """Return the motor's amps, the watts at its shaft, and by how much of them they may be off."""
    kv, ohm, free = (motor.values.get(key) for key in (KV, OHM, FREE_A))
    if kv is None or ohm is None:
        return None, None, 0.0
    emf_v = point.rpm * reduction / kv.value
    watts = point.voltage_v * point.current_a
    # The root of R I^2 + E I = P in the form that holds for no resistance, too.
    amps = 2 * watts / (emf_v + math.sqrt(emf_v**2 + 4 * ohm.value * watts))
    free_a = 0.0 if free is None else free.value
    shaft_w = emf_v * (amps - free_a)
    if shaft_w <= 0:
        return amps, None, 0.0
    unsure_w = amps**2 * ohm.value * min(ohm.tolerance, 1.0)
    unsure_w += emf_v * free_a * (1.0 if free is None else min(free.tolerance, 1.0))
    return amps, shaft_w, READ_POWER + unsure_w / shaft_w


def _basis(propeller: Propeller) -> Literal["table", "static", "label"]:
    if propeller.static is not None:
        return "static"
    return "table" if propeller.table else "label"


def _as_said(propeller: Propeller, basis: str) -> Iterator[Finding]:
    """Yield a share of one: the propeller as it is said to be."""
    route = SAID[basis]
    origin: Origin = "estimated" if basis == "label" else "data_sheet"
    of_thrust, of_power = BLADE[basis]
    for key, tolerance in (("thrust_share", of_thrust), ("power_share", of_power)):
        yield Finding(
            key=key, value=1.0, tolerance=tolerance, origin=origin, route=route, uses=["propeller"]
        )


def _measured(seen: Sequence[_Seen]) -> Iterator[Finding]:
    """Yield the shares that were read, each the middle of all readings."""
    thrust = sorted(one.thrust_share for one in seen if one.thrust_share is not None)
    if thrust:
        yield _finding(
            "thrust_share", thrust[len(thrust) // 2], READ_THRUST, "measured", "thrust_n", "rpm"
        )
    power = sorted((one.power_share, one.shaft_off) for one in seen if one.power_share is not None)
    if power:
        value, off = power[len(power) // 2]
        yield _finding("power_share", value, off, "measured", "voltage_v", "current_a", "rpm")


def _as_document(propeller: Identified, seen: Sequence[_Seen]) -> Identified:
    """Return the findings with a static test to take over: the reading with the most turns."""
    whole = [one for one in seen if one.shaft_w is not None and one.point.thrust_n is not None]
    values = dict(propeller.values)
    fastest = max(whole, key=lambda one: one.point.rpm, default=None)
    if fastest is not None and fastest.shaft_w is not None and fastest.point.thrust_n is not None:
        for key, value, off in (
            ("static.rpm", fastest.point.rpm, 0.01),
            ("static.thrust_n", fastest.point.thrust_n, READ_THRUST),
            ("static.shaft_power_w", fastest.shaft_w, fastest.shaft_off),
        ):
            values[key] = _finding(key, value, off, "measured", "rpm", "thrust_n", "current_a")
    return propeller.model_copy(update={"values": values})


def _judged(
    seen: Sequence[_Seen],
    motor: Identified,
    before: Identified,
    propeller: Identified,
    basis: str,
) -> tuple[list[Off], list[str]]:
    """Return which part is off, and what is to be said of it.

    Thrust at its turns is the propeller's own affair, whatever turns it. Where it fits, watts that
    do not are lost, or found, between pack and propeller: the motor's.
    """
    impossible = list(_not_true(seen))
    if impossible:
        return ["readings"], impossible
    off: list[Off] = []
    say: list[str] = []
    apart = {one.key for one in propeller.contradictions}
    thrust, power = (_share(propeller, key) for key in ("thrust_share", "power_share"))
    blades = "thrust_share" in apart or ("power_share" in apart and thrust is None)
    slower = _slower(motor, before)
    if slower is not None or ("power_share" in apart and not blades):
        off.append("motor")
        say.append(_of_motor_off(seen, before, slower, power if "power_share" in apart else None))
    if blades:
        off.append("propeller")
        say.append(_of_blades(thrust, power, SAID[basis]))
    if not off and power is None:
        say.append("Nothing speaks against it; what the propeller takes is not known yet.")
    elif not off:
        say.append("Motor and propeller do what is said of them, as far as a stand tells.")
    return off, say


def _slower(motor: Identified, before: Identified) -> float | None:
    """Return KV by the stand over what was known before, None where they may be the same."""
    stand = next((one for one in motor.found if one.key == KV and one.route == ROUTE), None)
    said = before.values.get(KV)
    if stand is None or said is None:
        return None
    apart = abs(math.log(stand.value / said.value))
    allowed = math.log1p(stand.tolerance) + math.log1p(said.tolerance)
    return stand.value / said.value if apart > allowed else None


def _share(propeller: Identified, key: str) -> float | None:
    return next(
        (one.value for one in propeller.found if one.key == key and one.route == ROUTE), None
    )


def _not_true(seen: Sequence[_Seen]) -> Iterator[str]:
    """Yield what no motor and no propeller could do."""
    for one in seen:
        point, merit = one.point, one.reading.figure_of_merit
        where = f"At {point.rpm:.0f} rpm"
        if one.amps is not None and one.shaft_w is None:
            yield (
                f"{where} the amps are less than the motor takes to turn itself: look at the "
                "meter's place, or at the no-load amps."
            )
        elif merit is not None and merit > BEST_MERIT:
            what = "the watts at the shaft" if one.shaft_w is not None else "all the pack's watts"
            yield (
                f"{where} the thrust is {merit:.2f} of what a perfect disc would give for {what}; "
                "small propellers reach 0.5 to 0.75. Look at the scale's lever and unit, the "
                "meter, and whether turns and diameter are of this propeller."
            )


def _of_motor_off(
    seen: Sequence[_Seen], before: Identified, slower: float | None, power: float | None
) -> str:
    """Return what may be wrong with a motor that turns or takes otherwise than is said of it.

    Slow turns that come of resistance leave their volts in heat: with the KV that was said, ``R =
    (V - n/KV)/I``.
    """
    said = before.values.get(KV)
    told = []
    if slower is not None and said is not None:
        told.append(f"{slower * said.value:.4g} rpm/V for {said.value:.4g} by {said.route}")
    if power is not None:
        told.append(f"it takes {power:.2f} times the watts that the thrust speaks of")
    full = max(
        (one for one in seen if one.point.throttle_pct >= FULL_PCT),
        key=lambda one: one.point.rpm,
        default=None,
    )
    if power is not None and power > 1 and said is not None and full is not None:
        point = full.point
        ohm = (point.voltage_v - point.rpm * full.reduction / said.value) / point.current_a
        because = (
            "watts go into heat on the way: a bad joint, thin wires, a burnt winding or a bearing "
            "that drags"
        )
        if ohm > 0:
            because += f"; were it resistance alone, {1000 * ohm:.0f} mohm of it"
    elif power is not None and power < 1:
        because = "its no-load amps or resistance are less than was said, or the meter reads low"
    elif slower is not None and slower < 1:
        because = (
            "another winding than its label says, less timing, or volts read before long wires"
        )
    else:
        because = "another winding than its label says, more timing, or magnets once too hot"
    return f"The motor is off: {', and '.join(told)}; {because}."


def _of_blades(thrust: float | None, power: float | None, said: str) -> str:
    """Return what may be wrong with a propeller that gives or takes otherwise than is said."""
    told = " and ".join(
        f"{word} {share:.2f} times what {said} tells"
        for word, share in (("gives", thrust), ("takes", power))
        if share is not None
    )
    if thrust is None:
        because = "more or less pitch than is printed on it; a scale would tell it from the motor"
    elif thrust < 1 and (power is None or power >= 0.95):
        because = "put on back to front, bent, or blowing against the stand; else the scale's lever"
    elif thrust < 1:
        because = "less pitch or diameter than is printed on it, or blades that bend flat"
    else:
        because = "more pitch or diameter than is printed on it; else the scale's lever"
    return f"The propeller is off: it {told}; {because}."


def _finding(key: str, value: float, tolerance: float, origin: Origin, *uses: str) -> Finding:
    return Finding(
        key=key, value=value, tolerance=tolerance, origin=origin, route=ROUTE, uses=list(uses)
    )
