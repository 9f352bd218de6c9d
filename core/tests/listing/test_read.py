"""Listings as shops write them. What is meant by each is common practice, no source."""

import doctest

import pytest

from powertrain.documents.reading import check_model
from powertrain.documents.shelf import KINDS
from powertrain.listing import read
from powertrain.listing.read import HOLDS, read_listing

MOTORS = [
    (
        "3548, 790 KV, 3S-6S, 60 A, 5 mm shaft",
        {
            "diameter_mm": 35,
            "length_mm": 48,
            "kv_rpm_per_v": 790,
            "rated_cells": [3, 6],
            "shaft_mm": 5,
        },
    ),
    (
        "Brushless outrunner 6374 170KV 3-12S 80A max 2850 W sensored 8mm shaft 860g €95",
        {
            "commutation": "brushless",
            "diameter_mm": 63,
            "length_mm": 74,
            "kv_rpm_per_v": 170,
            "rated_cells": [3, 12],
            "peak_current_a": 80,
            "max_power_w": 2850,
            "sensor": "hall",
            "shaft_mm": 8,
            "mass_kg": 0.86,
            "price": 95,
        },
    ),
    (
        "brushed motor, kv: 1800, no load 1,2 A, 16 mohm, 30000 rpm max, Ø 36 x 57 mm",
        {
            "commutation": "brushed",
            "kv_rpm_per_v": 1800,
            "no_load_current_a": 1.2,
            "resistance_ohm": 0.016,
            "max_rpm": 30000,
            "diameter_mm": 36,
            "length_mm": 57,
        },
    ),
    (
        "12N14P sensorless 480 rpm/V continuous 35A burst 50A 1.5 kW max 60V 2,5 kg",
        {
            "slots": 12,
            "poles": 14,
            "sensor": "none",
            "kv_rpm_per_v": 480,
            "continuous_current_a": 35,
            "peak_current_a": 50,
            "max_power_w": 1500,
            "max_voltage_v": 60,
            "mass_kg": 2.5,
        },
    ),
]
CONTROLLERS = [
    (
        "ESC 60A 3-6S, burst 80 A, 60x40x20 mm, 75 g",
        {
            "continuous_current_a": 60,
            "max_voltage_v": 25.2,
            "peak_current_a": 80,
            "length_mm": 60,
            "width_mm": 40,
            "height_mm": 20,
            "mass_kg": 0.075,
        },
    ),
    (
        "Controller 36-48V, 30 A, 150k erpm, hall throttle, $42",
        {"continuous_current_a": 30, "max_erpm": 150000, "signal": "analogue", "price": 42},
    ),
]
PACKS = [
    (
        "6S2P 10000mAh 25C/50C lipo 1.3 kg",
        {
            "series": 6,
            "parallel": 2,
            "cell_capacity_ah": 5,
            "chemistry": "lipo",
            "continuous_current_a": 250,
            "peak_current_a": 500,
            "mass_kg": 1.3,
        },
    ),
    (
        "36V 15Ah li-ion battery, 30A BMS, 2.9 kg",
        {
            "series": 10,
            "cell_capacity_ah": 15,
            "chemistry": "li_ion",
            "continuous_current_a": 30,
            "mass_kg": 2.9,
        },
    ),
    (
        "LiFePO4 pack 48V 20 Ah",
        {"cell_capacity_ah": 20, "chemistry": "lifepo4"},
    ),
]
LISTINGS = [
    *(("motors", *one) for one in MOTORS),
    *(("controllers", *one) for one in CONTROLLERS),
    *(("packs", *one) for one in PACKS),
]


@pytest.mark.parametrize(("kind", "text", "meant"), LISTINGS)
def test_a_listing_says_what_a_builder_reads_in_it(kind, text, meant):
    found = read_listing(text)
    said = found.document[HOLDS[kind]]
    implied = {"kind", "cell_voltage_v"}
    assert found.kind == kind
    assert set(said) - implied == set(meant)
    for key, value in meant.items():
        assert said[key] == (pytest.approx(value) if isinstance(value, float) else value)


@pytest.mark.parametrize(("kind", "text", "meant"), LISTINGS)
def test_with_what_is_asked_for_it_makes_a_part(kind, text, meant):
    found = read_listing(text)
    document = {"id": "one", **found.document}
    asked = {one.path.split(".")[1] for one in found.asked}
    assert asked.isdisjoint(meant)
    for one in found.asked:
        # Where nothing gives a guess somebody has to say it; here any usual value does.
        document[HOLDS[kind]][one.path.split(".")[1]] = 5.0 if one.guess is None else one.guess
    check_model(KINDS[kind], document)


def test_nothing_is_read_twice_and_what_says_nothing_is_told():
    found = read_listing("Tarnlow glitter motor 790 KV, in blue, 5 mm shaft")
    assert found.document["motor"] == {
        "kind": "permanent_magnet",
        "kv_rpm_per_v": 790,
        "shaft_mm": 5,
    }
    assert found.unread == ["Tarnlow glitter motor", "in blue"]


def test_guesses_are_of_the_right_order_and_named():
    # A can of 35 by 48 mm and 790 KV: shops that say it give 25 to 45 mohm and 1 to 2 A.
    asked = {one.path: one for one in read_listing("3548 790KV").asked}
    assert 0.015 < asked["motor.resistance_ohm"].guess < 0.07
    assert 0.25 < asked["motor.no_load_current_a"].guess < 4
    assert "good to a factor of" in asked["motor.resistance_ohm"].why
    # Without a size there is nothing to guess from.
    assert [one.guess for one in read_listing("790KV").asked] == [None, None]


@pytest.mark.parametrize("text", ["", "???", "x" * 4000, "1" * 300, "-- , ; |", "0 KV 0 A"])
def test_any_text_is_taken(text):
    found = read_listing(text)
    assert found.asked or found.understood


def test_the_kind_can_be_said():
    assert read_listing("60 A, 6S", "controllers").document["controller"] == {
        "continuous_current_a": 60,
        "max_voltage_v": 25.2,
    }


def test_examples_in_words():
    assert doctest.testmod(read).failed == 0


def test_a_motor_without_a_label_is_guessed_from_its_free_run():
    asked = {one.path: one for one in read_listing("motor draws 1.1 A at 12 V, turns 1,020").asked}
    # 1,020 rpm on 12 V; a hundredth of its stalled amps flow: 0.01 x 12/1.1 = 0.109 ohm.
    assert asked["motor.kv_rpm_per_v"].guess == 85
    assert asked["motor.resistance_ohm"].guess == 0.11
    assert "factor of 3" in asked["motor.resistance_ohm"].why
    assert asked["motor.no_load_current_a"].guess == 1.1
