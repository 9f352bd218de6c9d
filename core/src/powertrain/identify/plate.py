"""What a plate says that can't be true together."""

from collections.abc import Iterator

from powertrain.constants import RPM_PER_RAD_S
from powertrain.identify.facts import MotorFacts
from powertrain.identify.finding import Contradiction, Finding

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


def _apart(one: float, other: float) -> bool:
    return not 1 / (1 + PRINTED_APART) <= one / other <= 1 + PRINTED_APART


def _of(key: str, value: float | None, route: str) -> Finding | None:
    if value is None:
        return None
    return Finding(
        key=key, value=value, tolerance=0.05, origin="data_sheet", route=route, uses=[key]
    )
