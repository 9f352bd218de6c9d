"""Parts of one's own over HTTP, on the real PostgreSQL."""

import json
from pathlib import Path

import pytest

from accounts.personal import the_owner
from powertrain.documents.reading import check_build
from shelf import whole
from shelf.models import Part, PartVersion
from tests.own_parts import MOTOR

EXAMPLES = Path(__file__).parents[2] / "docs/examples"


@pytest.fixture
def looked(api):
    def looked(kind, **asked):
        status, told = api.post(f"/shelf/{kind}/look", asked)
        assert status == 200, told
        return told

    return looked


def value_of(table, row, path):
    return row["values"][[column["path"] for column in table["columns"]].index(path)]


def test_a_part_of_ones_own_is_added_changed_and_said_as_before(api, looked):
    status, part = api.post("/shelf/motors/parts", {"document": MOTOR})
    assert (status, part["id"], part["own"], part["can_undo"]) == (201, "old-blue-can", True, False)
    faster = {**MOTOR, "motor": {**MOTOR["motor"], "kv_rpm_per_v": 900}}
    status, changed = api.post("/shelf/motors/parts/old-blue-can", {"document": faster})
    assert (status, changed["document"]["motor"]["kv_rpm_per_v"], changed["can_undo"]) == (
        200,
        900,
        True,
    )
    status, before = api.post("/shelf/motors/parts/old-blue-can/undo", {})
    assert before["document"]["motor"]["kv_rpm_per_v"] == 790
    status, told = api.post("/shelf/motors/parts/old-blue-can/undo", {})
    assert (status, told["error"]["where"]) == (404, "part")
    # What was said in between is still there.
    said = PartVersion.objects.values_list("document__motor__kv_rpm_per_v", flat=True)
    assert sorted(said) == [790, 900]
    table = looked("motors", words="blue")
    assert [(row["id"], row["own"]) for row in table["rows"]] == [("old-blue-can", True)]


def test_a_copy_gets_an_id_of_its_own_and_what_ships_stays(api):
    status, shipped = api.get("/shelf/motors/parts/sedgeholt-o35-790")
    assert (status, shipped["own"]) == (200, False)
    status, copy = api.post("/shelf/motors/parts", {"document": shipped["document"]})
    assert (status, copy["id"]) == (201, "sedgeholt-o35-790-2")
    status, told = api.post("/shelf/motors/parts/sedgeholt-o35-790", {"document": MOTOR})
    assert (status, told["error"]["where"]) == (404, "part")


def test_a_part_that_makes_no_sense_is_refused_by_place_and_nothing_is_kept(api):
    wrong = {**MOTOR, "motor": {**MOTOR["motor"], "resistance_ohm": -1}}
    status, told = api.post("/shelf/motors/parts", {"document": wrong})
    assert (status, told["error"]["where"]) == (422, "motor.resistance_ohm")
    assert not Part.objects.exists()


def test_a_part_taken_away_can_be_brought_back(api, looked):
    api.post("/shelf/motors/parts", {"document": MOTOR})
    api.post("/shelf/motors/parts/old-blue-can/remove", {})
    assert looked("motors", only_own=True)["rows"] == []
    api.post("/shelf/motors/parts/old-blue-can/bring-back", {})
    assert len(looked("motors", only_own=True)["rows"]) == 1


def test_sorting_puts_gaps_last_either_way_and_marks_them(api, looked):
    api.post("/shelf/motors/parts", {"document": MOTOR})
    for falling in (False, True):
        table = looked("motors", sort="motor.mass_kg", falling=falling)
        masses = [value_of(table, row, "motor.mass_kg") for row in table["rows"]]
        known = [mass for mass in masses if mass is not None]
        assert known == sorted(known, reverse=falling)
        assert masses[len(known) :] == [None]
        assert table["rows"][-1]["id"] == "old-blue-can"
    status, told = api.post("/shelf/motors/look", {"sort": "motor.colour"})
    assert (status, told["error"]["where"]) == (422, "sort")


@pytest.mark.parametrize(
    "asked",
    [
        {"sort": "motor.colour"},
        {"limit": 0},
        {"limit": "all"},
        {"only_fit": 0},
        {"words": 7},
        {"build": {}},
        {"build": {"format": "young-torrent.build/1"}},
        {"brief": "trike"},
    ],
)
def test_an_odd_look_at_the_shelf_is_refused(api, asked):
    status, told = api.post("/shelf/motors/look", asked)
    assert status == 422
    assert told["error"]["what"]
    assert api.post("/shelf/boats/look", {})[0] == 422


def test_what_fits_a_build_is_what_no_rule_stops_in_it(api, looked, trike):
    table = looked("controllers", build=trike)
    by_id = {row["id"]: row["unfit"] for row in table["rows"]}
    assert sum(reason is None for reason in by_id.values()) > 3
    fitting = looked("controllers", build=trike, only_fit=True)
    assert {row["id"] for row in fitting["rows"]} == {
        ref for ref, reason in by_id.items() if reason is None
    }
    # One that fits, put into the build, is stopped by nothing; one that doesn't is.
    _, shelf = api.get("/shelf")
    for row in table["rows"][::6]:
        part = next(one for one in shelf["controllers"] if one["id"] == row["id"])
        if part["drives"] != "brushless":
            assert "brushless" in row["unfit"]
            continue
        built = {**trike, "controller": part["controller"]}
        _, solved = api.post("/solve", {"document": built, "operations": []})
        stops = [one for one in solved["answer"]["verdicts"] if one["severity"] == "stop"]
        if row["unfit"] is None and not part.get("settable", True):
            assert stops == []
        if row["unfit"] is not None:
            assert stops


def test_what_fits_a_brief_goes_by_what_the_part_says(api, looked):
    brief = json.loads((EXAMPLES / "brief-trike.json").read_text())
    brief["wishes"] = {"motor_space": {"diameter_mm": 40}, "commutation": "brushless"}
    api.post("/shelf/motors/parts", {"document": MOTOR})
    table = looked("motors", brief=brief)
    for row in table["rows"]:
        wide = value_of(table, row, "motor.diameter_mm")
        brushed = value_of(table, row, "motor.commutation") == "brushed"
        assert (row["unfit"] is None) == (wide is not None and wide <= 40 and not brushed)
    own = next(row for row in table["rows"] if row["own"])
    assert "does not say" in own["unfit"]


def test_a_search_takes_ones_own_parts_too(api):
    from matching.tasks import carry_out

    brief = json.loads((EXAMPLES / "brief-trike.json").read_text())
    _, shipped = api.get("/shelf/motors/parts/otterlode-m90-80")
    copy = {**shipped["document"], "name": "Mine", "id": "mine"}
    api.post("/shelf/motors/parts", {"document": copy})
    brief["owned"] = {"motor": "mine", "controller": "withyvane-t100-60"}
    _, kept = api.post("/briefs", {"document": brief})
    _, match = api.post(f"/briefs/{kept['id']}/matches", {})
    carry_out(match["id"])
    _, told = api.get(f"/matches/{match['id']}")
    assert (told["state"], told["feasible"] > 0) == ("done", True)
    assert {result["parts"]["motor"] for result in told["answer"]["results"]} == {"mine"}


# Tables in and out


def test_a_listing_is_read_and_asks_only_for_what_is_missing(api):
    text = "3548, 790 KV, 3S-6S, 60 A, 5 mm shaft"
    status, told = api.post("/shelf/read-listing", {"text": text})
    assert (status, told["kind"], told["unread"]) == (200, "motors", [])
    # Amps without a word for how long are shown as the likely peak, and nothing waits for them.
    assert [(asked["path"], asked["needed"]) for asked in told["asked"]] == [
        ("motor.peak_current_a", False),
        ("motor.resistance_ohm", True),
        ("motor.no_load_current_a", True),
    ]
    document = told["document"]
    for asked in told["asked"]:
        if not asked["needed"]:
            continue
        document["motor"][asked["path"].split(".")[1]] = asked["guess"]
        document["provenance"][asked["path"]] = {"origin": "estimated"}
    status, part = api.post("/shelf/motors/parts", {"document": document})
    assert status == 201, part


@pytest.fixture
def thirty(api):
    """Thirty motors of one's own, each faster than the one before."""
    lines = [
        ",".join(
            [
                "id",
                "name",
                "motor.kind",
                "motor.kv_rpm_per_v",
                "motor.resistance_ohm",
                "motor.no_load_current_a",
                "family",
            ]
        ),
        *(f"reed-{n:02},Reed {n},permanent_magnet,{100 + n},0.03,0.9,reed can" for n in range(30)),
    ]
    status, told = api.post("/shelf/bring-in/motors", "\n".join(lines))
    assert (status, told["added"]) == (200, 30)


def test_of_many_only_what_is_shown_is_read_and_all_are_counted(api, looked, thirty, monkeypatch):
    read = []
    real = whole.check_model
    monkeypatch.setattr(whole, "check_model", lambda k, d: read.append(1) or real(k, d))
    shipped = looked("motors")["total"] - 30
    read.clear()
    told = looked("motors", limit=10, only_own=True)
    assert (len(told["rows"]), told["total"], len(read)) == (10, 30, 10)
    fastest = looked("motors", sort="motor.kv_rpm_per_v", falling=True, only_own=True, limit=3)
    assert [row["id"] for row in fastest["rows"]] == ["reed-29", "reed-28", "reed-27"]
    slowest = looked("motors", sort="motor.kv_rpm_per_v", only_own=True, limit=2)
    assert [row["id"] for row in slowest["rows"]] == ["reed-00", "reed-01"]
    assert looked("motors", limit=5)["total"] == shipped + 30
    # Words are looked for in what a part says, its can among it.
    assert looked("motors", words="REED can 7", only_own=True)["total"] == 3


def test_those_too_many_to_be_tried_are_told(api, looked, thirty, trike, monkeypatch):
    monkeypatch.setattr("shelf.look.MOST_TRIED", 12)
    told = looked("motors", build=trike, only_own=True)
    assert (len(told["rows"]), told["total"], told["untried"]) == (12, 12, 18)
    narrowed = looked("motors", build=trike, only_own=True, words="reed-0")
    assert (len(narrowed["rows"]), narrowed["untried"]) == (10, 0)


def test_windings_of_ones_own_can_are_found_by_the_can(api, thirty, trike):
    motor = {**trike["motor"], "name": "Reed 15", "kv_rpm_per_v": 115}
    status, told = api.post("/windings", {"document": {**trike, "motor": motor, "provenance": {}}})
    assert status == 200
    numbers = [one["number"] for one in told["windings"]]
    # Those nearest to its own, as many as are solved.
    assert numbers == [float(n) for n in range(104, 128)]


def test_a_part_that_can_no_longer_be_read_hides_no_other(api, looked, thirty, trike):
    Part.objects.filter(ref="reed-03").update(document={"name": "Reed 3", "motor": {}})
    told = looked("motors", only_own=True)
    broken = next(row for row in told["rows"] if row["id"] == "reed-03")
    assert (len(told["rows"]), told["total"]) == (30, 30)
    assert broken["unfit"].startswith("It can't be read any more: ")
    assert api.get("/shelf")[0] == 200
    assert api.post("/windings", {"document": trike})[0] == 200
    lines = api.client.get("/api/shelf/motors/table?own=true").getvalue().decode().splitlines()
    assert len(lines) == 31
    status, part = api.get("/shelf/motors/parts/reed-03")
    assert (status, part["document"]) == (200, {"name": "Reed 3", "motor": {}})


def test_names_to_choose_from_are_ones_own_first(api, thirty):
    status, told = api.get("/shelf/names")
    assert (status, set(told)) == (200, {"motors", "controllers", "packs", "propellers"})
    assert all(part["id"].startswith("reed-") for part in told["motors"][:30])
    assert "sedgeholt-o35-790" in {part["id"] for part in told["motors"][30:]}


def test_teeth_of_ones_own_that_mesh_are_on_the_ladder(api, trike):
    stage = {**trike["gearing"][0], "pitch_mm": 8.0}
    trike = {**trike, "gearing": [stage], "provenance": {}}
    counts = {"mine": 19, "odd": 21, "spur": 22}
    said = {
        "mine": {"kind": stage["kind"], "pitch_mm": stage["pitch_mm"]},
        "odd": {"kind": stage["kind"], "pitch_mm": stage["pitch_mm"] + 1.0},
        "spur": {"kind": "spur", "module_mm": 1.0},
    }
    for name, more in said.items():
        document = {"name": name, "side": "driver", "sizes": [{"teeth": counts[name]}], **more}
        assert api.post("/shelf/teeth/parts", {"document": document})[0] == 201
    shelf = whole.shelf_for(the_owner(), check_build(trike), "teeth")
    own = [part.name for part in shelf.teeth if part.name in counts]
    assert own == ["mine"]
