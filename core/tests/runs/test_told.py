"""What a ride is told with: verdicts, range left with its band, its place on earth, meters."""

from datetime import UTC, datetime

import gpxpy
import numpy as np
import pytest

from powertrain.documents.run import check_run, with_rest_volts
from powertrain.instruments.hidden import day_of
from powertrain.instruments.meters import FACES, TICK_S, meter_frames
from powertrain.instruments.tools import TOOLS
from powertrain.runs.answer import ridden_draws, rows_of, run_answer
from powertrain.runs.left import left_bands, left_km
from powertrain.runs.placed import ride_gpx
from powertrain.runs.ride import ride
from powertrain.runs.shown import shown
from powertrain.runs.verdicts import ride_verdicts


def run_with(trike, changes=None, **more):
    document = {**trike}
    for path, value in (changes or {}).items():
        part, key = path.split(".")
        document[part] = {**document.get(part, {}), key: value}
    course = more.pop("course", {"kind": "stops", "times": 1, "to_kmh": 20, "hold_s": 200})
    return check_run({"format": "young-torrent.run/1", "build": document, "course": course, **more})


def told_of(run):
    ridden = ride(run)
    told = run_answer(run, ridden=ridden)
    return told, {one.id: one for one in ride_verdicts(run, told, ridden)}


def test_a_ride_that_arrives_with_what_shall_be_kept_is_fine(trike):
    told, said = told_of(run_with(trike))
    assert said["arrives"].severity == "ok"
    assert said["arrives"].title == f"Arrives with {told.soc_end_pct:.0f} %"
    assert list(said) == ["arrives"]


def test_one_that_keeps_less_is_to_be_watched(trike):
    changes = {"moments.range_to_pct": 59.9}
    _, said = told_of(run_with(trike, changes, start={"soc_pct": 60}))
    assert said["arrives"].severity == "watch"
    assert "less than the 59.9 %" in said["arrives"].title


def test_one_that_is_cut_off_stops_with_a_cure(trike):
    run = run_with(trike, {"battery.cell_resistance_mohm": 120, "battery.cut_off_cell_v": 3.4})
    told, said = told_of(run)
    assert told.ended_by == "cut_off"
    assert said["arrives"].severity == "stop"
    assert "Cut off on the way" in said["arrives"].title
    assert "fewer amps" in said["arrives"].why


def test_parts_near_and_beyond_their_limits_are_named(trike):
    course = {"kind": "stops", "times": 1, "to_kmh": 20, "hold_s": 900, "grade_pct": 5}
    cool, _ = told_of(run_with(trike, course=course))
    most = cool.peaks.winding_c
    for limit, severity in ((most - 5, "stop"), (most + 5, "watch"), (most + 20, None)):
        _, said = told_of(run_with(trike, {"motor.max_winding_c": limit}, course=course))
        heat = said.get("winding_heat")
        assert (heat.severity if heat else None) == severity
    _, said = told_of(run_with(trike, {"motor.max_winding_c": most - 5}, course=course))
    # Passed on the way, not at its beginning.
    assert " km, may reach " in said["winding_heat"].title
    assert "its maker" in said["winding_heat"].why


def test_one_that_is_slower_than_asked_says_so(trike):
    course = {
        "kind": "speed",
        "points": [{"t_s": 0, "speed_kmh": 60}, {"t_s": 60, "speed_kmh": 60}],
    }
    _, said = told_of(run_with(trike, course=course))
    # The whole minute but its beginning, when nothing is asked yet.
    assert said["behind"].value == pytest.approx(60, abs=1)
    assert "Slower than asked" in said["behind"].title


def test_range_left_is_charge_over_what_a_kilometre_takes(trike):
    """By hand: charge above 10 % over the charge that each kilometre of the ride took."""
    run = run_with(trike)
    ridden = ride(run)
    rows = rows_of(run, ridden)
    charge = rows["soc_pct"] / 100
    left = left_km(run, ridden, rows["distance_m"], charge)
    per_km = (1 - charge[-1]) / (rows["distance_m"][-1] / 1000)
    assert left[0] == pytest.approx((1 - 0.10) / per_km, rel=1e-6)
    assert left[-1] == pytest.approx((charge[-1] - 0.10) / per_km, rel=1e-6)


def test_its_band_lies_about_it_and_ends_where_draws_end(trike):
    run = run_with(trike)
    ridden = ride(run)
    many = ridden_draws(run, ridden, 64)
    at_m = np.linspace(0, float(ridden.at_m[0]), 9)
    bands = left_bands(run, many, at_m)
    rows = rows_of(run, ridden)
    own = left_km(run, ridden, at_m, np.interp(at_m, rows["distance_m"], rows["soc_pct"] / 100))
    assert np.all(bands[:, 0] < own)
    assert np.all(own < bands[:, 2])
    # At its end, too: there it is not suddenly nothing.
    assert bands[-1, 0] > 0.8 * own[-1]
    # A draw whose cells let go early has nothing left behind that.
    weak = {"battery.cell_resistance_mohm": 78, "battery.cut_off_cell_v": 3.3}
    run = run_with(trike, weak)
    many = ridden_draws(run, ride(run), 64)
    share = float(np.mean(many.at_m < 0.9 * many.at_m.max()))
    assert 0.1 < share < 1
    assert left_bands(run, many, np.array([0.95 * many.at_m.max()]))[0, 0] == 0


def test_a_ride_that_uses_nothing_says_nothing_of_range(trike):
    course = {"kind": "throttle", "points": [{"t_s": 0, "throttle_pct": 0}], "until_s": 5}
    assert set(shown(run_with(trike, course=course)).left_km) == {None}


def test_stated_rest_volts_stay_and_usual_ones_come_in(trike):
    filled = with_rest_volts(trike)["battery"]["open_circuit"]
    assert filled[0]["soc_pct"] == 0
    assert filled[-1] == {"soc_pct": 100, "cell_v": 4.18}
    own = [{"soc_pct": 0, "cell_v": 3.0}, {"soc_pct": 100, "cell_v": 4.2}]
    stated = {**trike, "battery": {**trike["battery"], "open_circuit": own}}
    assert with_rest_volts(stated) == stated
    for odd in ({}, {"battery": None}, {"battery": {"chemistry": "sand"}}, {"battery": {}}):
        assert with_rest_volts(odd) == odd


ROUND = {
    "kind": "route",
    "ride_kmh": 18,
    "there_and_back": True,
    "points": [{"distance_m": 0, "elevation_m": 7}, {"distance_m": 300, "elevation_m": 13}],
}


def test_there_and_back_goes_along_the_track_and_home(trike):
    run = run_with(trike, course=ROUND)
    ridden = ride(run)
    begins = datetime(2026, 3, 1, 9, tzinfo=UTC)
    text = ride_gpx(run, ridden, begins, [(51.0, 1.0, 0.0), (51.0027, 1.0, 300.0)])
    points = gpxpy.parse(text).tracks[0].segments[0].points
    norths = [point.latitude for point in points]
    middle = norths.index(max(norths))
    assert max(norths) == pytest.approx(51.0027, abs=5e-5)
    assert norths[-1] == pytest.approx(51.0, abs=1e-6)
    assert norths[:middle] == sorted(norths[:middle])
    assert points[middle].elevation == pytest.approx(13, abs=0.1)
    assert points[-1].elevation == pytest.approx(7, abs=0.05)
    lasted = points[-1].time.timestamp() - begins.timestamp()
    assert lasted == pytest.approx(float(ridden.t_s[0]), abs=1e-3)


def test_a_road_without_a_place_says_so(trike):
    run = run_with(trike, course=ROUND)
    text = ride_gpx(run, ride(run), datetime(2026, 3, 1, tzinfo=UTC))
    assert "no place on earth" in gpxpy.parse(text).description


def test_faces_show_the_hidden_vehicle_at_their_pace_and_behind(trike):
    run = run_with(trike, course={"kind": "stops", "times": 3, "to_kmh": 22, "hold_s": 60})
    day = day_of(run, 11)
    frames = list(meter_frames(day.run, day.ridden, 11))
    assert frames == list(meter_frames(day.run, day.ridden, 11))
    rows = rows_of(day.run, day.ridden)
    for face in FACES:
        read = [(one.t_s, one.shows[face.id]) for one in frames if face.id in one.shows]
        every = np.diff([at for at, _ in read])
        assert every == pytest.approx(np.full(len(every), face.every_s), abs=TICK_S / 10)
        if face.column not in rows:
            continue
        tool = TOOLS[face.instrument]
        true = np.interp(
            [max(at - face.lag_s, 0.0) for at, _ in read], rows["time_s"], rows[face.column]
        )
        off = [
            abs(value - one) / tool.tolerance(one)
            for (_, value), one in zip(read, true, strict=True)
            if value is not None
        ]
        # Four times in five within its tolerance, what it shows rounded.
        assert 0.6 < np.mean(np.array(off) <= 1.05) < 0.95, face.id


def test_a_satellite_receiver_loses_its_fix_and_nothing_else_does(trike):
    run = run_with(trike, course={"kind": "stops", "times": 1, "to_kmh": 15, "hold_s": 1500})
    day = day_of(run, 2)
    lost = {
        name
        for one in meter_frames(day.run, day.ridden, 2)
        for name, v in one.shows.items()
        if v is None
    }
    assert lost == {"satellite.speed_kmh"}
