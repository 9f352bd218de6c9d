"""Which way a propeller's nut goes: by the geometry of the shaft, worked out by hand."""

import json
from pathlib import Path

import pytest

from powertrain.documents.reading import check_build
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.rules.propeller_nut import RULE

WING = json.loads(
    (Path(__file__).parents[3] / "server/builds/demo/tern-wing.json").read_text(encoding="utf-8")
)


def said(**changes):
    document = {**WING, "provenance": {}, "propeller": {**WING["propeller"], **changes}}
    return list(RULE.said(RuleContext.of(check_build(document), cures=False)))


@pytest.mark.parametrize(
    ("position", "rotation", "loosens"),
    [
        # A right-hand nut goes on to the right, seen from its end of the shaft. The air holds the
        # propeller back, so that it turns the nut against the way the shaft turns. At the front
        # one looks against the direction of flight: clockwise from behind is to the left there.
        ("tractor", "clockwise", False),
        ("tractor", "counter_clockwise", True),
        ("pusher", "clockwise", True),
        ("pusher", "counter_clockwise", False),
    ],
)
def test_the_air_tightens_or_loosens_it(position, rotation, loosens):
    (told,) = said(position=position, rotation=rotation)
    assert told.severity == ("watch" if loosens else "ok")
    assert ("loosens" in told.title) == loosens
    assert rotation.replace("_", "-") in told.why


def test_where_nobody_said_how_it_turns_nothing_is_claimed():
    propeller = {key: WING["propeller"][key] for key in ("diameter_mm", "pitch_mm", "blades")}
    document = {**WING, "provenance": {}, "propeller": propeller}
    (told,) = RULE.said(RuleContext.of(check_build(document), cures=False))
    assert told.path == "propeller.rotation"
