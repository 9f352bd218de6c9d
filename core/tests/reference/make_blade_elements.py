"""Writes blade_elements.json: thrust and power of propellers by another implementation.

That is CCBlade, the blade-element code of the registry's package ``wisdem`` (4.2.9), a solver in
Fortran that a rotor taking power out of the wind was written for; a propeller is the same rotor
with its sections turned over. It is given the generic blade and section at one Reynolds number,
without compressibility. Run in an environment with numpy, scipy, openmdao and ``wisdem``:

    PYTHONPATH=core/src python core/tests/reference/make_blade_elements.py
"""

import importlib.util
import json
import sys
import types
from pathlib import Path

import numpy as np

from powertrain.propeller.blade import HUB, chord_over_radius
from powertrain.propeller.section import GENERIC

REYNOLDS, DIAMETER_M, TURNS = 1e5, 0.25, 100.0


def _ccblade():
    # The package's own front door asks for much that the blade elements do not need.
    spec = importlib.util.find_spec("wisdem")
    package = types.ModuleType("wisdem")
    package.__path__ = list(spec.submodule_search_locations)
    sys.modules["wisdem"] = package
    from wisdem.ccblade.ccblade import CCAirfoil, CCBlade

    return CCAirfoil, CCBlade


def main():
    airfoil, rotor = _ccblade()
    degrees = np.linspace(-180, 180, 1441)
    # Turned over: what lifts one way as a propeller lifts the other way as a windmill.
    lift, drag = GENERIC.lift_drag(np.radians(-degrees), np.full(1441, REYNOLDS), np.zeros(1441))
    section = airfoil(degrees, [REYNOLDS], -lift[:, None], drag[:, None])
    edges = np.linspace(HUB, 1, 81)
    shares = (edges[1:] + edges[:-1]) / 2
    radius = DIAMETER_M / 2
    cases = []
    for blades in (2, 3, 4, 6):
        chord = chord_over_radius(shares, blades) * radius
        for pitch in (0.3, 0.5, 0.8, 1.2, 1.6):
            twist = np.degrees(np.arctan(pitch / (np.pi * shares)))
            own = rotor(
                shares * radius, chord, twist, [section] * 80, HUB * radius, radius, blades,
                1.225, 1.81e-5, shearExp=0.0, tiploss=True, hubloss=False,
            )  # fmt: skip
            for share in (0.1, 0.35, 0.6, 0.85):
                advance = share * pitch
                told, _ = own.evaluate(
                    [advance * TURNS * DIAMETER_M], [TURNS * 60], [0.0], coefficients=False
                )
                ct = -told["T"][0] / (1.225 * TURNS**2 * DIAMETER_M**4)
                cp = -told["P"][0] / (1.225 * TURNS**3 * DIAMETER_M**5)
                cases.append(
                    {"blades": blades, "pitch_ratio": pitch, "advance_ratio": advance,
                     "ct": round(float(ct), 6), "cp": round(float(cp), 6)}
                )  # fmt: skip
    path = Path(__file__).with_name("blade_elements.json")
    path.write_text(json.dumps(cases, indent=0) + "\n")


if __name__ == "__main__":
    main()
