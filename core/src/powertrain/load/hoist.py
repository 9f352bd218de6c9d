"""A drum that winds up a load on a rope."""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.constants import STANDARD_GRAVITY_MPS2
from powertrain.load.words import LoadWords
from powertrain.stated import Stated

LIFTED, LOWERED = scalar(1.0), scalar(-1.0)
"""Situations: how the load bears on the drum, as a share of it. Let down, it drives the drum."""

SHARES = (0.0, 0.25, 0.5, 0.75, 1.0)
"""Of the load, to be looked at on a map."""


def _hangs(share: float) -> str:
    return "full load" if share == 1 else f"{100 * share:g} %"


WORDS = LoadWords(
    titles={
        "launch": "Set going",
        "climb": "Hold",
        "cruise": "Let down",
        "top_speed": "Lift",
        "wheels_up": "Drum free",
    },
    during={
        "launch": "setting going",
        "climb": "holding",
        "cruise": "letting down",
        "top_speed": "lifting",
        "wheels_up": "with the drum free",
    },
    met={
        "launch": "at full throttle on the way to full speed",
        "climb": "holding the load",
        "cruise": "letting the load down",
        "top_speed": "lifting the load at full throttle",
    },
    short={
        "top_speed": "lifting the whole load",
        "climb": "to hold it",
        "climb_assumed": "to hold it",
    },
    takes={"climbing": "load"},
    parts={"wheel": "Drum", "vehicle": "Load and moments"},
    unnamed="on the output shaft",
    weighs="on the rope",
    situation=_hangs,
    labels={0.0: "empty"},
    end="load",
    push="Pull on the load",
    hard_done="The load can be held; it is lifted at up to {top:.1f} km/h",
    hard_missed="The load can't be held",
    hard_done_why="Motor amps alone hold it, which heats a motor that stands still. Never rely on "
    "that over people: a hoist needs a brake that holds without current.",
    hard_missed_why="The drum pulls less than the load: {shorter}, more amps, or less to lift.",
    shorter="a smaller drum or more parts of rope",
    caution="Nobody under the load or beside the rope; it needs a brake of its own.",
    assumed="holding the load",
    assumed_trip="letting the load down at {speed:g} km/h, which is assumed",
)


@dataclass(frozen=True)
class Hoist:
    """One load on one drum; see `powertrain.load.protocol.Load` for the methods.

    The drum carries m g r/n whatever its speed, n being the parts of rope. Pulleys and rope are
    taken to lose nothing; what they do belongs to a stage's efficiency.
    """

    drum_radius_m: Array
    mass_kg: Array
    falls: Array

    @classmethod
    def of(cls, build: Stated) -> "Hoist":
        """Return the load that a document describes."""
        said = build.under("vehicle")
        return cls(said.number("drum_radius_m"), said.number("mass_kg"), said.number("falls", 1.0))

    @property
    def takes(self) -> tuple[str, ...]:
        """Return lifting alone."""
        return ("climbing",)

    @property
    def travel_m(self) -> Array:
        """Return how far the load moves: r/n."""
        return self.drum_radius_m / self.falls

    @property
    def inertia_kg_m2(self) -> Array:
        """Return m (r/n)^2."""
        return self.mass_kg * self.travel_m**2

    @property
    def usual(self) -> Array:
        """Return the whole load, lifted."""
        return LIFTED

    @property
    def trip(self) -> Array:
        """Return the whole load, let down."""
        return LOWERED

    @property
    def hard(self) -> Array:
        """Return the whole load."""
        return LIFTED

    @property
    def is_held(self) -> bool:
        """Return True: what is lifted has to stay where it is."""
        return True

    def situations(self, most_nm: Array, own: float) -> Array:
        """Return shares of the load up to the whole, and `own`."""
        return np.unique(np.append(SHARES, own))

    @property
    def words(self) -> LoadWords:
        """Return those of a load on a rope."""
        return WORDS

    @property
    def grips(self) -> bool:
        """Return False: a rope does not slip on its drum."""
        return False

    def still_nm(self, situation: Array) -> Array:
        """Return m g r/n of what hangs on the rope."""
        return situation * self.mass_kg * STANDARD_GRAVITY_MPS2 * self.travel_m

    def moving_nm(self, output_rad_s: Array) -> Array:
        """Return nothing: weight does not ask for more when it moves."""
        return np.zeros(np.shape(output_rad_s))

    def speed_mps(self, output_rad_s: Array, situation: Array) -> Array:
        """Return w times the way of a radian."""
        return output_rad_s * self.travel_m

    def blown_mps(self, output_rad_s: Array, situation: Array) -> Array:
        """Return its speed."""
        return output_rad_s * self.travel_m

    def force_n(self, output_nm: Array, output_rad_s: Array, situation: Array) -> Array:
        """Return T over the way of a radian."""
        return output_nm / self.travel_m

    def parts_w(self, output_rad_s: Array, situation: Array) -> tuple[Array, ...]:
        """Return the watts that lift the load, below zero where it comes down."""
        return (self.still_nm(situation) * output_rad_s,)

    def useful_w(self, output_w: Array, taken_w: tuple[Array, ...]) -> Array:
        """Return all of it."""
        return output_w

    def holds_nm(self, situation: Array) -> Array:
        """Return that nothing slips."""
        return np.full(np.shape(situation), np.inf)

    def coasting_rad_s(self, situation: Array) -> Array:
        """Return that a load let go falls, and that one on its way up stops."""
        return self.speed_at_nm(scalar(0.0), situation)

    def speed_at_nm(self, torque_nm: Array, situation: Array) -> Array:
        """Return for ever faster, or never: nothing but the drive holds a load back."""
        return np.where(torque_nm > self.still_nm(situation), np.inf, -np.inf)

    def slipless(self) -> "Hoist":
        """Return it as it is."""
        return self
