"""Lengths, shafts and prices by plain arithmetic."""

import pytest

from core.tests.conversion.conftest import tractor_with
from powertrain.conversion.answer import conversion_of
from powertrain.conversion.fit import fit_of, shaft_mpa
from powertrain.conversion.price import price_of
from powertrain.verdicts.context import RuleContext

KNOWN = {
    "motor.length_mm": 380,
    "motor.diameter_mm": 230,
    "motor.shaft_mm": 28,
    "coupling": {"adapter_mm": 25, "coupler_mm": 80, "free_length_mm": 520, "shaft": "key"},
}


def fit(changes):
    build = tractor_with(changes)
    return fit_of(build, RuleContext.of(build))


def words(found):
    return {check.id: check.word for check in found.checks}


def test_lengths_are_those_of_the_document_one_after_the_other():
    found = fit(KNOWN)
    assert [(piece.id, piece.from_mm, piece.to_mm) for piece in found.lengths] == [
        ("adapter", 0, 25),
        ("coupler", 25, 105),
        ("motor", 105, 485),
    ]
    assert (found.needs_mm, found.free_mm, found.left_mm) == (485, 520, 35)
    assert words(found)["length"] == "ok"
    assert found.asks == ["coupling.free_across_mm"]


@pytest.mark.parametrize(
    ("free", "word"), [(484, "stop"), (485, "watch"), (494, "watch"), (496, "ok")]
)
def test_whether_it_fits(free, word):
    assert words(fit({**KNOWN, "coupling.free_length_mm": free}))["length"] == word


def test_what_is_not_told_is_asked_for_and_not_judged():
    bare = fit({})
    assert words(bare) == {"length": "open"}
    assert "motor.length_mm" in bare.asks
    assert "coupling.free_length_mm" in bare.asks
    assert bare.lengths == []


def test_the_shaft_is_twisted_as_the_textbook_has_it():
    # A solid shaft of 50 mm under 1 kN.m: 16 x 1e6/(pi x 125,000) = 40.74 MPa (worked example of
    # many textbooks of machine elements).
    assert shaft_mpa(1000, 50) == pytest.approx(40.74, abs=0.005)
    thin = fit({**KNOWN, "motor.shaft_mm": 20})
    check = next(check for check in thin.checks if check.id == "shaft")
    # At a start 350 A: 0.4 x 350/440 x 350 - 2.5 = 108.9 N.m; 16 x 108,900/(pi x 8,000) = 69.3 MPa,
    # grip or no grip.
    assert check.word == "stop"
    assert check.value == pytest.approx(69.3, abs=0.05)


def test_a_flywheel_hangs_over_the_end_bearing():
    kept = fit({**KNOWN, "coupling.flywheel": "kept", "coupling.clutch": "kept"})
    assert words(kept)["bearing"] == "watch"
    removed = fit({**KNOWN, "coupling.flywheel": "removed", "coupling.clutch": "removed"})
    assert "bearing" not in words(removed)
    loose = fit({**KNOWN, "coupling.flywheel": "removed", "coupling.clutch": "kept"})
    assert words(loose)["clutch"] == "stop"


def test_the_price_is_complete_only_when_everything_is_told():
    some = price_of(tractor_with({"motor.price": 400, "prices": {"charger": 350}}))
    assert (some.told, some.complete) == (750, False)
    assert "pack" in some.say
    assert "charger" not in some.say
    every = {
        "motor.price": 400,
        "motor.count": 2,
        "controller.price": 900,
        "battery.price": 3000,
        "prices": {"charger": 350, "dc_dc": 120, "contactors": 240, "adapter": 500},
    }
    told = price_of(tractor_with(every))
    assert (told.told, told.complete) == (2 * 400 + 900 + 3000 + 350 + 120 + 240 + 500, True)


def test_a_converter_that_gives_too_little_is_told():
    along = {
        "auxiliaries": [
            {"name": "Lamps", "power_w": 200, "driven_by": "dc_dc"},
            {"name": "Steering", "power_w": 300, "driven_by": "dc_dc"},
            {"name": "Pump", "power_w": 700, "driven_by": "belt"},
        ],
        "battery.dc_dc_w": 400,
    }
    found = conversion_of(tractor_with(along)).along
    assert (found.pack_w, found.shaft_w) == (500, 700)
    assert "a larger one" in found.say
    assert "100 W more" in conversion_of(tractor_with({**along, "battery.dc_dc_w": 600})).along.say


def test_the_mount_is_twisted_by_what_leaves_the_shaft():
    check = next(check for check in fit(KNOWN).checks if check.id == "mount")
    # 350 A at rest: 0.4 x 350/440 x 350 - 2.5 N.m, over feet 230 mm apart 473 N each way.
    assert check.value == pytest.approx(0.4 * 350 / 440 * 350 - 2.5)
    assert "473 N" in check.why


def test_brushes_are_set_for_one_way_round(build_with):
    assert words(fit(KNOWN))["direction"] == "watch"
    bare = build_with({"coupling": {"adapter_mm": 20}})
    found = fit_of(bare, RuleContext.of(bare))
    assert "direction" not in words(found)


@pytest.mark.parametrize(("room", "word"), [(229, "stop"), (240, "watch"), (260, "ok")])
def test_the_can_is_held_against_the_room_across(room, word):
    found = fit({**KNOWN, "coupling.free_across_mm": room})
    assert words(found)["across"] == word
    assert found.across_mm == room
    assert "across" not in words(fit(KNOWN))


def test_over_the_years_each_kind_asks_for_its_own():
    series = " ".join(conversion_of(tractor_with({})).upkeep)
    assert "Brushes last" in series
    assert "wins nothing back" in series
    packaged = {
        "motor": {
            "kind": "packaged",
            "commutation": "brushless",
            "peak_torque_nm": 72,
            "base_rpm": 2600,
            "base_voltage_v": 72,
            "top_rpm": 6500,
            "efficiency": 0.9,
        }
    }
    other = " ".join(conversion_of(tractor_with(packaged)).upkeep)
    assert "No brushes" in other
    assert "liquid loop" in other
    assert "wins nothing back" not in other


def test_brushes_last_by_the_amps_of_the_trip():
    def hours(changes):
        say = conversion_of(tractor_with({**changes, "moments": {"cruise_kmh": 10}})).upkeep[0]
        return float(say.split("some ")[1].split(" h")[0].replace(",", ""))

    # A thousand hours at its rated amps, in proportion above (common practice): a motor rated for
    # half of the amps lasts half as long.
    assert hours({"motor.continuous_current_a": 40}) == pytest.approx(
        hours({"motor.continuous_current_a": 80}) / 2, rel=0.05
    )


@pytest.mark.parametrize(
    ("coupling", "left"),
    [({"free_length_mm": 520}, 140), ({"free_length_mm": 520, "adapter_mm": 25}, 115)],
)
def test_a_joint_that_nobody_measured_is_not_taken_for_none(coupling, left):
    found = fit({**KNOWN, "coupling": coupling})
    check = next(check for check in found.checks if check.id == "length")
    assert check.word == "open"
    assert check.title.startswith(f"{left} mm are left for the ")
    # A motor that is too long by itself is so with any joint.
    short = fit({**KNOWN, "coupling": {"free_length_mm": 370}})
    assert words(short)["length"] == "stop"
