"""What a bare propeller gives and takes."""

import json
from argparse import ArgumentParser
from typing import Any

from powertrain.arrays import scalar
from powertrain.commands.arguments import add_document, bounded, text_at
from powertrain.documents.propeller import Propeller
from powertrain.documents.reading import check_model
from powertrain.documents.text import parse
from powertrain.plain import number
from powertrain.propeller.propeller import Blades, too_fast
from powertrain.stated import Stated
from powertrain.units import mps_from_kmh

SEA_LEVEL = 1.225
"""Density of the air in which a bare propeller is asked (ISO 2533)."""


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    add_document(parser, "PROPELLER", "a propeller document")
    parser.add_argument("--rpm", type=bounded("rpm", 1e-3, 1e6), required=True)
    parser.add_argument("--speed", type=bounded("speed", 0.0, 2000.0), default=0.0)


def run(arguments: Any) -> str:
    """Return thrust, power and coefficients at a speed of turning and of the air."""
    said = check_model(Propeller, parse(text_at(arguments.document, "propeller")))
    blades = Blades.of(Stated(said), scalar(SEA_LEVEL))
    at = blades.turning(scalar(arguments.rpm / 60), scalar(mps_from_kmh(arguments.speed)))
    works = at.ct > 0 and at.cp > 0
    answer: dict[str, Any] = {
        "thrust_n": number(at.thrust_n),
        "shaft_power_w": number(at.power_w),
        "ct": number(at.ct),
        "cp": number(at.cp),
        "advance_ratio": number(at.advance),
        "efficiency": number(at.advance * at.ct / at.cp) if works else None,
    }
    fast = too_fast(float(at.tip_mps))
    if fast:
        answer["warnings"] = [{"where": "rpm", "what": fast}]
    return json.dumps(answer, allow_nan=False)
