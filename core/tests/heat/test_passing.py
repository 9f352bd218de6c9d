"""Times read between the rows of a table."""

import numpy as np
import pytest

from powertrain.heat.passing import seconds_at_nought

TIMES = np.geomspace(0.1, 100.0, 40)[:, None]


def test_a_logarithm_passes_nought_where_it_does():
    # Of over = ln(t/T) a table on logarithmic times leaves no error at all.
    moments = np.array([0.37, 2.0, 61.5])
    assert seconds_at_nought(TIMES, np.log(TIMES / moments)) == pytest.approx(moments, rel=1e-12)


def test_what_passes_never_or_from_the_start_on_has_no_time_of_its_own():
    over = np.stack([np.full(40, -1.0), np.full(40, 3.0)], axis=1)
    assert seconds_at_nought(TIMES, over).tolist() == [np.inf, TIMES[0, 0]]


def test_each_column_may_have_times_of_its_own():
    # Straight lines through 5 and 50 s, read to what a table of twelve rows to tenfold gives.
    own = TIMES * np.array([1.0, 7.0])
    found = seconds_at_nought(own, own - np.array([5.0, 50.0]))
    assert found == pytest.approx([5.0, 50.0], rel=0.02)
