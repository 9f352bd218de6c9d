"""Tracks become roads: distances on a sphere, gaps, noise and missing heights, hostile files."""

import json
import math

import gpxpy
import gpxpy.geo
import numpy as np
import pytest

from powertrain.cli import main
from powertrain.documents.gpx import MOST_BYTES, Place, read_gpx, write_gpx
from powertrain.documents.run import check_run
from powertrain.errors import Refusal
from powertrain.runs.way import EARTH_M, GAP_M, way_of

DEGREE_M = math.pi / 180 * EARTH_M


def places(at_m, heights, latitude=51.0):
    """Return places along a meridian."""
    return [
        Place(latitude + at / DEGREE_M, 1.0, up, begins=index == 0)
        for index, (at, up) in enumerate(zip(at_m, heights, strict=True))
    ]


def heights_of(way, at_m):
    points = way.points
    return np.interp(at_m, [p.distance_m for p in points], [p.elevation_m for p in points])


def test_distances_agree_with_those_of_the_library():
    """gpxpy's own haversine takes 6,378.137 km, the equator's; scaled, the two agree."""
    chance = np.random.default_rng(3)
    for _ in range(20):
        one, other = chance.uniform([-60, -170], [60, 170], (2, 2)) * [1, 1]
        other = one + (other - one) * 1e-3
        ours = way_of([Place(*one, 0.0, True), Place(*other, 0.0, False)]).length_m
        theirs = gpxpy.geo.haversine_distance(*one, *other)
        assert ours == pytest.approx(theirs * EARTH_M / gpxpy.geo.EARTH_RADIUS, rel=1e-6)


def test_a_smooth_hill_stays_what_it_is():
    at = np.arange(0, 4001, 20.0)
    hill = 30 * np.sin(np.pi * at / 4000) ** 2
    way = way_of(places(at, hill))
    assert way.length_m == pytest.approx(4000, abs=0.5)
    # Smoothed over 30 m and kept within 0.3 m: nowhere further off than half a metre.
    assert np.abs(heights_of(way, at) - hill).max() < 0.5
    assert way.climbs_m == pytest.approx(30, abs=0.7)
    assert len(way.points) < 60


@pytest.mark.parametrize("apart_m", [3.0, 12.0])
def test_noise_in_height_is_not_climbed(apart_m):
    """Noise that follows itself, 3 m wide, as receivers have it; the hill is 40 m up and down."""
    chance = np.random.default_rng(8)
    at = np.arange(0, 6000, apart_m)
    hill = 40 * np.sin(np.pi * at / 6000)
    noise = 3 * chance.normal(size=len(at))
    way = way_of(places(at, hill + noise))
    raw = np.maximum(np.diff(hill + noise), 0).sum()
    assert raw > 400
    assert 38 < way.climbs_m < 75
    # At its ends a road has neighbours on one side only.
    off = np.abs(heights_of(way, at) - hill)
    assert off[(at > 150) & (at < 5850)].max() < 4
    assert off.max() < 6


def test_a_spike_is_taken_out():
    at = np.arange(0, 2001, 10.0)
    flat = np.full(len(at), 12.0)
    flat[100] = 95.0
    assert way_of(places(at, flat)).climbs_m == pytest.approx(0, abs=0.01)


def test_doubled_places_and_standing_still_are_left_out():
    at = [0, 0, 0.4, 100, 100, 100.6, 250]
    way = way_of(places(at, [5.0] * len(at)))
    assert way.length_m == pytest.approx(250, abs=0.1)
    assert any("4 places" in note for note in way.notes)


def test_a_gap_is_straight_and_told():
    way = way_of(places([0, 100, 100 + 3 * GAP_M, 850], [0, 10, 30, 35]))
    assert any("1 gap" in note and "600 m" in note for note in way.notes)
    assert heights_of(way, 400) == pytest.approx(20, abs=1)


def test_without_heights_a_road_is_level_and_says_so():
    way = way_of(places([0, 150, 300], [None] * 3))
    assert [point.elevation_m for point in way.points] == [0, 0]
    assert way.notes == ["No heights in the file: the road is taken as level."]


def test_heights_that_miss_are_straight_between_the_others():
    way = way_of(places([0, 300, 600, 900], [0.0, None, None, 9.0]))
    assert heights_of(way, 450) == pytest.approx(4.5, abs=0.5)
    assert any("2 places without a height" in note for note in way.notes)


def test_a_hundred_thousand_places_are_read():
    at = np.linspace(0, 300_000, 100_000)
    points = "".join(
        f'<trkpt lat="{51 + one / DEGREE_M:.7f}" lon="1"><ele>{20 * math.sin(one / 900):.2f}</ele>'
        "</trkpt>"
        for one in at
    )
    way = way_of(read_gpx(f"<gpx><trk><trkseg>{points}</trkseg></trk></gpx>".encode()))
    assert way.length_m == pytest.approx(300_000, rel=1e-4)
    assert len(way.points) < 20_000
    assert len(way.track) <= 4000


BOMB = (
    '<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY a "ha">'
    + "".join(f'<!ENTITY {b} "{f"&{a};" * 20}">' for a, b in zip("abcdefg", "bcdefgh", strict=True))
    + "]><gpx><name>&h;</name></gpx>"
)
OUTSIDE = '<!DOCTYPE gpx [<!ENTITY x SYSTEM "file:///etc/hostname">]><gpx><name>&x;</name></gpx>'
DTD = '<!DOCTYPE gpx SYSTEM "http://127.0.0.1:1/x.dtd"><gpx/>'


@pytest.mark.parametrize("text", [BOMB, OUTSIDE, DTD])
def test_nothing_that_is_declared_is_read(text, monkeypatch):
    def opened(*given, **named):
        raise AssertionError("something was opened")

    monkeypatch.setattr("socket.socket", opened)
    with pytest.raises(Refusal, match="declares entities"):
        read_gpx(text.encode())


def part(body):
    return f"<gpx><trk><trkseg>{body}</trkseg></trk></gpx>"


GOOD = '<trkpt lat="1" lon="0"/>'


@pytest.mark.parametrize(
    ("text", "where", "what"),
    [
        ("", "gpx", "well-formed"),
        ("<gpx><trk>", "gpx", "well-formed"),
        ("<kml/>", "gpx", "outermost"),
        (part(GOOD), "gpx", "two places"),
        (part(GOOD + '<trkpt lat="95" lon="0"/>'), "gpx, track 1, part 1, place 2", "latitude"),
        (part(GOOD + '<trkpt lat="NaN" lon="0"/>'), "gpx, track 1, part 1, place 2", "latitude"),
        (part(GOOD + '<trkpt lat="1" lon="1e9"/>'), "gpx, track 1, part 1, place 2", "longitude"),
        (part(GOOD + '<trkpt lon="0"/>'), "gpx, place 2", "lat"),
        (part(GOOD + '<trkpt lat="1" lon="0"><ele>up</ele></trkpt>'), "gpx, place 2", "height"),
        ('<?xml version="1.0" encoding="utf-99"?><gpx/>', "gpx", "well-formed"),
    ],
)
def test_what_is_wrong_is_told_with_its_place(text, where, what):
    with pytest.raises(Refusal) as told:
        read_gpx(text.encode())
    assert told.value.where == where
    assert what in told.value.what


def test_a_file_may_not_be_too_long():
    with pytest.raises(Refusal, match="bytes"):
        read_gpx(b" " * (MOST_BYTES + 1))


def test_a_track_that_goes_nowhere_is_no_road():
    for at in ([0, 0, 0], [0, 3, 5]):
        with pytest.raises(Refusal, match="goes nowhere"):
            way_of(places(at, [0.0] * 3))


def test_a_route_counts_where_there_is_no_track():
    text = '<gpx><rte><rtept lat="51" lon="1"/><rtept lat="51.01" lon="1"/></rte></gpx>'
    assert len(read_gpx(text.encode())) == 2


def test_several_parts_follow_one_another():
    found = read_gpx(
        b'<gpx><trk><trkseg><trkpt lat="51" lon="1"/><trkpt lat="51.01" lon="1"/></trkseg>'
        b'<trkseg><trkpt lat="51.02" lon="1"/><trkpt lat="51.03" lon="1"/></trkseg></trk></gpx>'
    )
    assert [place.begins for place in found] == [True, False, True, False]


def test_a_height_that_is_none_on_earth_counts_as_missing():
    body = '<trkpt lat="51" lon="1"><ele>99999</ele></trkpt><trkpt lat="51.01" lon="1"/>'
    assert [place.elevation_m for place in read_gpx(part(body).encode())] == [None, None]


def test_a_name_with_marks_stays_a_name():
    assert gpxpy.parse(write_gpx("Dyke <1> & back", "", [])).name == "Dyke <1> & back"


def test_the_command_prints_a_course_that_can_be_ridden(tmp_path, capsys, trike):
    file = tmp_path / "dyke.gpx"
    line = "".join(
        f'<trkpt lat="{51 + 0.001 * at}" lon="1"><ele>{at}</ele></trkpt>' for at in range(6)
    )
    file.write_text(part(line))
    assert main(["route", str(file), "--ride", "15"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["length_m"] == pytest.approx(555.97, abs=0.1)
    build = {"format": "young-torrent.run/1", "build": trike, "course": told["course"]}
    assert check_run(build).ride.course.points[-1].distance_m == pytest.approx(556, abs=0.1)
    assert main(["route", str(tmp_path / "none.gpx")]) == 2
    assert json.loads(capsys.readouterr().err)["error"]["where"] == "gpx"
