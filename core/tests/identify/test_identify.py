"""Each route from facts to constants, with facts made from constants by hand."""

import math

import numpy as np
import pytest

from powertrain.errors import Refusal
from powertrain.identify.answer import check_facts, identified

KT = 60 / (2 * math.pi)


def motor(**facts):
    document = {"format": "young-torrent.facts/1", "motor": facts}
    return identified(check_facts(document)).motor


def cell(**facts):
    return identified(check_facts({"format": "young-torrent.facts/1", "cell": facts}))


def test_makers_figures_are_taken_as_they_stand():
    seen = motor(kv_rpm_per_v=60, resistance_ohm=0.045, no_load_current_a=1.4).values
    assert {key: finding.value for key, finding in seen.items()} == {
        "kv_rpm_per_v": 60,
        "resistance_ohm": 0.045,
        "no_load_current_a": 1.4,
    }
    assert {finding.origin for finding in seen.values()} == {"data_sheet"}


def test_volts_of_a_spun_motor():
    # A sinusoid of 60 KV at 600 rpm has a line-to-line peak of 10 V, 7.07 V rms.
    seen = motor(spun_rpm=600, spun_line_v=10 / math.sqrt(2)).values["kv_rpm_per_v"]
    assert (seen.value, seen.origin) == (pytest.approx(60), "measured")
    assert seen.tolerance == pytest.approx(0.047)
    brushed = motor(spun_rpm=600, spun_line_v=10, commutation="brushed").values["kv_rpm_per_v"]
    assert brushed.value == pytest.approx(60)


def test_resistance_from_known_amps():
    seen = motor(test_current_a=5, test_voltage_v=0.225).values["resistance_ohm"]
    assert seen.value == pytest.approx(0.045)


def test_one_free_run_and_the_resistance_that_sharpens_it():
    k = KT / 60
    rpm = (24 - 1.4 * 0.5) / k * KT
    rough = motor(free_voltage_v=24, free_speed_rpm=rpm, free_current_a=1.4)
    sharp = motor(free_voltage_v=24, free_speed_rpm=rpm, free_current_a=1.4, resistance_ohm=0.5)
    assert sharp.values["kv_rpm_per_v"].value == pytest.approx(60)
    assert sharp.values["kv_rpm_per_v"].tolerance < rough.values["kv_rpm_per_v"].tolerance
    assert rough.values["kv_rpm_per_v"].value < 60
    assert rough.values["no_load_current_a"].value == 1.4


def test_two_free_runs_leave_out_what_both_lose():
    # 1.2 V of brushes and 0.3 ohm: only the difference knows nothing of them.
    k = KT / 300

    def rpm(volts, amps):
        return (volts - 1.2 - amps * 0.3) / k * KT

    seen = motor(
        free_voltage_v=6,
        free_speed_rpm=rpm(6, 1),
        free_current_a=1,
        second_free_voltage_v=24,
        second_free_speed_rpm=rpm(24, 1),
        second_free_current_a=1,
        commutation="brushed",
    )
    by_two = next(f for f in seen.found if f.route == "two free runs")
    assert by_two.value == pytest.approx(300)


def test_a_plate_with_shaft_watts():
    # 60 KV, 0.045 ohm, I0 1.6 A at 40 A and 48 V: w = (48 - 1.8)/k, P = k (40 - 1.6) w.
    k = KT / 60
    speed = (48 - 40 * 0.045) / k
    facts = {
        "rated_voltage_v": 48,
        "rated_speed_rpm": speed * KT,
        "rated_current_a": 40,
        "rated_power_w": k * (40 - 1.6) * speed,
        "power_is": "shaft",
    }
    seen = motor(**facts, no_load_current_a=1.6)
    assert seen.values["kv_rpm_per_v"].value == pytest.approx(60)
    assert seen.values["resistance_ohm"].value == pytest.approx(0.045)
    # Watts at the wires say nothing of the torque.
    electrical = motor(**{**facts, "power_is": "electrical"})
    assert {f.route for f in electrical.found} == {"the rated speed", "the rated amps"}
    unsaid = motor(**{key: value for key, value in facts.items() if key != "power_is"})
    assert {f.route for f in unsaid.found} == {"the rated speed", "the rated amps"}


def test_a_rated_speed_alone_is_a_wide_guess():
    seen = motor(rated_voltage_v=24, rated_speed_rpm=2750).values["kv_rpm_per_v"]
    assert seen.origin == "estimated"
    low, high = seen.value / (1 + seen.tolerance), seen.value * (1 + seen.tolerance)
    # A loaded motor turns at 0.8 to 0.95 of its free speed; common practice, no source.
    assert low < 2750 / 24 / 0.93 < 2750 / 24 / 0.83 < high


def test_stall_figures():
    k = KT / 60
    seen = motor(
        rated_voltage_v=12,
        stall_current_a=12 / 0.08,
        stall_torque_nm=k * (150 - 2),
        no_load_current_a=2,
    )
    assert seen.values["kv_rpm_per_v"].value == pytest.approx(60)
    assert seen.values["resistance_ohm"].value == pytest.approx(0.08)


def test_turns_of_a_can_are_a_wide_band():
    seen = motor(turns=13.5, diameter_mm=36, length_mm=50).values["kv_rpm_per_v"]
    assert seen.tolerance >= 0.3
    assert 2200 < seen.value < 3600
    longer = motor(turns=13.5, diameter_mm=36, length_mm=70).values["kv_rpm_per_v"]
    assert longer.value < seen.value


def test_a_published_curve():
    k, ohm, free = KT / 60, 0.045, 1.4
    torque = np.linspace(0, 12, 7)
    amps = torque / k + free
    points = [
        {"torque_nm": float(t), "current_a": float(i), "rpm": float((48 - i * ohm) / k * KT)}
        for t, i in zip(torque, amps, strict=True)
    ]
    seen = motor(curve=points, curve_voltage_v=48).values
    assert [seen[key].value for key in ("kv_rpm_per_v", "resistance_ohm", "no_load_current_a")] == (
        pytest.approx([60, 0.045, 1.4], rel=1e-6)
    )


def test_a_series_motors_curve():
    k_sat, half, ohm, loss = 0.24, 120.0, 0.028, 1.1
    amps = np.array([40, 70, 120, 200, 320.0])
    constant = k_sat * amps / (amps + half)
    points = [
        {
            "current_a": float(i),
            "torque_nm": float(k * i - loss),
            "rpm": float((24 - i * ohm) / k * KT),
        }
        for i, k in zip(amps, constant, strict=True)
    ]
    seen = motor(kind="series_wound", curve=points, curve_voltage_v=24).values
    found = [
        seen[key].value
        for key in (
            "saturated_constant_nm_per_a",
            "half_saturation_current_a",
            "resistance_ohm",
            "loss_torque_nm",
        )
    ]
    assert found == pytest.approx([k_sat, half, ohm, loss], rel=1e-4)


def test_one_fact_is_enough_and_more_sharpen():
    one = motor(kv_rpm_per_v=60, mass_kg=2.6)
    assert set(one.values) == {"kv_rpm_per_v", "resistance_ohm", "no_load_current_a"}
    assert one.values["resistance_ohm"].origin == "estimated"
    more = motor(kv_rpm_per_v=60, mass_kg=2.6, test_current_a=5, test_voltage_v=0.225)
    assert more.values["resistance_ohm"].tolerance < one.values["resistance_ohm"].tolerance
    # The usual of its size is of the right order for the motor that was measured.
    ratio = one.values["resistance_ohm"].value / 0.045
    assert 1 / 2.5 < ratio < 2.5
    bare = motor(kv_rpm_per_v=60)
    assert set(bare.missing) == {"resistance_ohm", "no_load_current_a"}


def test_contradictions_are_told_and_not_averaged():
    seen = motor(kv_rpm_per_v=60, spun_rpm=500, spun_line_v=5)
    (clash,) = seen.contradictions
    assert {round(clash.one.value, 1), round(clash.other.value, 1)} == {70.7, 60.0}
    assert seen.values["kv_rpm_per_v"].value in (clash.one.value, clash.other.value)
    assert motor(kv_rpm_per_v=60, spun_rpm=600, spun_line_v=7.1).contradictions == []


def test_a_cell_by_two_loads_a_charger_and_its_print():
    # 13S4P of 21 mohm cells: 68.25 mohm in all; 2 A and 40 A.
    seen = cell(
        series=13,
        parallel=4,
        light_current_a=2,
        light_voltage_v=53.0,
        heavy_current_a=40,
        heavy_voltage_v=53.0 - 38 * 0.06825,
    )
    two = seen.cell.values["cell_resistance_mohm"]
    assert (two.value, two.origin) == (pytest.approx(21), "measured")
    assert seen.pack.resistance_ohm == pytest.approx(0.06825)
    assert cell(parallel=4, charger_mohm=5.5).cell.values["cell_resistance_mohm"].value == 22
    # A 5 Ah lipo of 50 C has about 2 to 3 mohm; common practice, no source.
    rated = cell(chemistry="lipo", cell_capacity_ah=5, c_rating=50).cell
    assert rated.values["cell_resistance_mohm"].value == pytest.approx(2.5, rel=0.25)
    assert cell(series=3).cell.missing


def test_a_pack_of_cells():
    seen = cell(chemistry="li_ion", series=13, parallel=4, cell_capacity_ah=3.4).pack
    assert (seen.charger_v, seen.capacity_ah) == (pytest.approx(54.6), pytest.approx(13.6))
    assert seen.energy_wh == pytest.approx(13 * 3.7 * 13.6)


@pytest.mark.parametrize(
    ("document", "where"),
    [
        ({"format": "young-torrent.facts/1", "motor": {"kv": 60}}, "motor.kv"),
        ({"format": "young-torrent.facts/1", "motor": {"spun_rpm": -5}}, "motor.spun_rpm"),
        ({"motor": {}}, "format"),
        ([], ""),
    ],
)
def test_facts_that_are_none_are_refused(document, where):
    with pytest.raises(Refusal) as refused:
        check_facts(document)
    assert refused.value.where == where
