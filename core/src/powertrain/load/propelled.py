"""Propellers on the output shaft, and the craft that they push."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.load.air import density_of
from powertrain.load.craft import CRAFT, Craft, Hull
from powertrain.load.words import LoadWords
from powertrain.propeller.momentum import induced_mps
from powertrain.propeller.propeller import Blades
from powertrain.stated import Stated

STILL = scalar(0.0)
"""Held fast in still air."""

SLENDER = 1 / 3
"""Inertia of a straight blade over its mass and the square of its length."""

USUAL_KG_PER_M3 = 1.5
"""Mass of a propeller over the cube of its diameter, common practice, no source: 4 g at 0.13 m
and 0.2 kg at half a metre; good to a factor of two."""

TAKES = ("thrust", "wake", "blades")


def _air(air_mps: float) -> str:
    return "standing" if air_mps == 0 else f"{3.6 * air_mps:.4g} km/h of air"


WORDS = LoadWords(
    titles={
        "launch": "Standing",
        "climb": "Climb",
        "cruise": "Cruise",
        "top_speed": "Top speed",
        "wheels_up": "Propeller off",
    },
    during={
        "launch": "standing",
        "climb": "climbing",
        "cruise": "cruising",
        "top_speed": "at top speed",
        "wheels_up": "with the propeller off",
    },
    met={
        "launch": "standing at full throttle",
        "climb": "on the climb",
        "cruise": "at cruise",
        "top_speed": "at top speed",
    },
    short={
        "top_speed": "flat out",
        "climb": "on the climb you ask for",
        "climb_assumed": "climbing as well as it can",
    },
    takes={"thrust": "thrust", "wake": "wake", "blades": "blade drag"},
    parts={"wheel": "Propeller", "vehicle": "Craft and trip"},
    unnamed="on the output shaft",
    weighs="in all",
    situation=_air,
    labels={0.0: "standing"},
    end="air",
    push="Thrust",
    hard_done="It climbs; flat out it does {top:.1f} km/h",
    hard_missed="It can't climb as asked",
    hard_done_why="At full throttle.",
    hard_missed_why="Thrust is less than drag and weight ask: {shorter}, more amps, or less to "
    "carry.",
    shorter="another winding or propeller",
    caution="A propeller is a blade: take it off for bench tests, arm it last, stand "
    "behind it and never in its plane.",
    assumed="on a climb that is assumed",
    assumed_trip="at a cruise of {speed:g} km/h that is assumed",
)


def _on_the_ground(hard: str, doing: str) -> LoadWords:
    """Return the words of what is pushed and does not fly."""
    return replace(
        WORDS,
        titles={**WORDS.titles, "climb": hard},
        during={**WORDS.during, "climb": doing},
        met={**WORDS.met, "climb": doing},
        short={**WORDS.short, "climb": doing, "climb_assumed": doing},
        hard_done="Thrust is left over " + doing + "; flat out it does {top:.1f} km/h",
        hard_missed="Thrust is not enough " + doing,
        hard_missed_why="Less than holds it back there: {shorter}, more amps, or less to carry.",
        assumed=doing,
    )


AFLOAT = _on_the_ground("Hump", "at its hump")
ROLLING = _on_the_ground("Hard going", "where it is hardest")


@dataclass(frozen=True)
class Propelled:
    """One propeller for each motor; see `powertrain.load.protocol.Load` for the methods.

    Its situation is the speed of the air that comes to the propellers, in m/s, so that what they
    ask of their shafts is known at once. Which speed that is, of a climb or flat out, is for
    `powertrain.operating.in_air` to find.
    """

    blades: Blades
    count: Array
    craft: Craft
    headwind_mps: Array
    own_kg_m2: Array

    @classmethod
    def of(cls, build: Stated) -> "Propelled":
        """Return the load that a document describes."""
        conditions, said = build.under("conditions"), build.under("propeller")
        blades = Blades.of(said, density_of(conditions))
        count = build.under("motor").number("count")
        kind = build.under("vehicle").word("kind")
        radius = blades.diameter_m / 2
        usual = USUAL_KG_PER_M3 * blades.diameter_m**3
        mass = said.number("mass_kg") if said.states("mass_kg") else usual
        own = mass * SLENDER * radius**2
        return cls(
            blades=blades,
            count=count,
            craft=CRAFT[kind].of(build),
            headwind_mps=conditions.number("headwind_mps"),
            own_kg_m2=said.number("inertia_kg_m2") if said.states("inertia_kg_m2") else own,
        )

    @property
    def takes(self) -> tuple[str, ...]:
        """Return thrust, wake and blade drag."""
        return TAKES

    @property
    def travel_m(self) -> Array:
        """Return the way of a turn in butter, for each radian."""
        return self.blades.pitch_m / (2 * np.pi)

    @property
    def inertia_kg_m2(self) -> Array:
        """Return that of all propellers."""
        return self.count * self.own_kg_m2

    @property
    def usual(self) -> Array:
        """Return standing still."""
        return STILL

    @property
    def trip(self) -> Array:
        """Return standing still."""
        return STILL

    @property
    def hard(self) -> Array:
        """Return standing still."""
        return STILL

    @property
    def is_held(self) -> bool:
        """Return False."""
        return False

    def situations(self, most_nm: Array, own: float) -> Array:
        """Return standing alone."""
        return np.array([0.0])

    @property
    def words(self) -> LoadWords:
        """Return those of the air, of water, or of a cart."""
        if self.craft.flies:
            return WORDS
        return AFLOAT if isinstance(self.craft, Hull) else ROLLING

    @property
    def grips(self) -> bool:
        """Return False: air always gives."""
        return False

    def still_nm(self, situation: Array) -> Array:
        """Return nothing: what does not turn takes nothing."""
        return np.zeros(np.shape(situation))

    def moving_nm(self, output_rad_s: Array, situation: Array = STILL) -> Array:
        """Return the torque of all propellers."""
        at = self.blades.turning(output_rad_s / (2 * np.pi), situation)
        with np.errstate(divide="ignore", invalid="ignore"):
            torque = self.count * at.power_w / output_rad_s
        return np.where(output_rad_s > 0, torque, 0.0)

    def speed_mps(self, output_rad_s: Array, situation: Array) -> Array:
        """Return the speed over ground: that of the air less the headwind, nought standing."""
        own = np.where(situation > 0, situation - self.headwind_mps, 0.0)
        return np.broadcast_to(own, np.broadcast_shapes(own.shape, np.shape(output_rad_s))).copy()

    def blown_mps(self, output_rad_s: Array, situation: Array) -> Array:
        """Return the speed of the air with what the propeller adds to it."""
        at = self.blades.turning(output_rad_s / (2 * np.pi), situation)
        past = np.maximum(situation, 0.0)
        return past + induced_mps(at.thrust_n, past, self.blades.density, self.blades.disc_m2)

    def force_n(self, output_nm: Array, output_rad_s: Array, situation: Array) -> Array:
        """Return the thrust; the torque has no say in it."""
        return self.thrust_n(output_rad_s, situation)

    def thrust_n(self, output_rad_s: Array, air_mps: Array) -> Array:
        """Return the thrust of all propellers."""
        at = self.blades.turning(output_rad_s / (2 * np.pi), air_mps)
        return np.asarray(self.count * at.thrust_n)

    def parts_w(self, output_rad_s: Array, situation: Array) -> tuple[Array, ...]:
        """Return what goes into thrust (thrust times the air's speed), wake and blade drag."""
        at = self.blades.turning(output_rad_s / (2 * np.pi), situation)
        blades = self.blades
        added = induced_mps(at.thrust_n, np.maximum(situation, 0.0), blades.density, blades.disc_m2)
        useful = at.thrust_n * np.maximum(situation, 0.0)
        wake = np.maximum(at.thrust_n, 0.0) * added
        rest = at.power_w - useful - wake
        return tuple(np.asarray(self.count * part) for part in (useful, wake, rest))

    def useful_w(self, output_w: Array, taken_w: tuple[Array, ...]) -> Array:
        """Return thrust times the speed of the air; wake and blade drag are lost."""
        return taken_w[0]

    def holds_nm(self, situation: Array) -> Array:
        """Return that nothing slips."""
        return np.full(np.shape(situation), np.inf)

    def coasting_rad_s(self, situation: Array) -> Array:
        """Return that it stops by itself."""
        return np.full(np.shape(situation), -np.inf)

    def speed_at_nm(self, torque_nm: Array, situation: Array) -> Array:
        """Return no speed: nothing here is found that way."""
        return np.full(np.shape(torque_nm), np.nan)

    def slipless(self) -> "Propelled":
        """Return it with the propellers off: what is turned without a load has none."""
        off = replace(self.blades, thrust_share=scalar(0.0), power_share=scalar(0.0))
        return replace(self, blades=off)
