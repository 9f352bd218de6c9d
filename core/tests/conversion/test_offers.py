"""What of a shelf fits a pack's volts: the cheapest that does, and nothing that does not."""

from core.tests.conversion.conftest import tractor_with
from powertrain.conversion.answer import conversion_of
from powertrain.documents.shelf import FORMAT, Shelf
from powertrain.shelf.shipped import shipped_shelf


def offers(changes, **lists):
    shelf = shipped_shelf()
    if lists:
        shelf = Shelf.model_validate({"format": FORMAT, "name": "Own", **lists})
    told = conversion_of(tractor_with(changes), shelf)
    return {one.id: one for one in told.offers}


def test_the_shelf_that_ships_has_all_for_the_tractor():
    # 24 cells: 87.6 V off the charger, 100 Ah.
    found = offers({})
    assert set(found) == {"charger", "dc_dc", "contactors"}
    # 15 A fill 100 Ah in 6.7 h, and cost less than 30.
    assert found["charger"].part == "penstock-charger-87.6-15"
    assert "6.7 h" in found["charger"].why
    assert found["contactors"].path == "prices.contactors"


def charger(ident, volts, amps, price):
    return {
        "id": ident,
        "name": ident,
        "voltage_v": volts,
        "current_a": amps,
        "price": price,
    }


def test_a_charger_of_other_volts_or_for_days_is_none():
    own = [
        charger("too-high", 92.0, 20.0, 10.0),
        charger("too-low", 84.0, 20.0, 10.0),
        charger("for-days", 87.6, 2.0, 10.0),
        charger("unpriced", 87.6, 20.0, None),
        charger("right", 87.6, 20.0, 300.0),
    ]
    assert offers({}, chargers=own)["charger"].part == "right"
    assert "charger" not in offers({}, chargers=own[:4])


def test_a_contactor_for_one_way_or_too_few_volts_is_none():
    fuse = {"id": "f", "name": "f", "voltage_v": 125.0, "breaks_a": 20000.0, "price": 9.0}
    fuses = [{**fuse, "id": f"f{amps}", "current_a": float(amps)} for amps in (315, 400, 500)]

    def contactor(ident, volts, opens, sense):
        return {
            "id": ident,
            "name": ident,
            "voltage_v": volts,
            "current_a": 600.0,
            "breaks_a": opens,
            "sense": sense,
            "price": 50.0,
        }

    bad = [
        contactor("one-way", 150.0, 2000.0, "one_way"),
        contactor("low", 60.0, 2000.0, "either"),
        contactor("weak", 150.0, 100.0, "either"),
    ]
    good = contactor("good", 150.0, 2000.0, "either")
    assert "contactors" not in offers({}, contactors=bad, fuses=fuses)
    found = offers({}, contactors=[*bad, good], fuses=fuses)["contactors"]
    assert found.part == "good"
    assert found.price == 59.0
    # A fuse that can't put out the short circuit of 5,341 A is none.
    weak = [{**one, "breaks_a": 5000.0} for one in fuses]
    assert "contactors" not in offers({}, contactors=[good], fuses=weak)


def test_without_a_shelf_nothing_is_offered():
    assert conversion_of(tractor_with({})).offers == []
