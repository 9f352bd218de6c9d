"""The watts printed on the can, on the side the maker means."""

from collections.abc import Iterator

from powertrain.operating.state import State
from powertrain.verdicts.verdict import Case, Verdict, in_words, lasting, severity_of


def judge(case: Case) -> Iterator[Verdict]:
    """Electrical watts go in at the wires, shaft watts come out; makers print either."""
    motor = case.build.motor
    if motor.max_power_w is None:
        return
    electrical = motor.power_is != "shaft"

    def watts(state: State) -> float:
        if electrical:
            return float(state.motor_voltage_v * state.motor_current_a)
        return float(state.shaft_w) / motor.count

    worst = max(lasting(case), key=lambda moment: watts(moment.state))
    value = watts(worst.state)
    side = "at the wires" if electrical else "at the shaft"
    unsaid = "" if motor.power_is else " Its maker does not say which watts; taken as electrical."
    severity = severity_of(value, motor.max_power_w)
    yield Verdict(
        id="watt_rating",
        part="motor",
        title=f"{value:.0f} W {side} of {motor.max_power_w:g} W on the can",
        severity="watch" if severity == "stop" else severity,
        value=value,
        limit=motor.max_power_w,
        unit="W",
        moment=worst.id,
        why=f"One motor, {in_words(case, worst)}. Heat decides, not the print.{unsaid}",
        fix=None,
    )
