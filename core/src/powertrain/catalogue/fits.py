"""Whether a part fits: put into a build, or held against a brief."""

from collections.abc import Iterator, Sequence

import numpy as np

from powertrain.arrays import filled
from powertrain.battery.chemistry import CHEMISTRIES, Chemistry
from powertrain.catalogue.table import Unfit
from powertrain.compile.build import compile_build, with_moments
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.shelf import (
    CellPart,
    ConnectorPart,
    ControllerPart,
    MotorPart,
    PackPart,
    Part,
    PropellerPart,
    StrandPart,
    ToothedRange,
    WheelPart,
    WirePart,
)
from powertrain.documents.vehicle import ToothedStage
from powertrain.match.alike import alike_of, differs, numbers_of
from powertrain.match.compose import driven_as, limits_set
from powertrain.match.reasons import sentence
from powertrain.match.wish import OfPart
from powertrain.match.wish_registry import wishes_of
from powertrain.results import searched_results
from powertrain.stated import Stated
from powertrain.verdicts.context import Batch
from powertrain.verdicts.registry import stopping_rules


def fits_build(build: Build) -> Unfit:
    """Return what says why a part does not fit a build: with it in place, a rule stops.

    Controllers and motors come with the limits that a careful builder sets. What the build leaves
    open of its moments is chosen from it as it stands: every part has to do what it does now.
    """
    build = with_moments(build)

    def unfit(parts: Sequence[Part]) -> list[str | None]:
        found = [_clash(build, part) for part in parts]
        tried = {
            place: with_part(build, part)
            for place, part in enumerate(parts)
            if found[place] is None
        }
        for place, reason in _stopped({p: one for p, one in tried.items() if one is not None}):
            found[place] = reason
        return found

    return unfit


def with_part(build: Build, part: Part) -> Build | None:
    """Return a build with a part in its place; None for parts that a build does not hold."""
    if isinstance(part, MotorPart):
        motor = part.motor.model_copy(update={"count": build.motor.count})
        return build.model_copy(update={"motor": motor})
    if isinstance(part, ControllerPart):
        said = Stated(build)
        its, motors = Stated(part.controller), build.motor.count
        limits = limits_set(part.settable, its, said.under("motor"), said.under("battery"), motors)
        finite = {key: float(value) for key, value in limits.items() if value == value}
        return build.model_copy(update={"controller": part.controller.model_copy(update=finite)})
    if isinstance(part, PackPart):
        rests_v = _as_full(build, CHEMISTRIES[part.battery.chemistry])
        battery = part.battery.model_copy(update={"cell_voltage_v": rests_v})
        return build.model_copy(update={"battery": battery})
    if isinstance(part, WheelPart):
        return build.model_copy(update={"wheel": part.wheel})
    if isinstance(part, PropellerPart):
        return build.model_copy(update={"propeller": part.propeller})
    if isinstance(part, WirePart):
        return _wired(build, pack_wire_mm2=part.area_mm2)
    if isinstance(part, ConnectorPart):
        return _wired(build, connector_current_a=part.current_a)
    return None


def _wired(build: Build, **said: float) -> Build:
    return build.model_copy(update={"wiring": build.wiring.model_copy(update=said)})


def _as_full(build: Build, other: Chemistry) -> float:
    """Return the rest volts of another cell, as far between empty and full as a build's cells."""
    own = CHEMISTRIES[build.battery.chemistry]
    share = (build.battery.cell_voltage_v - own.empty_v) / (own.full_v - own.empty_v)
    return other.empty_v + share * (other.full_v - other.empty_v)


def _clash(build: Build, part: Part) -> str | None:
    """Return why a part can't be joined to a build at all."""
    motor = build.motor
    if isinstance(part, MotorPart) and build.propeller is not None:
        if part.mounts == "hub":
            return "It drives a wheel itself; a propeller needs a shaft."
    elif isinstance(part, MotorPart) and (part.mounts == "hub") != (not build.gearing):
        if part.mounts == "hub":
            return "It drives the wheel itself; this build has gearing."
        return "It needs gearing; this build's motor is in the wheel."
    if isinstance(part, MotorPart) and driven_as(part.motor) != driven_as(motor):
        return f"It is {driven_as(part.motor)}; the controller here drives {driven_as(motor)}."
    if isinstance(part, ControllerPart) and part.drives != driven_as(motor):
        return f"It drives {part.drives} motors; the motor here is {driven_as(motor)}."
    if isinstance(part, CellPart) and part.chemistry != build.battery.chemistry:
        return "It is of another chemistry than the pack here."
    if isinstance(part, PropellerPart) and build.propeller is None:
        return "It is a propeller; what moves here has none."
    if isinstance(part, WheelPart) and build.wheel is None:
        return "It is a wheel; what moves here has none."
    if isinstance(part, ToothedRange | StrandPart) and not _meshes(build, part):
        return "No stage here has its kind and pitch."
    return None


def _meshes(build: Build, part: ToothedRange | StrandPart) -> bool:
    """Return whether a stage takes such teeth; one that says no pitch may."""
    for stage in build.gearing:
        if isinstance(stage, ToothedStage) and stage.kind == part.kind:
            key = "module_mm" if part.kind == "spur" else "pitch_mm"
            own, its = getattr(stage, key), getattr(part, key, None)
            if own is None or its is None or abs(own - its) < 1e-6:
                return True
    return False


def _stopped(builds: dict[int, Build]) -> Iterator[tuple[int, str]]:
    """Yield the keys of builds that a rule stops, and which rule; like ones are asked together."""
    places, documents = np.array(list(builds), int), list(builds.values())
    for alike in alike_of(documents):
        some = [documents[at] for at in alike]
        columns = numbers_of(some, "")
        mass = "vehicle.mass_kg"
        # One that is always there, so that even a single build comes as an array.
        differ = {path: column for path, column in columns.items() if differs(column)}
        compiled = compile_build(some[0], {mass: columns[mass], **differ})
        batch = Batch(compiled, searched_results(compiled, timed=True))
        told = np.zeros(len(some), bool)
        for name, rule in stopping_rules().items():
            stops = filled(rule.stops(batch), told.shape) & ~told
            told |= stops
            for at in np.flatnonzero(stops):
                yield int(places[alike[at]]), sentence(name)


def fits_brief(brief: Brief) -> Unfit:
    """Return what says why a part can't serve a brief, by what the part itself says."""
    wished = [wish for wish in wishes_of(brief) if isinstance(wish, OfPart)]
    allowed = brief.wishes.allowed_parts

    def unfit(parts: Sequence[Part]) -> list[str | None]:
        return [of_one(part) for part in parts]

    def of_one(part: Part) -> str | None:
        side, document = _side(part)
        if brief.is_craft and isinstance(part, MotorPart) and part.mounts == "hub":
            return sentence("hub_propeller")
        if allowed is not None and part.id not in allowed and side:
            return "The rules of the event do not admit it."
        for wish in wished:
            if wish.part != side:
                continue
            value = wish.ask(Stated(document))
            if np.isnan(value):
                return f"{wish.label}: it does not say."
            if not bool(wish.met(value)):
                return _missed(wish, float(value))
        return _too_much(brief, document)

    return unfit


def _missed(wish: OfPart, value: float) -> str:
    if not wish.unit:
        return f"{wish.label}: no."
    return f"{wish.label} {wish.limit:g} {wish.unit}; this is {value:.4g} {wish.unit}."


def _side(part: Part) -> tuple[str, object]:
    if isinstance(part, MotorPart):
        return "motor", part.motor
    if isinstance(part, ControllerPart):
        return "controller", part.controller
    if isinstance(part, PropellerPart):
        return "propeller", part.propeller
    return ("pack", part.battery) if isinstance(part, PackPart) else ("", part)


def _too_much(brief: Brief, document: object) -> str | None:
    """Return whether it alone costs or weighs more than all parts may."""
    wishes = brief.wishes
    for key, limit, noun in (
        ("price", wishes.budget, "budget"),
        ("mass_kg", wishes.max_added_mass_kg, "mass that may be added"),
    ):
        value = getattr(document, key, None)
        if limit is not None and value is not None and value > limit:
            return f"It alone takes more than the {noun}: {value:g} of {limit:g}."
    return None
