"""How hot a part may get: by its maker, else its insulation class, else the trade's figure."""

from dataclasses import dataclass
from typing import Literal

from powertrain.documents.build import Build

NodeId = Literal["winding", "case", "controller", "pack"]

NODES: tuple[NodeId, ...] = ("winding", "case", "controller", "pack")
"""What has a temperature, in the order in which it is told."""

INSULATION_C = {"A": 105.0, "E": 120.0, "B": 130.0, "F": 155.0, "H": 180.0}
"""Highest temperature of each class (IEC 60085; from memory)."""

TRADE_WINDING_C = INSULATION_C["A"]
"""Without a maker's figure or a class, that of the lowest class: a careful assumption."""

TRADE_CASE_C = 65.0
"""Case of a motor or a controller; common practice, no source (60 to 65 C)."""

TRADE_PACK_C = 60.0
"""Lithium pack; common practice, no source."""


@dataclass(frozen=True)
class Limit:
    """A highest temperature and whose figure it is."""

    value_c: float
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
        motor, letter = build.motor, build.motor.insulation_class
        if motor.max_winding_c is None and letter is not None:
            winding = Limit(INSULATION_C[letter], f"insulation class {letter}")
        else:
            careful = "the lowest insulation class, as none is stated"
            winding = _stated(motor.max_winding_c, TRADE_WINDING_C, careful)
        return cls(
            winding=winding,
            case=_stated(motor.max_case_c, TRADE_CASE_C),
            controller=_stated(build.controller.max_c, TRADE_CASE_C),
            pack=_stated(build.battery.max_c, TRADE_PACK_C),
        )


def _stated(value_c: float | None, usual_c: float, whose: str = "the trade's figure") -> Limit:
    return Limit(usual_c, whose) if value_c is None else Limit(value_c, "its maker")
