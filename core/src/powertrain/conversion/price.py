"""What all of a conversion costs, item by item, and what of it nobody has told."""

from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.documents.conversion import Prices


class Item(BaseModel):
    """One thing to buy; `price` None where it is not told. `path` is where it is typed."""

    id: str
    label: str
    path: str
    price: float | None


class PriceAnswer(BaseModel):
    """All items, what is told of them together, and whether that is all."""

    items: list[Item]
    told: float
    complete: bool
    say: str


def price_of(build: Build) -> PriceAnswer:
    """Return the price of a conversion."""
    motor, controller = build.motor, build.controller
    prices = build.prices or Prices()
    items = [
        _item("motor", "Motor", "motor.price", _times(motor.price, motor.count)),
        _item(
            "controller",
            "Controller",
            "controller.price",
            _times(controller.price, controller.count),
        ),
        _item("battery", "Pack", "battery.price", build.battery.price),
        _item("charger", "Charger", "prices.charger", prices.charger),
        _item("dc_dc", "DC-DC converter", "prices.dc_dc", prices.dc_dc),
        _item("contactors", "Contactors and fuses", "prices.contactors", prices.contactors),
        _item("adapter", "Adapter and coupler", "prices.adapter", prices.adapter),
    ]
    missing = [_within(item.label) for item in items if item.price is None]
    told = sum(item.price for item in items if item.price is not None)
    say = "All of it is told."
    if missing:
        say = f"Not all of it: {', '.join(missing)} still to be asked for."
    return PriceAnswer(items=items, told=told, complete=not missing, say=say)


def _within(label: str) -> str:
    """Return a label as it stands within a sentence; what is written in capitals stays so."""
    return label if label[1].isupper() else label[0].lower() + label[1:]


def _times(price: float | None, count: int) -> float | None:
    return None if price is None else price * count


def _item(key: str, label: str, path: str, price: float | None) -> Item:
    return Item(id=key, label=label, path=path, price=price)
