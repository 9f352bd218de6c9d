"""A driven wheel on a road: the vehicle that it moves, and the grip by which it does."""

from dataclasses import dataclass, replace

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.load.road_load import RoadLoad
from powertrain.load.traction import Grip
from powertrain.load.words import LoadWords
from powertrain.stated import Stated
from powertrain.units import radius_m_from_circumference_mm

TAKES = ("rolling", "climbing", "air")

LEVEL, USUAL_GRADE = scalar(0.0), scalar(8.0)
"""No slope, and the hill in percent that is looked at when the document names none."""

GRADE_STEPS = (0.2, 0.5, 1.0, 2.0, 3.0, 4.0, 5.0, 8.0, 10.0, 15.0, 20.0, 25.0)
"""Grades people name; the step is taken that spreads four hills over the drive's push."""


def _hill(grade_pct: float) -> str:
    return f"{grade_pct:.4g} %"


WORDS = LoadWords(
    titles={
        "launch": "Launch",
        "climb": "Climb {situation}",
        "cruise": "Cruise",
        "top_speed": "Top speed",
        "wheels_up": "Wheels in the air",
    },
    during={
        "launch": "launching",
        "climb": "climbing",
        "cruise": "cruising",
        "top_speed": "at top speed",
        "wheels_up": "in the air",
    },
    met={
        "launch": "at full throttle on the way to top speed",
        "climb": "on the climb",
        "cruise": "at cruise",
        "top_speed": "at top speed",
    },
    short={
        "top_speed": "on the flat",
        "climb": "up your {situation} hill",
        "climb_assumed": "up a usual hill of {situation}",
    },
    takes={"rolling": "tyres", "climbing": "climb", "air": "air"},
    parts={"wheel": "Wheel", "vehicle": "Vehicle and trip"},
    unnamed="driven wheel",
    weighs="rolling",
    situation=_hill,
    labels={0.0: "flat"},
    end="road",
    push="Push at the wheel",
    hard_done="The {situation} hill is climbed at up to {top:.1f} km/h",
    hard_missed="The {situation} hill can't be climbed",
    hard_done_why="Full throttle on that slope.",
    hard_missed_why="The wheels push less than slope and tyres ask: {shorter}, more amps, or less "
    "to carry.",
    shorter="a slower winding or a smaller wheel",
    caution="At full throttle put the wheels on a stand and keep clear of chains and wheels.",
    assumed="on a hill of {situation} that is assumed",
    assumed_trip="at a cruise of {speed:g} km/h that is assumed",
)


@dataclass(frozen=True)
class WheelOnRoad:
    """One vehicle on its driven wheels; see `powertrain.load.protocol.Load` for the methods.

    Its situation is the grade in percent.
    """

    radius_m: Array
    wheels_kg_m2: Array
    road: RoadLoad
    grip: Grip

    @classmethod
    def of(cls, build: Stated) -> "WheelOnRoad":
        """Return the load that a document describes."""
        wheel, vehicle = build.under("wheel"), build.under("vehicle")
        return cls(
            radius_m=radius_m_from_circumference_mm(wheel.number("rolling_circumference_mm")),
            wheels_kg_m2=wheel.number("inertia_kg_m2", 0.0),
            road=RoadLoad.of(vehicle, build.under("conditions")),
            grip=Grip.of(vehicle),
        )

    @property
    def takes(self) -> tuple[str, ...]:
        """Return tyres, slope and air."""
        return TAKES

    @property
    def travel_m(self) -> Array:
        """Return the rolling radius."""
        return self.radius_m

    @property
    def inertia_kg_m2(self) -> Array:
        """Return m f r^2 + J_wheels."""
        road = self.road
        return road.mass_kg * road.rotating_mass_factor * self.radius_m**2 + self.wheels_kg_m2

    @property
    def usual(self) -> Array:
        """Return the level."""
        return LEVEL

    @property
    def trip(self) -> Array:
        """Return the level."""
        return LEVEL

    @property
    def hard(self) -> Array:
        """Return a usual hill."""
        return USUAL_GRADE

    @property
    def is_held(self) -> bool:
        """Return False: it is to move."""
        return False

    def situations(self, most_nm: Array, own: float) -> Array:
        """Return the level, four hills spread over what the drive can push, and `own`."""
        steepest_pct = 100 * max(float(most_nm / self.radius_m / self.road.weight_n), 0.0)
        step = next((s for s in GRADE_STEPS if 4 * s >= 0.8 * steepest_pct), GRADE_STEPS[-1])
        return np.unique(np.append(step * np.arange(5.0), own))

    @property
    def words(self) -> LoadWords:
        """Return those of hills."""
        return WORDS

    @property
    def grips(self) -> bool:
        """Return whether anything is known of the grip."""
        return self.grip.known

    def still_nm(self, situation: Array) -> Array:
        """Return what tyres and slope ask."""
        return self.road.rolling_and_grade_n(situation) * self.radius_m

    def moving_nm(self, output_rad_s: Array) -> Array:
        """Return what the air asks."""
        return self.road.air_n(output_rad_s * self.radius_m) * self.radius_m

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
        """Return the watts of tyres, slope and air."""
        road, speed_mps = self.road, output_rad_s * self.radius_m
        return (
            road.rolling_n(situation) * speed_mps,
            road.climbing_n(situation) * speed_mps,
            road.air_n(speed_mps) * speed_mps,
        )

    def useful_w(self, output_w: Array, taken_w: tuple[Array, ...]) -> Array:
        """Return all of it."""
        return output_w

    def holds_nm(self, situation: Array) -> Array:
        """Return what the driven wheels put down on a slope."""
        return self.holds_n(situation) * self.radius_m

    def holds_n(self, grade_pct: Array) -> Array:
        """Return the greatest push that the driven wheels put down on a slope."""
        road = self.road
        return self.grip.greatest_force_n(road.weight_n, grade_pct, road.rolling_n(grade_pct))

    def coasting_rad_s(self, situation: Array) -> Array:
        """Return where the air alone holds the vehicle back, out of gear."""
        return self.road.coasting_speed_mps(situation) / self.radius_m

    def speed_at_nm(self, torque_nm: Array, situation: Array) -> Array:
        """Return the speed that a constant push holds."""
        force_n = torque_nm / self.radius_m
        return self.road.speed_at_force_mps(force_n, situation) / self.radius_m

    def slipless(self) -> "WheelOnRoad":
        """Return it with friction that holds any push."""
        return replace(self, grip=self.grip.without_slip())

    @property
    def inertia_as_mass_kg(self) -> Array:
        """Return m f + J_wheels/r^2."""
        return self.inertia_kg_m2 / np.square(self.radius_m)
