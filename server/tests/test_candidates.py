"""Of very many parts of one's own a search looks at those that can serve, the newest first."""

import copy
import json
from pathlib import Path

import pytest

from accounts.personal import the_owner
from common.documents import plain
from matching import candidates, tasks
from matching.actions.search import keep_and_search
from matching.candidates import candidates_of
from powertrain.documents.brief import Brief
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import MotorPart
from powertrain.match.relax import relaxations
from powertrain.shelf.shipped import shipped_shelf
from shelf.actions.keep import bring_in
from shelf.models import Part

EXAMPLES = Path(__file__).parents[2] / "docs/examples"
BRIEF = json.loads((EXAMPLES / "brief-trike.json").read_text())


def brief(**more) -> Brief:
    return check_model(Brief, {**copy.deepcopy(BRIEF), **more})


@pytest.fixture
def owner(db):
    """Somebody with forty motors, every fourth of them dearer than the whole budget."""
    owner = the_owner()
    shipped = next(part for part in shipped_shelf().motors if part.id == "sedgeholt-o63-220")
    for number in range(40):
        said = plain(shipped)
        said |= {"id": f"own-{number:02}", "name": f"Own {number}"}
        said["motor"] = {**said["motor"], "price": 1e6 if number % 4 == 0 else 100.0 + number}
        said.pop("provenance", None)
        bring_in(owner, "motors", [check_model(MotorPart, said)])
    return owner


def own_motors(shelf) -> list[str]:
    return [part.id for part in shelf.motors if part.id.startswith("own-")]


def test_few_are_all_looked_at(owner, monkeypatch):
    monkeypatch.setitem(candidates.AT_FIRST, "motors", 100)
    found = candidates_of(owner, brief())
    # All of them, also those that are too dear: the budget may be what is given up.
    assert (len(own_motors(found.shelf)), found.first, found.left_out) == (40, None, 0)
    assert len(found.shelf.motors) == 40 + len(shipped_shelf().motors)


def test_of_many_the_newest_that_can_serve(owner, monkeypatch):
    monkeypatch.setitem(candidates.MOST, "motors", 6)
    monkeypatch.setitem(candidates.AT_FIRST, "motors", 2)
    found = candidates_of(owner, brief())
    # The dear ones, by four, can't serve and are passed over.
    assert own_motors(found.shelf) == [f"own-{n}" for n in (39, 38, 37, 35, 34, 33)]
    assert own_motors(found.first) == ["own-39", "own-38"]
    assert found.left_out == 34
    monkeypatch.setitem(candidates.MOST, "motors", 33)
    # All thirty that can serve, then the newest of the dear ones.
    assert own_motors(candidates_of(owner, brief()).shelf)[29:] == [
        "own-01",
        "own-36",
        "own-32",
        "own-28",
    ]


def test_what_is_owned_or_asked_about_is_always_among_them(owner, monkeypatch):
    monkeypatch.setitem(candidates.MOST, "motors", 3)
    owned = candidates_of(owner, brief(owned={"motor": "own-04"}))
    assert "own-04" in own_motors(owned.shelf)
    asked = candidates_of(owner, brief(), "own-02", "own-39")
    assert own_motors(asked.shelf) == ["own-39", "own-02", "own-38", "own-37"]


def test_one_that_can_no_longer_be_read_is_passed_over(owner):
    Part.objects.filter(ref="own-39").update(document={"name": "Own 39"})
    assert "own-39" not in own_motors(candidates_of(owner, brief()).shelf)


def test_a_first_result_comes_from_a_few_and_the_answer_from_all(owner, monkeypatch):
    monkeypatch.setitem(candidates.MOST, "motors", 5)
    monkeypatch.setitem(candidates.AT_FIRST, "motors", 1)
    owned = {"controller": "withyvane-t100-60", "battery": "merewisp-c21-50-10s4p"}
    kept = keep_and_search(owner, {**copy.deepcopy(BRIEF), "owned": owned})
    match = kept.matches.get()
    seen = []
    real = tasks._find_one
    monkeypatch.setattr(
        tasks, "_find_one", lambda m, search: real(m, search) or seen.append(m.answer)
    )
    tasks.carry_out(str(match.pk))
    match.refresh_from_db()
    assert len(seen[0]["results"]) == 1
    assert match.state == "done"
    assert match.answer["left_out"] == 35
    assert match.answer["considered"] > seen[0]["considered"]
    assert match.answer["results"][0]["score"] >= seen[0]["results"][0]["score"] - 1e-9


def test_an_own_part_beyond_a_wish_is_what_giving_it_up_finds(db):
    # One motor of one's own beats what ships at the budget, but costs more than it.
    owner = the_owner()
    shipped = next(part for part in shipped_shelf().motors if part.id == "sedgeholt-o63-220")
    said = plain(shipped) | {"id": "own-dear", "name": "Dear"}
    said["motor"] = {**said["motor"], "price": 5000.0}
    bring_in(owner, "motors", [check_model(MotorPart, said)])
    owned = {"controller": "withyvane-t100-60", "battery": "merewisp-c21-50-10s4p"}
    found = candidates_of(owner, brief(owned=owned))
    assert "own-dear" in own_motors(found.shelf)
    only = found.shelf.model_copy(
        update={"motors": [part for part in found.shelf.motors if part.id == "own-dear"]}
    )
    freed = {one.wish: one.to for one in relaxations(brief(owned=owned), only)}
    assert freed["budget"] >= 5000.0
