"""The heat data of a whole build, given or estimated, as one part of numbers."""

from dataclasses import dataclass, replace

from powertrain.arrays import Array, scalar
from powertrain.heat.air import Air, Place
from powertrain.heat.estimate import (
    CONTROLLER_J_PER_KG_K,
    COPPER_J_PER_KG_K,
    COPPER_SHARE,
    IRON_J_PER_KG_K,
    PACK_J_PER_KG_K,
    WINDING_S,
    Body,
    controller_body,
    controller_known_from,
    motor_body,
    motor_known_from,
    pack_body,
    pack_known_from,
    still_k_per_w,
)
from powertrain.stated import Stated


@dataclass(frozen=True)
class MotorParameters:
    """One motor: copper and can, and what lies between them and the air.

    `stall_share` is the part of the copper that carries a stalled motor's current: with three
    phases fed as direct current, two of the three.
    """

    winding_j_per_k: Array
    case_j_per_k: Array
    winding_to_case_k_per_w: Array
    case_to_air_k_per_w: Array
    air: Air
    resistance_at_c: Array
    magnet_at_c: Array
    magnet_per_k: Array
    stall_share: Array


@dataclass(frozen=True)
class PartParameters:
    """A controller or a pack: one node."""

    j_per_k: Array
    to_air_k_per_w: Array
    air: Air


@dataclass(frozen=True)
class Begins:
    """How warm each node is at the beginning."""

    winding: Array
    case: Array
    controller: Array
    pack: Array

    @classmethod
    def alike(cls, parts_c: Array) -> "Begins":
        """Return nodes that have stood together for long."""
        return cls(parts_c, parts_c, parts_c, parts_c)

    def of(self, node: str) -> Array:
        """Return how warm a node is."""
        found: Array = getattr(self, node)
        return found


@dataclass(frozen=True)
class ThermalParameters:
    """All of them, with the air's temperature and those at which the parts begin."""

    motor: MotorParameters
    controller: PartParameters
    pack: PartParameters
    ambient_c: Array
    begins: Begins

    @classmethod
    def of(
        cls, build: Stated, constant_nm_per_root_w: Array, density: Array
    ) -> "ThermalParameters":
        """Return the heat data of a document, what is not stated estimated from mass and size.

        `constant_nm_per_root_w` is the motor's, `density` the air's in kg/m3.
        """
        conditions = build.under("conditions")
        controller, battery = build.under("controller"), build.under("battery")
        ambient_c = conditions.number("ambient_c")
        told = conditions.states("parts_c")
        return cls(
            motor=_motor(build, constant_nm_per_root_w, density),
            controller=_part(
                controller, controller_body(controller), "vented", CONTROLLER_J_PER_KG_K, density
            ),
            pack=_part(battery, pack_body(battery), "closed", PACK_J_PER_KG_K, density),
            ambient_c=ambient_c,
            begins=Begins.alike(conditions.number("parts_c") if told else ambient_c),
        )


BLOWN_THROUGH, BELL_AREA = 0.3, 1.5
"""Of a motor in a propeller's wash: air goes through its windings, and past both sides of its bell.
Set so that small outrunners carry what their makers rate them for in that place; common practice,
no source, good to a factor of a half."""


def _motor(build: Stated, constant_nm_per_root_w: Array, density: Array) -> MotorParameters:
    motor = build.under("motor")
    said = motor.under("thermal")
    body = motor_body(motor, constant_nm_per_root_w, in_wheel=in_wheel(build))
    copper_kg = COPPER_SHARE * body.mass_kg
    winding = _or(said, "winding_j_per_k", COPPER_J_PER_KG_K * copper_kg)
    washed = build.word("propeller") is not None
    place: Place = "wash" if washed else "open"
    air = Air.of(motor.under("cooling"), place, body.size_m, density)
    if washed:
        body = replace(body, area_m2=BELL_AREA * body.area_m2)
    return MotorParameters(
        winding_j_per_k=winding,
        case_j_per_k=_or(said, "case_j_per_k", IRON_J_PER_KG_K * (body.mass_kg - copper_kg)),
        winding_to_case_k_per_w=_or(
            said,
            "winding_to_case_k_per_w",
            (BLOWN_THROUGH if washed else 1.0) * WINDING_S / winding,
        ),
        case_to_air_k_per_w=_to_air(said, "case_to_air_k_per_w", body, air),
        air=air,
        resistance_at_c=said.number("resistance_at_c"),
        magnet_at_c=said.number("resistance_at_c"),
        magnet_per_k=said.number("magnet_pct_per_k") / 100,
        stall_share=scalar(1.0 if motor.word("commutation") == "brushed" else 2 / 3),
    )


def _or(said: Stated, key: str, estimate: Array) -> Array:
    return said.number(key) if said.states(key) else estimate


def _to_air(said: Stated, key: str, body: Body, air: Air) -> Array:
    """Return kelvin for each watt to still air, as a painted surface of the part would have it.

    What is stated is of the surface as it is.
    """
    return said.number(key) * air.still_share if said.states(key) else still_k_per_w(body)


def in_wheel(build: Stated) -> bool:
    """Return whether the motor drives its wheel without any gearing."""
    return not build.word("gearing") and build.word("wheel") is not None


def _part(
    part: Stated, body: Body, usual: Place, j_per_kg_k: float, density: Array
) -> PartParameters:
    said = part.under("thermal")
    air = Air.of(part.under("cooling"), usual, body.size_m, density)
    return PartParameters(
        j_per_k=_or(said, "heat_j_per_k", j_per_kg_k * body.mass_kg),
        to_air_k_per_w=_to_air(said, "to_air_k_per_w", body, air),
        air=air,
    )


MOTOR_KEYS = ("winding_j_per_k", "case_j_per_k", "winding_to_case_k_per_w", "case_to_air_k_per_w")


def estimated(build: Stated) -> dict[str, str]:
    """Return what is estimated of a build's heat data, by part, and from what."""
    motor, controller, battery = (build.under(key) for key in ("motor", "controller", "battery"))
    found = {}
    if not motor.under("thermal").states(*MOTOR_KEYS):
        found["motor"] = motor_known_from(motor)
    for name, part, known in (
        ("controller", controller, controller_known_from(controller)),
        ("pack", battery, pack_known_from(battery)),
    ):
        if not part.under("thermal").states("heat_j_per_k", "to_air_k_per_w"):
            found[name] = known
    return found
