"""What the whole shelf answers to briefs that people begin from."""

import pytest

from powertrain.archetypes import all_archetypes
from powertrain.match.answer import answer_of
from powertrain.match.search import Search
from powertrain.match.starts import brief_of, start_briefs
from powertrain.motor.kinds import make_of
from powertrain.shelf.shipped import shipped_shelf
from powertrain.stated import Stated

STARTS = {start.id: start.document for start in start_briefs()}
SHELF = shipped_shelf()
MOTORS = {part.id: part for part in SHELF.motors}


@pytest.mark.parametrize(
    ("name", "usual"),
    [
        # How such vehicles are mostly driven; common practice, no source.
        ("kick-scooter", ("hub", "brushless")),
        ("field-rover", ("shaft", "brushed")),
        ("fast-model", ("shaft", "brushless")),
    ],
)
def test_the_first_results_are_drives_that_people_would_build(name, usual):
    brief = STARTS[name]
    answer = answer_of(Search(brief, SHELF, best=30).run(), 30, by_trio=True, bands=False)
    assert answer.whole
    first = [MOTORS[one.parts.motor] for one in answer.results[:3]]
    assert usual in [(part.mounts, make_of(Stated(part.motor))) for part in first]
    turn_mm = brief.wheel.rolling_circumference_mm
    for one in answer.results:
        assert one.figures["added_mass_kg"] < brief.vehicle.mass_kg
        stage = one.build["gearing"][-1] if one.build["gearing"] else {}
        if "pitch_mm" in stage and stage["kind"] == "chain":
            across = stage["pitch_mm"] * stage["driven_teeth"] / 3.14159
            assert across < turn_mm / 3.14159


def test_a_vehicle_with_a_gearbox_keeps_it():
    builds = {one.id: one.document for one in all_archetypes()}
    kept = brief_of(builds["small-car"]).owned.gearing
    assert kept is not None
    assert [stage.kind for stage in kept] == ["gearbox", "fixed"]
    assert brief_of(builds["kick-scooter"]).owned.gearing is None
