"""Whatever is wished for: the search and the plain solver say the same of every candidate.

Sound bounds are the point. A bound that rules out too much loses a drive that nobody will ever
miss; so briefs are drawn at random, near the limits of what a very small shelf can do.
"""

from itertools import product
from typing import Any

import pytest
from hypothesis import HealthCheck, given
from hypothesis import strategies as st

from core.tests.match.small import CARTS, OLD, VEHICLES, small_shelf
from ops.draws import examples
from powertrain.documents.brief import Brief
from powertrain.match.judged import judge
from powertrain.match.options import Options
from powertrain.match.search import Search

FEW = {
    "carts": (
        {
            **CARTS,
            "motors": CARTS["motors"][:2],
            "packs": CARTS["packs"][:1],
            "teeth": {"lockgate-c8-driver": (9, 13), "lockgate-c8-driven": (44, 68)},
        },
        VEHICLES[id(CARTS)],
    ),
    "old": (
        {
            **OLD,
            "controllers": OLD["controllers"][:2],
            "teeth": {"lockgate-c15-driver": (11, 15), "lockgate-c15-driven": (54,)},
        },
        VEHICLES[id(OLD)],
    ),
}


def some(values: dict[str, st.SearchStrategy[Any]]) -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries({}, optional=values)


WISHES = some(
    {
        "top_speed_kmh": some({"min": st.floats(6, 40)}),
        "climb": st.fixed_dictionaries(
            {"grade_pct": st.floats(0.5, 15)},
            optional={"speed_kmh": st.floats(3, 25), "length_m": st.floats(20, 3000)},
        ),
        "cruise_kmh": st.floats(5, 30),
        "range_km": st.floats(1, 60),
        "max_full_charge_v": st.floats(30, 70),
        "budget": st.floats(150, 900),
        "max_added_mass_kg": st.floats(4, 40),
        "run_up_m": st.floats(5, 300),
        "hold_stall_s": st.floats(0.5, 40),
        "launch": st.fixed_dictionaries({"to_kmh": st.floats(4, 25), "within_s": st.floats(1, 20)}),
        "motor_space": some({"diameter_mm": st.floats(70, 250)}),
    }
)

GRIP = st.fixed_dictionaries(
    {"friction": st.floats(0.15, 0.9), "driven_share": st.floats(0.4, 1.0)}
)


BRIEFS = {
    "wishes": WISHES,
    "conditions": some({"headwind_mps": st.floats(-12, 12), "ambient_c": st.floats(-10, 40)}),
    "vehicle": some({"mass_kg": st.floats(60, 500), "traction": GRIP}),
    "judged_at": st.sampled_from(["full", "nominal", "storage"]),
}


@pytest.mark.parametrize("name", FEW)
@examples(5, suppress_health_check=[HealthCheck.too_slow])
@given(**BRIEFS)
def test_search_and_plain_solver_agree(name, **drawn):
    agree(name, None, **drawn)


@pytest.mark.parametrize("name", FEW)
@examples(3, suppress_health_check=[HealthCheck.too_slow])
@given(**BRIEFS)
def test_compiled_search_and_plain_solver_agree(name, **drawn):
    # Compiling a group takes seconds, so that fewer are drawn.
    agree(name, 0, **drawn)


def agree(name, loops, wishes, conditions, vehicle, judged_at):
    chosen, (usual, wheel) = FEW[name]
    shelf = small_shelf(chosen)
    brief = Brief.model_validate(
        {
            "format": "young-torrent.brief/1",
            "vehicle": {**usual, **vehicle},
            "wheel": wheel,
            "wishes": wishes,
            "conditions": conditions,
            "judged_at": judged_at,
        }
    )
    options = Options.of(brief, shelf)
    places = (options.motors, options.controllers, options.packs, options.gearings)
    every = [judge(brief, options, key) for key in product(*(range(len(p)) for p in places))]
    search = Search(brief, shelf, best=10_000, loops_from=loops).run()
    found = {tuple(int(place) for place in key) for key in search.best.keys}
    assert found == {one.key for one in every if one.feasible}
    tally = search.tally
    assert tally.considered == len(every) == tally.feasible + sum(tally.rejected.values())


def test_where_no_teeth_are_strong_enough_everything_is_refused_for_it():
    chosen, (usual, wheel) = FEW["carts"]
    brief = Brief.model_validate(
        {
            "format": "young-torrent.brief/1",
            "vehicle": {**usual, "mass_kg": 20_000},
            "wheel": wheel,
            "wishes": {"climb": {"grade_pct": 15, "speed_kmh": 20}},
        }
    )
    for loops in (None, 0):
        tally = Search(brief, small_shelf(chosen), loops_from=loops).run().tally
        assert tally.feasible == 0
        assert set(tally.rejected) == {"tooth_load"}
        assert sum(tally.rejected.values()) == tally.considered
