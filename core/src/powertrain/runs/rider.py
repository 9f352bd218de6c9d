"""Steps of a ride at the speed of compiled code, for one build or many that vary it by columns.

The step of `runs.step` is traced once (`powertrain.tracing`), with state and what is asked left
open; it is that very step, and held against it in the tests.
"""

from collections.abc import Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import Array
from powertrain.compile.build import CompiledBuild, compile_stated
from powertrain.doubt.draws import Drawn
from powertrain.dynamics.march import POWERS, READINGS, PlainStepper
from powertrain.operating.in_air import in_air
from powertrain.runs.pack import PackInTime
from powertrain.runs.step import STATES, Asked, RideState, RideStep, Ways, ride_step
from powertrain.runs.step_in_air import AirStep, air_step
from powertrain.stated import Columns, Stated, tree_of
from powertrain.tracing.program import Program, Stepper
from powertrain.tracing.trace import Trace, Untraceable
from powertrain.tracing.traced import any_set_aside, traced_input

Numbers = NDArray[np.float64]

ASKED = ("want_rad_s", "situation", "seconds", "opens", "throttle")

WATTS = (*(name for name in POWERS if name != "speeding_up_w"), "brakes_w", "kinetic_w")
"""Watts of the middle of a step."""

READ = (*READINGS, "motor_rpm", "full")
"""What else is read of it."""


OWN = ("full", "brakes_w", "kinetic_w")
"""What is no state's, but of the step."""


class Rider:
    """One build, or many, ready to be ridden a step at a time."""

    def __init__(
        self,
        said: Stated,
        soc: float,
        *,
        regenerates: bool = True,
        by_hand: bool = False,
        drawn: Drawn | None = None,
    ) -> None:
        """Trace and compile a step.

        Parameters
        ----------
        said : Stated
            A checked build on wheels, or a craft.
        soc : float
            The charge at which its stated rest volts are, as a share.
        regenerates : bool
            Whether motors may brake.
        by_hand : bool
            Whether a throttle is asked for, and not a speed.
        drawn : Drawn, optional
            The build's doubtful inputs, arrays over variants.
        """
        self._columns = {} if drawn is None else _flat(drawn)
        sizes = {len(values) for values in self._columns.values()}
        self.variants = sizes.pop() if sizes else 1
        self._said, self._soc, self._regenerates = said, soc, regenerates
        self.asked = ASKED if by_hand else ASKED[:-1]
        self.compiled = self._compiled(self._columns)
        self._program: Program | None = None
        if in_air(self.compiled.drive) is not None:
            # Turns and thrust are looked for by their numbers.
            return
        try:
            self._program = self._traced()
        except Untraceable:
            # What searches by its numbers (an induction machine's flux) goes step by step.
            self._program = None

    @property
    def recovers(self) -> bool:
        """Whether its controller gives again once the volts have come back."""
        return self._said.under("controller").word("cut_off_recovers_v") is not None

    @property
    def is_compiled(self) -> bool:
        """Whether its steps are compiled; if not, each takes a few milliseconds."""
        return self._program is not None

    def stepper(self, *, plain: bool = False) -> "Stepper | PlainStepper":
        """Return what takes steps: inputs are written, outputs read, in place, a row a name."""
        if self._program is not None and not plain:
            return self._program.stepper(self._columns, self.variants)
        names = (*STATES, *self.asked)
        return PlainStepper(
            lambda inputs: self._outputs(self._columns, inputs), names, self.variants
        )

    def _traced(self) -> Program:
        trace = Trace()
        columns = {path: traced_input(trace, path, quick=False) for path in self._columns}
        names = (*STATES, *self.asked)
        inputs = {name: traced_input(trace, name, quick=True) for name in names}
        outputs = self._outputs(columns, inputs)
        outputs["set_aside"] = any_set_aside(trace)
        return Program(trace, {name: np.ravel(value) for name, value in outputs.items()})

    def _compiled(self, columns: Columns) -> CompiledBuild:
        return _of(self._said, columns)[1]

    def _outputs(self, columns: Columns, inputs: Mapping[str, Array]) -> dict[str, Array]:
        said, compiled = _of(self._said, columns)
        ways = ways_of(said, compiled, self._soc, regenerates=self._regenerates)
        state = RideState(**{name: inputs[name] for name in STATES})
        asked = Asked(**{name: inputs[name] for name in self.asked})
        if in_air(compiled.drive) is not None:
            return outputs_in_air(air_step(compiled, ways, state, asked))
        return outputs_of(compiled, ride_step(compiled, ways, state, asked))


SCALE, GRIP = "scale ", "grip"
"""How columns are told apart that stand in no document."""


def _flat(drawn: Drawn) -> dict[str, Numbers]:
    named = {
        **drawn.columns,
        **{f"{SCALE}{key}": values for key, values in drawn.scales.items()},
        GRIP: drawn.grips,
    }
    size = max(np.size(values) for values in named.values())
    return {
        name: np.array(np.broadcast_to(values, (size,)), float) for name, values in named.items()
    }


def _of(said: Stated, columns: Columns) -> tuple[Stated, CompiledBuild]:
    """Return a build with its columns, and compiled with all that was drawn."""
    if not columns:
        return said, compile_stated(said)
    own = {path: value for path, value in columns.items() if path != GRIP and SCALE not in path}
    varied = Stated(said.part, tree_of(own))
    scales = {path.removeprefix(SCALE): value for path, value in columns.items() if SCALE in path}
    return varied, Drawn({}, scales, columns[GRIP]).applied(compile_stated(varied))


def ways_of(said: Stated, compiled: CompiledBuild, soc: float, *, regenerates: bool) -> Ways:
    """Return how a build is ridden."""
    controller = said.under("controller")
    rollback = controller.word("rollback")
    drive, between, from_a = compiled.drive, None, np.asarray(np.inf)
    if rollback is not None:
        low = np.asarray(rollback.from_c)
        usual = controller.part.max_c or rollback.from_c + 20.0
        high = rollback.to_c or max(usual, rollback.from_c + 1.0)
        between = (low, np.asarray(high))
        # Amps that no limit holds are those of a start.
        stall_a = drive.motor.current_at_voltage_a(
            np.asarray(0.0), drive.pack.open_circuit_v, drive.controller.resistance_ohm
        )
        limits = np.minimum(drive.controller.motor_current_limit_a, drive.motor.own_current_limit_a)
        from_a = np.minimum(limits, stall_a)
    return Ways(
        pack=PackInTime.of(said, compiled, soc),
        regenerates=regenerates,
        rollback_c=between,
        rolls_back_a=from_a,
    )


def outputs_of(compiled: CompiledBuild, taken: RideStep) -> dict[str, Array]:
    """Return a step by name: states at its end, readings and watts of its middle."""
    middle = taken.middle
    found: dict[str, Array] = {name: getattr(taken.ends, name) for name in STATES}
    own = {"brakes_w": taken.brakes_w, "kinetic_w": taken.kinetic_w, "full": taken.full}
    found |= {name: own[name] if name in own else getattr(middle, name) for name in (*READ, *WATTS)}
    parts = zip(compiled.drive.load.takes, middle.taken_w, strict=True)
    return found | {f"{name}_w": watts for name, watts in parts}


def outputs_in_air(taken: AirStep) -> dict[str, Array]:
    """Return a step of a craft by name, as `outputs_of` does."""
    found: dict[str, Array] = {name: getattr(taken.ends, name) for name in STATES}
    found["full"] = taken.full
    found |= {name: getattr(taken.middle, name) for name in (*READ, *WATTS) if name not in OWN}
    return found | taken.watts


def begins_of(
    compiled: CompiledBuild, variants: int, start: Any, speed_mps: float
) -> dict[str, NDArray[np.float64]]:
    """Return the state before a ride, by name, each an array over variants."""
    air = compiled.thermal.ambient_c

    def warm(stated: float | None) -> Array:
        return air if stated is None else np.asarray(stated)

    state: dict[str, Array] = {
        "output_rad_s": compiled.drive.output_at_mps(np.asarray(speed_mps)),
        "charge": np.asarray(start.soc_pct / 100),
        "winding_c": warm(start.winding_c),
        "case_c": warm(start.case_c),
        "controller_c": warm(start.controller_c),
        "pack_c": warm(start.pack_c),
        "gives": np.asarray(1.0),
    }
    return {
        name: np.array(np.broadcast_to(value, (variants,)), float) for name, value in state.items()
    }
