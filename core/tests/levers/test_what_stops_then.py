"""What a press would stop a build with is what the build stops with once it is pressed."""

import json
from pathlib import Path

import pytest

from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.levers.board import levers_board
from powertrain.levers.registry import levers_of
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import stopping_rules

DEMO = Path(__file__).parents[3] / "server/builds/demo"


def demo(slug, **changes):
    document = json.loads((DEMO / f"{slug}.json").read_text(encoding="utf-8"))
    for path, value in changes.items():
        place = document
        *steps, last = path.split("__")
        for step in steps:
            place = place[step]
        place[last] = value
    return check_build({**document, "provenance": {}})


def stopped(build):
    context = RuleContext.of(build, cures=False)
    return {rule.rejects for rule in stopping_rules().values() if bool(rule.stops(context))}


@pytest.mark.parametrize(
    "build",
    [
        demo("tern-wing"),
        demo("tern-wing", controller__continuous_current_a=14.0, controller__peak_current_a=18.0),
        demo("coot-airboat"),
        demo("causeway-trike"),
        demo("causeway-trike", motor__max_rpm=2600.0),
    ],
    ids=["wing", "a wing that is stopped", "airboat", "trike", "a trike that is stopped"],
)
def test_a_press_says_what_stops_the_build_that_it_makes(build):
    now = stopped(build)
    levers = {lever.id: lever for lever in levers_of(build)}
    some = 0
    for row in levers_board(build).rows:
        lever = levers[row.lever]
        change = lever.up if row.step > 0 else lever.down
        document = build.model_dump(mode="json", exclude_unset=True)
        then = stopped(check_build(changed(document, change)))
        assert set(row.stops) == then - now, row.say
        assert set(row.clears) == now - then, row.say
        some += len(row.stops) + len(row.clears)
    assert some > 0


def test_a_cell_overloads_a_controller_that_an_inch_of_pitch_does_not():
    """The trade's rule: turns go with volts, torque with their square, pitch nearly in proportion.

    So there is a controller that an inch of pitch leaves alone and a cell does not.
    """
    build = demo("tern-wing")
    inch, cell = (
        next(row for row in levers_board(build).rows if (row.lever, row.step) == (lever, 1))
        for lever in ("propeller.pitch_mm", "battery.series")
    )
    amps = levers_board(build).now["motor_peak_a"]
    after = {
        "inch": amps + inch.effects["motor_peak_a"][0],
        "cell": amps + cell.effects["motor_peak_a"][0],
    }
    assert after["inch"] < after["cell"]
    between = (after["inch"] + after["cell"]) / 2
    held = demo(
        "tern-wing",
        controller__continuous_current_a=between,
        controller__peak_current_a=between,
    )
    rows = {(row.lever, row.step): row for row in levers_board(held).rows}
    told = next(
        rule.rejects for name, rule in stopping_rules().items() if name == "controller_current"
    )
    assert told not in rows["propeller.pitch_mm", 1].stops
    assert told in rows["battery.series", 1].stops
