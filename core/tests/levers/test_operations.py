"""Operations on a document: what was typed stays known as such, and nothing else is touched."""

import pytest

from core.tests.conftest import document_with
from powertrain.archetypes import all_archetypes
from powertrain.bench.solve import solve
from powertrain.documents.build import Provenance
from powertrain.documents.motors import constants_of_kind
from powertrain.documents.paths import value_at
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.levers.operations import Describe, Learn, SetValues, Turn, carry_out

GUESSED = {
    "provenance": {
        "motor.resistance_ohm": {"origin": "default", "tolerance_pct": 20},
        "motor.kv_rpm_per_v": {"origin": "data_sheet"},
    }
}


def test_a_typed_value_is_a_default_no_longer_and_others_keep_their_origin():
    before = document_with(GUESSED)
    after = carry_out(before, SetValues(do="set", values={"motor.resistance_ohm": 0.05}))
    assert value_at(after, "motor.resistance_ohm") == 0.05
    assert after["provenance"]["motor.resistance_ohm"] == {
        "origin": "estimated",
        "tolerance_pct": 20,
    }
    assert after["provenance"]["motor.kv_rpm_per_v"] == {"origin": "data_sheet"}
    assert before == document_with(GUESSED)


def test_what_is_learnt_comes_with_how_it_is_known():
    known = {"motor.resistance_ohm": Provenance(origin="measured", note="four wires, 10 A")}
    learn = Learn(do="learn", values={"motor.resistance_ohm": 0.047}, known=known)
    after = carry_out(document_with(GUESSED), learn)
    assert value_at(after, "motor.resistance_ohm") == 0.047
    assert after["provenance"]["motor.resistance_ohm"]["origin"] == "measured"
    assert after["provenance"]["motor.resistance_ohm"]["note"] == "four wires, 10 A"
    assert after["provenance"]["motor.kv_rpm_per_v"] == {"origin": "data_sheet"}
    # Measured is surer than a guess of a fifth: the band of the top speed narrows.
    wide, narrow = (
        solve(check_build(one)).doubt.figures["top_speed_kmh"].band
        for one in (document_with(GUESSED), after)
    )
    assert narrow[2] - narrow[0] < wide[2] - wide[0]


def test_saying_how_a_value_is_known_and_taking_that_back():
    path = "vehicle.mass_kg"
    said = Describe(do="describe", path=path, known=Provenance(origin="measured"))
    after = carry_out(document_with({}), said)
    assert after["provenance"][path]["origin"] == "measured"
    back = carry_out(after, Describe(do="describe", path=path, known=None))
    assert path not in back["provenance"]
    assert value_at(back, path) == value_at(after, path)


@pytest.mark.parametrize(
    ("operation", "where"),
    [
        (SetValues(do="set", values={"motor.resistance_ohm": -1}), "motor.resistance_ohm"),
        (SetValues(do="set", values={"motor.colour": "red"}), "motor.colour"),
        (SetValues(do="set", values={"vehicle.mass_kg": None}), "vehicle.mass_kg"),
        (
            Learn(do="learn", values={}, known={"motor.wings": Provenance(origin="measured")}),
            "provenance",
        ),
        (
            Describe(do="describe", path="motor.wings", known=Provenance(origin="measured")),
            "provenance",
        ),
    ],
)
def test_what_makes_no_build_is_refused_at_its_place(operation, where):
    before = document_with(GUESSED)
    with pytest.raises(Refusal) as refused:
        carry_out(before, operation)
    assert refused.value.where.startswith(where)
    assert before == document_with(GUESSED)


@pytest.mark.parametrize("kind", ["series_wound", "packaged", "induction"])
def test_a_motor_turned_into_another_kind_keeps_what_both_say_and_guesses_the_rest(kind):
    before = document_with({"motor.mass_kg": 2.6, "motor.continuous_current_a": 55})
    after = carry_out(before, Turn(do="turn", kind=kind))
    assert after["motor"]["kind"] == kind
    assert (after["motor"]["mass_kg"], after["motor"]["continuous_current_a"]) == (2.6, 55)
    assert {key: value for key, value in after.items() if key not in ("motor", "provenance")} == {
        key: value for key, value in before.items() if key != "motor"
    }
    ours = {path for path in after["provenance"] if path.startswith("motor.")}
    assert ours
    assert all(after["provenance"][path]["origin"] == "default" for path in ours)
    assert {path.removeprefix("motor.") for path in ours} >= set(constants_of_kind(kind))
    # A motor that is of that kind already stays as it is.
    assert carry_out(after, Turn(do="turn", kind=kind)) == after


def scooter():
    """Return a vehicle to begin from, every number of it a default."""
    kind = next(one for one in all_archetypes() if one.id == "kick-scooter")
    return kind.document.model_dump(mode="json", exclude_unset=True)


def set_there(document, **values):
    paths = {key.replace("__", "."): value for key, value in values.items()}
    return carry_out(document, SetValues(do="set", values=paths))


def test_untouched_guesses_of_cells_follow_the_chemistry():
    # A lead cell of 12 Ah has 2 to 4 milliohms (common practice, no source), and rests at 2 V.
    lead = set_there(scooter(), battery__chemistry="lead_acid", battery__cell_capacity_ah=12)
    assert 2 <= value_at(lead, "battery.cell_resistance_mohm") <= 4
    assert 1.95 <= value_at(lead, "battery.cell_voltage_v") <= 2.13
    assert lead["provenance"]["battery.cell_resistance_mohm"] == {"origin": "default"}
    # Twice the amp-hours are twice the plates side by side.
    larger = set_there(lead, battery__cell_capacity_ah=24)
    assert value_at(larger, "battery.cell_resistance_mohm") == pytest.approx(
        value_at(lead, "battery.cell_resistance_mohm") / 2, rel=0.01
    )


def test_untouched_guesses_of_a_winding_follow_its_kv():
    before = scooter()
    after = set_there(before, motor__kv_rpm_per_v=2 * before["motor"]["kv_rpm_per_v"])
    # Half the turns of twice the copper: a quarter of the ohms; the same loss torque at half the
    # torque for each amp: twice the amps.
    assert value_at(after, "motor.resistance_ohm") == pytest.approx(
        before["motor"]["resistance_ohm"] / 4
    )
    assert value_at(after, "motor.no_load_current_a") == pytest.approx(
        before["motor"]["no_load_current_a"] * 2
    )


def test_what_was_typed_or_measured_follows_nothing():
    typed = set_there(scooter(), motor__resistance_ohm=0.21, battery__cell_resistance_mohm=18)
    after = set_there(typed, motor__kv_rpm_per_v=30, battery__chemistry="lead_acid")
    assert value_at(after, "motor.resistance_ohm") == 0.21
    assert value_at(after, "battery.cell_resistance_mohm") == 18
    both = set_there(scooter(), motor__kv_rpm_per_v=30, motor__resistance_ohm=0.5)
    assert value_at(both, "motor.resistance_ohm") == 0.5
    said = set_there(document_with({}), motor__kv_rpm_per_v=90)
    assert value_at(said, "motor.resistance_ohm") == value_at(
        document_with({}), "motor.resistance_ohm"
    )


@pytest.mark.parametrize(
    ("path", "value"),
    [
        ("battery.chemistry", "coal"),
        ("battery.chemistry", None),
        ("battery.cell_capacity_ah", 0),
        ("battery.cell_capacity_ah", "much"),
        ("motor.kv_rpm_per_v", 0),
        ("motor.kv_rpm_per_v", -3),
        ("motor.kv_rpm_per_v", float("nan")),
        ("motor.kv_rpm_per_v", [1]),
        ("motor", {}),
        ("battery", None),
        ("motor.kv_rpm_per_v", 1e308),
        ("motor.kv_rpm_per_v", True),
    ],
)
def test_what_makes_no_build_is_refused_before_anything_follows(path, value):
    with pytest.raises(Refusal) as refused:
        carry_out(scooter(), SetValues(do="set", values={path: value}))
    assert refused.value.where.startswith(path.split(".")[0])


def test_poles_of_magnets_are_not_those_of_a_stator():
    before = document_with({"motor.poles": 14})
    after = carry_out(before, Turn(do="turn", kind="induction"))
    assert after["motor"]["stator_poles"] == 4
    assert after["provenance"]["motor.stator_poles"]["origin"] == "default"


def test_what_is_turned_into_an_induction_machine_still_climbs_its_hill():
    document = carry_out(document_with({}), Turn(do="turn", kind="induction"))
    answer = solve(check_build(document))
    climb = next(moment for moment in answer.moments if moment.id == "climb")
    assert climb.state.speed_mps * 3.6 > 10
