"""Combinations of motor, controller and pack whose documents state the same things.

Within a group all documents have numbers in the same places, so that one document with arrays
stands for all of them; see `powertrain.stated`.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.vehicle import FixedStage
from powertrain.match.alike import Columns, Places, alike_of, differs, numbers_of
from powertrain.match.compose import added_kg, build_of, limits_set, own_gearbox, own_stages
from powertrain.match.last import LastColumns
from powertrain.match.options import Options
from powertrain.stated import Stated, tree_of


@dataclass(frozen=True)
class PartSets:
    """Combinations of one group, row by row: places among the options, and what they state.

    `base` is the build of the first row, geared one to one; `columns` are its numbers that differ
    between rows, by document path, and `added_kg` and `price` what the three parts weigh and cost.
    """

    base: Build
    motor: Places
    controller: Places
    pack: Places
    columns: Columns
    added_kg: Array
    price: Array

    def __len__(self) -> int:
        return len(self.motor)

    def some(self, which: NDArray[Any]) -> "PartSets":
        """Return some of the rows."""
        return PartSets(
            self.base,
            self.motor[which],
            self.controller[which],
            self.pack[which],
            {path: column[which] for path, column in self.columns.items()},
            self.added_kg[which],
            self.price[which],
        )

    def stated(self, brief: Brief, rows: NDArray[Any], last: LastColumns) -> Stated:
        """Return what some rows state, each with its own of what is chosen `last`."""
        columns = {path: column[rows] for path, column in self.columns.items()}
        mass = brief.vehicle.mass_kg + self.added_kg[rows] + last.mass_kg
        columns["vehicle.mass_kg"] = mass
        if brief.is_craft or not own_gearbox(brief):
            columns |= last.of_build()
        documents = last.documents()
        base = self.base.model_copy(update=documents) if documents else self.base
        return Stated(base, tree_of(columns))


MOST_TRIOS = 100_000
"""Combinations that are written out together; bounds the memory, whatever the shelf."""


def trios_of(brief: Brief, options: Options, allowed: NDArray[np.bool_]) -> Iterator[PartSets]:
    """Yield all combinations that are `allowed`, group by group and in pieces of a bounded size.

    Parameters
    ----------
    allowed : array of bool
        Shape (motors, controllers, packs).
    """
    motors = alike_of([option.motor for option in options.motors])
    parts = [option.part for option in options.controllers]
    controllers = alike_of(
        [part.controller for part in parts],
        [(part.settable, part.controller.count) for part in parts],
    )
    packs = alike_of([option.battery for option in options.packs])
    for some_motors in motors:
        for some_controllers in controllers:
            for some_packs in packs:
                for these, those in _pieces(some_motors, some_controllers, len(some_packs)):
                    m, c, p = np.nonzero(allowed[np.ix_(these, those, some_packs)])
                    if len(m):
                        yield from _group(brief, options, these[m], those[c], some_packs[p])


def _pieces(motors: Places, controllers: Places, packs: int) -> Iterator[tuple[Places, Places]]:
    """Yield motors with controllers so that, with all packs, no piece has too many trios."""
    wide = max(1, min(len(controllers), MOST_TRIOS // packs))
    tall = max(1, MOST_TRIOS // (packs * wide))
    for first in range(0, len(motors), tall):
        for begin in range(0, len(controllers), wide):
            yield motors[first : first + tall], controllers[begin : begin + wide]


def _group(
    brief: Brief, options: Options, motor: Places, controller: Places, pack: Places
) -> Iterator[PartSets]:
    """Yield one group, split by whether there are amps limits at all."""
    first = options.controllers[controller[0]]
    columns = {
        **_spread([option.motor for option in options.motors], motor, "motor."),
        **_spread([o.part.controller for o in options.controllers], controller, "controller."),
        **_spread([option.battery for option in options.packs], pack, "battery."),
    }
    base = build_of(
        brief,
        options.motors[motor[0]].motor,
        first.part,
        options.packs[pack[0]].battery,
        _standing_for(brief, options),
        0.0,
    )
    stated = Stated(base, tree_of(columns))
    said_motor, battery = stated.under("motor"), stated.under("battery")
    # A composed build has set its limits already; they are set anew from what the shelf says.
    said = Stated(first.part.controller, tree_of(columns).get("controller", {}))
    limits = limits_set(first.part.settable, said, said_motor, battery, brief.motor_count)
    amps = {f"controller.{key}": _rows(value, len(motor)) for key, value in limits.items()}
    # Volts of the cells now are the brief's, whatever the shelf says.
    columns.pop("battery.cell_voltage_v")
    weights = _rows(
        added_kg(said_motor, said, battery, brief.motor_count, 0.0),
        len(motor),
    )
    prices = (
        brief.motor_count * np.array([option.price for option in options.motors])[motor]
        + np.array([option.price for option in options.controllers])[controller]
        + np.array([option.price for option in options.packs])[pack]
    )
    bound = np.stack([np.isfinite(column) for column in amps.values()])
    for pattern in np.unique(bound, axis=1).T:
        rows = np.flatnonzero(np.all(bound == pattern[:, None], axis=0))
        kept = {path: column[rows] for path, column in {**columns, **amps}.items()}
        for path, is_bound in zip(amps, pattern, strict=True):
            if not is_bound:
                del kept[path]
        kept = {path: column for path, column in kept.items() if differs(column)} | {
            path: kept[path] for path in amps if path in kept
        }
        # Rows that agree in a number take it from the document of the first of them.
        at = rows[0]
        yield PartSets(
            build_of(
                brief,
                options.motors[motor[at]].motor,
                options.controllers[controller[at]].part,
                options.packs[pack[at]].battery,
                _standing_for(brief, options),
                0.0,
            ),
            motor[rows],
            controller[rows],
            pack[rows],
            kept,
            weights[rows],
            prices[rows],
        )


def _standing_for(brief: Brief, options: Options) -> dict[str, Any]:
    """Return what stands in a document for what is chosen last, of every candidate."""
    own = own_stages(brief)
    if brief.is_craft or (own is not None and own_gearbox(brief)):
        return options.last.document_of(0)
    return {"gearing": [FixedStage(kind="fixed", ratio=1.0, efficiency=1.0)]}


def _spread(documents: list[Any], places: Places, prefix: str) -> Columns:
    """Return the numbers of the documents at `places`, row by row."""
    used = np.unique(places)
    table = numbers_of([documents[place] for place in used], prefix)
    rows = np.searchsorted(used, places)
    return {path: column[rows] for path, column in table.items()}


def _rows(value: Any, count: int) -> Array:
    return np.broadcast_to(np.asarray(value, float), (count,)).copy()
