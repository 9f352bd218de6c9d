"""A brief for a craft: the search against asking the plain solver of every candidate alone."""

import random
from itertools import product

import numpy as np
import pytest
from hypothesis import HealthCheck, given
from hypothesis import strategies as st

from ops.draws import examples
from powertrain.documents.brief import Brief
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import Shelf
from powertrain.errors import Refusal
from powertrain.match.answer import answer_of
from powertrain.match.judged import judge
from powertrain.match.options import Options
from powertrain.match.search import Search
from powertrain.match.why import why
from powertrain.shelf.shipped import shipped_shelf

WING = {
    "kind": "aircraft",
    "mass_kg": 1.3,
    "wing_area_m2": 0.42,
    "span_m": 1.9,
    "zero_lift_drag": 0.035,
}
BOAT = {
    "kind": "hull",
    "mass_kg": 78,
    "drag": [
        {"speed_kmh": 5, "force_n": 22},
        {"speed_kmh": 9, "force_n": 58},
        {"speed_kmh": 13, "force_n": 52},
        {"speed_kmh": 20, "force_n": 70},
        {"speed_kmh": 30, "force_n": 115},
    ],
    "air_drag_area_m2": 0.6,
}
CART = {"kind": "ground", "mass_kg": 34, "rolling_resistance": 0.02, "drag_area_m2": 0.5}

PARTS = {
    "small": {
        "motors": ("sedgeholt-o35-790", "reedquay-n36l-2600", "tarnlow-f36-900"),
        "controllers": ("fenlode-l60-17", "fenlode-l45-13"),
        "packs": ("saltern-y22-4s1p", "saltern-y50-2s1p"),
        "propellers": (
            "sallowfen-r-7x4",
            "sallowfen-r-9x6",
            "sallowfen-t-8x6",
            "sallowfen-r-12x10",
        ),
    },
    "large": {
        "motors": ("otterlode-m138-70", "curlewen-d160-46", "millsluice-h246-10"),
        "controllers": ("withyvane-t100-60", "fenlode-l120-50"),
        "packs": ("merewisp-c21-50-10s4p", "merewisp-c21-40p-12s4p"),
        "propellers": (
            "sallowfen-q-24x12",
            "heronholt-w-30x13",
            "heronholt-w-34x17",
            "heronholt-w-40x25",
        ),
    },
}

BRIEFS = {
    "a wing, every wish": (
        "small",
        WING,
        {
            "cruise_kmh": 50,
            "thrust_to_weight": 0.45,
            "climb_ms": 3,
            "endurance_min": 30,
            "pitch_speed_over_stall": 2.5,
            "max_diameter_mm": 250,
        },
        {},
    ),
    "a wing, nothing of its speed": ("small", WING, {"thrust_to_weight": 0.5, "budget": 105}, {}),
    "a wing in wind": ("small", WING, {"cruise_kmh": 38, "range_km": 8}, {"headwind_mps": 6.0}),
    "a boat": (
        "large",
        {**BOAT, "hub_height_mm": 440},
        {
            "top_speed_kmh": {"min": 25},
            "cruise_kmh": 15,
            "thrust_to_weight": 0.16,
            "endurance_min": 20,
        },
        {},
    ),
    "a boat that must not be fast": ("large", BOAT, {"top_speed_kmh": {"min": 20, "max": 33}}, {}),
    "a cart with a fan": ("large", CART, {"top_speed_kmh": {"min": 45}, "range_km": 14}, {}),
}


def shelf_of(chosen) -> Shelf:
    whole = shipped_shelf()
    kinds = {
        kind: [part for part in getattr(whole, kind) if part.id in PARTS[chosen][kind]]
        for kind in PARTS[chosen]
    }
    assert all(len(kinds[kind]) == len(PARTS[chosen][kind]) for kind in kinds)
    return Shelf(format="young-torrent.shelf/1", **kinds)


def brief_of(vehicle, wishes, **more) -> Brief:
    document = {
        "format": "young-torrent.brief/1",
        "vehicle": vehicle,
        "wishes": wishes,
        **more,
    }
    return check_model(Brief, document)


def judged_alone(brief, shelf, one_in):
    """Return some of all candidates, each asked alone, and how many there are in all."""
    options = Options.of(brief, shelf)
    places = (options.motors, options.controllers, options.packs, options.last)
    every = list(product(*(range(len(p)) for p in places)))
    asked = sorted(random.Random(11).sample(every, len(every) // one_in))
    return [judge(brief, options, key) for key in asked], len(every)


@pytest.mark.parametrize("name", BRIEFS)
def test_the_search_finds_what_asking_the_plain_solver_one_by_one_finds(name):
    chosen, vehicle, wishes, conditions = BRIEFS[name]
    brief, shelf = brief_of(vehicle, wishes, conditions=conditions), shelf_of(chosen)
    alone, count = judged_alone(brief, shelf, one_in=1 if "every wish" in name else 2)
    feasible = {one.key: one for one in alone if one.feasible}
    assert 0 < len(feasible) < len(alone)
    search = Search(brief, shelf, best=10_000).run()
    found = [tuple(int(place) for place in key) for key in search.best.keys]
    assert set(found) & {one.key for one in alone} == set(feasible)
    rejected = sum(search.tally.rejected.values())
    assert search.tally.considered == count == len(found) + rejected
    # Many are looked at on a coarser net of speeds than one alone, for the climb above all.
    mine = [place for place, key in enumerate(found) if key in feasible]
    scores = [float(feasible[found[place]].worth.score[0]) for place in mine]
    assert list(search.best.score[mine]) == pytest.approx(scores, abs=2e-3)


@pytest.mark.parametrize(("chosen", "vehicle"), [("small", WING), ("large", BOAT), ("large", CART)])
@examples(3, suppress_health_check=[HealthCheck.too_slow])
@given(data=st.data())
def test_no_bound_rules_out_what_the_plain_solver_would_take(chosen, vehicle, data):
    def maybe(key, values):
        return {key: data.draw(values)} if data.draw(st.booleans()) else {}

    fast = (20.0, 90.0) if vehicle is WING else (5.0, 60.0)
    wishes = {
        **maybe("cruise_kmh", st.floats(*fast)),
        **maybe("thrust_to_weight", st.floats(0.02, 0.8)),
        **maybe("endurance_min", st.floats(3, 60)),
        **maybe("top_speed_kmh", st.fixed_dictionaries({"min": st.floats(*fast)})),
    }
    if vehicle is WING:
        wishes |= maybe("climb_ms", st.floats(0.5, 9))
        wishes |= maybe("pitch_speed_over_stall", st.floats(1, 5))
    conditions = maybe("headwind_mps", st.floats(-5, 5)) | maybe("altitude_m", st.floats(0, 2500))
    brief, shelf = brief_of(vehicle, wishes, conditions=conditions), shelf_of(chosen)
    alone, _ = judged_alone(brief, shelf, one_in=3)
    search = Search(brief, shelf, best=10_000).run()
    found = {tuple(int(place) for place in key) for key in search.best.keys}
    assert found & {one.key for one in alone} == {one.key for one in alone if one.feasible}


def test_the_best_answer_is_a_build_that_names_its_propeller():
    chosen, vehicle, wishes, _ = BRIEFS["a wing, every wish"]
    brief, shelf = brief_of(vehicle, wishes), shelf_of(chosen)
    answer = answer_of(Search(brief, shelf).run(), 3)
    best = answer.results[0]
    assert best.parts.propeller in PARTS[chosen]["propellers"]
    assert best.parts.gearing == []
    assert best.figures["stages"] == 0
    build = best.build
    named = next(part for part in shelf.propellers if part.id == best.parts.propeller)
    assert build["propeller"]["diameter_mm"] == named.propeller.diameter_mm
    assert build.get("wheel") is None
    assert build["gearing"] == []
    # Everything that is added weighs: vehicle, motor, controller, pack and propeller.
    parts = [
        next(part for part in getattr(shelf, kind) if part.id == ref)
        for kind, ref in (
            ("motors", best.parts.motor),
            ("controllers", best.parts.controller),
            ("packs", best.parts.battery),
        )
    ]
    added = (
        parts[0].motor.mass_kg + parts[1].controller.mass_kg + parts[2].battery.mass_kg
    ) + named.propeller.mass_kg
    assert build["vehicle"]["mass_kg"] == pytest.approx(1.3 + added, rel=1e-9)
    price = (
        parts[0].motor.price + parts[1].controller.price + parts[2].battery.price
    ) + named.propeller.price
    assert best.figures["price"] == pytest.approx(price, rel=1e-9)
    assert all(trio.propeller for trio in answer.trios)


def test_two_motors_turn_a_propeller_each():
    brief = brief_of(BOAT, {"thrust_to_weight": 0.1}, motor_count=2)
    shelf = shelf_of("large")
    search = Search(brief, shelf).run()
    best = answer_of(search, 1).results[0]
    named = next(part for part in shelf.propellers if part.id == best.parts.propeller)
    one = brief.model_copy(update={"motor_count": 1})
    place = Options.of(one, shelf).propellers.ids.index(named.id)
    single, twice = Options.of(one, shelf).propellers, search.options.propellers
    assert twice.price[place] == pytest.approx(2 * single.price[place])
    assert best.build["motor"]["count"] == 2


def test_an_owned_propeller_is_kept_and_costs_nothing():
    shelf = shelf_of("small")
    brief = brief_of(WING, {"thrust_to_weight": 0.3}, owned={"propeller": "sallowfen-r-9x6"})
    best = answer_of(Search(brief, shelf).run(), 1).results[0]
    assert best.parts.propeller == "sallowfen-r-9x6"
    own = {"diameter_mm": 230, "pitch_mm": 150}
    brief = brief_of(WING, {"thrust_to_weight": 0.3}, owned={"propeller": own})
    mine = answer_of(Search(brief, shelf).run(), 1).results[0]
    assert mine.parts.propeller == "own"
    with pytest.raises(Refusal, match="the shelf does not have"):
        Search(brief_of(WING, {}, owned={"propeller": "sallowfen-r-99x6"}), shelf)


def test_one_asks_why_a_propeller_is_not_among_them():
    shelf = shelf_of("small")
    brief = brief_of(WING, {"max_diameter_mm": 200})
    told = why(brief, shelf, {"propeller": "sallowfen-r-9x6"})
    assert told.feasible == 0
    assert told.reasons[0].id == "max_diameter"
    assert "too large" in told.reasons[0].say
    assert told.relaxed[0].wish == "max_diameter"
    assert told.relaxed[0].to == pytest.approx(228.6)


def test_hub_motors_turn_no_propeller():
    shelf = shelf_of("large")
    told = why(brief_of(BOAT, {}), shelf, {"motor": "millsluice-h246-10"})
    assert [one.id for one in told.reasons] == ["hub_propeller"]


@pytest.mark.parametrize(
    ("vehicle", "wishes", "more", "place"),
    [
        (WING, {"climb": {"grade_pct": 5}}, {}, "wishes.climb"),
        (WING, {"hold_stall_s": 5}, {}, "wishes.hold_stall_s"),
        (BOAT, {"climb_ms": 2}, {}, "wishes.climb_ms"),
        (BOAT, {"pitch_speed_over_stall": 2}, {}, "wishes.pitch_speed_over_stall"),
        (CART, {"launch": {"to_kmh": 5, "within_s": 3}}, {}, "wishes.launch"),
        (WING, {}, {"wheel": {"rolling_circumference_mm": 400}}, "wheel"),
        (WING, {}, {"final_drive": {"ratio": 2}}, "final_drive"),
        (
            CART,
            {"thrust_to_weight": 0.2},
            {"wheel": {"rolling_circumference_mm": 400}},
            "wishes.thrust_to_weight",
        ),
        (
            CART,
            {},
            {
                "wheel": {"rolling_circumference_mm": 400},
                "owned": {"propeller": "sallowfen-r-9x6"},
            },
            "owned.propeller",
        ),
    ],
)
def test_what_makes_no_sense_for_such_a_vehicle_is_refused_by_its_place(
    vehicle, wishes, more, place
):
    with pytest.raises(Refusal) as told:
        brief_of(vehicle, wishes, **more)
    assert told.value.where == place


def test_a_trip_that_nobody_said_is_flown_well_above_the_stall():
    # Stall of 1.3 kg: sqrt(2 m g/(rho S C_L)) = sqrt(2*12.75/(1.225*0.42*1.2)) = 6.43 m/s.
    from powertrain.match.compose import moments_of_brief

    stall_kmh = 3.6 * np.sqrt(2 * 1.3 * 9.80665 / (1.225 * 0.42 * 1.2))
    cruise_kmh = moments_of_brief(brief_of(WING, {})).cruise_kmh
    assert cruise_kmh == pytest.approx(1.3 * stall_kmh * np.sqrt(1.3), rel=1e-9)
