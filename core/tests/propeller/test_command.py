"""The bare propeller as the command line takes it."""

import json
import math

import pytest

from powertrain.cli import main

TABLE = [
    {"advance_ratio": 0.0, "ct": 0.10, "cp": 0.045},
    {"advance_ratio": 0.4, "ct": 0.06, "cp": 0.040},
    {"advance_ratio": 0.6, "ct": 0.02, "cp": 0.022},
]


@pytest.fixture
def ask(tmp_path, capsys):
    def asked(document, *options):
        place = tmp_path / "propeller.json"
        place.write_text(json.dumps({"diameter_mm": 254, "pitch_mm": 127, **document}))
        status = main(["propeller", str(place), *options])
        told = capsys.readouterr()
        return status, json.loads(told.out if status == 0 else told.err)

    return asked


def test_a_table_is_read_straight_between_its_rows_and_on_by_its_last_slope(ask):
    """By hand: 100 turns a second of 0.254 m; J = 0.2 is 5.08 m/s."""
    status, told = ask({"table": TABLE}, "--rpm", "6000", "--speed", str(3.6 * 5.08))
    assert status == 0
    assert told["advance_ratio"] == pytest.approx(0.2)
    assert (told["ct"], told["cp"]) == pytest.approx((0.08, 0.0425))
    assert told["thrust_n"] == pytest.approx(0.08 * 1.225 * 100**2 * 0.254**4)
    assert told["shaft_power_w"] == pytest.approx(0.0425 * 1.225 * 100**3 * 0.254**5)
    assert told["efficiency"] == pytest.approx(0.2 * 0.08 / 0.0425)
    _, beyond = ask({"table": TABLE}, "--rpm", "6000", "--speed", str(3.6 * 0.8 * 25.4))
    assert (beyond["ct"], beyond["cp"]) == pytest.approx((-0.02, 0.004))
    assert beyond["efficiency"] is None


def test_a_static_point_is_met_and_scales_the_rest(ask):
    static = {"rpm": 6000, "thrust_n": 4.4, "shaft_power_w": 45.0}
    _, told = ask({"static": static}, "--rpm", "6000", "--speed", "0")
    assert told["thrust_n"] == pytest.approx(4.4)
    assert told["shaft_power_w"] == pytest.approx(45)
    assert told["efficiency"] == 0
    _, plain = ask({}, "--rpm", "6000", "--speed", "40")
    _, scaled = ask({"static": static}, "--rpm", "6000", "--speed", "40")
    _, still = ask({}, "--rpm", "6000", "--speed", "0")
    assert scaled["ct"] / plain["ct"] == pytest.approx(4.4 / still["thrust_n"])


def test_tips_near_sound_are_warned_of(ask):
    _, slow = ask({}, "--rpm", "12000", "--speed", "0")
    assert "warnings" not in slow
    # 0.85 of 340.3 m/s: 289 m/s are 21,750 turns a minute of 0.254 m.
    _, fast = ask({}, "--rpm", "22500", "--speed", "0")
    assert fast["warnings"][0]["where"] == "rpm"
    assert 22500 / 60 * math.pi * 0.254 > 0.85 * 340.3


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"diameter_mm": None}, "diameter_mm"),
        ({"pitch_mm": 3000}, "pitch_mm"),
        ({"blades": 1}, "blades"),
        ({"twist": 3}, "twist"),
        ({"position": "behind"}, "position"),
        ({"table": TABLE[:1]}, "table"),
        ({"table": [TABLE[1], TABLE[0]]}, "table.1.advance_ratio"),
        ({"table": [TABLE[0], {"advance_ratio": 0.4, "ct": 0.2, "cp": 0.05}]}, "table.1.cp"),
        ({"static": {"rpm": 6000, "thrust_n": 20, "shaft_power_w": 60}}, "static.thrust_n"),
        ({"static": {"rpm": 6000, "thrust_n": 4}}, "static.shaft_power_w"),
    ],
)
def test_what_is_no_propeller_is_refused_by_its_place(ask, change, where):
    status, told = ask(change, "--rpm", "6000", "--speed", "0")
    assert status == 2
    assert told["error"]["where"] == where
    assert told["error"]["what"]


@pytest.mark.parametrize(
    ("options", "where"),
    [
        (("--rpm", "0", "--speed", "0"), "rpm"),
        (("--rpm", "fast", "--speed", "0"), "rpm"),
        (("--rpm", "6000", "--speed", "-4"), "speed"),
        (("--speed", "4"), "arguments"),
    ],
)
def test_odd_figures_are_refused(ask, options, where):
    status, told = ask({}, *options)
    assert (status, told["error"]["where"]) == (2, where)
