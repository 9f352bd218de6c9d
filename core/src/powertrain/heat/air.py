"""How a surface gives its heat to the air: still air and radiation, wind, fan, heat sink, box."""

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from powertrain.arrays import Array, scalar, somewhere
from powertrain.stated import Stated

STILL_W_PER_M2_K = 10.0
"""Natural convection and radiation of a painted part some 40 K above the room; common practice,
held against correlations for horizontal cylinders and grey surfaces in the tests."""

EXPOSURE = {"closed": 0.0, "vented": 0.15, "open": 0.4, "wash": 1.0}
"""Share of the travelling speed that blows over a part; common practice, no source. In the wash of
a propeller all of it does."""

BOXED = 0.5
"""A closed box round a part about doubles its resistance to the air; common practice, no source."""

SEA_LEVEL_KG_M3 = 1.225
"""At which the films below are told (ISO 2533)."""

FINS = 0.7
"""Share of a heat sink's surface that works as if it were at the root; common practice."""

RADIATES = {"painted": 1.0, "bare": 0.25}
"""How much of a painted surface's radiation leaves; bright aluminium or steel as it is handled has
an emissivity near 0.2 where paint has 0.9 (e.g. Incropera and DeWitt, table A.11, from memory)."""

Place = Literal["closed", "vented", "open", "wash"]


def forced_w_per_m2_k(air_mps: Array, size_m: Array) -> Array:
    """Return the film coefficient of air across a cylinder of diameter `size_m`.

    ``Nu = 0.193 Re^0.618 Pr^(1/3)`` (Hilpert; e.g. Incropera and DeWitt, Fundamentals of Heat and
    Mass Transfer, table 7.2, for Re 4,000 to 40,000; from memory) with air at 40 C.
    """
    conductivity, viscosity, prandtl = 0.0271, 1.7e-5, 0.71
    reynolds = np.maximum(air_mps, 0.0) * size_m / viscosity
    nusselt: Array = 0.193 * reynolds**0.618 * prandtl ** (1 / 3)
    return nusselt * conductivity / size_m


@dataclass(frozen=True)
class Air:
    """What blows over a part, and what is clamped to it."""

    exposure: Array
    fan_mps: Array
    sink_m2: Array
    boxed: Array
    size_m: Array
    radiates: Array
    """Of what a painted surface would."""
    thin: Array
    """The air's density over that at the sea: thinner air carries less away."""

    @classmethod
    def of(cls, cooling: Stated, usual: Place, size_m: Array, density_kg_m3: Array) -> "Air":
        """Return the air round a part of `size_m`; `usual` is how such parts mostly stand."""
        place = cooling.word("air") or usual
        return cls(
            exposure=scalar(EXPOSURE[place]),
            fan_mps=cooling.number("fan_mps"),
            sink_m2=cooling.number("sink_cm2") / 1e4,
            boxed=scalar(BOXED if place == "closed" else 1.0),
            size_m=size_m,
            radiates=scalar(RADIATES[cooling.word("surface") or "painted"]),
            thin=density_kg_m3 / SEA_LEVEL_KG_M3,
        )

    @cached_property
    def _blown(self) -> bool:
        return somewhere(self.exposure != 0) or somewhere(self.fan_mps != 0)

    @property
    def still_share(self) -> Array:
        """What leaves in still air at the sea, of what a painted surface would give off."""
        return 0.5 * self.radiates + 0.5

    def conductance_w_per_k(self, still_k_per_w: Array, travel_mps: Array) -> Array:
        """Return the watts per kelvin that leave a part with `still_k_per_w` in still air."""
        # Half of what leaves in still air is radiation, which no air carries; the other half is
        # natural convection, which goes with the root of the density.
        more = 0.5 * self.radiates + 0.5 * np.sqrt(self.thin)
        if self._blown:
            blown_mps = np.hypot(self.exposure * np.abs(travel_mps), self.fan_mps) * self.thin
            more = more + forced_w_per_m2_k(blown_mps, self.size_m) / STILL_W_PER_M2_K
        own = self.boxed * more / still_k_per_w
        return own + self.boxed * more * STILL_W_PER_M2_K * FINS * self.sink_m2
