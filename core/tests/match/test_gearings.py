"""Distinct gearings against a plain enumeration in exact fractions."""

from fractions import Fraction
from itertools import product

import pytest

from powertrain.documents.shelf import Shelf
from powertrain.documents.vehicle import ToothedStage
from powertrain.match.gearings import LEAST_OF_MANY, USUAL, gearings_of
from powertrain.shelf.shipped import shipped_shelf
from powertrain.stated import Stated
from powertrain.transmission.stage import StageData
from powertrain.verdicts.rules.tooth_load import carries_nm


def shelf_of(*ranges):
    teeth = [
        {
            "id": f"{kind}-{side}",
            "name": f"{kind} {side}",
            "kind": kind,
            "side": side,
            "module_mm" if kind == "spur" else "pitch_mm": 8.0,
            "efficiency": efficiency,
            "sizes": [
                {"teeth": count, "mass_kg": 0.01 * count, "price": 1.0 * count} for count in counts
            ],
        }
        for kind, side, efficiency, counts in ranges
    ]
    return Shelf.model_validate({"format": "young-torrent.shelf/1", "teeth": teeth})


SHELF = shelf_of(
    ("chain", "driver", 0.96, (10, 12, 15, 20)),
    ("chain", "driven", 0.96, (30, 36, 45, 60)),
    ("belt", "driver", 0.97, (20, 24)),
    ("belt", "driven", 0.97, (60, 72)),
)


def plain(shelf, most_ratio):
    pairs = [
        (Fraction(large.teeth, small.teeth), driver.efficiency)
        for driver, driven in product(shelf.teeth, shelf.teeth)
        if (driver.side, driven.side, driver.kind) == ("driver", "driven", driven.kind)
        for small in driver.sizes
        for large in driven.sizes
    ]
    found = {(ratio, 1, round(efficiency, 9)) for ratio, efficiency in pairs}
    worth = [pair for pair in pairs if pair[0] >= LEAST_OF_MANY]
    two_reach = max(one[0] * other[0] for one, other in product(worth, repeat=2))
    for count, above, most in ((2, USUAL, 1e9), (3, two_reach, most_ratio)):
        for some in product(worth, repeat=count):
            ratio, efficiency = Fraction(1), 1.0
            for one, loss in some:
                ratio, efficiency = ratio * one, efficiency * loss
            if above < ratio <= most:
                found.add((ratio, count, round(efficiency, 9)))
    return found


@pytest.mark.parametrize("most_ratio", [20.0, 90.0])
def test_each_reduction_stage_count_and_loss_is_there_once(most_ratio):
    gearings = gearings_of(SHELF.teeth, most_ratio)
    wanted = plain(SHELF, most_ratio)
    found = [
        (Fraction(1), 0, 1.0)
        if not stages
        else (_ratio(stages), len(stages), round(_loss(stages), 9))
        for stages in (gearings.stages_of(index) for index in range(len(gearings)))
    ]
    assert len(found) == len(set(found))
    assert set(found) == wanted
    assert list(gearings.ratio) == sorted(gearings.ratio)


def _ratio(stages):
    ratio = Fraction(1)
    for stage in stages:
        ratio *= Fraction(stage.driven_teeth, stage.driver_teeth)
    return ratio


def _loss(stages):
    loss = 1.0
    for stage in stages:
        loss *= stage.efficiency
    return loss


def test_what_stands_for_equal_gearings_is_the_strongest_and_its_strength_is_the_trains():
    gearings = gearings_of(SHELF.teeth, 20.0)
    for index in range(len(gearings)):
        stages = gearings.stages_of(index)
        assert gearings.carries_nm[index] == pytest.approx(
            float(carries_nm([StageData.of(Stated(stage)) for stage in stages]))
        )
    # 60/20 = 45/15 = 36/12 = 30/10: the largest driver of the chain pulls least.
    three = next(
        i
        for i in range(len(gearings))
        if gearings.ratio[i] == 3 and gearings.stages_of(i)[0].kind == "chain"
    )
    stage = gearings.stages_of(three)[0]
    assert isinstance(stage, ToothedStage)
    assert (stage.driver_teeth, stage.driven_teeth) == (20, 60)
    assert gearings.twins[three] == 4
    assert gearings.price[three] == 80


def test_only_teeth_of_one_pitch_go_together_and_only_admitted_ones():
    shelf = shipped_shelf()
    unlike = [t for t in shelf.teeth if t.id in ("lockgate-c6-driver", "lockgate-c12-driven")]
    gearings = gearings_of(unlike, 10.0)
    assert len(gearings) == 0
    hub = gearings_of(shelf.teeth, 10.0, hub=True)
    assert sum(stages == 0 for stages in hub.stages) == 1
