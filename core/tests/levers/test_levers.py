"""Levers: on every stage and part, and true to what they stand for."""

import pytest
from hypothesis import given

from core.tests.conftest import document_with
from core.tests.strategies import builds
from ops.draws import examples
from powertrain.documents.paths import changed, value_at
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.levers.operations import Press, carry_out
from powertrain.levers.registry import levers_of, press


def lever(document, lever_id):
    return next(item for item in levers_of(check_build(document)) if item.id == lever_id)


@examples(50)
@given(builds())
def test_every_step_of_every_lever_is_a_valid_build(document):
    levers = levers_of(check_build(document))
    for item in levers:
        for changes in (item.up, item.down):
            if changes is not None:
                after = changed(document, changes)
                check_build(after)
                assert value_at(after, item.path) != value_at(document, item.path)
    teeth = [item for item in levers if item.id.endswith("_teeth")]
    ratios = [item for item in levers if item.id.endswith(".ratio")]
    toothed = [s for s in document["gearing"] if "driver_teeth" in s]
    assert len(teeth) == 2 * len(toothed)
    assert len(ratios) == len([s for s in document["gearing"] if "ratio" in s])


@examples(50)
@given(builds())
def test_up_then_down_is_where_it_began(document):
    for item in levers_of(check_build(document)):
        if item.up is None or item.id == "winding":
            continue
        after = changed(document, item.up)
        back = lever(after, item.id).down
        if back is not None and item.id.endswith(("teeth", "series", "parallel", "count")):
            assert value_at(changed(after, back), item.path) == value_at(document, item.path)


@pytest.mark.parametrize("step", [1, -1])
def test_another_winding_of_the_same_can(step):
    # Common practice, no source: R KV^2 and KV-to-amps are constant, torque at rating is equal.
    rated = {"motor.continuous_current_a": 50, "motor.peak_current_a": 100}
    before = document_with(rated)["motor"]
    after = carry_out(document_with(rated), Press(do="press", lever="winding", step=step))["motor"]
    share = after["kv_rpm_per_v"] / before["kv_rpm_per_v"]
    assert share > 1 if step > 0 else share < 1
    assert after["resistance_ohm"] * after["kv_rpm_per_v"] ** 2 == pytest.approx(
        before["resistance_ohm"] * before["kv_rpm_per_v"] ** 2
    )
    for key in ("no_load_current_a", "continuous_current_a", "peak_current_a"):
        assert after[key] / before[key] == pytest.approx(share)
        torque = after[key] / after["kv_rpm_per_v"]
        assert torque == pytest.approx(before[key] / before["kv_rpm_per_v"])


def test_the_end_of_the_travel_is_refused():
    document = document_with({"battery.parallel": 1})
    with pytest.raises(Refusal, match="end of its travel"):
        press(check_build(document), "battery.parallel", -1)
    assert lever(document, "battery.parallel").down is None


def test_limits_have_levers_where_they_are_set():
    unset = document_with({"controller.motor_current_limit_a": None})
    ids = {item.id for item in levers_of(check_build(unset))}
    assert "controller.motor_current_limit_a" not in ids
    assert "controller.battery_current_limit_a" in ids
