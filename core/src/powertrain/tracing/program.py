"""A traced run for many candidates: what many share is reckoned once, the rest in a loop."""

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.tracing.compiled import LANES, Branch, CompiledLoop, Writer, loop_of
from powertrain.tracing.trace import CALLS, Item, Trace, TracedNumber
from powertrain.tracing.traced import TracedArray

Array = NDArray[np.float64]


class Program:
    """What a run traced, ready to be run for rows of candidates.

    Inputs are *slow*, one for each row, or *quick*, one for each candidate.
    """

    def __init__(
        self,
        trace: Trace,
        outputs: Mapping[str, Any],
        branches: Sequence[tuple[Any, Mapping[str, Any]]] = (),
    ) -> None:
        """Compile what leads to `outputs`, traced or plain arrays of one number each.

        Parameters
        ----------
        branches : sequence of mask and mapping
            Where the mask is false for a candidate, only the outputs of the mapping mean
            anything; what the others need may be left out.
        """
        self.names = tuple(outputs)
        items = [_only(value) for value in outputs.values()]
        writer = Writer(
            trace,
            items,
            [
                Branch(
                    _only(mask),
                    {self.names.index(name): _only(value) for name, value in otherwise.items()},
                )
                for mask, otherwise in branches
            ],
        )
        self._tape, self._slow, self.inputs = trace, writer.slow, tuple(writer.inputs)
        self._places = trace.needed(self._slow, lambda traced: not traced.quick)
        self._loop: CompiledLoop = loop_of(writer.text())

    def run(
        self, slow: Mapping[str, Array], begins: NDArray[np.int64], quick: Mapping[str, Array]
    ) -> dict[str, Array]:
        """Return each output, an array over candidates; truth values as nought and one.

        Parameters
        ----------
        slow : mapping
            Arrays over rows.
        begins : array of int
            Where each row's candidates begin, and where those of the last end.
        quick : mapping
            Arrays over candidates, which lie row by row.
        """
        rows, count = len(begins) - 1, int(begins[-1])
        inputs = np.zeros((max(len(self.inputs), 1), count + LANES))
        for place, name in enumerate(self.inputs):
            inputs[place, :count] = quick[name]
        outputs = self._loop(self._shared(slow, rows), begins, inputs, len(self.names))
        return dict(zip(self.names, outputs, strict=True))

    def stepper(self, slow: Mapping[str, Array], rows: int) -> "Stepper":
        """Return what runs it again and again for rows of one candidate each.

        Parameters
        ----------
        slow : mapping
            Arrays over rows, or one number for all.
        """
        return Stepper(self._loop, self._shared(slow, rows), self.inputs, self.names, rows)

    def _shared(self, slow: Mapping[str, Array], rows: int) -> Array:
        """Return what the loop reads of each row, one operation on all rows after the other."""
        known: dict[int, Any] = {}

        def value(item: Item) -> Any:
            return known[item.place] if item.__class__ is TracedNumber else item

        with np.errstate(all="ignore"):
            for place in self._places:
                name, items = self._tape.rows[place]
                if name == "input":
                    known[place] = slow[items[0]]
                else:
                    known[place] = CALLS[name](*map(value, items))
            table = np.empty((rows, max(len(self._slow), 1)))
            for place, item in enumerate(self._slow):
                table[:, place] = value(item)
        return table


class Stepper:
    """A program whose inputs are written, and outputs read, in place, one row for each name."""

    def __init__(
        self,
        loop: CompiledLoop,
        shared: Array,
        inputs: Sequence[str],
        outputs: Sequence[str],
        rows: int,
    ) -> None:
        """See `Program.stepper`."""
        width = rows + LANES
        self._kept = (
            shared,
            np.arange(rows + 1, dtype=np.int64),
            np.zeros((max(len(inputs), 1), width)),
            np.zeros((len(outputs), width)),
        )
        self.inputs, self.outputs = (array[:, :rows] for array in self._kept[2:])
        self.place = {name: place for place, name in enumerate(inputs)}
        """Which row of `inputs` a name has; what nothing depends on has none."""
        self.names = tuple(outputs)
        self.run = loop.bound(*self._kept)


def _only(value: Any) -> Item:
    """Return the one number that an array holds."""
    if isinstance(value, TracedNumber):
        return value
    items = np.asarray(value)
    if items.size != 1:
        raise ValueError(f"one number for each candidate, not {items.shape}")
    return items.reshape(-1)[0] if isinstance(value, TracedArray) else items.item()
