"""The heat data of a whole build, given or estimated, as one part of numbers."""

from dataclasses import dataclass

from powertrain.arrays import Array, scalar
from powertrain.documents.build import Build
from powertrain.documents.heat import Cooling, PartThermal
from powertrain.drive import Drive
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
    motor_body,
    pack_body,
    still_k_per_w,
)


@dataclass(frozen=True)
class MotorStore:
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
    magnet_per_k: Array
    stall_share: Array


@dataclass(frozen=True)
class PartStore:
    """A controller or a pack: one lump."""

    j_per_k: Array
    to_air_k_per_w: Array
    air: Air


@dataclass(frozen=True)
class Store:
    """All of them, with the air's temperature and the one at which the parts begin."""

    motor: MotorStore
    controller: PartStore
    pack: PartStore
    ambient_c: Array
    parts_c: Array

    @classmethod
    def of(cls, build: Build, drive: Drive) -> "Store":
        """Return the heat data of a document, what is not stated estimated from mass and size."""
        conditions, controller, battery = build.conditions, build.controller, build.battery
        ambient_c, density = scalar(conditions.ambient_c), drive.road.air_density_kg_m3
        begins = conditions.parts_c
        return cls(
            motor=_motor(build, drive),
            controller=_part(
                controller.thermal,
                controller.cooling,
                controller_body(controller),
                "vented",
                CONTROLLER_J_PER_KG_K,
                density,
            ),
            pack=_part(
                battery.thermal,
                battery.cooling,
                pack_body(battery),
                "closed",
                PACK_J_PER_KG_K,
                density,
            ),
            ambient_c=ambient_c,
            parts_c=ambient_c if begins is None else scalar(begins),
        )


def _motor(build: Build, drive: Drive) -> MotorStore:
    said = build.motor.thermal
    constant = drive.motor.constant_nm_per_root_w
    body = motor_body(build.motor, constant, in_wheel=not build.gearing)
    copper_kg = COPPER_SHARE * body.mass_kg
    winding = COPPER_J_PER_KG_K * copper_kg
    if said.winding_j_per_k is not None:
        winding = scalar(said.winding_j_per_k)
    case = IRON_J_PER_KG_K * (body.mass_kg - copper_kg)
    stated_case = said.case_j_per_k
    between, outside = said.winding_to_case_k_per_w, said.case_to_air_k_per_w
    return MotorStore(
        winding_j_per_k=winding,
        case_j_per_k=case if stated_case is None else scalar(stated_case),
        winding_to_case_k_per_w=WINDING_S / winding if between is None else scalar(between),
        case_to_air_k_per_w=still_k_per_w(body) if outside is None else scalar(outside),
        air=Air.of(build.motor.cooling, "open", body.size_m, drive.road.air_density_kg_m3),
        resistance_at_c=scalar(said.resistance_at_c),
        magnet_per_k=scalar(said.magnet_pct_per_k) / 100,
        stall_share=scalar(1.0 if build.motor.commutation == "brushed" else 2 / 3),
    )


def _part(
    said: PartThermal, cooling: Cooling, body: Body, usual: Place, j_per_kg_k: float,
    density_kg_m3: Array,
) -> PartStore:  # fmt: skip
    stores, outside = said.heat_j_per_k, said.to_air_k_per_w
    return PartStore(
        j_per_k=j_per_kg_k * body.mass_kg if stores is None else scalar(stores),
        to_air_k_per_w=still_k_per_w(body) if outside is None else scalar(outside),
        air=Air.of(cooling, usual, body.size_m, density_kg_m3),
    )


def estimated(build: Build) -> dict[str, str]:
    """Return what is estimated of a build's heat data, by part, and from what."""
    thermal = build.motor.thermal
    keys = ("winding_j_per_k", "case_j_per_k", "winding_to_case_k_per_w", "case_to_air_k_per_w")
    found = {}
    if any(getattr(thermal, key) is None for key in keys):
        found["motor"] = motor_body(build.motor, scalar(1.0)).known_from
    controller, battery = build.controller, build.battery
    for part, said, known in (
        ("controller", controller.thermal, controller_body(controller).known_from),
        ("pack", battery.thermal, pack_body(battery).known_from),
    ):
        if said.heat_j_per_k is None or said.to_air_k_per_w is None:
            found[part] = known
    return found
