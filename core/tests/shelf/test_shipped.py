"""The rules that the shipped shelf follows, read off its parts; what is common practice says so."""

import json
import math
from collections import defaultdict
from pathlib import Path

import numpy as np
import pytest

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.shelf import Shelf
from powertrain.heat.estimate import PACK_WH_PER_KG
from powertrain.shelf.shipped import shipped_shelf

SHELF = shipped_shelf()
MAGNETS = [part for part in SHELF.motors if part.motor.kind == "permanent_magnet"]


def families():
    found = defaultdict(list)
    for part in MAGNETS:
        found[part.family].append(part)
    return found


def test_there_is_something_for_everybody():
    assert len(SHELF.motors) >= 80
    assert len(SHELF.controllers) >= 35
    assert len(SHELF.packs) + len(SHELF.cells) >= 30
    masses = [part.motor.mass_kg for part in SHELF.motors]
    assert min(masses) < 0.05
    assert max(masses) >= 60
    assert {part.motor.kind for part in SHELF.motors} == {
        "permanent_magnet",
        "series_wound",
        "packaged",
    }
    assert {part.battery.chemistry for part in SHELF.packs} == set(CHEMISTRIES)


@pytest.mark.parametrize("family", sorted(families()))
def test_windings_of_one_can_differ_in_nothing_but_turns(family):
    parts = families()[family]
    assert len(parts) >= 3
    # Of the same copper: R KV^2 is one number (three digits are stated).
    coppers = [p.motor.resistance_ohm * p.motor.kv_rpm_per_v**2 for p in parts]
    assert max(coppers) / min(coppers) == pytest.approx(1, abs=0.01)
    # Amps for long and amps free go as KV, so torque is the same (two digits are stated).
    for key in ("continuous_current_a", "no_load_current_a"):
        torques = [getattr(p.motor, key) / p.motor.kv_rpm_per_v for p in parts]
        assert max(torques) / min(torques) == pytest.approx(1, abs=0.12)
    for key in ("mass_kg", "diameter_mm", "length_mm", "shaft_mm", "max_rpm", "price"):
        assert len({getattr(p.motor, key) for p in parts}) == 1


def test_heavier_motors_of_a_kind_turn_harder_and_cost_more():
    by_maker = defaultdict(dict)
    for family, parts in families().items():
        motor = parts[0].motor
        torque = 9.549 / motor.kv_rpm_per_v * motor.continuous_current_a
        by_maker[family.split()[0]][motor.mass_kg] = (torque, motor.price)
    for sizes in by_maker.values():
        ordered = [sizes[mass] for mass in sorted(sizes)]
        assert ordered == sorted(ordered, key=lambda pair: pair[0])
        assert ordered == sorted(ordered, key=lambda pair: pair[1])


def test_a_motor_weighs_what_its_can_can_hold():
    for part in SHELF.motors:
        motor = part.motor
        litres = math.pi / 4 * motor.diameter_mm**2 * motor.length_mm / 1e6
        # Iron and copper with air between: 2 to 6 kg for each litre of the can.
        assert 1.9 < motor.mass_kg / litres < 6.0, part.id


def test_a_rating_for_long_leaves_most_of_the_shaft_power():
    for part in MAGNETS:
        motor = part.motor
        lost = motor.continuous_current_a**2 * motor.resistance_ohm
        volts = 0.6 * motor.max_rpm / motor.kv_rpm_per_v
        taken = volts * motor.continuous_current_a
        assert lost < 0.35 * taken, part.id
        assert motor.no_load_current_a < 0.2 * motor.continuous_current_a


def test_packs_are_their_cells_and_a_bit():
    for part in SHELF.packs:
        battery, nominal_v = part.battery, CHEMISTRIES[part.battery.chemistry].nominal_v
        energy_wh = battery.series * battery.parallel * battery.cell_capacity_ah * nominal_v
        usual = PACK_WH_PER_KG[battery.chemistry]
        assert 0.6 < energy_wh / battery.mass_kg / usual < 1.5, part.id
        litres = battery.length_mm * battery.width_mm * battery.height_mm / 1e6
        assert 1.0 < battery.mass_kg / litres < 3.2, part.id
        assert battery.peak_current_a >= battery.continuous_current_a
        # The amps that it is said to give leave most of its volts.
        ohm = battery.series / battery.parallel * battery.cell_resistance_mohm / 1000
        sag_v = battery.continuous_current_a * (ohm + battery.wiring_resistance_mohm / 1000)
        assert sag_v < 0.3 * battery.series * nominal_v, part.id


def test_dearer_packs_hold_more_within_a_line_of_cells():
    lines = defaultdict(list)
    for part in SHELF.packs:
        lines[part.name.rsplit(" ", 1)[0]].append(part)
    for parts in lines.values():
        cells = [part.battery.series * part.battery.parallel for part in parts]
        prices = [part.battery.price for part in parts]
        assert list(np.argsort(cells)) == list(np.argsort(prices))


def test_controllers_stand_a_step_more_than_they_are_rated():
    for part in SHELF.controllers:
        controller = part.controller
        if controller.capacitor_voltage_v is not None:
            assert controller.max_voltage_v <= controller.capacitor_voltage_v
        if controller.peak_current_a is not None:
            assert controller.peak_current_a >= 1.5 * controller.continuous_current_a
        drop_v = controller.resistance_ohm * controller.continuous_current_a
        assert 0.03 < drop_v < 0.2


def test_the_shelf_in_the_examples_is_the_one_that_ships():
    place = Path(__file__).parents[3] / "docs/examples/shelf.json"
    document = json.loads(place.read_text())
    assert Shelf.model_validate(document) == SHELF
    again = json.loads(SHELF.model_dump_json(exclude_unset=True))
    assert again == document
