"""The stateless solve, what it refuses, and that it gives the command line's numbers."""

import json

import pytest

from config.settings import ROOT
from powertrain.cli import main


def solve(api, document, operations=()):
    return api.post("/solve", {"document": document, "operations": list(operations)})


def test_one_answer_holds_all_that_the_bench_shows(api, trike):
    status, solved = solve(api, trike)
    assert status == 200
    answer = solved["answer"]
    assert [moment["id"] for moment in answer["moments"]] == [
        "launch",
        "climb",
        "cruise",
        "top_speed",
        "wheels_up",
    ]
    assert {gauge["part"] for gauge in answer["gauges"]} == {"pack", "controller", "motor"}
    assert {"gearing.1.driven_teeth", "winding", "battery.series"} <= {
        lever["id"] for lever in answer["levers"]
    }
    assert solved["document"] == trike
    assert solved["changes"] == []


def test_the_numbers_are_the_command_lines(api, trike, tmp_path, capsys):
    place = tmp_path / "trike.json"
    place.write_text(json.dumps(trike))
    moments = {m["id"]: m["state"] for m in solve(api, trike)[1]["answer"]["moments"]}
    for moment, argv in (
        ("top_speed", ["top-speed", str(place)]),
        ("climb", ["top-speed", str(place), "--grade", "8"]),
        ("cruise", ["cruise", str(place), "--speed", "18"]),
    ):
        assert main(argv) == 0
        line = json.loads(capsys.readouterr().out)
        for key in ("speed_mps", "motor_current_a", "battery_current_a", "efficiency"):
            assert moments[moment][key] == pytest.approx(line[key], rel=1e-12), (moment, key)
        assert moments[moment]["limited_by"] == line["limited_by"]


def test_operations_are_carried_out_in_order(api, trike):
    press = {"do": "press", "lever": "gearing.0.driver_teeth", "step": 1}
    operations = [press, press, {"do": "set", "values": {"vehicle.mass_kg": 180}}]
    status, solved = solve(api, trike, operations)
    assert status == 200
    assert solved["document"]["gearing"][0]["driver_teeth"] == 18
    assert solved["document"]["vehicle"]["mass_kg"] == 180
    assert {change["path"] for change in solved["changes"]} == {
        "gearing.0.driver_teeth",
        "vehicle.mass_kg",
    }


def test_a_refused_operation_is_named(api, trike):
    operations = [
        {"do": "press", "lever": "battery.series", "step": 1},
        {"do": "set", "values": {"motor.resistance_ohm": -1}},
    ]
    status, refused = solve(api, trike, operations)
    assert status == 422
    assert refused["operation"] == 1
    assert refused["error"]["where"] == "motor.resistance_ohm"


@pytest.mark.parametrize(
    ("path", "value"),
    [
        ("battery.series", 0),
        ("vehicle.mass_kg", -1),
        ("vehicle.mass_kg", 10**300),
        ("vehicle.mass_kg", True),
        ("gearing.0.driver_teeth", 0),
        ("gearing.0.driver_teeth", 16.5),
        ("gearing.0.kind", "worm"),
        ("motor.kind", "steam"),
        ("motor.kv_rpm_per_v", "60"),
        ("motor.colour", "red"),
        ("battery.chemistry", "coal"),
    ],
)
def test_bad_values_are_refused_at_their_place(api, trike, path, value):
    place = trike
    *steps, last = path.split(".")
    for step in steps:
        place = place[int(step)] if step.isdecimal() else place[step]
    place[last] = value
    for status, refused in (
        solve(api, trike),
        api.post("/builds", {"document": trike, "change_id": "0" * 32}),
    ):
        assert status == 422
        assert refused["error"]["where"] == path
        assert len(refused["error"]["what"]) > 8
    assert api.get("/builds")[1]["builds"] == []


@pytest.mark.parametrize(
    ("text", "status"),
    [
        ("[" * 5000, 422),
        ('{"document": ' + '{"a":' * 5000 + "1" + "}" * 5001, 422),
        ('{"document": NaN}', 422),
        ("{", 422),
        ('{"document": 3}', 422),
        ('{"document": {"name": "\\u0000"}}', 422),
        ("x" * 10_000_000, 413),
    ],
    ids=["brackets", "objects", "nan", "cut", "number", "null character", "ten megabytes"],
)
def test_text_that_is_no_document_is_refused(api, text, status):
    for place in ("/solve", "/builds"):
        told, refused = api.post(place, text)
        assert told == status
        assert "what" in refused["error"]


def test_a_hundred_thousand_stages_are_refused(api, trike):
    trike["gearing"] = [trike["gearing"][0]] * 100_000
    told, refused = solve(api, trike)
    assert told in (413, 422)
    assert "error" in refused
    trike["gearing"] = trike["gearing"][:500]
    assert solve(api, trike)[1]["error"]["where"] == "gearing"


def test_fields_describe_every_input(api):
    fields = {field["path"]: field for field in api.get("/fields")[1]["fields"]}
    assert fields["battery.cell_resistance_mohm"]["unit"] == "mohm"
    assert fields["gearing.*.ratio"]["kinds"] == ["planetary", "fixed"]
    assert fields["motor.sensor"]["options"] == ["none", "hall", "encoder"]


def test_the_published_contract_is_the_pinned_one(api):
    status, published = api.get("/openapi.json")
    assert status == 200
    assert published == json.loads((ROOT / "server" / "openapi.json").read_text())


class TestGuard:
    def test_another_host_is_turned_away(self, api, trike):
        assert api.client.get("/api/builds", SERVER_NAME="evil.example").status_code == 400

    def test_another_origin_cannot_write(self, api, trike):
        told, refused = api.post("/solve", {"document": trike}, origin="http://evil.example")
        assert (told, refused["error"]["where"]) == (403, "origin")
        told, _ = api.post("/solve", {"document": trike}, origin="http://127.0.0.1")
        assert told == 200

    def test_answers_carry_a_policy(self, api):
        response = api.client.get("/api/health")
        assert "default-src 'self'" in response.headers["Content-Security-Policy"]
        assert response.headers["Cache-Control"] == "no-store"

    def test_an_address_that_leads_nowhere(self, api):
        assert api.get("/nothing")[0] == 404


def test_solving_needs_no_database(trike, client):
    # Without the database fixture any query is an error; solving makes none.
    body = json.dumps({"document": trike})
    response = client.post(
        "/api/solve", body, content_type="application/json", SERVER_NAME="127.0.0.1"
    )
    assert response.status_code == 200


def test_kinds_of_motor_are_told_with_those_that_facts_can_tell(api):
    told = api.get("/fields")[1]
    kinds = [kind["kind"] for kind in told["motor_kinds"]]
    assert kinds == ["permanent_magnet", "series_wound", "packaged", "induction"]
    assert told["fact_kinds"] == ["permanent_magnet", "series_wound"]
