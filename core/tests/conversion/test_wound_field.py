"""Shunt and compound motors against worked examples of a textbook.

Chapman, Electric Machinery Fundamentals, chapter on DC motors (examples and their answers from
memory): a 50 hp, 250 V, 1,200 rpm shunt motor, and a 100 hp, 250 V compound one with 1,000 shunt
and 3 series turns for each pole, whose open-circuit curve gives 250, 262 and 236 V at 5, 5.6 and
4.4 A.
"""

import pytest

from powertrain.conversion.wound_field import WoundField, kind_of, speed_rpm, wound_field

HALF_A = 3.73
"""By hand from the book's 250 V at 5 A and 262 V at 5.6 A: 1.048 (5.6 + h) = 1.12 (5 + h)."""


@pytest.mark.parametrize(("line_a", "rpm"), [(100, 1173), (200, 1144), (300, 1115)])
def test_a_shunt_motor_slows_by_the_volts_of_its_armature(line_a, rpm):
    # 50 ohm of field take 5 A of the line; 0.06 ohm of armature.
    told = WoundField(
        armature_ohm=0.06, shunt_ohm=50.0, volts=250.0, free_rpm=1200.0, amps=line_a - 5.0
    )
    answer = wound_field(told)
    assert answer.kind == "shunt"
    assert answer.field_a == pytest.approx(5)
    assert answer.rpm == pytest.approx(rpm, abs=0.6)


@pytest.mark.parametrize(("sense", "rpm"), [("cumulative", 1108), ("differential", 1230)])
def test_a_compound_motor_slows_more_or_runs_off(sense, rpm):
    # 0.04 ohm of armature and thick winding together, 200 A.
    told = WoundField(
        armature_ohm=0.03,
        series_ohm=0.01,
        shunt_ohm=50.0,
        volts=250.0,
        free_rpm=1200.0,
        amps=200.0,
        turns_share=0.003,
        half_field_a=HALF_A,
        sense=sense,
    )
    answer = wound_field(told)
    assert answer.kind == "compound"
    assert answer.rpm == pytest.approx(rpm, rel=0.003)


def test_the_curve_is_the_books_within_its_reading():
    def flux(field):
        return field / (field + HALF_A)

    assert 250 * flux(5.6) / flux(5) == pytest.approx(262, abs=0.5)
    assert 250 * flux(4.4) / flux(5) == pytest.approx(236, abs=0.5)


def test_a_field_that_is_taken_away_has_no_speed():
    gone = speed_rpm(
        250, 0.04, 2000, free_rpm=1200, field_a=5, series_field_a=-6, half_field_a=HALF_A
    )
    assert gone is None


@pytest.mark.parametrize(
    ("shunt", "series", "kind"),
    [
        (None, 0.012, "series"),
        (50.0, None, "shunt"),
        (50.0, 0.01, "compound"),
        (0.3, None, "unclear"),
        (None, None, "unclear"),
        (None, 3.0, "unclear"),
    ],
)
def test_terminals_tell_what_it_is(shunt, series, kind):
    assert kind_of(WoundField(armature_ohm=0.03, shunt_ohm=shunt, series_ohm=series)) == kind
