"""Pre-charge, short circuit and switchgear against plain arithmetic."""

import pytest

from core.tests.conversion.conftest import tractor_with
from powertrain.conversion.high_volts import high_volts
from powertrain.errors import Refusal


def test_precharge_is_that_of_a_capacitor_behind_a_resistor():
    # 24 cells at 3.65 V are 87.6 V; 9,000 uF: 0.5 C V^2 = 34.53 J. R C = 47 x 0.009 = 0.423 s, and
    # 1 - exp(-t/RC) is 0.95 at t = ln 20 RC = 2.996 RC (any textbook of circuits).
    told = high_volts(tractor_with({}), 47.0).precharge
    assert told.energy_j == pytest.approx(34.53, abs=0.01)
    assert told.time_s == pytest.approx(1.267, abs=0.001)
    assert told.first_a == pytest.approx(1.864, abs=0.001)
    assert told.first_w == pytest.approx(163.3, abs=0.1)
    assert told.resistor_ohm == 47.0


def test_controllers_side_by_side_are_filled_together():
    one, two = (
        high_volts(tractor_with({"controller.count": count}), 47.0).precharge for count in (1, 2)
    )
    assert two.energy_j == pytest.approx(2 * one.energy_j)
    assert two.time_s == pytest.approx(2 * one.time_s)
    assert two.first_a == one.first_a


def test_a_short_circuit_is_volts_over_all_ohms():
    # 24 x 0.6 + 2 = 16.4 mohm; 87.6 V over it.
    assert high_volts(tractor_with({}), 47.0).short_circuit_a == pytest.approx(5341.5, abs=0.1)


def test_a_pack_without_resistance_tells_no_short_circuit():
    bare = tractor_with({"battery.cell_resistance_mohm": 0, "battery.wiring_resistance_mohm": 0})
    told = high_volts(bare, 47.0)
    assert told.short_circuit_a is None
    assert any("measure the cells" in say for say in told.cautions)


def test_the_fuse_carries_lasting_amps_at_four_fifths():
    gear = high_volts(tractor_with({}), 47.0).switchgear
    steps = [10, 16, 20, 25, 32, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630]
    need = max(gear.lasting_a / 0.8, gear.most_a / 1.25)
    assert gear.fuse_a == min(step for step in steps if step >= need)
    assert gear.most_a >= gear.lasting_a
    assert gear.breaks_a == pytest.approx(5341.5, abs=0.1)


def test_above_sixty_volts_licensed_practice_comes_first():
    high, low = high_volts(tractor_with({}), 47.0), high_volts(tractor_with({"battery.series": 16}))
    assert "licensed practice and local codes come first" in high.cautions[0]
    # 16 x 3.65 = 58.4 V
    assert low.cautions[0].startswith("58.4 V")
    # 100 ohm for each of 87.6 V (ISO 6469-3, from memory)
    assert any("9 kohm" in say for say in high.cautions)
    assert not any("kohm" in say for say in low.cautions)


def test_without_a_resistor_one_is_chosen_that_takes_a_second():
    assert high_volts(tractor_with({})).precharge.time_s == pytest.approx(1.0, rel=0.05)


def test_a_resistor_for_nothing_known_is_refused():
    with pytest.raises(Refusal) as told:
        high_volts(tractor_with({"controller.capacitance_uf": None}), 47.0)
    assert told.value.where == "controller.capacitance_uf"
    unknown = high_volts(tractor_with({"controller.capacitance_uf": None}))
    assert unknown.precharge is None
    assert any("capacitance is not known" in say for say in unknown.cautions)


def test_a_minute_of_waiting_is_told():
    slow = high_volts(tractor_with({}), 2200.0)
    # 2200 x 0.009 x 2.996 = 59 s
    assert any(say.startswith("59 s") for say in slow.cautions)


def test_the_cables_drop_is_that_of_copper():
    """Against the tables of IEC 60228 (class 2 at 20 C, from memory): 0.387 ohm/km for 50 mm2 and
    0.193 for 95, which are upper limits and hold a few percent for stranding."""
    for mm2, most_ohm_per_km in ((50, 0.387), (95, 0.193)):
        cable = high_volts(tractor_with({"wiring.pack_wire_mm2": mm2}), 47.0).cable
        of_one = 1000 * cable.ohm_per_m / 2
        assert 0.88 * most_ohm_per_km < of_one < most_ohm_per_km
        assert not cable.assumed


def test_an_unsaid_cable_is_the_thinnest_that_does():
    told = high_volts(tractor_with({}), 47.0)
    assert told.cable.assumed
    # Eight amps for each mm2 (common practice): the next size below would carry too much.
    sizes = [0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120]
    assert told.cable.mm2 == min(size for size in sizes if 8 * size >= told.switchgear.lasting_a)
    amps = told.switchgear.lasting_a
    assert told.cable.drop_v_per_m * amps == pytest.approx(told.cable.heat_w_per_m)


def test_large_energies_are_told_without_powers_of_ten():
    # 45 cells: 164.25 V, 9 mF: 121.4 J.
    told = high_volts(tractor_with({"battery.series": 45}), 47.0)
    assert any("frees 120 J" in say for say in told.cautions)
    assert not any("e+" in say for say in told.cautions)
