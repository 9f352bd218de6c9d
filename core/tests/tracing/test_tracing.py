"""What is traced and compiled against the same code run by NumPy on whole arrays."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ops.draws import examples
from powertrain.tracing.compiled import KEPT, LANES, loop_of
from powertrain.tracing.program import Program
from powertrain.tracing.trace import Trace
from powertrain.tracing.traced import (
    TracedArray,
    Untraceable,
    any_set_aside,
    set_aside,
    traced_input,
)

ODD = [0.0, -0.0, 1.0, -1.0, 0.5, 2.0, -3.25, 1e-300, 1e300, np.inf, -np.inf, np.nan]


def inputs():
    trace = Trace()
    return trace, traced_input(trace, "slow", quick=False), traced_input(trace, "x", quick=True)


def both_ways(code, slow, begins, x):
    """Run code traced, and by NumPy with each row's number beside every candidate."""
    trace, s, q = inputs()
    program = Program(trace, {"outcome": code(s, q)})
    found = program.run({"slow": slow}, begins, {"x": x})["outcome"]
    with np.errstate(all="ignore"):
        return found, np.broadcast_to(code(np.repeat(slow, np.diff(begins)), x), x.shape)


EXACT = {
    "arithmetic": lambda s, x: (x + s) * x - s / x + (-x) * 3,
    "roots and sizes": lambda s, x: np.sqrt(np.abs(x)) + x**2 + np.square(s) + np.abs(s) ** 0.5,
    "greatest and least": lambda s, x: np.maximum(x, s) - np.minimum(x, 2.0),
    "what is known counts": lambda s, x: np.fmin(x, s) + np.fmax(x, 1.0),
    "clipped": lambda s, x: np.clip(x, -1.0, 2.5) + np.clip(s, 0.0, None),
    "signs": lambda s, x: np.sign(x) + 2 * np.sign(s),
    "chosen": lambda s, x: np.where((x > s) & ~(x > 1) | (s <= 0), x, s * 2),
    "truths as numbers": lambda s, x: (x >= s) * 2.0 + np.where(x != x, 1.0, 0.0),
    "truths chosen": lambda s, x: np.where(x > 0, s > 0, x < s) + 0.0,
    "what is no number": lambda s, x: np.nan_to_num(x / s, nan=7.0, posinf=8.0, neginf=-9.0),
    "finite or not": lambda s, x: np.isfinite(x) + 2.0 * np.isnan(s) + 4.0 * np.isposinf(x),
    "in order": lambda s, x: np.sort(np.stack([x, s, x - s], axis=-1), axis=-1)[..., 1],
    "sums along an axis": lambda s, x: np.stack([x, s, s * x]).sum(axis=0),
    "greatest along an axis": lambda s, x: np.stack([x, s, s * x], axis=-1).max(axis=-1),
    "any along an axis": lambda s, x: np.any(np.stack([x > s, x < 0]), axis=0) + 0.0,
    "all along an axis": lambda s, x: np.all(np.stack([x > s, x < 9]), axis=0) + 0.0,
    "moved about": lambda s, x: np.concatenate([np.reshape(x, (1, -1)), np.reshape(s, (1, -1))])[1],
    "nothing traced in it": lambda s, x: np.zeros_like(x) + np.float64(3.0),
}


@pytest.mark.parametrize("name", EXACT)
def test_arithmetic_gives_the_very_numbers_that_numpy_gives(name):
    slow = np.array(ODD)
    x = np.tile(ODD, len(slow))
    found, wanted = both_ways(EXACT[name], slow, np.arange(len(slow) + 1) * len(ODD), x)
    np.testing.assert_array_equal(found, wanted)


@pytest.mark.parametrize(
    "function",
    [
        np.exp,
        np.expm1,
        np.log,
        np.log1p,
        np.sin,
        np.cos,
        np.tan,
        np.arctan,
        np.tanh,
        lambda value: np.abs(value) ** 0.618,
        lambda value: np.hypot(value, 0.75),
    ],
)
def test_functions_agree_with_numpy_to_a_few_last_digits(function):
    slow, x = np.linspace(-2, 2, 9), np.linspace(-4, 4, 9 * 21)
    found, wanted = both_ways(
        lambda s, q: function(q) - function(s) / 3, slow, np.arange(10) * 21, x
    )
    np.testing.assert_allclose(found, wanted, rtol=1e-14, atol=1e-15)


@examples(60)
@given(st.lists(st.integers(0, 3 * LANES), min_size=1, max_size=6), st.data())
def test_rows_of_any_length_keep_to_their_own_numbers(lengths, data):
    begins = np.concatenate([[0], np.cumsum(lengths)])
    slow = np.array(
        data.draw(st.lists(st.floats(-9, 9), min_size=len(lengths), max_size=len(lengths)))
    )
    x = np.arange(float(begins[-1]))
    found, wanted = both_ways(lambda s, q: s * 1000 + q, slow, begins, x)
    np.testing.assert_array_equal(found, wanted)


def test_behind_a_shut_gate_what_was_said_holds_and_the_rest_is_as_without_it():
    trace, s, q = inputs()
    goes_on, costly = q > s, np.expm1(q) * s
    reason = np.where(goes_on, np.where(costly > 3, 2.0, 0.0), 1.0)
    early = np.where(goes_on, 0.0, 1.0)
    program = Program(trace, {"reason": reason, "costly": costly}, [(goes_on, {"reason": early})])
    slow, begins = np.array([1.0, 50.0, 2.0]), np.array([0, 20, 45, 60])
    x = np.linspace(0, 4, 60)
    found = program.run({"slow": slow}, begins, {"x": x})
    by_row = np.repeat(slow, np.diff(begins))
    wanted = np.where(x > by_row, np.where(np.expm1(x) * by_row > 3, 2.0, 0.0), 1.0)
    np.testing.assert_array_equal(found["reason"], wanted)
    on = x > by_row
    np.testing.assert_allclose(found["costly"][on], (np.expm1(x) * by_row)[on], rtol=1e-14)


def test_the_same_is_noted_once_and_what_only_looks_the_same_twice():
    trace, s, q = inputs()
    assert (q * s + 1.0).item() is (q * s + 1.0).item()
    truths, numbers = np.where(q > s, True, False), np.where(q > s, 1.0, 0.0)
    assert truths.item().is_truth
    assert not numbers.item().is_truth
    outputs = {"one": 1 / np.where(q > s, 0.0, q), "other": 1 / np.where(q > s, -0.0, q)}
    program = Program(trace, outputs)
    found = program.run({"slow": np.zeros(1)}, np.array([0, 1]), {"x": np.ones(1)})
    assert found["one"][0] == np.inf
    assert found["other"][0] == -np.inf


def test_whether_any_or_all_are_so_takes_the_general_way():
    _, s, q = inputs()
    assert (q > s).any()
    assert not (q > s).all()
    assert not np.any(np.isfinite(s) & False)
    assert np.all(np.isfinite(s) | True)


@pytest.mark.parametrize(
    "code",
    [
        lambda s, q: 1 if q > s else 2,
        lambda s, q: float((q + s)[0].item()),
        lambda s, q: np.arange(4)[q > s],
        lambda s, q: np.floor(q),
        lambda s, q: q.__setitem__(0, 1.0),
        lambda s, q: [s.item() + q.item()],
        lambda s, q: np.add(q, s, out=np.zeros(1)),
    ],
)
def test_what_depends_on_the_numbers_themselves_is_refused(code):
    _, s, q = inputs()
    with pytest.raises((Untraceable, IndexError)):
        code(s, q)


def test_what_is_left_over_is_told_of_each_candidate():
    trace, s, q = inputs()
    assert set_aside(q > s) is False
    assert set_aside(np.array([False])) is False
    assert set_aside(np.array([False, True])) is True
    rest = any_set_aside(trace)
    assert isinstance(rest, TracedArray)
    x = np.linspace(-1, 1, 11)
    found = Program(trace, {"rest": rest}).run(
        {"slow": np.array([0.3])}, np.array([0, 11]), {"x": x}
    )
    np.testing.assert_array_equal(found["rest"], x > 0.3)
    with pytest.raises(Untraceable):
        set_aside(np.stack([q > s, np.array([True])]))


def test_loops_come_and_go_in_one_process():
    # More than are kept compiled, so that the first ones are given up on the way.
    x, texts = np.linspace(-1, 1, 5), loop_of.cache_info().misses
    for number in range(200):
        # Each has a text of its own: additions and subtractions by the bits of its number.
        ways = [np.add if number >> bit & 1 else np.subtract for bit in range(8)]

        def code(s, q, ways=ways):
            for way in ways:
                q = way(q * 2.0, s)
            return q

        found, wanted = both_ways(code, np.array([0.5]), np.array([0, 5]), x)
        np.testing.assert_array_equal(found, wanted)
    assert loop_of.cache_info().misses - texts == 200 > 3 * KEPT
