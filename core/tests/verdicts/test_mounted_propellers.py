"""What a propeller's mount holds, and what its tips could strike: by hand from their figures."""

import json
from pathlib import Path

import pytest

from powertrain.documents.reading import check_build
from powertrain.levers.board import levers_board
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.rules import cut_off, mount_torque, propeller_clearance

DEMO = Path(__file__).parents[3] / "server/builds/demo"


def context(name="tern-wing", vehicle=None, **sections):
    document = json.loads((DEMO / f"{name}.json").read_text(encoding="utf-8"))
    document = {**document, "provenance": {}, **sections}
    document["vehicle"] = {**document["vehicle"], **(vehicle or {})}
    return RuleContext.of(check_build(document), cures=False)


class TestMount:
    def test_it_holds_the_propellers_torque(self):
        seen = context()
        (told,) = mount_torque.RULE.said(seen)
        state = seen.moments.launch.state
        # With nothing between shaft and propeller, the motor's own torque is the mount's.
        assert told.value == pytest.approx(float(state.shaft_torque_nm), rel=1e-6)
        assert told.severity == "ok"
        assert "18" in told.title

    def test_ailerons_hold_it_up_to_what_a_wing_of_its_size_gives(self):
        # W = 1/2 rho Vs^2 S CLmax, so that C_l 1/2 rho (1.2 Vs)^2 S b = 1.44 C_l W b/CLmax.
        seen = context()
        (told,) = mount_torque.RULE.said(seen)
        vehicle = seen.build.vehicle
        weight_n = vehicle.mass_kg * 9.80665
        assert told.limit == pytest.approx(
            1.44 * 0.03 * weight_n * vehicle.span_m / vehicle.lift_max, rel=1e-6
        )

    def test_a_short_light_wing_rolls_as_it_leaves(self):
        (told,) = mount_torque.RULE.said(context(vehicle={"mass_kg": 0.5, "span_m": 0.6}))
        assert told.severity == "watch"
        assert "rolls" in told.why

    def test_of_several_motors_each_mount_holds_its_own(self):
        document = json.loads((DEMO / "tern-wing.json").read_text(encoding="utf-8"))
        (told,) = mount_torque.RULE.said(context(motor={**document["motor"], "count": 2}))
        one = float(told.title.split("and ")[1].split(" N.m of")[0])
        assert told.value == pytest.approx(2 * one, rel=0.06)
        assert told.title.startswith("Each mount")

    def test_a_boat_leans_by_what_a_shift_of_weight_evens_out(self):
        (told,) = mount_torque.RULE.said(context("coot-airboat"))
        assert told.limit == pytest.approx(95 * 9.80665 * 0.05)
        assert told.severity == "ok"


class TestClearance:
    @pytest.mark.parametrize(
        ("height", "severity"), [(139.0, "stop"), (140.0, "watch"), (153.0, "watch"), (154.0, "ok")]
    )
    def test_an_eleven_inch_propeller(self, height, severity):
        # 11 in are 279.4 mm: it reaches 139.7, and a twentieth of it is 13.97.
        (told,) = propeller_clearance.RULE.said(context(vehicle={"hub_height_mm": height}))
        assert told.severity == severity
        assert told.value == pytest.approx(139.7)

    def test_a_height_that_nobody_said_clears_nothing_and_strikes_nothing(self):
        (told,) = propeller_clearance.RULE.said(context())
        assert told.path == "vehicle.hub_height_mm"

    def test_nothing_is_said_of_wheels(self):
        assert list(propeller_clearance.RULE.said(context("causeway-trike"))) == []
        assert list(mount_torque.RULE.said(context("causeway-trike"))) == []


def test_an_inch_more_that_would_strike_is_told_before_it_is_pressed():
    build = context(vehicle={"hub_height_mm": 150.0}).build
    rows = {(row.lever, row.step): row for row in levers_board(build).rows}
    assert propeller_clearance.RULE.rejects in rows["propeller.diameter_mm", 1].stops
    assert propeller_clearance.RULE.rejects not in rows["propeller.pitch_mm", 1].stops


def test_what_flies_is_told_how_far_it_glides_when_the_cells_let_go():
    # (L/D)max = 1/2 sqrt(pi e A/C_D0), A = b^2/S (J. D. Anderson, Aircraft Performance and Design,
    # ch. 5): with 0.04, 0.8, 1.6 m and 0.4 m2 it is 1/2 sqrt(pi 0.8 6.4/0.04) = 10.03.
    wing = {"zero_lift_drag": 0.04, "oswald": 0.8, "span_m": 1.6, "wing_area_m2": 0.4}
    (told,) = cut_off.RULE.said(context(vehicle=wing))
    assert "a glide of 10 m for each metre down" in told.why
    assert "land on what is left" in told.why
    (told,) = cut_off.RULE.said(context("coot-airboat"))
    assert "glide" not in told.why
