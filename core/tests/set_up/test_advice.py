"""Kinds of motor by the trade's lines, a changed shunt, a Hall sensor beside its place."""

import json
import math
from pathlib import Path

import pytest

from powertrain.archetypes import all_archetypes
from powertrain.cli import main
from powertrain.documents.brief import Brief
from powertrain.documents.reading import check_build, check_model
from powertrain.errors import Refusal
from powertrain.match.starts import start_briefs
from powertrain.set_up.advise import advice_of
from powertrain.set_up.advised_by import figures_of_brief, figures_of_build
from powertrain.set_up.hall import hall_of
from powertrain.set_up.shunt import copper_mohm, shunt_of
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

DEMO = Path(__file__).parents[3] / "server/builds/demo"


def demo(name):
    return check_build(json.loads((DEMO / f"{name}.json").read_text()))


def wishing(most=None, **wishes):
    plain = start_briefs()[0].document.model_dump(exclude_unset=True)
    plain["wishes"] = {**({"top_speed_kmh": {"max": most}} if most else {}), **wishes}
    return advice_of(figures_of_brief(check_model(Brief, plain)))


class TestBrushes:
    @pytest.mark.parametrize(
        ("mph", "pick"),
        [(5, "brushed"), (7.9, "brushed"), (8.1, "either"), (14.9, "either"), (20, "brushless")],
    )
    def test_the_trades_lines_at_8_15_and_20_mph(self, mph, pick):
        told = wishing(mph * 1.609344).commutation
        assert told.pick == pick
        assert told.why[0].figure == "top_speed_kmh"
        assert told.why[0].value == pytest.approx(mph * 1.609344)

    def test_what_rules_brushes_out_is_their_wear(self):
        told = wishing(40.0).commutation
        assert "wear" in told.why[0].say
        assert told.why[0].line == pytest.approx(20 * 1.609344)

    def test_who_says_it_is_not_contradicted(self):
        assert wishing(40.0, commutation="brushed").commutation.pick == "brushed"

    def test_nothing_wished_decides_nothing(self):
        assert wishing().commutation.pick == "either"


class TestOthers:
    def test_a_load_on_a_hill_asks_for_sensors_and_gears(self):
        told = wishing(30.0, climb={"grade_pct": 10.0, "speed_kmh": 12.0})
        assert told.sensing.pick == "sensored"
        assert told.rotor.pick == "outrunner"
        assert told.machine.pick == "permanent_magnet"

    @pytest.mark.parametrize("archetype", all_archetypes(), ids=lambda one: one.id)
    def test_every_vehicle_on_wheels_is_advised_with_reasons_and_both_schools(self, archetype):
        if archetype.document.wheel is None:
            with pytest.raises(Refusal) as refused:
                figures_of_build(archetype.document)
            assert refused.value.where == "vehicle.kind"
            return
        told = advice_of(figures_of_build(archetype.document))
        for one in (told.commutation, told.sensing, told.rotor, told.machine):
            assert one.why
            assert len(one.schools) == 3
            assert one.turns

    def test_a_board_is_told_fifty_amps_for_long(self):
        board = next(one for one in all_archetypes() if one.id == "board")
        told = advice_of(figures_of_build(board.document))
        assert any("50 A for long" in school for school in told.commutation.schools)

    def test_a_slow_rover_gets_brushes_and_a_fast_model_none(self):
        def of(name):
            archetype = next(one for one in all_archetypes() if one.id == name)
            return advice_of(figures_of_build(archetype.document))

        assert of("field-rover").commutation.pick == "brushed"
        fast = of("fast-model")
        assert (fast.commutation.pick, fast.sensing.pick) == ("brushless", "sensorless")
        assert fast.rotor.pick == "inrunner"


class TestShunt:
    def test_copper_beside_a_shunt_raises_its_limit(self, make):
        # 20 mm of 0.5 mm2: 17.24e-9 x 0.02/0.5e-6 = 0.6896 mOhm (IEC 60028).
        added = copper_mohm(None, 20.0, 0.5)
        assert added == pytest.approx(0.6896, rel=1e-9)
        told = shunt_of(make(), 1.0, 30.0, added)
        assert told.new_mohm == pytest.approx(1 / (1 / 1.0 + 1 / 0.6896), rel=1e-9)
        assert told.new_limit_a == pytest.approx(30 * (1 + 1 / 0.6896), rel=1e-9)
        assert told.factor == pytest.approx(told.new_limit_a / 30)

    def test_verdicts_are_those_of_the_new_limit(self):
        trike = demo("causeway-trike")
        limit = trike.controller.battery_current_limit_a
        told = shunt_of(trike, 1.0, limit, 1.0)
        assert told.new_limit_a == pytest.approx(2 * limit)
        raised = trike.model_dump(mode="json", exclude_unset=True)
        raised["controller"]["battery_current_limit_a"] = 2 * limit
        verdicts, _ = judge_all(RuleContext.of(check_build(raised)))
        assert [(one.id, one.value) for one in told.verdicts] == [
            (one.id, one.value) for one in verdicts
        ]
        # 90 A of a pack that gives 70.
        assert any(one.id == "pack_peak" and one.severity == "stop" for one in told.verdicts)
        assert any("short circuit" in one for one in told.loses)

    def test_the_better_way_is_a_shorter_gear(self, make):
        gearing = [{"kind": "spur", "driver_teeth": 20, "driven_teeth": 60, "efficiency": 0.95}]
        told = shunt_of(make(gearing=gearing), 1.0, 20.0, 4.0)
        # A quarter more amps: 20/1.25 teeth.
        assert told.better.change == {"gearing.0.driver_teeth": 16}

    @pytest.mark.parametrize("given", [(None, None, None), (1.0, 2.0, 3.0), (None, 5.0, None)])
    def test_one_way_of_saying_it_and_only_one(self, given):
        with pytest.raises(Refusal):
            copper_mohm(*given)


class TestHall:
    def test_torque_goes_with_the_cosine_of_the_electrical_angle(self):
        assert hall_of(10.0, 14, mechanical=False).torque_lost_pct == pytest.approx(
            100 * (1 - math.cos(math.radians(10))), rel=1e-12
        )
        told = hall_of(2.0, 14, mechanical=True)
        assert told.electrical_deg == 14
        assert told.torque_lost_pct == pytest.approx(2.97, abs=0.005)

    def test_poles_are_even(self):
        with pytest.raises(Refusal) as refused:
            hall_of(2.0, 13, mechanical=True)
        assert refused.value.where == "poles"


class TestCommands:
    def asked(self, capsys, *arguments):
        code = main(list(arguments))
        told = capsys.readouterr()
        return code, json.loads(told.out if code == 0 else told.err)

    def test_settings_advise_shunt_and_hall_print_one_object(self, capsys, tmp_path, make):
        place = tmp_path / "build.json"
        place.write_text(make().model_dump_json(exclude_unset=True))
        _, sheet = self.asked(capsys, "settings", str(place))
        assert set(sheet) >= {"settings", "throttle", "timing", "ramp", "drag_brake", "limits"}
        _, advice = self.asked(capsys, "advise", str(place))
        assert set(advice) == {"commutation", "sensing", "rotor", "machine"}
        shunt = ("shunt", str(place), "--original-mohm", "2", "--limit-a", "20")
        _, told = self.asked(capsys, *shunt, "--parallel-mohm", "2")
        assert told["new_limit_a"] == pytest.approx(40)
        _, hall = self.asked(capsys, "hall", "--offset-deg", "3", "--poles", "8", "--mechanical")
        assert hall["electrical_deg"] == 12
        code, refused = self.asked(capsys, *shunt)
        assert (code, refused["error"]["where"]) == (2, "parallel-mohm")

    def test_a_brief_is_advised_too(self, capsys, tmp_path):
        place = tmp_path / "brief.json"
        place.write_text(start_briefs()[0].document.model_dump_json(exclude_unset=True))
        code, advice = self.asked(capsys, "advise", str(place))
        assert code == 0
        assert advice["commutation"]["why"]
