"""What a luggage scale and a flight teach a craft."""

import copy

import numpy as np
import pytest

from core.tests.operating.test_in_air import WING, ByHand
from powertrain.calibrate.answer import calibrated
from powertrain.compile.build import compile_drive
from powertrain.documents.log import check_log
from powertrain.documents.reading import check_build
from powertrain.doubt.draws import Doubt
from powertrain.operating.in_air import in_air


def plain():
    document = copy.deepcopy(WING)
    document["propeller"].pop("table")
    return document


def log(*observations):
    return check_log(
        {
            "format": "young-torrent.log/1",
            "runs": [{"id": "field", "observations": list(observations)}],
        }
    )


def test_a_scale_teaches_what_the_propeller_gives_and_takes_and_the_build_keeps_it():
    """The true craft has the table's propeller, by hand; the build only knows its size."""
    hand = ByHand(WING)
    turns = hand.turns(0.0)
    amps = hand.amps(turns)
    volts = hand.volts - amps * 3 * 0.006
    seen = {
        "kind": "static",
        "thrust_n": hand.thrust(0.0),
        "motor_rpm": 60 * turns,
        "battery_current_a": amps,
        "battery_voltage_v": volts,
    }
    free = {"kind": "free", "motor_rpm": 30 / np.pi * (hand.volts - 1.2 * hand.ohm) / hand.kt}
    told = calibrated(check_build(plain()), log(seen, free))
    inputs = {one.path: one for one in told.inputs}
    share = inputs["propeller.thrust_share"]
    assert share.moved
    assert share.after[2] - share.after[0] < 0.5 * (share.before[2] - share.before[0])
    assert told.contradictions == []
    fitted = check_build(told.build)
    assert fitted.propeller.static is not None
    assert fitted.provenance["propeller.static.thrust_n"].origin == "fitted"
    thrust = float(in_air(compile_drive(fitted)).standing().force_n)
    assert thrust == pytest.approx(hand.thrust(0.0), rel=0.02)
    known = {item.path: item for item in Doubt.of(fitted).inputs}["propeller.thrust_share"]
    assert 1 + known.tolerance == pytest.approx(share.after[2] / share.after[1], rel=1e-6)


def test_a_top_speed_teaches_a_wing_its_drag():
    sleek = copy.deepcopy(WING)
    sleek["vehicle"]["zero_lift_drag"] = 0.028
    kmh = 3.6 * ByHand(sleek).top()
    told = calibrated(check_build(WING), log({"kind": "top_speed", "speed_kmh": kmh}))
    drag = next(one for one in told.inputs if one.path == "vehicle.zero_lift_drag")
    assert drag.moved
    assert drag.after[1] < drag.before[1]
    assert told.measure_next is not None


def test_a_static_reading_of_wheels_is_what_no_such_vehicle_gives(trike):
    told = calibrated(check_build(trike), log({"kind": "static", "thrust_n": 20.0}))
    assert not any(one.moved for one in told.inputs)
