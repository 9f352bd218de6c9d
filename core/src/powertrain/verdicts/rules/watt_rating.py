"""The watts printed on the can, on the side the maker means."""

from collections.abc import Iterator

from powertrain.arrays import Array
from powertrain.operating.state import State
from powertrain.stated import unstated
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.moments import in_words, lasting, moment_at, worst_among
from powertrain.verdicts.rule import NEAR, Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Electrical watts go in at the wires, shaft watts come out; makers print either."""
    motor = batch.ratings.motor
    if unstated(motor.max_power_w):
        return

    def watts(state: State) -> Array:
        if motor.shaft_power:
            return state.shaft_w / batch.drive.motor.count
        return state.motor_voltage_v * state.motor_current_a

    worst = worst_among(lasting(batch), watts)
    severity = grades(watch=worst.value > NEAR * motor.max_power_w)
    yield Judgement("watt_rating", worst.value, motor.max_power_w, severity, at=worst.place)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how many of the printed watts are used."""
    side = "at the shaft" if context.ratings.motor.shaft_power else "at the wires"
    unsaid = " Its maker does not say which watts; taken as electrical."
    moment = moment_at(context, found.at)
    title = f"{float(found.value):.0f} W {side} of {float(found.limit):g} W on the can"
    why = f"One motor, {in_words(context, moment)}. Heat decides, not the print."
    why += "" if context.build.motor.power_is else unsaid
    return verdict(found, "motor", title, why, unit="W", moment=moment.id)


RULE = Rule(judge, say)
