"""How far a build, as it stands on the bench, meets a brief."""

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.match.answer import Margin, margins_of
from powertrain.match.candidates import Candidates
from powertrain.match.judged import told_of
from powertrain.stated import Stated
from powertrain.verdicts.context import RuleContext


def meets(brief: Brief, build: Build) -> dict[str, Margin]:
    """Return each wish with its figure and the room that is left.

    The build is judged as it stands: at its own cells' volts and with its own mass. What its
    toothed wheels weigh and cost is not in its document and does not count here.
    """
    motor, controller, battery = build.motor, build.controller, build.battery
    prices = (motor.price, controller.price, battery.price)
    price: Array = scalar(np.nan)
    if None not in prices:
        boxes = controller.count * (controller.price or 0)
        price = scalar(motor.count * (motor.price or 0) + boxes + (battery.price or 0))
    seen = Candidates(
        said=Stated(build),
        batch=RuleContext.of(build),
        price=price,
        added_kg=scalar(build.vehicle.mass_kg - brief.vehicle.mass_kg),
        stages=scalar(float(len(build.gearing))),
    )
    return margins_of(told_of(brief, seen))
