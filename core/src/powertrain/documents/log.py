"""The log document, open format ``young-torrent.log/1``: what was measured, run by run."""

from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints, model_validator
from pydantic_core import PydanticCustomError

from powertrain.documents.controller_settings import Day
from powertrain.documents.fields import Number, choice, measure, words
from powertrain.documents.model import Model
from powertrain.documents.reading import check_model
from powertrain.documents.run import Course, RideStart
from powertrain.errors import Refusal

FORMAT = "young-torrent.log/1"

Instrument = Literal[
    "satellite",
    "tachometer",
    "tape",
    "infrared",
    "clamp",
    "watt_meter",
    "logger",
    "stopwatch",
    "hand",
]
"""What reads; each has a usual tolerance, see `powertrain.instruments.tools`."""


def _read(label: str, unit: str, usual: tuple[float, float], least: float | None = 0.0) -> Any:
    return measure(label, unit, usual, default=None, least=least, explain="As it was read.")


def _off(unit: str) -> Any:
    return measure(
        "Within", unit, (0.01, 100), default=None, least=1e-9, explain="Four times in five."
    )


class Observed(Model):
    """What every observation may say."""

    instrument: Instrument | None = choice("Instrument", "What it was read with.", default=None)


class Free(Observed):
    """Wheels in the air, full throttle."""

    kind: Literal["free"] = choice("Kind", "Wheels in the air.")
    motor_rpm: Number | None = _read("Motor", "rpm", (500, 60_000))
    motor_rpm_tolerance: Number | None = _off("rpm")
    wheel_rpm: Number | None = _read("Wheel", "rpm", (50, 5000))
    wheel_rpm_tolerance: Number | None = _off("rpm")
    battery_voltage_v: Number | None = _read("Pack", "V", (5, 500))
    battery_voltage_v_tolerance: Number | None = _off("V")
    battery_current_a: Number | None = _read("Pack", "A", (0.1, 100))
    battery_current_a_tolerance: Number | None = _off("A")


class Static(Observed):
    """A craft held fast in still air, full throttle."""

    kind: Literal["static"] = choice("Kind", "Held fast, full throttle.")
    thrust_n: Number | None = _read("Thrust", "N", (0.1, 2000))
    thrust_n_tolerance: Number | None = _off("N")
    motor_rpm: Number | None = _read("Motor", "rpm", (500, 60_000))
    motor_rpm_tolerance: Number | None = _off("rpm")
    battery_voltage_v: Number | None = _read("Pack", "V", (5, 500))
    battery_voltage_v_tolerance: Number | None = _off("V")
    battery_current_a: Number | None = _read("Pack", "A", (1, 500))
    battery_current_a_tolerance: Number | None = _off("A")
    motor_current_a: Number | None = _read("Motor", "A", (1, 500))
    motor_current_a_tolerance: Number | None = _off("A")


class TopSpeed(Observed):
    """Full throttle on the road until it went no faster."""

    kind: Literal["top_speed"] = choice("Kind", "Top speed.")
    grade_pct: Number = measure("Grade", "%", (-10, 20), default=0.0, least=-100, explain="Uphill.")
    speed_kmh: Number | None = _read("Speed", "km/h", (5, 150))
    speed_kmh_tolerance: Number | None = _off("km/h")
    motor_rpm: Number | None = _read("Motor", "rpm", (500, 60_000))
    motor_rpm_tolerance: Number | None = _off("rpm")
    battery_current_a: Number | None = _read("Pack", "A", (1, 500))
    battery_current_a_tolerance: Number | None = _off("A")
    battery_voltage_v: Number | None = _read("Pack", "V", (5, 500))
    battery_voltage_v_tolerance: Number | None = _off("V")
    motor_current_a: Number | None = _read("Motor", "A", (1, 500))
    motor_current_a_tolerance: Number | None = _off("A")


class Steady(Observed):
    """A speed that was held."""

    kind: Literal["steady"] = choice("Kind", "A held speed.")
    speed_kmh: Number = measure("Speed", "km/h", (5, 100), explain="Held.")
    grade_pct: Number = measure("Grade", "%", (-10, 20), default=0.0, least=-100, explain="Uphill.")
    battery_current_a: Number | None = _read("Pack", "A", (1, 500), None)
    battery_current_a_tolerance: Number | None = _off("A")
    battery_voltage_v: Number | None = _read("Pack", "V", (5, 500))
    battery_voltage_v_tolerance: Number | None = _off("V")
    motor_current_a: Number | None = _read("Motor", "A", (1, 500), None)
    motor_current_a_tolerance: Number | None = _off("A")


class Launch(Observed):
    """From rest to a speed."""

    kind: Literal["launch"] = choice("Kind", "A standing start.")
    to_kmh: Number = measure("To", "km/h", (5, 100), explain="Reached.")
    grade_pct: Number = measure("Grade", "%", (-10, 20), default=0.0, least=-100, explain="Uphill.")
    time_s: Number | None = _read("Time", "s", (0.5, 60))
    time_s_tolerance: Number | None = _off("s")
    distance_m: Number | None = _read("Way", "m", (1, 500))
    distance_m_tolerance: Number | None = _off("m")


class Sample(Model):
    """A speed at a time."""

    t_s: Number = measure("Time", "s", (0, 600), least=0, explain="From the first.")
    speed_kmh: Number = measure("Speed", "km/h", (0, 100), least=0, explain="Read.")


class CoastDown(Observed):
    """Motors off, rolling out."""

    kind: Literal["coast_down"] = choice("Kind", "Rolling out.")
    samples: list[Sample] = Field(min_length=2, max_length=100_000, title="Samples")
    speed_kmh_tolerance: Number | None = _off("km/h")
    grade_pct: Number = measure("Grade", "%", (-10, 20), default=0.0, least=-100, explain="Uphill.")


class Temperature(Observed):
    """How warm parts were after a while."""

    kind: Literal["temperature"] = choice("Kind", "Temperatures.")
    moment: Literal["top_speed", "climb", "cruise"] | None = choice(
        "Moment", "What was kept up.", default=None
    )
    speed_kmh: Number | None = _read("Speed", "km/h", (5, 100))
    grade_pct: Number = measure("Grade", "%", (-10, 20), default=0.0, least=-100, explain="Uphill.")
    after_s: Number = measure("After", "s", (10, 3600), explain="From the start.")
    winding_c: Number | None = _read("Winding", "C", (0, 200), -60)
    winding_c_tolerance: Number | None = _off("C")
    case_c: Number | None = _read("Case", "C", (0, 150), -60)
    case_c_tolerance: Number | None = _off("C")
    controller_c: Number | None = _read("Controller", "C", (0, 120), -60)
    controller_c_tolerance: Number | None = _off("C")
    pack_c: Number | None = _read("Pack", "C", (0, 80), -60)
    pack_c_tolerance: Number | None = _off("C")


class Trip(Observed):
    """A trip, at a speed or over a course."""

    kind: Literal["trip"] = choice("Kind", "A trip.")
    speed_kmh: Number | None = _read("Speed", "km/h", (5, 100))
    course: Course | None = Field(default=None, title="Course")
    distance_km: Number | None = _read("Way", "km", (0.1, 200))
    distance_km_tolerance: Number | None = _off("km")
    energy_wh: Number | None = _read("Energy", "Wh", (1, 20_000), None)
    energy_wh_tolerance: Number | None = _off("Wh")
    soc_end_pct: Number | None = _read("Charge left", "%", (0, 100))
    soc_end_pct_tolerance: Number | None = _off("%")


class RollOut(Observed):
    """One turn of the loaded wheel, by tape."""

    kind: Literal["roll_out"] = choice("Kind", "One turn of the wheel.")
    rolling_circumference_mm: Number = measure("Rolls", "mm", (100, 3000), explain="In one turn.")
    rolling_circumference_mm_tolerance: Number | None = _off("mm")


class Telemetry(Observed):
    """Rows of a logger, of the columns of a run's table."""

    kind: Literal["telemetry"] = choice("Kind", "Rows of a logger.")
    course: Course | None = Field(default=None, title="Course")
    rows: list[dict[str, Number]] = Field(min_length=1, max_length=2_000_000, title="Rows")


Observation = Annotated[
    Free
    | Static
    | TopSpeed
    | Steady
    | Launch
    | CoastDown
    | Temperature
    | Trip
    | RollOut
    | Telemetry,
    Field(discriminator="kind"),
]


class RunConditions(Model):
    """The day's air."""

    ambient_c: Number | None = measure(
        "Air", "C", (-15, 40), default=None, least=-60, most=70, explain="That day."
    )
    wind_mps: Number | None = measure(
        "Headwind", "m/s", (-10, 10), default=None, least=-60, most=60, explain="Against it."
    )
    altitude_m: Number | None = measure(
        "Height", "m", (0, 2500), default=None, least=-500, most=9000, explain="Above the sea."
    )


class LoggedRun(Model):
    """One run: how it stood, what was changed since, and what was read."""

    id: Annotated[str, StringConstraints(min_length=1, max_length=120)] = Field(title="Id")
    date: Day | None = Field(default=None, title="Date")
    note: str | None = words("Note", "Anything else.", default=None, longest=2000)
    conditions: RunConditions = Field(default_factory=RunConditions)
    start: RideStart = Field(default_factory=RideStart)
    changes: dict[str, Any] = Field(default_factory=dict, max_length=50, title="Changes")
    observations: list[Observation] = Field(max_length=10_000, title="Observations")


class Log(Model):
    """All runs of a vehicle."""

    format: Literal["young-torrent.log/1"] = choice("Format", "Version of this format.")
    name: str = words("Name", "What you call it.", default="Log")
    runs: list[LoggedRun] = Field(max_length=10_000, title="Runs")

    @model_validator(mode="after")
    def _each_once(self) -> "Log":
        seen: set[str] = set()
        for index, run in enumerate(self.runs):
            if run.id in seen:
                raise PydanticCustomError(
                    "at_place",
                    "at a place",
                    {"where": f"runs.{index}.id", "what": f"{run.id!r} is there already"},
                )
            seen.add(run.id)
        return self


KINDS = (
    "free",
    "static",
    "top_speed",
    "steady",
    "launch",
    "coast_down",
    "temperature",
    "trip",
    "roll_out",
    "telemetry",
)


def check_log(document: Any) -> Log:
    """Return a checked log; places of observations without their kind between."""
    try:
        return check_model(Log, document)
    except Refusal as refusal:
        where = refusal.where
        for kind in KINDS:
            where = where.replace(f".{kind}.", ".", 1) if ".observations." in where else where
        raise Refusal(where, refusal.what) from None
