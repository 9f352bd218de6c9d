"""Switching a pack on and off: filling capacitors, opening under load, what a short circuit gives.

Volts are those straight off the charger, at which everything is worst.
"""

import math

import numpy as np
from pydantic import BaseModel

from powertrain.constants import COPPER_OHM_M
from powertrain.documents.build import Build
from powertrain.errors import Refusal
from powertrain.plain import number, two_digits
from powertrain.results import most_amps
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.rules.wires import LONG_A_PER_MM2, SIZES_MM2

FILLED = 0.95
"""Share of the pack's volts at which the main contactor may close; common practice."""

WELDS_J = 0.5
"""Energy of capacitors above which contacts that close on them spark so that they weld; common
practice, no source."""

R10 = (10, 12, 16, 20, 25, 32, 40, 50, 63, 80)

FUSE_A = (*R10, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250)
"""Preferred ratings of fuse-links (IEC 60269-1, from memory; the R10 series of ISO 3)."""

LASTING_SHARE = 0.8
"""Part of its rating that a fuse should carry for long; common practice, no source."""

HOLDS = 1.25
"""Times its rating that a fuse-link carries for an hour or more (IEC 60269-1, conventional
non-fusing current of gG, from memory): peaks stay below it."""

SAFE_DRY_V = 60.0
"""IEC 60364-4-41, 414 (from memory)."""


class Precharge(BaseModel):
    """Filling the capacitors through a resistor.

    `energy_j` goes into the capacitors, and as much into the resistor; `time_s` is to 95 % of the
    volts, `first_a` and `first_w` those of the first instant.
    """

    resistor_ohm: float
    energy_j: float
    time_s: float
    first_a: float
    first_w: float


class Switchgear(BaseModel):
    """What contactor and fuse must stand at least; None where nothing tells it."""

    volts: float
    lasting_a: float | None
    most_a: float | None
    fuse_a: int | None
    breaks_a: float | None


class PackCable(BaseModel):
    """The pack's cable for each metre of way, there and back, at the lasting amps.

    `mm2` is what the document says, or the thinnest that does for long (`assumed`).
    """

    mm2: float
    assumed: bool
    ohm_per_m: float
    drop_v_per_m: float
    heat_w_per_m: float


class HighVoltsAnswer(BaseModel):
    """Pre-charge, short circuit, switchgear, and what to mind."""

    volts: float
    precharge: Precharge | None
    short_circuit_a: float | None
    switchgear: Switchgear
    cable: PackCable | None
    cautions: list[str]


def high_volts(build: Build, precharge_ohm: float | None = None) -> HighVoltsAnswer:
    """Return what connecting, cutting and shorting a pack means.

    Parameters
    ----------
    build : Build
        A build; without `controller.capacitance_uf` there is no pre-charge to tell.
    precharge_ohm : float, optional
        The resistor in ohm; without one, the one that fills the capacitors in a second.

    Raises
    ------
    Refusal
        If a resistor is named, and not what it should fill.
    """
    context = RuleContext.of(build)
    pack = context.drive.pack
    volts = float(pack.charger_v)
    filled = _precharge(build, volts, precharge_ohm)
    short_a = number(_over(volts, float(pack.resistance_ohm)))
    gear = _switchgear(context, volts, short_a)
    cautions = _cautions(volts, filled, short_a, gear)
    return HighVoltsAnswer(
        volts=volts,
        precharge=filled,
        short_circuit_a=short_a,
        switchgear=gear,
        cable=_cable(build, gear.lasting_a),
        cautions=cautions,
    )


def usual_resistor_ohm(farad: float) -> float:
    """Return a resistor that fills capacitors to 95 % in about a second, with two digits."""
    return float(f"{1 / (-math.log(1 - FILLED) * farad):.2g}")


def _precharge(build: Build, volts: float, ohm: float | None) -> Precharge | None:
    controller = build.controller
    if controller.capacitance_uf is None:
        if ohm is None:
            return None
        raise Refusal(
            "controller.capacitance_uf", "is missing; add up what is printed on its capacitors"
        )
    farad = controller.capacitance_uf * controller.count / 1e6
    if ohm is None:
        ohm = usual_resistor_ohm(farad)
    return Precharge(
        resistor_ohm=ohm,
        energy_j=0.5 * farad * volts**2,
        time_s=-math.log(1 - FILLED) * ohm * farad,
        first_a=volts / ohm,
        first_w=volts**2 / ohm,
    )


def _cable(build: Build, lasting_a: float | None) -> PackCable | None:
    """Return what the pack's cable keeps: ``2 rho l/A`` of copper (IEC 60028)."""
    if lasting_a is None:
        return None
    said = build.wiring.pack_wire_mm2
    thin = [size for size in SIZES_MM2 if size * LONG_A_PER_MM2 >= lasting_a]
    mm2 = said if said is not None else (thin or SIZES_MM2[-1:])[0]
    ohm = 2 * COPPER_OHM_M / (mm2 * 1e-6)
    return PackCable(
        mm2=mm2,
        assumed=said is None,
        ohm_per_m=ohm,
        drop_v_per_m=ohm * lasting_a,
        heat_w_per_m=ohm * lasting_a**2,
    )


def _switchgear(context: RuleContext, volts: float, short_a: float | None) -> Switchgear:
    moments = context.moments
    met = [moment for moment in (moments.climb, moments.cruise) if bool(np.all(moment.met))]
    # Somebody will drive flat out as long as it goes.
    met.append(moments.top_speed)
    lasting = [abs(float(moment.state.battery_current_a)) for moment in met]
    lasting_a = number(max(lasting)) if lasting else None
    most_a = number(float(most_amps(moments)[0]))
    need = None if lasting_a is None else lasting_a / LASTING_SHARE
    if need is not None and most_a is not None:
        need = max(need, most_a / HOLDS)
    fuse = None if need is None else next((size for size in FUSE_A if size >= need), None)
    return Switchgear(
        volts=volts, lasting_a=lasting_a, most_a=most_a, fuse_a=fuse, breaks_a=short_a
    )


def _cautions(
    volts: float, filled: Precharge | None, short_a: float | None, gear: Switchgear
) -> list[str]:
    say = []
    if volts > SAFE_DRY_V:
        say.append(
            f"{volts:.0f} V d.c. straight off the charger, above 60 V: licensed practice and local "
            "codes come first. Work with the pack split at a pull-out link, one hand, no rings; "
            "measure for nought before you touch."
        )
    else:
        say.append(
            f"{volts:.1f} V d.c. may be touched dry; a short circuit burns and sprays metal all "
            "the same. Local rules come first."
        )
    if filled is None:
        say.append(
            "The controller's capacitance is not known, so nobody can tell whether contacts weld "
            "when they close on it: add up what is printed on its capacitors, and pre-charge "
            "until then."
        )
    elif filled.energy_j > WELDS_J:
        say.append(
            f"Closing on empty capacitors frees {two_digits(filled.energy_j)} J in the contacts, "
            f"enough to weld them: pre-charge {two_digits(filled.time_s)} s first, and close only "
            f"when the capacitors have {100 * FILLED:.0f} % of the volts. The resistor takes "
            f"{filled.first_w:.0f} W for an instant and {two_digits(filled.energy_j)} J in all: a "
            "wire-wound one, not a film."
        )
    if filled is not None and filled.time_s > LONG_S:
        say.append(
            f"{filled.time_s:.0f} s of pre-charge is long to wait; somebody will bridge it. Less "
            "resistance, with the watts to match, does it in one."
        )
    if short_a is None:
        say.append(
            "The pack's resistance is nought here, so its short circuit is not known: measure the "
            "cells before a fuse is chosen."
        )
    else:
        rated = "" if gear.fuse_a is None else f" of about {gear.fuse_a} A"
        say.append(
            f"A short circuit draws {short_a:,.0f} A: one fuse{rated} in the middle of the pack or "
            f"at its terminal, whose d.c. rating is at least {volts:.0f} V and whose breaking "
            f"capacity is above that. A fuse for a.c. does not put out a d.c. arc."
        )
    if gear.most_a is not None:
        say.append(
            f"The contactor carries {gear.lasting_a or gear.most_a:.0f} A for long and must open "
            f"{gear.most_a:.0f} A at {volts:.0f} V d.c., whichever way they flow; wired so that a "
            "loose plug, a crash switch or the emergency cut drops it, with the cut in reach of "
            "whoever stands beside."
        )
    if volts > SAFE_DRY_V:
        say.append(
            "Both poles free of the frame, and measured: at least 100 ohm for each volt to the "
            f"frame, here {volts * OHM_PER_V / 1000:.0f} kohm (ISO 6469-3, from memory). Orange "
            "sheaths, an interlock through every plug and lid."
        )
    return say


LONG_S = 5.0
"""Nobody waits longer at a switch; common practice, no source."""

OHM_PER_V = 100.0
"""Isolation of a d.c. circuit for each volt (ISO 6469-3, from memory)."""


def _over(volts: float, ohm: float) -> float:
    return volts / ohm if ohm > 0 else math.inf
