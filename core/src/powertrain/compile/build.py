"""One build, or many that vary one by columns, in numbers."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from powertrain.compile.ratings import Ratings
from powertrain.documents.build import Build
from powertrain.drive import Drive
from powertrain.heat.limits import TemperatureLimits, temperature_limits
from powertrain.heat.parameters import ThermalParameters, estimated
from powertrain.load.air import density_of
from powertrain.operating.moments import moments_of
from powertrain.operating.settings import MomentId, MomentSettings
from powertrain.stated import Columns, Stated, tree_of
from powertrain.units import kmh_from_mps

NO_COLUMNS: Columns = {}


@dataclass(frozen=True)
class CompiledBuild:
    """A drive with what its parts may carry, how they store heat and how hot they may get.

    All numbers, or arrays of them; see `powertrain.arrays`.
    """

    drive: Drive
    ratings: Ratings
    thermal: ThermalParameters
    limits: TemperatureLimits
    settings: MomentSettings
    estimated: Mapping[str, str]
    """Which heat data is estimated, by part, and from what."""


def compile_build(build: Build, columns: Columns = NO_COLUMNS) -> CompiledBuild:
    """Return a checked document in numbers.

    Parameters
    ----------
    columns : mapping, optional
        Arrays over variants by document path, of values that a document may have; what they do not
        name is the same for all variants.
    """
    return compile_stated(Stated(build, tree_of(columns)))


def compile_stated(said: Stated) -> CompiledBuild:
    """Return what a build states in numbers; see `compile_build`."""
    drive = Drive.of(said)
    return CompiledBuild(
        drive=drive,
        ratings=Ratings.of(said),
        thermal=ThermalParameters.of(
            said,
            drive.motor.constant_nm_per_root_w,
            density_of(said.under("conditions")),
        ),
        limits=temperature_limits(said),
        settings=MomentSettings.of(said.under("moments"), left_open(said.part)),
        estimated=estimated(said),
    )


def compile_limits(build: Build) -> TemperatureLimits:
    """Return how hot the parts of a document may get, alone; see `compile_build`."""
    return temperature_limits(Stated(build))


def compile_drive(build: Build, columns: Columns = NO_COLUMNS) -> Drive:
    """Return the drive of a document alone; see `compile_build`."""
    return Drive.of(Stated(build, tree_of(columns)))


ASKED_BY: dict[MomentId, str] = {
    "launch": "launch_to_kmh",
    "climb": "climb_grade_pct",
    "cruise": "cruise_kmh",
}


def left_open(build: Build) -> tuple[MomentId, ...]:
    """Return the moments that nobody asked for: left open, or at a value nobody has touched."""
    return tuple(
        moment
        for moment, key in ASKED_BY.items()
        if getattr(build.moments, key) is None or _untouched(build, f"moments.{key}")
    )


def _untouched(build: Build, path: str) -> bool:
    known = build.provenance.get(path)
    return known is not None and known.origin == "default"


LEAST_KMH = 0.1


def with_moments(build: Build) -> Build:
    """Return a build that says itself where launch and cruise are looked at."""
    compiled = compile_build(build)
    targets = moments_of(compiled.settings, compiled.drive).targets
    own = build.moments
    # The hill that is looked at where none is said is the same for every build, and stays unsaid.
    # Of a build that can't move they would be nought, which is no speed to be looked at.
    launch_kmh, cruise_kmh = (
        max(float(kmh_from_mps(speed)), LEAST_KMH)
        for speed in (targets.launch_to_mps, targets.cruise_mps)
    )
    said = {
        "launch_to_kmh": own.launch_to_kmh or launch_kmh,
        "cruise_kmh": own.cruise_kmh or cruise_kmh,
    }
    return build.model_copy(update={"moments": own.model_copy(update=said)})


def assuming(compiled: CompiledBuild, assumed: tuple[MomentId, ...]) -> CompiledBuild:
    """Return builds of which others say what moments nobody asked for.

    Where moments were chosen for a document, it does not tell that any more.
    """
    return replace(compiled, settings=replace(compiled.settings, assumed=assumed))
