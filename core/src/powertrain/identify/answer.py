"""Everything that facts tell, in one answer."""

from typing import Any

from pydantic import BaseModel

from powertrain.documents.reading import check_model
from powertrain.errors import Refusal
from powertrain.identify.cell import PackAnswer, identify_cell, pack_of
from powertrain.identify.facts import Facts, MotorFacts
from powertrain.identify.finding import Identified
from powertrain.identify.motor import identify_motor
from powertrain.identify.stand import StandAnswer, identify_stand


class IdentifyAnswer(BaseModel):
    """What is known of motor, cell, pack and stand; None for what no facts were given of."""

    motor: Identified | None
    cell: Identified | None
    pack: PackAnswer | None
    stand: StandAnswer | None


def check_facts(document: Any) -> Facts:
    """Return the facts of a plain document; raise `Refusal` if it is not valid."""
    if not isinstance(document, dict):
        raise Refusal("", "must be an object with the keys of facts")
    return check_model(Facts, document)


def identified(facts: Facts) -> IdentifyAnswer:
    """Return the answer to facts."""
    motor = None if facts.motor is None else identify_motor(facts.motor)
    stand = None
    if facts.stand is not None:
        motor, stand = identify_stand(facts.motor or MotorFacts(), facts.stand)
    cell = None if facts.cell is None else identify_cell(facts.cell)
    pack = None if facts.cell is None or cell is None else pack_of(facts.cell, cell)
    return IdentifyAnswer(motor=motor, cell=cell, pack=pack, stand=stand)
