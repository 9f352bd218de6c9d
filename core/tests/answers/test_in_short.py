"""The line that tells a build as a friend would: said of what is so, and of nothing else."""

import pytest

from powertrain.archetypes import all_archetypes
from powertrain.bench.solve import solve
from powertrain.documents.reading import check_build


def told(document):
    answer = solve(check_build(document))
    return answer, "".join(
        piece.words if piece.value is None else f"[{piece.value:.4g} {piece.unit}]"
        for piece in answer.in_short
    )


def moment(answer, key):
    return next(one for one in answer.moments if one.id == key)


def test_the_trike_in_one_line(trike):
    """36.8 km/h by hand: see the top speed's own test; 8 % is the hill that its rider named."""
    trike["moments"] = {"climb_grade_pct": 8, "cruise_kmh": 18}
    answer, line = told(trike)
    assert line.startswith("[36.")
    assert " on the flat, [" in line
    assert " up your 8 % hill" in line
    assert f"a charge lasts [{moment(answer, 'cruise').state.range_km:.4g} km] at [18 km/h]" in line
    assert line.endswith("nothing stops it")


def test_a_hill_that_nobody_named_is_said_to_be_a_usual_one(trike):
    _, line = told(trike)
    assert "up a usual hill of 8 %" in line
    assert "your" not in line


def test_what_gets_too_hot_on_the_hill_is_said_with_its_time_and_what_stops_it(trike):
    trike["moments"] = {"climb_grade_pct": 14, "climb_length_m": 20000}
    trike["motor"]["continuous_current_a"] = 20
    answer, line = told(trike)
    hot = min(
        (heat.to_limit_s, node)
        for node, heat in moment(answer, "climb").heat.items()
        if heat.to_limit_s is not None
    )
    assert f" for [{hot[0]:.4g} s], until the " in line
    stops = [one.title for one in answer.verdicts if one.severity == "stop"]
    assert stops
    assert line.endswith(
        f"what stops it: {stops[0][:1].lower()}{stops[0][1:]}"
        + (f", and {len(stops) - 1} more" if len(stops) > 1 else "")
    )


@pytest.mark.parametrize("length", [50, None])
def test_a_short_hill_is_climbed_before_anything_is_hot(trike, length):
    trike["moments"] = {"climb_grade_pct": 10, "climb_length_m": length}
    answer, line = told(trike)
    assert moment(answer, "climb").heat["case"].to_limit_s < 1800
    assert ("until" in line) is (length is None)


def test_a_hill_of_nought_is_the_flat_and_keeps_its_number_elsewhere(trike):
    trike["moments"] = {"climb_grade_pct": 0, "cruise_kmh": 18}
    answer, line = told(trike)
    assert "hill" not in line
    assert moment(answer, "climb").title == "Climb 0 %"
    assert answer.map.crossings[0].label == "flat"
    assert next(one for one in answer.verdicts if one.id == "asked_climb").title.startswith(
        "The 0 % hill is climbed"
    )


def test_what_can_not_start_and_what_can_not_climb(trike):
    trike["moments"] = {"climb_grade_pct": 60}
    assert ", not up your 60 % hill" in told(trike)[1]
    trike["vehicle"]["rolling_resistance"] = 5
    assert told(trike)[1].startswith("It can't start on the flat; ")


def test_a_hoist_lifts_and_holds():
    hoist = next(one for one in all_archetypes() if one.id == "hoist").document
    answer, line = told(hoist.model_dump(mode="json", exclude_unset=True))
    amps = 120 * 9.80665 * 0.05 / 45 / 0.85 / (60 / (2 * 3.141592653589793 * 90)) + 1.5
    assert f" lifting the whole load, [{amps:.4g} A] to hold it" in line
    assert "charge" not in line
    assert {piece.leads for piece in answer.in_short if piece.leads} == {
        "top_speed",
        "climb",
        "verdicts",
    }
