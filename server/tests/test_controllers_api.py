"""Controllers over HTTP: one's own parts among them, odd input told by its place."""

import pytest


def test_ones_own_controller_is_held_against_the_build_with_the_rest(api, trike):
    own = {
        "id": "from-the-shed",
        "name": "From the shed",
        "drives": "brushless",
        "controller": {"max_voltage_v": 48.0, "continuous_current_a": 35.0},
    }
    status, told = api.post("/shelf/controllers/parts", {"document": own})
    assert status in (200, 201), told
    status, told = api.post("/choose-controller", {"document": trike})
    assert status == 200
    shut = next(one for one in told["failed"] if one["name"] == "From the shed")
    # Thirteen cells off the charger are 54.6 V.
    assert "54.6 V off the charger; rated 48" in " ".join(gate["say"] for gate in shut["gates"])
    assert told["passed"][0]["rank"] >= told["passed"][-1]["rank"]


@pytest.mark.parametrize(
    ("path", "body", "where"),
    [
        ("/choose-controller", {"weights": {"price": -1}}, "weights.price"),
        ("/wires", {"pack_m": 0}, "pack_m"),
        ("/shunt", {"original_mohm": 1, "limit_a": 45}, "parallel-mohm"),
        ("/shunt", {"original_mohm": -1, "limit_a": 45, "parallel_mohm": 1}, "original_mohm"),
        ("/trigger/traced", {"trigger": 2}, "trigger"),
    ],
)
def test_odd_input_is_told_by_its_place(api, trike, path, body, where):
    status, told = api.post(path, {"document": trike, **body})
    assert (status, told["error"]["where"]) == (422, where)


def test_odd_poles_are_refused(api):
    status, told = api.post("/hall", {"offset_deg": 5, "poles": 7})
    assert (status, told["error"]["where"]) == (422, "poles")
