"""How far off each input may be, by how it is known, and how to measure it.

The percentages are common practice, no source: the figure lies within them four times in five.
A tolerance in the document's provenance goes before them.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from powertrain.documents.build import Build
from powertrain.documents.paths import number_at
from powertrain.load.traction import is_assumed
from powertrain.stated import Stated

ORIGINS = ("measured", "data_sheet", "estimated", "default")

UNSAID = "estimated"
"""What is typed without a word on its origin counts as estimated."""


@dataclass(frozen=True)
class ToleranceRule:
    """Tolerances of one input, in percent for each of `ORIGINS`, and how to measure it.

    `of_loss` marks an efficiency: the percentages are of what is lost; `of_kind` is the kind of
    vehicle for which the path is told so, where there are several.
    """

    path: str
    label: str
    pct: tuple[float, float, float, float]
    how: str
    of_loss: bool = False
    of_kind: str = ""


RULES = (
    ToleranceRule(
        "vehicle.mass_kg",
        "rolling mass",
        (1, 3, 7, 25),
        "Weigh it loaded, an axle at a time, on a pair of bathroom scales.",
        of_kind="ground",
    ),
    ToleranceRule(
        "vehicle.mass_kg",
        "load",
        (1, 3, 10, 25),
        "Weigh it on a crane scale, or its parts on a bathroom scale, hook and block with it.",
        of_kind="hoist",
    ),
    ToleranceRule(
        "vehicle.drum_radius_m",
        "drum radius",
        (1, 3, 5, 10),
        "Pull the rope out by one turn of the drum, measure its length and divide by 6.283.",
    ),
    ToleranceRule(
        "vehicle.rolling_resistance",
        "rolling resistance",
        (10, 20, 30, 50),
        "Pull it at walking pace on the level with a luggage scale: force over weight.",
    ),
    ToleranceRule(
        "vehicle.drag_area_m2",
        "drag area",
        (8, 15, 25, 40),
        "Let it coast down from speed on a still day and time the fall, both ways.",
    ),
    ToleranceRule(
        "vehicle.traction.friction",
        "grip",
        (8, 15, 20, 35),
        "Pull the braked vehicle with a scale until it slides: force over weight.",
    ),
    ToleranceRule(
        "conditions.air_density_kg_m3",
        "air density",
        (1, 1, 2, 4),
        "Read pressure and temperature from a weather station nearby.",
    ),
    ToleranceRule(
        "wheel.rolling_circumference_mm",
        "rolling circumference",
        (0.5, 1.5, 2, 6),
        "Mark the tyre, roll one turn loaded, and measure the ground.",
    ),
    ToleranceRule(
        "vehicle.mass_kg", "mass", (0.5, 2, 5, 15), "Weigh it as it goes.", of_kind="aircraft"
    ),
    ToleranceRule(
        "vehicle.mass_kg", "mass", (1, 3, 7, 25), "Weigh it with who sits in it.", of_kind="hull"
    ),
    ToleranceRule(
        "vehicle.zero_lift_drag",
        "drag without lift",
        (8, 15, 25, 35),
        "Let it glide in still air: its best angle and the speed of it say both kinds of drag.",
    ),
    ToleranceRule(
        "vehicle.oswald",
        "span efficiency",
        (5, 10, 12, 15),
        "Glide it slowly and fast: what slow flight takes more is the lift's.",
    ),
    ToleranceRule(
        "vehicle.lift_max",
        "most lift",
        (5, 10, 15, 20),
        "Fly it slower until it drops, high up, and read the speed through the air.",
    ),
    ToleranceRule(
        "vehicle.air_drag_area_m2",
        "drag area in air",
        (10, 20, 30, 50),
        "Tow it in wind, or pull it with a scale in a breeze of known speed.",
    ),
    ToleranceRule(
        "gearing.*.efficiency",
        "stage efficiency",
        (25, 30, 40, 50),
        "Turn it by hand under a known weight: what it takes more is the loss.",
        True,
    ),
    ToleranceRule(
        "motor.kv_rpm_per_v",
        "KV",
        (1.5, 5, 10, 20),
        "Turn the shaft with a drill at a known rpm and read the volts between two wires.",
    ),
    ToleranceRule(
        "motor.resistance_ohm",
        "motor resistance",
        (4, 10, 20, 40),
        "Send a few known amps through two wires, shaft held, and read the volts.",
    ),
    ToleranceRule(
        "motor.no_load_current_a",
        "no-load amps",
        (5, 20, 30, 60),
        "Run it free at its usual volts and read the pack amps.",
    ),
    ToleranceRule(
        "motor.saturated_constant_nm_per_a",
        "saturated constant",
        (4, 8, 20, 40),
        "Hold the shaft on a lever and scale at high amps: torque over amps.",
    ),
    ToleranceRule(
        "motor.half_saturation_current_a",
        "half-saturation amps",
        (8, 15, 30, 50),
        "Read torque on a lever and scale at several amps, low to high.",
    ),
    ToleranceRule(
        "motor.loss_torque_nm",
        "loss torque",
        (15, 25, 40, 60),
        "Turn the shaft slowly with a lever and a small weight.",
    ),
    ToleranceRule(
        "motor.peak_torque_nm",
        "greatest torque",
        (3, 5, 10, 25),
        "Hold the shaft on a lever and scale at the highest amps for a moment.",
    ),
    ToleranceRule(
        "motor.base_rpm",
        "base speed",
        (2, 4, 10, 25),
        "Log rpm and power on a full-throttle run: where power stops rising.",
    ),
    ToleranceRule(
        "motor.efficiency",
        "motor efficiency",
        (15, 20, 30, 50),
        "Compare logged pack watts with the climb's known watts.",
        True,
    ),
    ToleranceRule(
        "controller.resistance_ohm",
        "controller resistance",
        (10, 20, 40, 60),
        "At full throttle, read volts at the pack terminals and at the motor, and the amps.",
    ),
    ToleranceRule(
        "controller.motor_current_limit_a",
        "motor amps limit",
        (3, 4, 6, 15),
        "Read motor amps in the controller's log on a hard start.",
    ),
    ToleranceRule(
        "controller.battery_current_limit_a",
        "pack amps limit",
        (3, 4, 6, 15),
        "Clamp a meter round a pack wire on a hard pull.",
    ),
    ToleranceRule(
        "battery.cell_resistance_mohm",
        "cell resistance",
        (8, 20, 35, 60),
        "Draw two known currents and read the cell volts at each: volts over amps.",
    ),
    ToleranceRule(
        "battery.wiring_resistance_mohm",
        "wiring resistance",
        (15, 25, 40, 60),
        "At known amps, read the volts between the cells' end and the controller's.",
    ),
    ToleranceRule(
        "battery.cell_voltage_v",
        "resting volts",
        (0.3, 0.8, 1.5, 3),
        "Read the pack's volts at rest and divide by the cells.",
    ),
    ToleranceRule(
        "battery.cell_capacity_ah",
        "cell capacity",
        (2, 4, 8, 20),
        "Charge from empty and read the amp-hours on the charger.",
    ),
)

HEAT_RULES = (
    ToleranceRule(
        "winding_j_per_k",
        "heat that the winding stores",
        (8, 12, 35, 35),
        "Weigh the copper of a burnt sister, or log the winding's resistance at constant amps.",
    ),
    ToleranceRule("case_j_per_k", "heat that the can stores", (8, 12, 25, 25), "Weigh the motor."),
    ToleranceRule(
        "winding_to_case_k_per_w",
        "winding to case",
        (10, 20, 50, 50),
        "Hold constant amps until steady; resistance tells the winding, a probe the case.",
    ),
    ToleranceRule(
        "case_to_air_k_per_w",
        "case to air",
        (10, 20, 35, 35),
        "Hold constant watts until steady and read the case above the air.",
    ),
)
"""Of the motor's heat data, given as `data_sheet` or made from mass and size as `estimated`."""

WORSE = {"constants": 3.0, "size": 1.3, "mass": 1.0}
"""How much wider the heat estimates are, by what the motor's mass was known from."""


THRUST, POWER = "propeller.thrust_share", "propeller.power_share"
"""What a propeller gives and takes, as a share of what is reckoned; in no document."""

PROPELLER_RULES = (
    (THRUST, "thrust_n", "the propeller's thrust", (0.03, 0.05, 0.12)),
    (POWER, "shaft_power_w", "the propeller's power", (0.04, 0.07, 0.16)),
)
"""Each with its field in a static test, and how far it may be off, four times in five: with a
static test, with a table, and from diameter and pitch alone. Of static tests of small propellers
about a generic blade (J. B. Brandt and M. S. Selig, Propeller Performance Data at Low Reynolds
Numbers, AIAA 2011-1255; the spread is from memory): most thrusts lie within an eighth, most powers
within a sixth."""

HOW_PROPELLER = "Stand it on a scale at full throttle and read turns, volts, amps and thrust."

FRICTION = "vehicle.traction.friction"

ASSUMED_GRIP = 0.2
"""How far off a grip may be that is assumed from the ground; common practice, no source."""


@dataclass(frozen=True)
class Doubtful:
    """An input that may be off, and by how much: a factor of 1 + `tolerance`, either way."""

    path: str
    label: str
    origin: str
    tolerance: float
    measured: float
    how: str
    of_loss: bool


def doubtful_inputs(build: Build) -> Iterator[Doubtful]:
    """Yield the inputs of a document that may be off; exact and absent ones are left out."""
    for rule in RULES:
        if rule.of_kind not in ("", build.vehicle.kind):
            continue
        for path, number in _paths(rule.path, len(build.gearing)):
            if path == FRICTION and build.vehicle.on_wheels and is_assumed(Stated(build.vehicle)):
                yield Doubtful(
                    path,
                    "grip (assumed)",
                    "default",
                    ASSUMED_GRIP,
                    rule.pct[0] / 100,
                    rule.how,
                    False,
                )
                continue
            value = number_at(build, path)
            if not value or (rule.of_loss and value >= 1):
                continue
            known = build.provenance.get(path)
            origin = UNSAID if known is None else known.origin
            pct = None if known is None else known.tolerance_pct
            tolerance = _of(rule, origin) if pct is None else pct / 100
            if tolerance > 0:
                label = f"stage {number} efficiency" if number else rule.label
                yield Doubtful(
                    path, label, origin, tolerance, rule.pct[0] / 100, rule.how, rule.of_loss
                )


def doubtful_propeller(build: Build) -> Iterator[Doubtful]:
    """Yield what a propeller gives and takes; by a test, a table or its size."""
    said = build.propeller
    if said is None:
        return
    known = 0 if said.static is not None else 1 if said.table else 2
    origin = ("measured", "data_sheet", "estimated")[known]
    for path, field, label, off in PROPELLER_RULES:
        own = build.provenance.get(f"propeller.static.{field}")
        stated = None if own is None else own.tolerance_pct
        tolerance = off[known] if stated is None else stated / 100
        if tolerance > 0:
            yield Doubtful(
                path,
                label,
                origin if own is None else own.origin,
                tolerance,
                off[0],
                HOW_PROPELLER,
                False,
            )


def doubtful_heat(build: Build, known_from: str | None) -> Iterator[Doubtful]:
    """Yield the motor's heat data; `known_from` says what an estimate rests on."""
    for rule in HEAT_RULES:
        path = f"motor.thermal.{rule.path}"
        given = getattr(build.motor.thermal, rule.path) is not None
        known = build.provenance.get(path) if given else None
        origin = "data_sheet" if given else "estimated"
        origin = origin if known is None else known.origin
        pct = None if known is None else known.tolerance_pct
        worse = 1.0 if given else WORSE.get(known_from or "mass", 1.0)
        tolerance = _of(rule, origin) * worse if pct is None else pct / 100
        if tolerance > 0:
            yield Doubtful(path, rule.label, origin, tolerance, rule.pct[0] / 100, rule.how, False)


def _of(rule: ToleranceRule, origin: str) -> float:
    # What was fitted says itself how far it may be off; without that it counts as measured.
    return rule.pct[0 if origin == "fitted" else ORIGINS.index(origin)] / 100


def _paths(pattern: str, stages: int) -> Iterator[tuple[str, int | None]]:
    if "*" not in pattern:
        yield pattern, None
        return
    for index in range(stages):
        yield pattern.replace("*", str(index)), index + 1
