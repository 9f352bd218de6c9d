"""Tracks in GPX as a record of speed, and two records of one ride laid beside each other."""

import json

import numpy as np
import pytest

from powertrain.cli import main
from powertrain.errors import Refusal
from powertrain.telemetry.align import aligned
from powertrain.telemetry.find import proposals
from powertrain.telemetry.read import read_log

MERIDIAN_M = 6371008.8 * np.pi / 180
"""Metres of a degree of latitude on the sphere of the IUGG's mean radius."""


def gpx(times, metres, speeds=None):
    spots = []
    for place, (at, way) in enumerate(zip(times, metres, strict=True)):
        minute, second = divmod(at, 60)
        stamp = f"2026-05-01T10:{int(minute):02d}:{second:06.3f}Z"
        own = "" if speeds is None else f"<speed>{speeds[place]:.3f}</speed>"
        spots.append(
            f'<trkpt lat="{50 + way / MERIDIAN_M:.8f}" lon="8"><time>{stamp}</time>{own}</trkpt>'
        )
    head = '<gpx version="1.0" creator="made up" xmlns="http://www.topografix.com/GPX/1/0">'
    return f"{head}<trk><trkseg>{''.join(spots)}</trkseg></trk></gpx>".encode()


def ride(seed=3, lasts=240):
    """A made-up course: seconds and m/s, standing, riding at three speeds, rolling out."""
    rng = np.random.default_rng(seed)
    at = np.arange(0, lasts, 0.1)
    corners = [0, 10, 25, 70, 80, 120, 135, 180, lasts]
    speed = np.interp(at, corners, [0, 0, 6, 6, 9, 9, 4, 4, 0])
    return at, speed + 0.02 * rng.standard_normal(len(at))


def csv(header, *columns):
    rows = "\n".join(
        ",".join(f"{value:.4f}" for value in row) for row in zip(*columns, strict=True)
    )
    return f"{header}\n{rows}".encode()


def test_a_track_without_speeds_tells_them_by_way_over_time():
    at = np.arange(0, 60, 1.0)
    log = read_log(gpx(at, 8.0 * at))
    assert log.columns["speed_kmh"] == pytest.approx(28.8, abs=0.01)
    assert log.columns["distance_m"][-1] == pytest.approx(8 * 59, abs=0.01)
    assert "way over time" in log.notes[0]


def test_the_receiver_s_own_speeds_go_before_noisy_places():
    rng = np.random.default_rng(1)
    at = np.arange(0, 60, 1.0)
    log = read_log(gpx(at, 8.0 * at + 2 * rng.standard_normal(60), np.full(60, 8.0)))
    assert log.columns["speed_kmh"] == pytest.approx(28.8)
    assert "own" in log.notes[0]


def test_a_track_proposes_its_fastest_held_speed_and_rolling_out_both_with_an_if():
    at = np.arange(0, 100, 1.0)
    speed = np.interp(at, [0, 10, 50, 99], [0, 9, 9, 2])
    found = {
        one.observation["kind"]: one
        for one in proposals(read_log(gpx(at, np.cumsum(speed), speed)))
    }
    assert set(found) == {"top_speed", "coast_down"}
    assert found["top_speed"].observation["speed_kmh"] == pytest.approx(32.4, abs=0.3)
    assert found["top_speed"].observation["instrument"] == "satellite"
    assert "if it was flat out" in found["top_speed"].say
    assert "no brake" in found["coast_down"].say
    assert found["coast_down"].from_s == pytest.approx(50, abs=3)


def test_a_hard_brake_is_no_rolling_out():
    at = np.arange(0, 60, 1.0)
    speed = np.interp(at, [0, 10, 45, 50, 59], [0, 9, 9, 1, 1])
    kinds = [one.observation["kind"] for one in proposals(read_log(gpx(at, at, speed)))]
    assert "coast_down" not in kinds


@pytest.mark.parametrize(
    ("text", "what"),
    [
        (gpx([0, 1], [0, 8]).replace(b"<time>", b"<cmt>").replace(b"</time>", b"</cmt>"), "times"),
        (gpx([5, 5], [0, 8]), "one time"),
        (b"<html></html>", "outermost"),
        (b'<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "b">]><gpx>&a;</gpx>', "entities"),
    ],
)
def test_what_is_no_ride_is_refused(text, what):
    with pytest.raises(Refusal) as caught:
        read_log(text)
    assert caught.value.where.startswith("gpx")
    assert what in caught.value.what


@pytest.mark.parametrize("shift", [-37.4, -0.5, 0.0, 12.3, 61.7])
def test_two_clocks_are_brought_together_by_speed_and_turns(shift):
    at, speed = ride()
    seen = at[::10]
    first = read_log(csv("time_s,speed_kmh", seen, 3.6 * speed[::10]))
    # The controller's logger runs at 5 Hz, begins `shift` later and counts turns: 55 to the m/s.
    begins = max(shift, 0)
    own = at[(at >= begins) & (at <= at[-1])][::2]
    turns = np.interp(own - min(shift, 0), at, speed) * 55
    inside = own - min(shift, 0) <= at[-1]
    amps = np.sqrt(own[inside])
    second = read_log(
        csv("time_s,motor_rpm,battery_current_a", (own - begins)[inside], turns[inside], amps)
    )
    both = aligned(first, second)
    assert f"{abs(shift):.0f}" in both.notes[-1] or "begin" in both.notes[-1]
    middle = len(seen) // 2
    expected = np.interp(seen[middle], own[inside] - min(shift, 0), amps)
    assert both.columns["battery_current_a"][middle] == pytest.approx(expected, rel=0.02)
    known = np.isfinite(both.columns["motor_rpm"]) & (first.columns["speed_kmh"] > 10)
    ratio = both.columns["motor_rpm"][known] / (first.columns["speed_kmh"][known] / 3.6)
    assert np.median(ratio) == pytest.approx(55, rel=0.01)


def test_two_rides_are_not_taken_for_one():
    at, speed = ride()
    rng = np.random.default_rng(8)
    other = np.abs(np.cumsum(rng.standard_normal(len(at)))) * 40
    first = read_log(csv("time_s,speed_kmh", at, 3.6 * speed))
    second = read_log(csv("time_s,motor_rpm", at, other))
    with pytest.raises(Refusal, match="never rise and fall together"):
        aligned(first, second)


def test_without_a_course_nothing_is_laid_beside():
    at, speed = ride()
    first = read_log(csv("time_s,speed_kmh", at, 3.6 * speed))
    second = read_log(csv("time_s,battery_current_a", at, speed))
    with pytest.raises(Refusal, match="no speed, turns or throttle"):
        aligned(first, second)


def test_a_hole_of_the_second_is_not_filled():
    at, speed = ride()
    keep = (at < 90) | (at > 110)
    first = read_log(csv("time_s,speed_kmh", at, 3.6 * speed))
    second = read_log(csv("time_s,motor_rpm,case_c", at[keep], 55 * speed[keep], at[keep]))
    both = aligned(first, second)
    inside = (at > 92) & (at < 108)
    assert np.isnan(both.columns["case_c"][inside]).all()
    assert np.isfinite(both.columns["case_c"][~inside]).mean() > 0.9


def test_the_command_lays_a_track_and_a_table_together(tmp_path, capsys):
    at, speed = ride()
    track, table = tmp_path / "ride.gpx", tmp_path / "log.csv"
    track.write_bytes(gpx(at[::10], np.cumsum(speed)[::10] / 10, speed[::10]))
    own = at[100::5]
    table.write_bytes(
        csv("time_s,motor_rpm,battery_current_a", own - own[0], 55 * speed[100::5], own)
    )
    assert main(["read-log", str(track), "--with", str(table)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert {"speed_kmh", "motor_rpm", "battery_current_a"} <= set(told["columns"])
    steady = [one for one in told["proposed"] if one["observation"]["kind"] == "steady"]
    assert steady
    assert "battery_current_a" in steady[0]["observation"]
