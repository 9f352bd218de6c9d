"""How hot a part may get: by its maker, else its insulation class, else what is usual for its size.

Past that, when it is burnt: beyond what insulation, solder or cells survive there is no temperature
to be told any more, only the time at which it was reached.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.heat.estimate import motor_body
from powertrain.heat.parameters import in_wheel
from powertrain.motor.kinds import motor_of
from powertrain.stated import Stated

NodeId = Literal["winding", "case", "controller", "pack"]

NODES: tuple[NodeId, ...] = ("winding", "case", "controller", "pack")
"""What has a temperature, in the order in which it is told."""

BURNT_C: dict[NodeId, float] = {"winding": 400.0, "case": 400.0, "controller": 300.0, "pack": 200.0}
"""Enamel is charred and magnets are gone, solder has run, cells have vented; common practice, no
source. A part whose maker allows more burns a tenth above that."""

INSULATION_C = {"A": 105.0, "E": 120.0, "B": 130.0, "F": 155.0, "H": 180.0}
"""Highest temperature of each class (IEC 60085; from memory)."""

CASE_BELOW_WINDING_K = 40.0
"""A case stays so far below the hottest copper of a motor at its limit; common practice, no source
(30 to 50 K)."""

HOBBY_KG, SMALL_KG = 1.5, 6.0
"""Mass up to which a motor counts as one of a model, and as a small one of a cycle or cart."""

HOBBY_C, SMALL_C, LARGE_C = (65.0, 105.0), (80.0, 130.0), (100.0, 155.0)
"""Case and winding without a maker's figure, by those sizes: motors of models are rated by what a
hand stands (60 to 65 C) and wound in class A, small industrial ones in B, large ones in F; common
practice, no source."""

TRADE_CONTROLLER_C = 65.0
"""Case of a controller; common practice, no source (60 to 65 C)."""

TRADE_PACK_C = 60.0
"""Lithium pack; common practice, no source."""


@dataclass(frozen=True)
class TemperatureLimits:
    """The highest temperatures of a build's parts, in degrees C; see `limit_sources` for whose."""

    winding: Array
    case: Array
    controller: Array
    pack: Array

    def of(self, node: NodeId) -> Array:
        """Return the highest temperature of a node."""
        limit_c: Array = getattr(self, node)
        return limit_c

    def burnt_c(self, node: NodeId) -> Array:
        """Return the temperature beyond which nothing is left of a part."""
        return np.maximum(BURNT_C[node], 1.1 * self.of(node))

    def or_burnt(self, node: NodeId, reached_c: Array) -> Array:
        """Return temperatures, infinite where the part is burnt."""
        burnt: Array = np.where(reached_c > self.burnt_c(node), np.inf, reached_c)
        return burnt


def temperature_limits(build: Stated) -> TemperatureLimits:
    """Return the limits of a document, from the best source for each."""
    case_c, winding_c = _motor(build)
    return TemperatureLimits(
        winding=winding_c,
        case=case_c,
        controller=build.under("controller").number("max_c", TRADE_CONTROLLER_C),
        pack=build.under("battery").number("max_c", TRADE_PACK_C),
    )


def _motor(build: Stated) -> tuple[Array, Array]:
    """Return the limits of case and winding."""
    said, keys = build.under("motor"), ("max_case_c", "max_winding_c")
    if said.states(*keys):
        usual = (scalar(0.0), scalar(0.0))
    elif said.word("insulation_class") is not None:
        copper_c = INSULATION_C[said.word("insulation_class")]
        usual = (scalar(copper_c - CASE_BELOW_WINDING_K), scalar(copper_c))
    else:
        usual = _usual(_mass_kg(build))
    case_c, winding_c = (
        said.number(key) if said.states(key) else usual_c
        for key, usual_c in zip(keys, usual, strict=True)
    )
    return case_c, winding_c


def _mass_kg(build: Stated) -> Array:
    """Return the mass of one motor, guessed from its constants where nothing else is stated."""
    motor = build.under("motor")
    constant = motor_of(motor).constant_nm_per_root_w
    return motor_body(motor, constant, in_wheel=in_wheel(build)).mass_kg


def _usual(mass_kg: Array) -> tuple[Array, Array]:
    """Return what case and winding of a motor of its size usually stand."""
    hobby, small = mass_kg <= HOBBY_KG, mass_kg <= SMALL_KG
    case_c, winding_c = (
        np.where(hobby, HOBBY_C[at], np.where(small, SMALL_C[at], LARGE_C[at])) for at in (0, 1)
    )
    return case_c, winding_c


def limit_sources(build: Stated) -> dict[NodeId, str]:
    """Return whose figure each limit of one build is, as people say it."""
    motor = build.under("motor")
    letter = motor.word("insulation_class")
    if letter is None:
        mass_kg, size = float(_mass_kg(build)), "a large motor"
        if mass_kg <= SMALL_KG:
            size = "a model's motor" if mass_kg <= HOBBY_KG else "a small motor"
        usual_case = usual_winding = f"usual for {size}, as none is stated"
    else:
        usual_case = f"usual in insulation class {letter}"
        usual_winding = f"insulation class {letter}"
    places: dict[NodeId, tuple[Stated, str, str]] = {
        "winding": (motor, "max_winding_c", usual_winding),
        "case": (motor, "max_case_c", usual_case),
        "controller": (build.under("controller"), "max_c", "the trade's figure"),
        "pack": (build.under("battery"), "max_c", "the trade's figure"),
    }
    return {
        node: "its maker" if said.states(key) else usual
        for node, (said, key, usual) in places.items()
    }
