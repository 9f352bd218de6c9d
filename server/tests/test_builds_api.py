"""Builds over HTTP, on the real PostgreSQL: kept, changed, undone, never lost."""

import copy
import json
import uuid

import pytest
from django.contrib.auth.models import User
from django.db import IntegrityError, transaction

from builds.actions.create import create_build
from builds.models import Build, Version


def with_cells(document, cells):
    changed = copy.deepcopy(document)
    changed["battery"]["series"] = cells
    return changed


def test_a_build_is_found_again_as_it_was_typed(api, trike):
    build = api.begin(trike)
    status, read = api.get(f"/builds/{build['id']}")
    assert status == 200
    assert read["document"] == trike
    assert (read["head"], read["can_undo"], read["pinned"]["number"]) == (1, False, 1)


def test_each_change_is_a_version_that_says_what_changed(api, trike):
    build = api.begin(trike)
    status, saved = api.save(build, 1, with_cells(trike, 14))
    assert (status, saved["head"], saved["can_undo"]) == (200, 2, True)
    _, versions = api.get(f"/builds/{build['id']}/versions")
    assert [version["number"] for version in versions] == [2, 1]
    (change,) = versions[0]["changes"]
    assert (change["path"], change["before"], change["after"]) == ("battery.series", 13, 14)
    assert versions[0]["made_by"] == "owner"
    assert versions[0]["parent"] == 1


def test_undo_and_redo_walk_the_line_and_lose_nothing(api, trike):
    build = api.begin(trike)
    for base, cells in ((1, 14), (2, 15)):
        api.save(build, base, with_cells(trike, cells))
    place = f"/builds/{build['id']}"
    assert api.post(f"{place}/undo", {"base": 3})[1]["document"]["battery"]["series"] == 14
    assert api.post(f"{place}/undo", {"base": 2})[1]["document"]["battery"]["series"] == 13
    assert api.post(f"{place}/undo", {"base": 1})[0] == 404
    redone = api.post(f"{place}/redo", {"base": 1})[1]
    assert (redone["head"], redone["can_redo"]) == (2, True)
    # An edit after undo begins a new branch; the other stays in the history.
    status, saved = api.save(build, 2, with_cells(trike, 10))
    assert (status, saved["head"], saved["can_redo"]) == (200, 4, False)
    assert api.post(f"{place}/undo", {"base": 4})[1]["head"] == 2
    assert api.post(f"{place}/redo", {"base": 2})[1]["head"] == 4
    _, brought = api.post(f"{place}/restore", {"base": 4, "number": 3})
    assert (brought["head"], brought["document"]["battery"]["series"]) == (5, 15)


def test_a_late_change_is_told_and_both_are_kept(api, trike):
    build = api.begin(trike)
    api.save(build, 1, with_cells(trike, 14))
    status, late = api.save(build, 1, with_cells(trike, 10))
    assert status == 409
    assert (late["kept"], late["head"]) == (3, 2)
    read = api.get(f"/builds/{build['id']}")[1]
    assert (read["head"], read["document"]["battery"]["series"], read["can_redo"]) == (2, 14, False)
    kept = Version.objects.get(build_id=build["id"], number=3)
    assert (kept.aside, kept.document["battery"]["series"]) == (True, 10)
    assert api.post(f"/builds/{build['id']}/undo", {"base": 1})[0] == 409
    restored = api.post(f"/builds/{build['id']}/restore", {"base": 2, "number": 3})[1]
    assert restored["document"]["battery"]["series"] == 10


def test_a_repeated_request_is_one_change(api, trike):
    build = api.begin(trike)
    body = {"base": 1, "document": with_cells(trike, 14), "change_id": str(uuid.uuid4())}
    first = api.post(f"/builds/{build['id']}/versions", body)
    again = api.post(f"/builds/{build['id']}/versions", body)
    assert first == again
    assert Version.objects.filter(build_id=build["id"]).count() == 2
    begun = {"document": trike, "change_id": str(uuid.uuid4())}
    one, two = api.post("/builds", begun)[1], api.post("/builds", begun)[1]
    assert one["id"] == two["id"]


def test_pinning_chooses_what_is_compared_with(api, trike):
    build = api.begin(trike)
    api.save(build, 1, with_cells(trike, 14))
    pinned = api.post(f"/builds/{build['id']}/pin", {"number": 2})[1]["pinned"]
    assert (pinned["number"], pinned["document"]["battery"]["series"]) == (2, 14)
    assert api.post(f"/builds/{build['id']}/pin", {"number": 9})[0] == 404


def test_what_is_taken_out_can_be_brought_back(api, trike):
    build = api.begin(trike)
    assert api.delete(f"/builds/{build['id']}") == 204
    listed = api.get("/builds")[1]
    assert build["id"] not in [card["id"] for card in listed["builds"]]
    assert [card["id"] for card in listed["removed"]] == [build["id"]]
    assert api.post(f"/builds/{build['id']}/bring-back", {})[0] == 204
    assert build["id"] in [card["id"] for card in api.get("/builds")[1]["builds"]]


def test_nobody_reaches_another_owners_builds(api, trike):
    stranger = User.objects.create(username="stranger")
    theirs = create_build(stranger, trike)
    place = f"/builds/{theirs.pk}"
    assert api.get(place)[0] == 404
    assert api.get(f"{place}/versions")[0] == 404
    assert api.get(f"{place}/document")[0] == 404
    assert api.delete(place) == 404
    assert api.save({"id": theirs.pk}, 1, trike)[0] == 404
    for action in ("undo", "redo"):
        assert api.post(f"{place}/{action}", {"base": 1})[0] == 404
    assert api.post(f"{place}/pin", {"number": 1})[0] == 404
    assert api.get("/builds")[1]["builds"] == []
    assert Build.objects.get(pk=theirs.pk).removed_at is None


def test_two_versions_never_share_a_number(api, trike):
    build = api.begin(trike)
    user = User.objects.get(username="owner")
    with pytest.raises(IntegrityError), transaction.atomic():
        Version.objects.create(build_id=build["id"], number=1, document={}, made_by=user)


def test_a_document_goes_out_and_in_unchanged(api, trike):
    build = api.begin(trike)
    response = api.client.get(f"/api/builds/{build['id']}/document")
    assert response.headers["Content-Disposition"] == 'attachment; filename="causeway-trike.json"'
    assert api.begin(json.loads(response.content))["document"] == trike


def test_the_list_shows_each_build_as_its_stream(api, trike):
    api.begin(trike)
    (listed,) = api.get("/builds")[1]["builds"]
    card = listed["figures"]
    assert card["top_speed_mps"] * 3.6 == pytest.approx(36.79, abs=0.005)
    assert card["state"]["speed_mps"] == pytest.approx(5.0)
    assert card["state"]["cells_w"] > card["state"]["road_w"] > 0
    assert card["stops"] == 0
    assert card["watches"] >= 2


def test_archetypes_can_be_begun_and_saved(api):
    _, archetypes = api.get("/archetypes")
    assert len(archetypes) >= 6
    for archetype in archetypes:
        build = api.begin(archetype["document"])
        assert build["document"]["provenance"]["vehicle.mass_kg"]["origin"] == "default"


def test_demo_builds_come_once(api):
    from django.core.management import call_command

    call_command("load_demo")
    names = [card["name"] for card in api.get("/builds")[1]["builds"]]
    assert names[0] == "Causeway trike"
    assert len(names) >= 3
    removed = api.get("/builds")[1]["builds"][1]["id"]
    api.delete(f"/builds/{removed}")
    call_command("load_demo")
    assert len(api.get("/builds")[1]["builds"]) == len(names) - 1
