"""What a plate says that can't be true together."""

import math
from collections.abc import Iterator

from powertrain.constants import RPM_PER_RAD_S
from powertrain.identify.facts import MotorFacts
from powertrain.identify.finding import Contradiction, Finding, Origin

MOST_EFFICIENT = 0.97
"""No small motor gives more of its watts at the shaft; common practice, no source."""

PRINTED_APART = 0.15
"""What plates and lists usually differ by; common practice, no source."""


def impossible(facts: MotorFacts) -> Iterator[Contradiction]:
    """Yield the facts of a plate that can't be true together."""
    volts, amps, rpm = facts.rated_voltage_v, facts.rated_current_a, facts.rated_speed_rpm
    watts, torque = facts.rated_power_w, facts.rated_torque_nm
    taken_w = None if volts is None or amps is None else volts * amps
    turned_w = None if torque is None or rpm is None else torque * rpm / RPM_PER_RAD_S
    inputs = _of("rated_power_w", taken_w, "volts times amps")
    shaft = _of("rated_power_w", turned_w, "torque times speed")
    printed = _of("rated_power_w", watts, "the watts printed")
    if taken_w is not None and watts is not None and printed is not None and inputs is not None:
        if facts.power_is == "electrical":
            if _apart(watts, taken_w):
                say = f"{watts:g} W at the wires are not {taken_w:.4g} W of volts times amps."
                yield Contradiction(key="rated_power_w", one=printed, other=inputs, say=say)
        elif watts > MOST_EFFICIENT * taken_w and facts.power_is == "shaft":
            say = (
                f"{watts:g} W can't leave the shaft where volts times amps are {taken_w:.4g} W: "
                "these watts can only be those at the wires."
            )
            yield Contradiction(key="rated_power_w", one=printed, other=inputs, say=say)
    if turned_w is not None and shaft is not None:
        off = facts.power_is == "shaft" and watts is not None and _apart(watts, turned_w)
        if off and printed is not None:
            say = f"Torque times speed is {turned_w:.4g} W, not the {watts:g} W printed."
            yield Contradiction(key="rated_power_w", one=printed, other=shaft, say=say)
        if taken_w is not None and inputs is not None and turned_w > MOST_EFFICIENT * taken_w:
            say = f"Torque times speed is {turned_w:.4g} W, and only {taken_w:.4g} W go in."
            yield Contradiction(key="rated_torque_nm", one=shaft, other=inputs, say=say)


WARMS_UP_MIN = 45.0
"""Time constant in which such motors warm up; common practice, no source (25 to 80)."""


def lasting(facts: MotorFacts, found: object) -> Iterator[Finding]:
    """Yield the amps that a plate's duty lets flow for as long as you like.

    After t minutes from cold the copper is ``1 - exp(-t/tau)`` of the way to where its amps would
    take it, and heat goes with their square: ``I_S1 = I_S2 sqrt(1 - exp(-t/tau))`` (IEC 60034-1
    names the duties; the overload rule is a textbook's).
    """
    amps = facts.rated_current_a
    if amps is None or facts.duty is None:
        return
    uses = ["rated_current_a", "duty"]
    if facts.duty == "S1":
        yield _lasting(amps, 0.1, "the plate's S1", uses)
    elif facts.duty_min is not None:
        share = math.sqrt(1 - math.exp(-facts.duty_min / WARMS_UP_MIN))
        yield _lasting(amps * share, 0.3, f"the plate's S2 {facts.duty_min:g} min", uses)


def _lasting(amps: float, band: float, route: str, uses: list[str]) -> Finding:
    origin: Origin = "data_sheet" if band < 0.2 else "estimated"
    return Finding(
        key="continuous_current_a",
        value=amps,
        tolerance=band,
        origin=origin,
        route=route,
        uses=uses,
    )


def _apart(one: float, other: float) -> bool:
    return not 1 / (1 + PRINTED_APART) <= one / other <= 1 + PRINTED_APART


def _of(key: str, value: float | None, route: str) -> Finding | None:
    if value is None:
        return None
    return Finding(
        key=key, value=value, tolerance=0.05, origin="data_sheet", route=route, uses=[key]
    )
