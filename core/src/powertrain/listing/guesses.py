"""What a listing leaves out and a part can't do without, guessed from what it says."""

from collections.abc import Callable
from typing import Any

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.identify.cell import MOHM, identify_cell
from powertrain.identify.facts import CellFacts, MotorFacts
from powertrain.identify.motor import identify_motor
from powertrain.listing.pattern import ListedKind

Guesses = dict[str, tuple[float | str | None, str]]
"""Guesses by their place in the part, each with where it comes from."""

CONTROLLER_OHM = 0.004
"""Path resistance that stands for an unknown one; common practice, no source."""


FREE_OF_STALLED = 0.01
"""Free amps over stalled ones; common practice, no source."""


def guessed(kind: ListedKind, inner: dict[str, Any], facts: dict[str, Any]) -> Guesses:
    """Return guesses for a part whose own figures are `inner`, with the `facts` beside them."""
    return RULES[kind](inner, facts)


def _of_motor(inner: dict[str, Any], facts: dict[str, Any]) -> Guesses:
    known = {key: inner[key] for key in inner if key in MotorFacts.model_fields}
    known |= {key: facts[key] for key in facts if key in MotorFacts.model_fields}
    # A listing says it in words of its own.
    if known.pop("duty", None) is not None:
        known["duty"] = "S1"
    elif "duty_min" in known:
        known["duty"] = "S2"
    if "free_speed_rpm" not in known:
        known.pop("free_voltage_v", None)
    if "no_load_current_a" in inner and "free_voltage_v" in known:
        known["free_current_a"] = inner["no_load_current_a"]
    if "rated_power_w" not in known and "power_w" in facts:
        known["rated_power_w"] = facts["power_w"]
    if known.get("kind") == "series_wound" and "amps" in facts:
        known["rated_current_a"] = facts["amps"]
    found = identify_motor(MotorFacts.model_validate(known)).values
    return _by_its_losses(known) | {
        key: (
            float(f"{one.value:.2g}"),
            f"by {one.route}, good to a factor of {1 + one.tolerance:.2g}",
        )
        for key, one in found.items()
    }


def _by_its_losses(known: dict[str, Any]) -> Guesses:
    """Return a resistance where nothing is known but a free run: who has nothing else goes on.

    Free, a motor draws about a hundredth of what it would draw stalled.
    """
    amps, volts = known.get("free_current_a"), known.get("free_voltage_v")
    if not amps or not volts or known.get("kind") == "series_wound":
        return {}
    ohm = float(f"{FREE_OF_STALLED * volts / amps:.2g}")
    return {"resistance_ohm": (ohm, "usual with such a free run, good to a factor of 3")}


def _of_controller(inner: dict[str, Any], facts: dict[str, Any]) -> Guesses:
    return {"resistance_ohm": (CONTROLLER_OHM, "usual, good to a factor of 3")}


def _of_cells(inner: dict[str, Any], facts: dict[str, Any]) -> Guesses:
    chemistry = inner.get("chemistry", "li_ion")
    capacity, amps = inner.get("cell_capacity_ah"), inner.get("continuous_current_a")
    rating = facts.get("c_rating")
    if rating is None and capacity and amps:
        rating = amps / (capacity * inner.get("parallel", 1))
    told = {"chemistry": chemistry, "cell_capacity_ah": capacity, "c_rating": rating}
    found = identify_cell(CellFacts.model_validate(told)).values.get(MOHM)
    rests_v = CHEMISTRIES[chemistry].nominal_v
    guesses: Guesses = {
        "chemistry": (chemistry, "the most usual"),
        "cell_voltage_v": (rests_v, "what such a cell rests at half full"),
    }
    if found is not None:
        why = f"by {found.route}, good to a factor of {1 + found.tolerance:.2g}"
        guesses[MOHM] = (float(f"{found.value:.2g}"), why)
    return guesses


RULES: dict[ListedKind, Callable[[dict[str, Any], dict[str, Any]], Guesses]] = {
    "motors": _of_motor,
    "controllers": _of_controller,
    "packs": _of_cells,
    "propellers": lambda inner, facts: {},
}
