"""Settings that somebody set by hand: where they stand, since when, and how they differ."""

import pytest

from powertrain.errors import Refusal
from powertrain.set_up.sheet import sheet_of


def row(build, key):
    return next(one for one in sheet_of(build).settings if one.id == key)


def by_hand(value, worked_out=None, on="2026-03-14"):
    return {"value": value, "on": on, "worked_out": worked_out}


def test_a_setting_with_a_field_stands_there(make):
    build = make(controller={"timing_deg": 10.0, "throttle_steps": 1024})
    stands = row(build, "timing_deg").stands
    assert (stands.path, stands.now, stands.by_hand) == ("controller.timing_deg", 10.0, None)


def test_the_cut_off_is_told_for_the_pack_and_kept_for_a_cell(make):
    stands = row(make(battery={"cut_off_cell_v": 3.2}), "cut_off_v").stands
    assert stands.path == "battery.cut_off_cell_v"
    assert stands.now == pytest.approx(9.6)


def test_what_was_set_by_hand_is_kept_beside_what_is_worked_out(make):
    said = {"pwm_hz": 32000.0, "settings": {"pwm_hz": by_hand(32000.0, 16000.0)}}
    stands = row(make(controller=said), "pwm_hz").stands
    assert stands.by_hand is not None
    assert stands.by_hand.on == "2026-03-14"
    assert stands.differs == "100% above what is worked out"


def test_what_was_worked_out_that_day_is_told_where_it_has_moved_since(make):
    said = {"pwm_hz": 12000.0, "settings": {"pwm_hz": by_hand(12000.0, 8000.0)}}
    assert row(make(controller=said), "pwm_hz").stands.differs == (
        "25% below what is worked out; it was 8000 that day"
    )


def test_a_field_changed_since_is_no_longer_what_was_set_by_hand(make):
    said = {"pwm_hz": 20000.0, "settings": {"pwm_hz": by_hand(12000.0)}}
    stands = row(make(controller=said), "pwm_hz").stands
    assert (stands.now, stands.by_hand) == (20000.0, None)


def test_a_setting_without_a_field_stands_as_it_was_set(make):
    said = {"settings": {"dead_band_pct": by_hand(7.0, 4.0)}}
    stands = row(make(controller=said), "dead_band_pct").stands
    assert (stands.path, stands.now) == (None, 7.0)
    assert stands.differs == "75% above what is worked out"


def test_words_are_compared_as_words(make):
    said = {"reverse": "none", "settings": {"reverse": by_hand("none", "immediate")}}
    # A crawler is driven to and fro.
    assert row(make(controller=said), "reverse").stands.differs == "worked out is immediate"


@pytest.mark.parametrize(
    ("said", "where"),
    [
        ({"settings": {"pwm_hz": {"value": 1.0, "on": "yesterday"}}}, "settings.pwm_hz.on"),
        ({"settings": {"loudness": by_hand(1.0)}}, "settings.loudness"),
        ({"settings": {"pwm_hz": {"value": [], "on": "2026-03-14"}}}, "settings.pwm_hz.value"),
        ({"rollback": {"from_c": 80.0, "to_c": 70.0}}, "rollback"),
        ({"rollback": {"to_c": 70.0}}, "rollback.from_c"),
    ],
)
def test_what_can_not_be_is_refused_with_its_place(make, said, where):
    with pytest.raises(Refusal) as refused:
        make(controller=said)
    assert refused.value.where.startswith(f"controller.{where}")


def test_roll_back_is_set_where_the_controller_rolls_back(make):
    stands = row(make(controller={"rollback": {"from_c": 75.0}}), "rollback_from_c").stands
    assert (stands.path, stands.now) == ("controller.rollback.from_c", 75.0)


@pytest.mark.parametrize(("set_to", "within"), [(30.0, True), (40.0, True), (41.0, False)])
def test_what_is_set_below_a_limit_is_left_alone(make, set_to, within):
    motor, said = {"peak_current_a": 40.0}, {"motor_current_limit_a": set_to}
    assert row(make(motor=motor, controller=said), "motor_current_limit_a").stands.within is within
    # A lower ramp is no limit that is kept to.
    assert row(make(controller={"pwm_hz": 100.0}), "pwm_hz").stands.within is False
