"""Tables of the shelf: out, in, in again, and bad rows by line and column."""

import csv
import io
import json
from pathlib import Path

from powertrain.documents.table import columns_of
from shelf.models import Part
from tests.own_parts import MOTOR

EXAMPLES = Path(__file__).parents[2] / "docs/examples"


def sent(api, path, text):
    response = api.client.post(f"/api{path}", text, content_type="text/csv")
    return response.status_code, json.loads(response.content)


def fetched(api, path):
    return b"".join(api.client.get(f"/api{path}").streaming_content).decode()


def test_a_table_goes_out_and_comes_in_exactly(api):
    api.post("/shelf/motors/parts", {"document": MOTOR})
    text = fetched(api, "/shelf/motors/table?own=true")
    assert len(text.splitlines()) == 2
    before = Part.objects.get().document
    Part.objects.all().delete()
    assert sent(api, "/shelf/bring-in/motors", text)[1]["added"] == 1
    assert Part.objects.get().document == before
    whole = list(csv.reader(io.StringIO(fetched(api, "/shelf/motors/table"))))
    assert len(whole) == 1 + 123 + 1


def test_a_table_brought_in_again_changes_what_is_said_anew_and_nothing_else(api):
    header = "id,name,motor.kind,motor.kv_rpm_per_v [rpm/V],motor.resistance_ohm [ohm],"
    header += "motor.no_load_current_a [A]"

    def table(kv):
        rows = [f"m{i},Motor {i},permanent_magnet,{kv(i)},0.1,1" for i in range(1200)]
        return "\n".join([header, *rows])

    assert sent(api, "/shelf/bring-in/motors", table(lambda i: 100 + i))[1]["added"] == 1200
    api.post("/shelf/motors/parts/m7/remove", {})
    status, told = sent(
        api, "/shelf/bring-in/motors", table(lambda i: 50 if i in (3, 1100) else 100 + i)
    )
    # Two say something else, and one that was taken away is there again.
    assert (status, told["added"], told["changed"], told["bad_count"]) == (200, 0, 3, 0)
    assert Part.objects.filter(head=2).count() == 3
    assert not Part.objects.exclude(removed_at=None).exists()
    part = Part.objects.get(ref="m1100")
    assert part.document["motor"]["kv_rpm_per_v"] == 50
    assert [one.document["motor"]["kv_rpm_per_v"] for one in part.versions.all()] == [1200, 50]
    # What it said before is one step back.
    _, before = api.post("/shelf/motors/parts/m1100/undo", {})
    assert before["document"]["motor"]["kv_rpm_per_v"] == 1200


def test_bad_rows_are_told_by_line_and_column_and_the_good_ones_go_in(api):
    header = (
        "id,name,motor.kind,motor.kv_rpm_per_v [rpm/V],motor.resistance_ohm,motor.no_load_current_a"
    )
    rows = [
        "a,One,permanent_magnet,100,0.1,1",
        "b,Two,permanent_magnet,fast,0.1,1",
        "a,Again,permanent_magnet,100,0.1,1",
        "sedgeholt-o35-790,Theirs,permanent_magnet,100,0.1,1",
        "c,Three,permanent_magnet,100,-4,1",
        "d,Four,permanent_magnet,200,0.1,1",
    ]
    status, told = sent(api, "/shelf/bring-in/motors", "\n".join([header, *rows]))
    assert (status, told["added"], told["bad_count"]) == (200, 2, 4)
    places = [(bad["line"], bad["column"].split(" ")[0]) for bad in told["bad"]]
    assert places == [
        (3, "motor.kv_rpm_per_v"),
        (4, "id"),
        (5, "id"),
        (6, "motor.resistance_ohm"),
    ]
    assert set(Part.objects.values_list("ref", flat=True)) == {"a", "d"}
    # The same table again changes what is there and adds nothing.
    _, again = sent(
        api, "/shelf/bring-in/motors", "\n".join([header, rows[0].replace("100", "120")])
    )
    assert (again["added"], again["changed"]) == (0, 1)
    status, told = sent(api, "/shelf/bring-in/motors", "id,colour\n1,2")
    assert (status, "colour" in told["error"]["where"]) == (422, True)
    status, told = sent(api, "/shelf/bring-in/motors", b"id,name\n\xff\xfe,2")
    assert (status, "UTF-8" in told["error"]["what"]) == (422, True)


def test_the_shipped_table_as_a_whole_document_under_other_ids(api):
    _, shelf = api.get("/shelf")
    for kind in shelf:
        if isinstance(shelf[kind], list):
            for part in shelf[kind]:
                part["id"] = f"mine-{part['id']}"
    count = sum(len(parts) for parts in shelf.values() if isinstance(parts, list))
    shelf["packs"][3]["battery"]["series"] = 0
    status, told = api.post("/shelf/bring-in", shelf)
    assert (status, told["added"], told["bad_count"]) == (200, count - 1, 1)
    assert told["bad"][0]["column"] == "packs.3.battery.series"
    _, whole = api.get("/shelf")
    own = {part["id"]: part for part in whole["teeth"] if part["id"].startswith("mine-")}
    assert own == {part["id"]: part for part in shelf["teeth"]}
    assert api.post("/shelf/bring-in", {"format": "other"})[0] == 422


def test_builds_go_out_as_a_table_and_come_in_again(api, trike):
    api.begin(trike)
    text = fetched(api, "/builds/table")
    assert "[rpm/V]" in text.splitlines()[0]
    broken = text.splitlines()[1].replace("permanent_magnet", "steam")
    status, told = sent(api, "/builds/bring-in", "\n".join([*text.splitlines(), broken]))
    assert (status, told["added"], told["bad_count"], told["bad"][0]["line"]) == (200, 1, 1, 3)
    _, listed = api.get("/builds")
    documents = [api.get(f"/builds/{one['id']}")[1]["document"] for one in listed["builds"]]
    assert documents == [trike, trike]


def test_every_column_of_a_table_is_a_field_or_a_list(api):
    for kind in ("motors", "controllers", "packs", "cells", "wheels", "wires"):
        _, told = api.get(f"/shelf/{kind}/fields")
        paths = {field["path"] for field in told["fields"]} | {"provenance", "motor.kind"}
        # An object that was begun and says nothing stands in a column of its own.
        columns = {column.path for column in columns_of(kind) if column.how != "empty"}
        # A curve is drawn, steps are shared at a press, field coils joined on a page of their own:
        # no inputs, but kept in tables.
        drawn = {
            "controller.curve.points",
            "controller.steps_shared",
            "controller.settings",
            "battery.open_circuit",
            "battery.resistance_by_c",
            "motor.field.coils",
            "motor.field.connection",
            "motor.field.resistance_ohm",
        }
        assert columns <= paths | {"battery.chemistry"} | drawn
