"""What runs along on a ride takes its watts all the time, and the ledger closes with it."""

import pytest

from core.tests.conftest import TRIKE
from powertrain.documents.run import check_run
from powertrain.runs.answer import run_answer

LAMPS = {"name": "Lamps", "power_w": 60, "driven_by": "dc_dc"}
PUMP = {"name": "Pump", "power_w": 60, "driven_by": "tail_shaft"}


def ride(*along):
    build = {**TRIKE, "auxiliaries": list(along)} if along else TRIKE
    course = {"kind": "stops", "times": 2, "to_kmh": 20, "hold_s": 60, "rest_s": 30}
    return run_answer(
        check_run({"format": "young-torrent.run/1", "build": build, "course": course})
    )


def closes(told):
    ledger = told.ledger_wh.model_dump()
    return ledger.pop("cells"), sum(ledger.values())


def test_lamps_burn_at_rest_too():
    dark, lit = ride(), ride(LAMPS)
    assert lit.time_s == dark.time_s
    hours = lit.time_s / 3600
    assert lit.ledger_wh.auxiliaries == pytest.approx(60 * hours, rel=1e-9)
    # The same ride on the road; beside the lamps only what their amps heat in the pack.
    assert lit.energy_wh - dark.energy_wh == pytest.approx(60 * hours, rel=0.01)
    cells, spent = closes(lit)
    assert cells == pytest.approx(spent, rel=1e-9)


def test_a_pump_on_the_shaft_rests_with_the_motor():
    told = ride(PUMP)
    # Two minutes of the ride it turns fast enough; at rest nothing is pumped.
    assert 60 * 120 / 3600 < told.ledger_wh.auxiliaries < 60 * told.time_s / 3600
    cells, spent = closes(told)
    assert cells == pytest.approx(spent, rel=1e-9)
