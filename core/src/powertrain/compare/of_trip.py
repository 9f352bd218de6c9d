"""What a conversion is argued by: its whole price, and a trip with a hill and a stop."""

from powertrain.compare.candidate import Compared, Said
from powertrain.compare.trip import is_conversion
from powertrain.conversion.price import price_of


def whole_price(one: Compared) -> Said:
    """Return what motor, controller, pack and all that a conversion buys beside cost."""
    if not is_conversion(one.build):
        return None, ""
    price = price_of(one.build)
    return (price.told, "with all that belongs to it") if price.complete else (None, price.say)


def wh_per_km(one: Compared) -> Said:
    """Return what the trip takes of the pack."""
    told = one.trip
    return (None, "") if told is None else (told.energy_wh_per_km, "its hill, a stop, and back")


def won_back(one: Compared) -> Said:
    """Return how much of what left the pack came back by braking."""
    told = one.trip
    if told is None:
        return None, ""
    given = told.energy_wh + told.regenerated_wh
    note = "a series motor brakes nothing" if one.drive.motor.races_unloaded else ""
    return (round(100 * told.regenerated_wh / given, 1), note) if given > 0 else (None, "")


def left_to_brakes(one: Compared) -> Said:
    """Return what is left to the brakes, and wears them."""
    told = one.trip
    return (
        (None, "") if told is None else (round(told.ledger_wh.brakes, 1), "heat in drums and pads")
    )
