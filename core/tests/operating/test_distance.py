"""How long and how far a charge goes, and how well, at the very least that can be drawn."""

import warnings
from dataclasses import replace

import numpy as np
import pytest

from core.tests.conftest import TRIKE
from powertrain.compile.build import compile_drive
from powertrain.documents.reading import check_build
from powertrain.operating.distance import hours_left, range_km
from powertrain.operating.settings import Usable
from powertrain.operating.steady import steady

BUILD = check_build(TRIKE)
DRIVE = compile_drive(BUILD)
USABLE = Usable(100.0, 10.0)
CRUISE = steady(DRIVE, np.float64(5.0), np.float64(0.0))


def test_hours_are_usable_energy_over_the_watts_drawn():
    # From full to a tenth of 13 cells of 3.7 V and 13.6 Ah: 0.9 x 654.16 Wh.
    drawn = replace(CRUISE, cells_w=np.float64(654.16))
    assert hours_left(DRIVE, USABLE, drawn) == pytest.approx(0.9)


@pytest.mark.parametrize("watts", [5e-324, 1e-308, 1e-200, 1e-4, 0.0, -3.0])
def test_next_to_nothing_lasts_for_ever_and_leads_nowhere(watts):
    drawn = replace(CRUISE, cells_w=np.float64(watts))
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        assert np.isposinf(hours_left(DRIVE, USABLE, drawn))
        assert np.isnan(range_km(DRIVE, USABLE, drawn))


@pytest.mark.parametrize(
    ("road_w", "drawn_w", "told"),
    [
        (150.0, 200.0, 0.75),
        (1e-4, 1e-308, np.nan),
        (3.0, 2.0, np.nan),
        (-5.0, 40.0, np.nan),
    ],
)
def test_no_more_comes_out_than_goes_in(road_w, drawn_w, told):
    state = replace(CRUISE, useful_w=np.float64(road_w), terminals_w=np.float64(drawn_w))
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        assert float(state.efficiency) == pytest.approx(told, nan_ok=True)
