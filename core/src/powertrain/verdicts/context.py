"""What rules are asked of: builds in numbers with all that was solved of them."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from powertrain.arrays import scalar
from powertrain.by_then import Then, by_then, then_of
from powertrain.compile.build import CompiledBuild, compile_build
from powertrain.compile.ratings import Ratings
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.heat.limits import NodeId, TemperatureLimits, limit_sources
from powertrain.heat.parameters import ThermalParameters
from powertrain.heat.stall import Stall, stall_of
from powertrain.operating.full_throttle import FullThrottle, full_throttle
from powertrain.operating.moment import MomentStates
from powertrain.operating.settings import MomentSettings
from powertrain.results import Results, results_of
from powertrain.stated import Stated


@dataclass(frozen=True)
class Batch:
    """One build or an array of builds in numbers, with moments and temperatures."""

    compiled: CompiledBuild
    results: Results

    @property
    def drive(self) -> Drive:
        """The drives."""
        return self.compiled.drive

    @property
    def ratings(self) -> Ratings:
        """What their parts may carry."""
        return self.compiled.ratings

    @property
    def thermal(self) -> ThermalParameters:
        """Their heat data."""
        return self.compiled.thermal

    @property
    def limits(self) -> TemperatureLimits:
        """How hot their parts may get."""
        return self.compiled.limits

    @property
    def settings(self) -> MomentSettings:
        """What is asked of their moments."""
        return self.compiled.settings

    @property
    def moments(self) -> MomentStates:
        """The five moments."""
        return self.results.moments

    @cached_property
    def start(self) -> FullThrottle:
        """Full throttle from standstill on the level."""
        return full_throttle(self.drive, scalar(0.0))

    @cached_property
    def stall(self) -> Stall:
        """What happens when they are held at full throttle."""
        return stall_of(self.drive, self.thermal, self.limits)

    @property
    def at_the_end(self) -> "Batch | None":
        """The same build at the end of a trip; None where no document says how far that goes."""
        return None

    def nowhere(self) -> NDArray[np.bool_]:
        """Return a mask that is false for every build."""
        return np.zeros(np.shape(self.moments.cruise.met), bool)


@dataclass(frozen=True)
class RuleContext(Batch):
    """One build with its document, for words; `cures` says whether cures are searched for.

    `then` says how it stands, where that is not as it is now.
    """

    build: Build
    cures: bool = True
    then: Then | None = None

    @cached_property
    def limit_sources(self) -> dict[NodeId, str]:
        """Whose figure each temperature limit is, as people say it."""
        return limit_sources(Stated(self.build))

    @classmethod
    def of(cls, build: Build, *, cures: bool = True) -> "RuleContext":
        """Return a build solved at all moments."""
        compiled = compile_build(build)
        return cls(compiled, results_of(compiled), build, cures)

    @cached_property
    def at_the_end(self) -> Batch | None:
        """The same build at the end of a trip; None where another time is looked at already."""
        if self.then is not None:
            return None
        then = then_of(self.build, self.compiled, self.moments, "end")
        compiled = by_then(self.build, self.compiled, then)
        return Batch(compiled, results_of(compiled, fine=False, timed=False))
