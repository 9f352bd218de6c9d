"""What is owned already: by its name on the shelf or as a whole document, free and as it is."""

from typing import Any

import pytest

from core.tests.match.small import CARTS as CHOSEN
from core.tests.match.small import TRIKE, small_shelf
from powertrain.documents.brief import Brief
from powertrain.match.matched import matched
from powertrain.match.options import OWN, Options
from powertrain.match.search import Search

SHELF = small_shelf(CHOSEN)
MOTOR, CONTROLLER = "otterlode-m90-80", "withyvane-t100-60"
PACK = "merewisp-c21-50-10s4p"


def brief_with(**owned: Any) -> Brief:
    wishes = {"climb": {"grade_pct": 4}, "top_speed_kmh": {"min": 18}}
    return Brief.model_validate({**TRIKE, "wishes": wishes, "owned": owned})


def document_of(kind: str, ref: str, inner: str) -> dict[str, Any]:
    part = next(part for part in getattr(SHELF, kind) if part.id == ref)
    return getattr(part, inner).model_dump(mode="json", exclude_unset=True)


def outcome(brief: Brief) -> tuple[int, list[tuple[float, float]]]:
    answer = matched(brief, SHELF, 5)
    return answer.feasible, [
        (result.figures["top_speed_kmh"], result.figures["added_mass_kg"])
        for result in answer.results
    ]


@pytest.mark.parametrize(
    ("place", "kind", "ref", "inner"),
    [("motor", "motors", MOTOR, "motor"), ("battery", "packs", PACK, "battery")],
)
def test_a_part_and_its_document_are_the_same_part(place, kind, ref, inner):
    by_name = outcome(brief_with(**{place: ref}))
    by_document = outcome(brief_with(**{place: document_of(kind, ref, inner)}))
    assert by_name[0] == by_document[0] > 0
    for one, other in zip(by_name[1], by_document[1], strict=True):
        assert one == pytest.approx(other, rel=1e-6)


def test_an_owned_controller_keeps_its_own_setting():
    document = document_of("controllers", CONTROLLER, "controller")
    document |= {"motor_current_limit_a": 45.0, "battery_current_limit_a": 22.0}
    answer = matched(brief_with(controller=document), SHELF, 5)
    assert answer.feasible > 0
    for result in answer.results:
        assert result.parts.controller == OWN
        assert result.build["controller"]["motor_current_limit_a"] == 45.0
        assert result.build["controller"]["battery_current_limit_a"] == 22.0
        assert result.figures["motor_peak_a"] <= 45.0 + 1e-6
        assert result.figures["pack_peak_a"] <= 22.0 + 1e-6
    # Named on the shelf it is set as the pack and the motor ask.
    named = matched(brief_with(controller=CONTROLLER), SHELF, 1).results[0]
    assert named.build["controller"]["motor_current_limit_a"] != 45.0


def test_owned_gearing_is_the_only_gearing_and_costs_nothing():
    stages = [
        {"kind": "chain", "driver_teeth": 11, "driven_teeth": 48, "efficiency": 0.96},
        {"kind": "fixed", "ratio": 3.4, "efficiency": 0.97},
    ]
    brief = brief_with(gearing=stages)
    options = Options.of(brief, SHELF)
    assert options.considered == len(SHELF.motors) * len(SHELF.controllers) * len(SHELF.packs)
    answer = matched(brief, SHELF, 3)
    assert answer.feasible > 0
    for result in answer.results:
        assert result.parts.ratio == pytest.approx(48 / 11 * 3.4)
        assert result.build["gearing"] == stages
        parts = [
            next(part for part in getattr(SHELF, kind) if part.id == ref)
            for kind, ref in (
                ("motors", result.parts.motor),
                ("packs", result.parts.battery),
                ("controllers", result.parts.controller),
            )
        ]
        prices = [
            getattr(part, inner).price
            for part, inner in zip(parts, ("motor", "battery", "controller"), strict=True)
        ]
        assert result.figures["price"] == pytest.approx(sum(prices))


def test_everything_owned_leaves_one_drive_that_costs_nothing():
    owned = {
        "motor": MOTOR,
        "controller": CONTROLLER,
        "battery": PACK,
        "gearing": [{"kind": "chain", "driver_teeth": 11, "driven_teeth": 68, "efficiency": 0.95}],
    }
    search = Search(brief_with(**owned), SHELF).run()
    assert search.tally.considered == 1
    answer = matched(brief_with(**owned), SHELF, 5)
    assert answer.considered == answer.feasible + sum(answer.rejected.values()) == 1
    for result in answer.results:
        assert result.figures["price"] == 0.0
