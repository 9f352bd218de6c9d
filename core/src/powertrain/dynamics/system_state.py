"""What a drive remembers from one moment to the next."""

from dataclasses import dataclass

from powertrain.arrays import Array
from powertrain.compile.build import CompiledBuild
from powertrain.heat.limits import NODES, NodeId


@dataclass(frozen=True)
class SystemState:
    """Speed of the output shaft, charge as a share, and the temperature of each node.

    All arrays, which broadcast with those of the drive.
    """

    output_rad_s: Array
    charge: Array
    winding_c: Array
    case_c: Array
    controller_c: Array
    pack_c: Array

    @classmethod
    def at_rest(cls, compiled: CompiledBuild, charge: Array) -> "SystemState":
        """Return a drive that stands, its parts as warm as the document says."""
        none, begins = charge * 0.0, compiled.thermal.begins
        warm = {f"{key}_c": begins.of(key) + none for key in NODES}
        return cls(output_rad_s=none, charge=charge, **warm)

    def temperatures_c(self) -> dict[NodeId, Array]:
        """Return the temperatures by node."""
        return {key: getattr(self, f"{key}_c") for key in NODES}


@dataclass(frozen=True)
class Demand:
    """What is asked over a step.

    `throttle` is a share of the pack's volts, nought to one; `situation` that of the load, of
    wheels the grade in percent. `shorted` is a share of the braking of a shorted motor, and acts
    where the throttle is closed; None where nothing is ever shorted.
    """

    throttle: Array
    situation: Array
    shorted: Array | None = None
