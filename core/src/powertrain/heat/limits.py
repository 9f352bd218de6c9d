"""How hot a part may get: by its maker, else its insulation class, else what is usual for its size.

Past that, when it is burnt: beyond what insulation, solder or cells survive there is no temperature
to be told any more, only the time at which it was reached.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.documents.build import Build
from powertrain.documents.motor import MotorDocument
from powertrain.heat.estimate import motor_body
from powertrain.motor.of_document import motor_of

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
class Limit:
    """A highest temperature and whose figure it is."""

    value_c: Array
    source: str


@dataclass(frozen=True)
class Limits:
    """The highest temperatures of a build's parts."""

    winding: Limit
    case: Limit
    controller: Limit
    pack: Limit

    @classmethod
    def of(cls, build: Build) -> "Limits":
        """Return the limits of a document, from the best source for each."""
        case, winding = _motor(build.motor, in_wheel=not build.gearing)
        return cls(
            winding=winding,
            case=case,
            controller=_stated(build.controller.max_c, TRADE_CONTROLLER_C, "the trade's figure"),
            pack=_stated(build.battery.max_c, TRADE_PACK_C, "the trade's figure"),
        )

    def burnt_c(self, node: NodeId) -> Array:
        """Return the temperature beyond which nothing is left of a part."""
        limit: Limit = getattr(self, node)
        return np.maximum(BURNT_C[node], 1.1 * limit.value_c)

    def or_burnt(self, node: NodeId, reached_c: Array) -> Array:
        """Return temperatures, infinite where the part is burnt."""
        burnt: Array = np.where(reached_c > self.burnt_c(node), np.inf, reached_c)
        return burnt


def _stated(value_c: float | None, usual_c: float, whose: str) -> Limit:
    return Limit(scalar(usual_c), whose) if value_c is None else Limit(scalar(value_c), "its maker")


def _motor(motor: MotorDocument, in_wheel: bool) -> tuple[Limit, Limit]:
    """Return the limits of case and winding."""
    letter, stated = motor.insulation_class, (motor.max_case_c, motor.max_winding_c)
    usual, size = _usual(motor, stated, in_wheel)
    by_class = None
    if letter is not None:
        copper_c = INSULATION_C[letter]
        by_class = (copper_c - CASE_BELOW_WINDING_K, copper_c)
        words = (f"usual in insulation class {letter}", f"insulation class {letter}")
    found = []
    for place, value_c in enumerate(stated):
        if value_c is not None:
            found.append(Limit(scalar(value_c), "its maker"))
        elif by_class is not None:
            found.append(Limit(scalar(by_class[place]), words[place]))
        else:
            found.append(Limit(usual[place], f"usual for {size}, as none is stated"))
    return found[0], found[1]


def _usual(
    motor: MotorDocument, stated: tuple[float | None, ...], in_wheel: bool
) -> tuple[tuple[Array, Array], str]:
    """Return what case and winding of a motor of its size usually stand, and the size in words."""
    if motor.insulation_class is not None or None not in stated:
        return (scalar(HOBBY_C[0]), scalar(HOBBY_C[1])), ""
    constant = motor_of(motor).constant_nm_per_root_w
    mass_kg = motor_body(motor, constant, in_wheel=in_wheel).mass_kg
    hobby, small = mass_kg <= HOBBY_KG, mass_kg <= SMALL_KG
    case_c, winding_c = (
        np.where(hobby, HOBBY_C[at], np.where(small, SMALL_C[at], LARGE_C[at])) for at in (0, 1)
    )
    size = "a motor of its size"
    if np.ndim(mass_kg) == 0:
        size = "a model's motor" if hobby else "a small motor" if small else "a large motor"
    return (case_c, winding_c), size
