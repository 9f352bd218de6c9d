"""The run document, open format ``young-torrent.run/1``: a build, and its course."""

import itertools
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints, model_validator
from pydantic_core import PydanticCustomError

from powertrain.battery.open_circuit import USUAL
from powertrain.documents.build import Build
from powertrain.documents.fields import Number, Whole, choice, measure, words
from powertrain.documents.model import Model
from powertrain.documents.reading import check_build, check_model
from powertrain.documents.text import parse
from powertrain.errors import NO_WHEELS, Refusal

FORMAT = "young-torrent.run/1"

MOST_POINTS = 200_000
LONGEST_S = 7 * 24 * 3600.0
LONGEST_M = 5e6


def _time(label: str = "Time") -> Any:
    return measure(label, "s", (0, 3600), least=0, most=LONGEST_S, explain="From the start.")


def _grade() -> Any:
    return measure(
        "Grade", "%", (-20, 20), default=0.0, least=-100, most=100, explain="Downhill below nought."
    )


def _repeat() -> Any:
    return measure("Repeated", "", (1, 20), default=1, least=1, most=1000, explain="Times.")


def _at_place(where: str, what: str) -> PydanticCustomError:
    return PydanticCustomError("at_place", "at a place", {"where": where, "what": what})


def _rising(points: list[Any], key: str, *, strictly: bool = False) -> None:
    """Refuse points that go back, naming the one that does."""
    for at, (before, after) in enumerate(itertools.pairwise(points), 1):
        one, other = getattr(before, key), getattr(after, key)
        if other < one or (strictly and other == one):
            raise _at_place(
                f"course.points.{at}.{key}", f"must not be below the one before, {one:g}"
            )


class SpeedPoint(Model):
    """How fast at a time; straight between points."""

    t_s: Number = _time()
    speed_kmh: Number = measure("Speed", "km/h", (0, 200), least=0, most=2000, explain="Asked.")


class SpeedCourse(Model):
    """A speed for every time."""

    kind: Literal["speed"] = choice("Kind", "Speed over time.")
    points: list[SpeedPoint] = Field(min_length=2, max_length=MOST_POINTS, title="Points")
    grade_pct: Number = _grade()

    @model_validator(mode="after")
    def _goes_on(self) -> "SpeedCourse":
        _rising(self.points, "t_s")
        if self.points[-1].t_s <= self.points[0].t_s:
            raise _at_place("course.points", "must last some time")
        return self


class ThrottlePoint(Model):
    """How far the throttle is open from a time on."""

    t_s: Number = _time()
    throttle_pct: Number = measure("Throttle", "%", (0, 100), least=0, most=100, explain="Held.")


class ThrottleCourse(Model):
    """What a hand does: each throttle is held until the next."""

    kind: Literal["throttle"] = choice("Kind", "Throttle over time.")
    points: list[ThrottlePoint] = Field(min_length=1, max_length=MOST_POINTS, title="Points")
    grade_pct: Number = _grade()
    until_s: Number | None = measure(
        "Until", "s", (1, 3600), default=None, least=0, most=LONGEST_S, explain="When it ends."
    )

    @model_validator(mode="after")
    def _goes_on(self) -> "ThrottleCourse":
        _rising(self.points, "t_s")
        last = self.points[-1].t_s
        if self.until_s is not None and self.until_s < last:
            raise _at_place("course.until_s", "is before its last point")
        if (self.until_s or last) <= 0:
            raise _at_place("course.until_s", "is needed, or points that last some time")
        return self


class StandingCourse(Model):
    """Full throttle from rest, until the first of what is stated is reached."""

    kind: Literal["standing"] = choice("Kind", "A standing start.")
    until_m: Number | None = measure(
        "Until", "m", (10, 1000), default=None, most=LONGEST_M, explain="Along the road."
    )
    until_kmh: Number | None = measure(
        "Until", "km/h", (5, 150), default=None, most=2000, explain="Reached."
    )
    until_s: Number | None = measure(
        "Until", "s", (1, 600), default=None, most=LONGEST_S, explain="At the latest."
    )
    grade_pct: Number = _grade()

    @model_validator(mode="after")
    def _ends(self) -> "StandingCourse":
        if self.until_m is None and self.until_kmh is None and self.until_s is None:
            raise _at_place("course.until_m", "is needed, or until_kmh or until_s")
        return self


class StopsCourse(Model):
    """Off, held, braked and at rest, again and again."""

    kind: Literal["stops"] = choice("Kind", "Stop and go.")
    times: Whole = measure("Times", "", (1, 100), least=1, most=10_000, explain="How often.")
    to_kmh: Number = measure("To", "km/h", (5, 60), most=2000, explain="Reached each time.")
    hold_s: Number = measure(
        "Held", "s", (0, 600), default=0.0, zero=True, explain="At that speed."
    )
    rest_s: Number = measure("Rest", "s", (0, 600), default=0.0, zero=True, explain="Between.")
    grade_pct: Number = _grade()


class CycleCourse(Model):
    """A published cycle."""

    kind: Literal["cycle"] = choice("Kind", "A published cycle.")
    name: Literal["ece-15", "wltc-1"] = choice(
        "Cycle", "The urban cycle of UN Regulation 83, or class 1 of UN GTR 15."
    )
    repeat: Whole = measure(
        "Repeated", "", (1, 20), default=1, least=1, most=1000, explain="Times."
    )


class RoutePoint(Model):
    """A place on the road: its height, how fast from there on, how long one stops there.

    A limit holds from its point to the next.
    """

    distance_m: Number = measure(
        "Distance", "m", (0, 100_000), least=0, most=LONGEST_M, explain="Along the road."
    )
    elevation_m: Number = measure(
        "Height", "m", (-100, 3000), default=0.0, least=-1000, most=10_000, explain="Above the sea."
    )
    limit_kmh: Number | None = measure(
        "Limit", "km/h", (5, 130), default=None, most=2000, explain="From here to the next point."
    )
    stop_s: Number | None = measure(
        "Stop", "s", (1, 600), default=None, zero=True, most=LONGEST_S, explain="Standing here."
    )


class RouteCourse(Model):
    """A road that is ridden by a driver who looks ahead to limits and stops."""

    kind: Literal["route"] = choice("Kind", "A route.")
    points: list[RoutePoint] = Field(min_length=2, max_length=MOST_POINTS, title="Points")
    ride_kmh: Number = measure(
        "Ridden at", "km/h", (5, 80), least=0.1, most=2000, explain="Where no limit is lower."
    )
    repeat: Whole = measure(
        "Repeated", "", (1, 20), default=1, least=1, most=1000, explain="Times."
    )
    there_and_back: bool = Field(default=False, title="There and back")

    @model_validator(mode="after")
    def _goes_on(self) -> "RouteCourse":
        _rising(self.points, "distance_m", strictly=True)
        return self


Course = Annotated[
    SpeedCourse | ThrottleCourse | StandingCourse | StopsCourse | CycleCourse | RouteCourse,
    Field(discriminator="kind"),
]

COURSES = ("speed", "throttle", "standing", "stops", "cycle", "route")


class Driver(Model):
    """How somebody rides."""

    accelerate_mps2: Number = measure(
        "Speeds up by", "m/s2", (0.2, 3), default=1.0, least=0.01, most=50, explain="At most."
    )
    brake_mps2: Number = measure(
        "Brakes by", "m/s2", (0.3, 4), default=1.5, least=0.01, most=50, explain="For a stop."
    )
    coast_to_stops: bool = Field(default=False, title="Coasts to stops")
    regenerate: bool = Field(default=True, title="Brakes by the motor")


class RideStart(Model):
    """How it stands before the ride; temperatures left out are the air's."""

    soc_pct: Number = measure(
        "Charge", "%", (10, 100), default=100.0, least=0, most=100, explain="Of the pack."
    )
    winding_c: Number | None = measure(
        "Winding", "C", (-10, 100), default=None, least=-60, most=400, explain="At the start."
    )
    case_c: Number | None = measure(
        "Case", "C", (-10, 80), default=None, least=-60, most=400, explain="At the start."
    )
    controller_c: Number | None = measure(
        "Controller", "C", (-10, 80), default=None, least=-60, most=300, explain="At the start."
    )
    pack_c: Number | None = measure(
        "Pack", "C", (-10, 45), default=None, least=-60, most=200, explain="At the start."
    )


class Ride(Model):
    """A run without its build: the course, who rides, and how it stands before."""

    format: Literal["young-torrent.run/1"] = choice("Format", "Version of this format.")
    name: Annotated[str, StringConstraints(strip_whitespace=True)] = words(
        "Name", "What you call it.", default="Run"
    )
    course: Course
    driver: Driver = Field(default_factory=Driver)
    start: RideStart = Field(default_factory=RideStart)


@dataclass(frozen=True)
class Run:
    """A checked run document."""

    build: Build
    ride: Ride


def with_rest_volts(document: dict[str, Any]) -> dict[str, Any]:
    """Return a build document that says at which volts its cells rest over charge.

    Where it states none, those usual of its chemistry: a pack that begins half empty then rests
    lower, whatever volts it is stated at. A document as it is says nothing of that, and its usual
    curve goes through the stated volts at the charge at the start.
    """
    battery = document.get("battery")
    usual = USUAL.get(battery.get("chemistry", "")) if isinstance(battery, dict) else None
    if not isinstance(battery, dict) or usual is None or battery.get("open_circuit") is not None:
        return document
    points = [{"soc_pct": 100 * share, "cell_v": volts} for share, volts in usual]
    return {**document, "battery": {**battery, "open_circuit": points}}


def read_run(text: bytes | str, *, craft: bool = False) -> Run:
    """Return the run that JSON text describes.

    Parameters
    ----------
    craft : bool
        Whether it may be of a craft that propellers push, too.

    Raises
    ------
    Refusal
        Naming the first place that is wrong, ``build....`` for the build's.
    """
    return check_run(parse(text), craft=craft)


def check_run(document: Any, *, craft: bool = False) -> Run:
    """Return the run that a plain document describes; see `read_run`."""
    if not isinstance(document, dict):
        raise Refusal("", "must be an object with the keys of a run")
    if "build" not in document:
        raise Refusal("build", "is missing; add it")
    try:
        build = check_build(document["build"])
    except Refusal as refusal:
        where = f"build.{refusal.where}" if refusal.where else "build"
        raise Refusal(where, refusal.what) from None
    on_wheels = build.wheel is not None and build.vehicle.kind == "ground"
    if not on_wheels and not (craft and build.propeller is not None):
        raise Refusal("build.vehicle.kind", NO_WHEELS)
    rest = {key: value for key, value in document.items() if key != "build"}
    try:
        ride = check_model(Ride, rest)
    except Refusal as refusal:
        kinds = (f"course.{kind}." for kind in COURSES)
        where = refusal.where
        for kind in kinds:
            if where.startswith(kind):
                where = "course." + where[len(kind) :]
        raise Refusal(where, refusal.what) from None
    return Run(build, ride)
