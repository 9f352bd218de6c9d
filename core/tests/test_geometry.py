"""Geometry of stages against handbook examples and tables (recalled from memory where named)."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from powertrain.errors import Refusal
from powertrain.transmission.chain import (
    STANDARD_BELTS,
    Strand,
    nearest_belts,
    pulley_pitch_diameter_mm,
    sprocket_outside_diameter_mm,
    sprocket_pitch_diameter_mm,
    strand_of,
    teeth_in_mesh,
)
from powertrain.transmission.planetary import planetary_ratio, planets_fit
from powertrain.transmission.spur import (
    Mesh,
    fewest_with,
    mesh_range_mm,
    module_of_diametral_pitch,
)


def handbook_pitches(centre, small, large):
    """Length of a chain by Shigley, eq. 17-34; good to a few hundredths of a pitch."""
    return 2 * centre + (small + large) / 2 + ((large - small) / (2 * math.pi)) ** 2 / centre


def handbook_centre(links, small, large):
    """Centre distance of a chain by Shigley, eq. 17-35 and 17-36."""
    free = links - (small + large) / 2
    return (free + math.sqrt(free**2 - 8 * ((large - small) / (2 * math.pi)) ** 2)) / 4


@pytest.mark.parametrize(
    ("teeth", "by_pitch"), [(9, 2.9238), (11, 3.5495), (15, 4.8097), (60, 19.1073)]
)
def test_sprocket_pitch_diameters(teeth, by_pitch):
    # Machinery's Handbook, table of pitch diameters for a pitch of one.
    assert sprocket_pitch_diameter_mm(1.0, teeth) == pytest.approx(by_pitch, abs=5e-5)


def test_sprocket_outside_diameter():
    # Machinery's Handbook: 0.6 + cot(180/z) pitches; 11 teeth of 1/2 inch are 2.003 in (memory).
    assert sprocket_outside_diameter_mm(0.5, 11) == pytest.approx(2.003, abs=1e-3)


def test_chain_length_of_the_handbook():
    # Shigley, eq. 17-34: C of 30 pitches, 17 and 34 teeth, are 85.744 pitches.
    strand = Strand(
        sprocket_pitch_diameter_mm(1.0, 17) / 2, sprocket_pitch_diameter_mm(1.0, 34) / 2, 30
    )
    assert handbook_pitches(30, 17, 34) == pytest.approx(85.744, abs=5e-4)
    # On the pitch circles the strand is a little longer than the chords that its links make.
    assert 85.744 < strand.length_mm < 85.744 + 0.1


@given(centre=st.floats(20, 80), small=st.integers(9, 30), ratio=st.floats(1.0, 5.0))
def test_the_centre_distance_of_a_length_is_near_the_handbooks(centre, small, ratio):
    large = max(small, round(small * ratio))
    if centre < large / 2:
        return
    links = handbook_pitches(centre, small, large)
    radii = [sprocket_pitch_diameter_mm(1.0, teeth) / 2 for teeth in (small, large)]
    assert strand_of(*radii, links).centre_mm == pytest.approx(
        handbook_centre(links, small, large), rel=0.02
    )


@given(centre=st.floats(30, 80), small=st.integers(15, 25), large=st.integers(25, 60))
def test_the_exact_loop_agrees_with_the_handbooks_formula(centre, small, large):
    # The formula's own error grows with the slope of the free parts; it is small for these.
    strand = Strand(
        sprocket_pitch_diameter_mm(1.0, small) / 2,
        sprocket_pitch_diameter_mm(1.0, large) / 2,
        centre,
    )
    assert strand.length_mm == pytest.approx(handbook_pitches(centre, small, large), abs=0.4)
    assert strand_of(strand.small_mm, strand.large_mm, strand.length_mm).centre_mm == pytest.approx(
        centre
    )


def test_open_belt_of_the_handbook():
    # Shigley, example 17-4: pulleys of 7.4 and 11 in, belt of 113.8 in: C is 42.4 in.
    assert strand_of(3.7, 5.5, 113.8).centre_mm == pytest.approx(42.4, abs=0.05)


def test_equal_wheels_wrap_by_half_and_the_free_parts_are_the_centre_distance():
    strand = Strand(40.0, 40.0, 250.0)
    assert strand.length_mm == pytest.approx(2 * 250 + math.pi * 80)
    assert strand.wrap_deg == 180
    assert teeth_in_mesh(strand, 20) == 10


def test_a_strand_too_short_is_refused():
    with pytest.raises(Refusal):
        strand_of(20, 100, 400)
    with pytest.raises(Refusal):
        strand_of(*(sprocket_pitch_diameter_mm(1.0, teeth) / 2 for teeth in (17, 70)), 40)


def test_pulleys_and_standard_belts():
    # ISO 13050: 30 teeth of 8 mm have a pitch diameter of 76.394 mm.
    assert pulley_pitch_diameter_mm(8.0, 30) == pytest.approx(76.394, abs=5e-4)
    # ISO 5296: L belts are named by their length in tenths of an inch at 3/8 in a tooth:
    # 124 has 33 teeth, 210 has 56, 600 has 160; H at 1/2 in: 240 has 48, 1700 has 340 (memory).
    for pitch_in, pitch_mm, name, teeth in (
        (0.375, 9.525, 124, 33),
        (0.375, 9.525, 210, 56),
        (0.375, 9.525, 600, 160),
        (0.5, 12.7, 240, 48),
        (0.5, 12.7, 1700, 340),
        (0.2, 5.08, 60, 30),
        (0.2, 5.08, 260, 130),
    ):
        assert teeth in STANDARD_BELTS[pitch_mm]
        assert teeth * pitch_in == pytest.approx(name / 10, abs=0.05)
    assert nearest_belts(9.525, 61) == (60, 64)
    assert nearest_belts(9.525, 500) == (160, None)
    assert nearest_belts(7.77, 50) == (None, None)


def test_spur_gears():
    # ISO 54: centre distance m (z1 + z2)/2. Diametral pitch 48 is a module of 0.529 (definition).
    assert Mesh(1.5, 13, 40, 0).true_centre_mm == 39.75
    assert module_of_diametral_pitch(48) == pytest.approx(0.52917, abs=5e-6)
    # Shigley, section 13-7: 13 teeth with an equal gear, 16 with one four times as large.
    assert math.ceil(fewest_with(1.0)) == 13
    assert math.ceil(fewest_with(4.0)) == 16


def test_contact_ratio():
    # A pair of 20 degree full-depth gears of 17 and 52 teeth: 1.64 (worked by hand from the
    # lengths of approach and recess); large equal gears come near 1.8, a rack's limit is 1.98.
    mesh = Mesh(1.0, 17, 52, 34.5)
    assert mesh.contact_ratio == pytest.approx(1.64, abs=0.02)
    assert 1.75 < Mesh(1.0, 60, 60, 60.0).contact_ratio < 1.98
    wide = Mesh(1.0, 17, 52, 34.75)
    assert wide.contact_ratio < mesh.contact_ratio
    assert wide.backlash_mm == pytest.approx(2 * 0.25 * math.tan(math.radians(20)))
    assert mesh_range_mm(1.0, 17, 52) == (34.5, 34.75)


def test_planetary():
    # Willis: ring held, 1 + 72/24.
    assert planetary_ratio(24, 72) == 4.0
    assert planets_fit(24, 72, 3)
    assert not planets_fit(24, 72, 5)
    with pytest.raises(Refusal):
        planetary_ratio(24, 20)
