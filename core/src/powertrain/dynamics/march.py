"""Many steps of a drive at the speed of compiled code.

One step is traced (`powertrain.tracing`), with state and demand left open and, where a build
varies, its columns too; the trace is compiled and run step after step. It is `step` itself, held
against it in the tests, and not a second model.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, fields

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.battery.open_circuit import OpenCircuit
from powertrain.compile.build import CompiledBuild, compile_stated
from powertrain.dynamics.step import Step, quickest_rate_per_s, step
from powertrain.dynamics.system_state import Demand, SystemState
from powertrain.stated import Columns, Stated, tree_of
from powertrain.tracing.program import Program, Stepper
from powertrain.tracing.trace import Trace, Untraceable
from powertrain.tracing.traced import any_set_aside, traced_input

STATES = tuple(field.name for field in fields(SystemState))

DEMANDS = ("throttle", "situation", "shorted")

POWERS = (
    "cells_w",
    "pack_heat_w",
    "terminals_w",
    "controller_heat_w",
    "copper_heat_w",
    "brush_heat_w",
    "no_load_loss_w",
    "auxiliaries_w",
    "shaft_w",
    "output_w",
    "speeding_up_w",
)
"""Watts of a state that are summed up over a march."""

READINGS = (
    "motor_current_a",
    "battery_current_a",
    "battery_voltage_v",
    "duty",
    "limited_by",
    "speed_mps",
)
"""What else can be read of each step."""

LONGEST_PART = 1.0
"""Length of a part of a step, as a share of the time in which the drive settles."""

MOST_PARTS = 64
"""A step is cut into no more parts: drives like no real one settle in no time, and it is steady."""

Curve = Callable[[CompiledBuild], OpenCircuit]


def flat(compiled: CompiledBuild) -> OpenCircuit:
    """Return the volts that the document states, whatever the charge."""
    return OpenCircuit.flat(compiled.drive.pack.open_circuit_v)


@dataclass(frozen=True)
class March:
    """Where a march ends, what was read on the way, and watt-hours over all of it.

    Readings have the shape (steps, variants), watt-hours (variants). `wh` is by the names of
    `POWERS` with `_w` left off, what the load takes by its own names, and `held`.
    """

    ends: SystemState
    readings: Mapping[str, NDArray[np.float64]]
    wh: Mapping[str, NDArray[np.float64]]


class Marcher:
    """Steps of equal length of one build, or of many that vary it by columns."""

    def __init__(
        self,
        said: Stated,
        seconds: float,
        *,
        curve: Curve = flat,
        columns: Columns | None = None,
        shorts: bool = False,
    ) -> None:
        """Trace and compile one step.

        Parameters
        ----------
        said : Stated
            A checked build.
        columns : mapping, optional
            Arrays over variants by document path.
        shorts : bool
            Whether demands may short the motors.
        """
        self._inputs = (*STATES, *(DEMANDS if shorts else DEMANDS[:2]))
        columns = {} if columns is None else dict(columns)
        self._columns = {path: np.asarray(values, float) for path, values in columns.items()}
        sizes = {len(values) for values in self._columns.values()}
        self.variants = sizes.pop() if sizes else 1
        self._said, self._curve = said, curve
        drive = compile_stated(self._varied(self._columns)).drive
        parts = np.ceil(seconds * quickest_rate_per_s(drive) / LONGEST_PART)
        self.parts = int(min(max(parts, 1.0), MOST_PARTS)) if np.isfinite(parts) else 1
        """Into how many parts a step is cut, where the drive settles quicker than a step."""
        self.seconds = seconds
        self._program: Program | None
        try:
            self._program = self._traced()
        except Untraceable:
            # What searches by its numbers (an induction machine's flux) goes step by step.
            self._program = None

    @property
    def is_compiled(self) -> bool:
        """Whether its steps are compiled; if not, each takes a few milliseconds."""
        return self._program is not None

    def _traced(self) -> Program:
        trace = Trace()
        columns = {path: traced_input(trace, path, quick=False) for path in self._columns}
        inputs = {name: traced_input(trace, name, quick=True) for name in self._inputs}
        outputs = self._outputs(columns, inputs)
        outputs["set_aside"] = any_set_aside(trace)
        return Program(trace, {name: np.ravel(value) for name, value in outputs.items()})

    def _outputs(self, columns: Columns, inputs: Mapping[str, Array]) -> dict[str, Array]:
        compiled = compile_stated(self._varied(columns))
        begins = SystemState(**{name: inputs[name] for name in STATES})
        demand = Demand(inputs["throttle"], inputs["situation"], inputs.get("shorted"))
        seconds = np.full(1, self.seconds / self.parts)
        taken = step(compiled, self._curve(compiled), begins, demand, seconds)
        return _outputs(compiled, taken)

    def _varied(self, columns: Columns) -> Stated:
        return Stated(self._said.part, tree_of(columns)) if columns else self._said

    def _stepper(self) -> "Stepper | PlainStepper":
        if self._program is not None:
            return self._program.stepper(self._columns, self.variants)
        return PlainStepper(
            lambda inputs: self._outputs(self._columns, inputs), self._inputs, self.variants
        )

    def run(
        self,
        begins: SystemState,
        demand: Demand,
        read: Sequence[str] = (),
    ) -> March:
        """Return what happens from `begins` on.

        Parameters
        ----------
        demand : Demand
            Arrays of shape (steps) or (steps, variants).
        read : sequence of str
            Which of `STATES` (as they are after each step) and `READINGS` to keep.
        """
        stepper = self._stepper()
        inputs, outputs, run = stepper.inputs, stepper.outputs, stepper.run
        names = stepper.names
        at = {name: index for index, name in enumerate(names)}
        fed = [name for name in STATES if name in stepper.place]
        for name in fed:
            inputs[stepper.place[name]] = getattr(begins, name)
        into = [stepper.place[name] for name in fed]
        out_of = [at[name] for name in fed]
        asked = {
            stepper.place[name]: _rows(getattr(demand, name), self.variants)
            for name in DEMANDS
            if name in stepper.place
        }
        count = len(np.atleast_1d(demand.throttle))
        kept = [at[name] for name in read]
        readings = np.empty((count, len(kept), self.variants))
        totals = np.zeros_like(outputs)
        # An index of one place is a view of it, and many times cheaper than one of several.
        moves = [(inputs[to], outputs[of]) for to, of in zip(into, out_of, strict=True)]
        places = [(readings[:, index], outputs[of]) for index, of in enumerate(kept)]
        for index in range(count):
            for place, rows in asked.items():
                inputs[place] = rows[index]
            for _ in range(self.parts):
                run()
                totals += outputs
                for to, of in moves:
                    to[...] = of
            for rows, of in places:
                rows[index] = of
        if "set_aside" in at and np.any(totals[at["set_aside"]]):
            raise ValueError("a step decided by its numbers what to do next")
        hours = self.seconds / self.parts / 3600
        return March(
            ends=SystemState(**{name: outputs[at[name]].copy() for name in STATES}),
            readings={name: readings[:, index] for index, name in enumerate(read)},
            wh={
                name.removesuffix("_w"): totals[at[name]] * hours
                for name in names
                if name.endswith("_w")
            },
        )


class PlainStepper:
    """`step` itself behind the face of a compiled one."""

    def __init__(
        self,
        takes: Callable[[Mapping[str, Array]], dict[str, Array]],
        inputs: Sequence[str],
        count: int,
    ) -> None:
        self.inputs = np.zeros((len(inputs), count))
        self.place = {name: place for place, name in enumerate(inputs)}
        self._takes = takes
        self.names = tuple(self._taken())
        self.outputs = np.zeros((len(self.names), count))

    def _taken(self) -> dict[str, Array]:
        return self._takes(dict(zip(self.place, self.inputs, strict=True)))

    def run(self) -> None:
        """Fill `outputs` from `inputs` as they are now."""
        for row, values in zip(self.outputs, self._taken().values(), strict=True):
            row[...] = values


def _outputs(compiled: CompiledBuild, taken: Step) -> dict[str, Array]:
    middle = taken.middle
    found = {name: getattr(taken.ends, name) for name in STATES}
    found |= {name: getattr(middle, name) for name in (*READINGS, *POWERS)}
    parts = zip(compiled.drive.load.takes, middle.taken_w, strict=True)
    found |= {f"{name}_w": watts for name, watts in parts}
    return found | {"held_w": taken.held_w}


def _rows(values: Array, variants: int) -> NDArray[np.float64]:
    """Return a demand as an array of shape (steps, 1 or variants)."""
    rows = np.atleast_1d(np.asarray(values, float))
    if rows.ndim == 1:
        return rows[:, None]
    if rows.shape[1] not in (1, variants):
        raise ValueError(f"a demand of {rows.shape[1]} for {variants} variants")
    return rows
