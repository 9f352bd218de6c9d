"""Stages and tyres as they are mounted: teeth, lengths and sizes by the books and the trade."""

import math

import pytest

from core.tests.gearing.conftest import set_on
from powertrain.documents.build import Build
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.gearing.gear_teeth import module_of, planetary
from powertrain.gearing.runs import will_it_run
from powertrain.gearing.split import split
from powertrain.gearing.tyre import speeds, tyre_of
from powertrain.shelf.shipped import shipped_shelf

# Gears by their teeth


def test_a_planetary_gear_and_a_pitch_in_inches():
    # Willis: 1 + 72/18 is 5; 18 and 72 make 90, which three planets divide and four do not.
    told = planetary(18, 72, 3)
    assert (told.ratio, told.planet_teeth, told.fits) == (5.0, 27, True)
    assert not planetary(18, 72, 4).fits
    assert "even" in planetary(18, 73, 3).say
    with pytest.raises(Refusal):
        planetary(30, 20, 3)
    # 32 diametral pitch is module 0.79375 mm (25.4/32, by definition of the inch).
    assert module_of(32.0).module_mm == 0.79375


# Stages


def test_sixty_to_one_takes_three_stages_and_is_refused_in_one():
    told = split(60.0, shipped_shelf())
    assert "can't be one stage" in told.refused[1]
    assert 2 in told.refused
    assert min(told.splits) == 3
    for count, found in told.splits.items():
        for one in found:
            assert len(one.stages) == count
            ratio = math.prod(s.driven_teeth / s.driver_teeth for s in one.stages)
            assert one.ratio == pytest.approx(ratio)
            assert abs(one.off_pct) < 1
            assert one.efficiency == pytest.approx(math.prod(s.efficiency for s in one.stages))


def test_splits_are_of_wheels_that_are_sold():
    sold = {
        (item.kind, item.side): {
            size.teeth
            for part in shipped_shelf().teeth
            if (part.kind, part.side) == (item.kind, item.side)
            for size in part.sizes
        }
        for item in shipped_shelf().teeth
    }
    for wanted in (2.5, 4.0, 11.0, 33.0):
        told = split(wanted, shipped_shelf(), ("chain", "belt", "spur"))
        for found in told.splits.values():
            for stage in found[0].stages:
                assert stage.driver_teeth in sold[(stage.kind, "driver")]
                assert stage.driven_teeth in sold[(stage.kind, "driven")]


@pytest.mark.parametrize("wanted", [0.5, 1.0, 20_000.0, 1500.0])
def test_what_is_no_reduction_or_too_much_is_refused(wanted):
    with pytest.raises(Refusal) as refusal:
        split(wanted, shipped_shelf())
    assert refusal.value.where == "wanted"


# Will it run


def mounted(build: Build, **stage) -> Build:
    document = build.model_dump(mode="json", exclude_unset=True)
    document["gearing"] = [{**document["gearing"][0], **stage}]
    return check_build(document)


def test_a_chain_that_is_on_it_and_one_link_more(build):
    one = mounted(
        build, driver_teeth=17, driven_teeth=34, pitch_mm=12.7, centre_mm=381, links=86, slot_mm=8
    )
    stage = will_it_run(one).stages[0]
    length = next(fact for fact in stage.facts if fact.label == "Length at this distance")
    # Shigley, eq. 17-34: 30 pitches apart, 17 and 34 teeth: 85.744 pitches.
    assert length.value == pytest.approx(85.744, abs=0.1)
    by_links = {strand.links: strand for strand in stage.strands}
    # Two links longer let the shafts stand one pitch further apart, nearly (both free parts).
    assert by_links[88].centre_mm - by_links[86].centre_mm == pytest.approx(12.7, abs=0.2)
    assert by_links[86].fits is True
    assert by_links[88].fits is False
    assert by_links[85].half_link is True


def test_too_little_wrap_too_few_teeth_and_too_near_the_ground(build):
    steep = mounted(build, driver_teeth=9, driven_teeth=70, pitch_mm=12.7, centre_mm=170)
    stage = will_it_run(steep).stages[0]
    said = " ".join(finding.say for finding in stage.findings)
    assert "wraps only" in said
    assert "9 teeth" in said
    small = set_on(steep, {"wheel.rolling_circumference_mm": 900})
    said = " ".join(f.say for f in will_it_run(small).stages[0].findings)
    assert "above the ground" in said
    touching = mounted(build, driver_teeth=20, driven_teeth=60, pitch_mm=12.7, centre_mm=100)
    assert will_it_run(touching).stages[0].findings[-1].severity == "stop"


def test_belts_come_in_standard_lengths(build):
    belt = mounted(build, kind="belt", driver_teeth=20, driven_teeth=40, pitch_mm=8, centre_mm=300)
    stage = will_it_run(belt).stages[0]
    # ISO 13050 series of 8 mm belts, from memory: 100 and 110 teeth are sold.
    assert [strand.links for strand in stage.strands] == [100, 110]


def test_gears_that_jam_knock_or_are_undercut(build):
    def said(**stage):
        one = mounted(build, kind="spur", **stage)
        return " ".join(finding.say for finding in will_it_run(one).stages[0].findings)

    assert "jam" in said(driver_teeth=20, driven_teeth=60, module_mm=1, centre_mm=39.5)
    assert "bear on average" in said(driver_teeth=20, driven_teeth=60, module_mm=1, centre_mm=41)
    assert "undercut" in said(driver_teeth=12, driven_teeth=60, module_mm=1, centre_mm=36)
    good = said(driver_teeth=20, driven_teeth=60, module_mm=1, centre_mm=40.1)
    assert good == ""


# Tyre


@pytest.mark.parametrize(
    ("marking", "across"),
    [
        # ISO 5775: 406 mm bead seat and 47 mm of tyre on both sides.
        ("47-406", 500),
        ("26 x 2.0", 660.4),
        ("200 x 50", 200),
        ("145/70-6", 355.4),
        ("10 in", 254),
        ("254 mm", 254),
    ],
)
def test_tyre_markings(marking, across):
    told = tyre_of(marking)
    assert told.diameter_mm == pytest.approx(across)
    assert told.rolls_low_mm < told.rolls_mm < told.rolls_high_mm < math.pi * across


def test_soft_tyres_sink_and_fast_ones_grow():
    assert tyre_of("47-406", 0, 0.5).rolls_mm < tyre_of("47-406").rolls_mm
    assert tyre_of("47-406", 40).at_speed_mm > tyre_of("47-406").at_speed_mm
    with pytest.raises(Refusal):
        tyre_of("roundish")


def test_rpm_and_speed_belong_together(build):
    # 2,500 rpm, 15 to 44 teeth, 0.798 m round: 40.8 km/h (common practice, no source).
    one = mounted(build, driver_teeth=15, driven_teeth=44)
    one = set_on(one, {"wheel.rolling_circumference_mm": 798})
    told = speeds(one, motor_rpm=2500)
    assert told.speed_kmh == pytest.approx(40.8, abs=0.05)
    assert speeds(one, speed_kmh=told.speed_kmh).motor_rpm == pytest.approx(2500)
    assert speeds(one, wheel_rpm=told.wheel_rpm).motor_rpm == pytest.approx(2500)
    with pytest.raises(Refusal):
        speeds(one)
    with pytest.raises(Refusal):
        speeds(one, wheel_rpm=3, motor_rpm=4)
