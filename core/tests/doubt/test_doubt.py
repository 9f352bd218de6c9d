"""Tolerances, draws and bands, against analytic cases and properties."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.tests.conftest import document_with
from core.tests.strategies import builds
from ops.draws import examples
from powertrain.compile.build import compile_build, compile_drive
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.doubt.bands import bands_of, shares_of
from powertrain.doubt.draws import DRAWS, Doubt, variants
from powertrain.doubt.tolerances import doubtful_inputs
from powertrain.operating.free import free_running_full
from powertrain.results import figures_of, results_of


def known(**tolerances):
    """Return provenance that makes everything exact but what is named."""
    build = check_build(document_with({}))
    exact = {
        item.path: {"origin": "measured", "tolerance_pct": 0} for item in doubtful_inputs(build)
    }
    doubtful = {
        path.replace("__", "."): {"origin": "measured", "tolerance_pct": pct}
        for path, pct in tolerances.items()
    }
    return {**exact, **doubtful}


def free_rpm(build, doubt):
    many = variants(build, doubt)
    return free_running_full(many.compiled.drive).motor_rpm


def test_a_tolerance_is_met_four_times_in_five():
    # Free rpm goes with KV, so that its band is KV's own: a factor of 1.1 either way.
    build = check_build(
        document_with({"provenance": known(motor__kv_rpm_per_v=10), "motor.no_load_current_a": 0})
    )
    rpm = free_rpm(build, Doubt.of(build))
    low, middle, high = bands_of(rpm[1 : 1 + DRAWS])
    assert [low / rpm[0], middle / rpm[0], high / rpm[0]] == pytest.approx(
        [1 / 1.1, 1, 1.1], rel=4e-3
    )
    within = np.mean((rpm[1:] > rpm[0] / 1.1) & (rpm[1:] < rpm[0] * 1.1))
    assert within == pytest.approx(0.8, abs=0.02)


def test_origins_are_ordered_and_a_stated_tolerance_goes_first():
    def tolerance(origin, pct=None):
        said = {"origin": origin} | ({} if pct is None else {"tolerance_pct": pct})
        build = check_build(document_with({"provenance": {"motor.kv_rpm_per_v": said}}))
        return next(i for i in doubtful_inputs(build) if i.path == "motor.kv_rpm_per_v").tolerance

    wide = [tolerance(origin) for origin in ("measured", "data_sheet", "estimated", "default")]
    assert wide == sorted(wide)
    assert len(set(wide)) == 4
    assert tolerance("default", 3) == pytest.approx(0.03)


def test_losses_are_drawn_not_efficiencies():
    build = check_build(document_with({"gearing.0.efficiency": 0.98}))
    many = variants(build, Doubt.of(build))
    drawn = many.compiled.drive.train.efficiencies[0]
    assert np.all((drawn > 0) & (drawn < 1))


def test_the_first_row_is_the_build_as_it_stands():
    build = check_build(document_with({}))
    many = variants(build, Doubt.of(build), [{"battery.series": 14}], draws=8, paired=4)
    assert many.changes.tolist() == [0] * 9 + [1] * 5
    assert many.draws.tolist() == [-1, *range(8), -1, *range(4)]
    alone = compile_drive(build)
    assert many.compiled.drive.pack.open_circuit_v[0] == alone.pack.open_circuit_v
    assert many.compiled.drive.motor.constant_nm_per_a[0] == alone.motor.constant_nm_per_a


def test_a_draw_of_a_change_is_the_same_draw_of_the_build():
    build = check_build(document_with({}))
    many = variants(build, Doubt.of(build), [{"battery.series": 26}], draws=8, paired=8)
    volts = many.compiled.drive.pack.open_circuit_v
    assert volts[10:].tolist() == pytest.approx((2 * volts[1:9]).tolist())
    assert many.compiled.drive.motor.resistance_ohm[10:].tolist() == pytest.approx(
        many.compiled.drive.motor.resistance_ohm[1:9].tolist()
    )


@examples(12)
@given(builds(), st.integers(2, 20))
def test_variants_are_what_their_documents_would_be(document, cells):
    build = check_build(document)
    change = {"battery.series": cells}
    many = variants(build, Doubt.of(build), [change], draws=2)
    figures = figures_of(many.compiled, results_of(many.compiled, fine=False, timed=False))
    other = compile_build(check_build(changed(document, change)))
    told = figures_of(other, results_of(other, fine=False, timed=False))
    # Launch and cruise are asked as of the first build, which the other's own are not.
    for key in ("top_speed_kmh", "climb_kmh"):
        wanted = float(told[key])
        got = float(np.broadcast_to(figures[key], (4,))[3])
        assert got == pytest.approx(wanted, rel=1e-5, abs=1e-6), key


@examples(100)
@given(st.lists(st.floats(-1e6, 1e6), min_size=5, max_size=60))
def test_bands_are_ordered_and_contain_the_median(samples):
    low, middle, high = bands_of(np.array(samples))
    assert low <= middle <= high
    assert middle == pytest.approx(float(np.median(samples)), rel=1e-9, abs=1e-9)


def test_bands_agree_with_another_quantile():
    samples = np.random.default_rng(3).normal(size=(4, 256))
    wanted = np.quantile(samples, [0.1, 0.5, 0.9], axis=-1).T
    assert bands_of(samples) == pytest.approx(wanted)


def test_a_band_may_end_in_never():
    samples = np.array([1.0] * 8 + [np.inf] * 4)
    low, _, high = bands_of(samples)
    assert low == 1
    assert np.isinf(high)


def test_shares_are_the_parts_of_the_variance():
    build = check_build(document_with({}))
    doubt = Doubt.of(build)
    weights = np.zeros(len(doubt.inputs))
    weights[[2, 5]] = 3.0, 4.0
    shares = shares_of(doubt, (doubt.deviates @ weights)[None, :])
    # 9 and 16 of 25, as far as 256 draws are independent.
    assert np.argsort(-shares.share[0])[:2].tolist() == [5, 2]
    assert shares.share[0, [5, 2]] == pytest.approx([0.64, 0.36], abs=0.02)
    item = doubt.inputs[5]
    narrower = min(item.measured / item.tolerance, 1)
    stays = np.sqrt(1 - 0.64 * (1 - narrower**2))
    assert shares.width_left[0, 5] == pytest.approx(stays, abs=0.02)


def test_a_figure_without_doubt_has_no_weakest_guess():
    build = check_build(document_with({}))
    doubt = Doubt.of(build)
    shares = shares_of(doubt, np.full((1, DRAWS), 45.0))
    assert np.all(shares.share == 0)


def test_the_draws_are_the_same_every_time():
    build = check_build(document_with({}))
    again = check_build(document_with({}))
    assert np.array_equal(free_rpm(build, Doubt.of(build)), free_rpm(again, Doubt.of(again)))
