"""What speaks for and against a change: each condition, finding and refusal at both its sides."""

import pytest

from core.tests.conftest import document_with
from powertrain.bench.solve import solve
from powertrain.compile.build import with_moments
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.gearing.boost import boost
from powertrain.gearing.overvolt import overvolt
from powertrain.gearing.runs import will_it_run
from powertrain.gearing.split import split
from powertrain.gearing.windings import windings
from powertrain.shelf.shipped import shipped_shelf

RATED = {
    "motor.continuous_current_a": 55,
    "motor.max_rpm": 4200,
    "controller.max_voltage_v": 63,
    "controller.capacitor_voltage_v": 63,
    "vehicle.rated_speed_kmh": 45,
    "motor.mass_kg": 3.0,
    "moments.climb_length_m": 200,
}


def build_with(changes) -> Build:
    return with_moments(check_build(document_with({**RATED, **changes})))


def condition(name: str, series: int, **changes):
    told = overvolt(
        build_with({key.replace("__", "."): value for key, value in changes.items()}), series
    )
    return next(one for one in told.conditions if one.id == name)


@pytest.mark.parametrize(
    ("name", "series", "changes", "weight"),
    [
        # About 3,510 rpm free on 14 cells at 58.8 V, 60 KV less what 1.4 A through 45 mohm takes.
        ("free_rpm", 14, {"motor__max_rpm": 4200}, "fine"),
        ("free_rpm", 14, {"motor__max_rpm": 3400}, "stop"),
        ("free_rpm", 14, {"motor__max_rpm": 3540}, "condition"),
        ("free_rpm", 14, {"motor__max_rpm": None}, "condition"),
        # 58.8 V under 63 V, 63.0 V at it, 67.2 V over it.
        ("controller_volts", 14, {}, "fine"),
        ("controller_volts", 16, {}, "stop"),
        ("capacitors", 14, {}, "fine"),
        ("capacitors", 16, {}, "stop"),
        ("capacitors", 14, {"controller__capacitor_voltage_v": None}, "condition"),
        # Some 40 km/h on 14 cells.
        ("brakes", 14, {}, "fine"),
        ("brakes", 14, {"vehicle__rated_speed_kmh": 32}, "condition"),
        ("brakes", 14, {"vehicle__rated_speed_kmh": None}, "condition"),
        # Six kilograms carry off what three get too hot by after half an hour.
        ("heat", 14, {"motor__mass_kg": 6.0}, "fine"),
        ("heat", 14, {}, "condition"),
        ("heat", 14, {"motor__mass_kg": 6.0, "moments__climb_grade_pct": 35}, "condition"),
        ("heat", 14, {"moments__climb_length_m": 20000, "moments__climb_grade_pct": 12}, "stop"),
        ("watts", 14, {}, "condition"),
    ],
)
def test_more_volts_on_conditions(name, series, changes, weight):
    assert condition(name, series, **changes).weight == weight


def test_no_amps_limit_is_a_condition_by_itself():
    # The pack alone limits then: nothing is lowered, and setting a limit is asked for.
    told = overvolt(build_with({"controller.battery_current_limit_a": None}), 14)
    watts = next(one for one in told.conditions if one.id == "watts")
    assert watts.weight == "condition"
    assert "Set one" in watts.say
    assert "controller.battery_current_limit_a" not in told.change


def test_the_most_that_the_limits_of_controller_and_pack_give():
    told = overvolt(build_with({}), 14)
    for side in (told.now, told.then):
        # Watts at a pack amps limit: amps times volts less the sag through the pack, closed form;
        # 20 mohm a cell over 4 beside one another, 10 mohm of wiring.
        ohm = 0.020 * side.series / 4 + 0.010
        limit = 45.0 if side.series == 13 else side.pack_limit_a
        volts = 4.1 * side.series - limit * ohm
        assert side.pack_peak_w == pytest.approx(limit * volts, rel=0.02)


def stage(**of):
    known = {"kind": "chain", "driver_teeth": 16, "driven_teeth": 60, "efficiency": 0.95}
    kept = {key: value for key, value in {**known, **of}.items() if value is not None}
    return will_it_run(check_build(document_with({"gearing": [kept]}))).stages[0]


def said(told) -> str:
    return " ".join(finding.say for finding in told.findings)


def test_what_is_not_said_of_a_stage_is_taken_as_usual_and_named():
    chain = stage()
    assert "12.7 mm" in chain.assumed
    assert "shaft to shaft" in chain.assumed
    belt = stage(kind="belt")
    assert "5 mm" in belt.assumed
    spur = stage(kind="spur", driver_teeth=20, driven_teeth=60)
    assert "module of 1 mm" in spur.assumed
    assert stage(pitch_mm=12.7, centre_mm=400).assumed in (None, "", [])


def test_a_belt_needs_teeth_in_mesh():
    # Six teeth in mesh are wanted (handbook rule): a small pulley close to a large one has fewer.
    few = stage(kind="belt", driver_teeth=12, driven_teeth=90, pitch_mm=5, centre_mm=90)
    assert "teeth of the belt are in mesh" in said(few)
    many = stage(kind="belt", driver_teeth=30, driven_teeth=60, pitch_mm=5, centre_mm=150)
    assert "in mesh" not in said(many)


def test_a_belt_for_which_there_is_no_standard_length_is_made_to_length():
    long = stage(kind="belt", driver_teeth=30, driven_teeth=60, pitch_mm=7, centre_mm=300)
    assert [strand.say for strand in long.strands] == ["made to length; no standard one is near"]


def test_a_mount_that_can_not_bring_gears_into_mesh():
    # Module 1, 20 and 60 teeth mesh at 40 mm (ISO 54).
    near = stage(
        kind="spur", driver_teeth=20, driven_teeth=60, module_mm=1, centre_mm=38, slot_mm=1
    )
    assert "can't bring them into mesh" in said(near)
    reach = stage(
        kind="spur", driver_teeth=20, driven_teeth=60, module_mm=1, centre_mm=39, slot_mm=2
    )
    assert "can't bring them into mesh" not in said(reach)


def test_what_has_no_teeth_of_its_own_is_told_by_its_ratio():
    document = document_with(
        {
            "gearing": [
                {"kind": "fixed", "ratio": 5.5, "efficiency": 0.95},
                {"kind": "gearbox", "ratios": [1.2, 3.4], "efficiency": 0.95},
            ]
        }
    )
    kinds = [one.kind for one in will_it_run(check_build(document)).stages]
    assert kinds == ["fixed", "gearbox"]


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        # 37 km/h at top speed is what volts allow; with a tall gear the pack's amps set it.
        ({}, "A faster winding goes faster"),
        ({"gearing.0.driver_teeth": 32, "gearing.0.driven_teeth": 40}, "amps limit holds it"),
    ],
)
def test_what_another_winding_would_be_good_for(changes, words):
    assert words in windings(build_with(changes), shipped_shelf()).say


def test_a_winding_that_nobody_sells_gets_neighbours_from_a_rounded_series():
    told = windings(build_with({"motor.kv_rpm_per_v": 61.7}), shipped_shelf())
    numbers = [one.number for one in told.windings]
    own = [one.number for one in told.windings if one.own]
    assert own == [pytest.approx(61.7)]
    assert min(numbers) < 61.7 < max(numbers)
    for one in told.windings:
        # Each keeps today's speed by its own reduction: KV over ratio is one figure.
        assert one.keeps_ratio / one.number == pytest.approx(
            told.windings[0].keeps_ratio / told.windings[0].number, rel=0.05
        )


HELPING = {"motor.max_rpm": 4200, "battery.charge_current_a": 30}


@pytest.mark.parametrize(
    ("changes", "tap", "from_kmh", "severity", "words"),
    [
        ({"motor.max_rpm": None}, 13, 0, "watch", "highest rpm is not known"),
        ({"motor.max_rpm": 2000}, 13, 0, "stop", "of 2,000"),
        ({}, 6, 30, "stop", "below where it is switched on"),
        ({}, 9, 0, "watch", "does not push any more"),
        ({"battery.charge_current_a": None}, 6, 0, "stop", "would push"),
        # A pack that takes any amps is still charged past its end of charge by a motor turned at
        # twice its volts; one turned a little past them is only to be watched.
        ({"battery.charge_current_a": 4000}, 6, 0, "stop", "would push"),
        ({"battery.charge_current_a": 4000}, 12, 0, "watch", "would push"),
    ],
)
def test_a_helper_that_comes_at_a_price(changes, tap, from_kmh, severity, words):
    base = build_with(HELPING)
    helper = build_with({**HELPING, **changes})
    if "battery.charge_current_a" in changes:
        # The tap is of the base's pack, which has to take what comes back.
        base = build_with({**HELPING, **changes})
    told = boost(base, helper, tap, float(from_kmh))
    finding = next(one for one in told.findings if words in one.say)
    assert finding.severity == severity


def test_a_helper_of_the_same_kind_and_volts_does_nothing_wrong():
    told = boost(build_with(HELPING), build_with({"motor.max_rpm": 99_000}), 13, 0.0)
    assert not [one for one in told.findings if one.severity == "stop"]
    assert told.tap_share == 1.0
    # Twice the push holds the sum of both at the speed where road and push are even.
    alone = solve(build_with(HELPING)).doubt.figures["top_speed_kmh"].value
    assert told.alone_kmh == pytest.approx(alone, rel=1e-4)
    assert told.together_kmh > told.alone_kmh


def test_a_split_into_kinds_that_are_not_sold_is_refused():
    shelf = shipped_shelf()
    with pytest.raises(Refusal):
        split(4.0, shelf.model_copy(update={"teeth": []}), ("chain",))


def test_changes_leave_the_document_a_valid_build():
    build = build_with({})
    document = build.model_dump(mode="json", exclude_unset=True)
    told = windings(build, shipped_shelf())
    for one in told.windings:
        check_build(changed(document, one.change))
        if one.keeps_teeth:
            check_build(changed(document, one.keeps_change))
    for series in (14, 20):
        check_build(changed(document, overvolt(build, series).change))


@pytest.mark.parametrize(("driver", "driven"), [(4, 3), (3, 60), (9, 9), (10_000, 4_800)])
def test_teeth_that_nobody_would_buy_have_windings_too(driver, driven):
    build = build_with({"gearing.0.driver_teeth": driver, "gearing.0.driven_teeth": driven})
    told = windings(build, shipped_shelf()).windings
    own = next(one for one in told if one.own)
    assert own.keeps_teeth == [driver, driven]
    now = driven / driver
    for one in told:
        kept = one.keeps_teeth[1] / one.keeps_teeth[0]
        # Reduction goes with the rpm of a volt, as near as there are teeth between half and twice.
        wanted = min(max(now * one.number / own.number, driven / 2 / (2 * driver)), 4 * now)
        assert kept == pytest.approx(wanted, rel=0.2)
