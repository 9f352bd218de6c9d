"""The shape of the bench's answer. Units stand in the names; None is 'there is no such value'."""

from pydantic import BaseModel

from powertrain.bench.in_short import Piece
from powertrain.heat.limits import NodeId
from powertrain.levers.board import Board
from powertrain.levers.lever import Lever
from powertrain.operating.limits import LimitWord
from powertrain.operating.settings import MomentId
from powertrain.results import FigureId
from powertrain.verdicts.verdict import NotJudged, PartId, Verdict


class Warning(BaseModel):
    """A value that is possible but far from usual."""

    where: str
    what: str


class StateAnswer(BaseModel):
    """One operating state; motor values are of one motor, watts of all.

    `takes` is what people call what the load takes.
    """

    speed_mps: float
    grade_pct: float
    motor_rpm: float
    wheel_rpm: float
    motor_current_a: float
    battery_current_a: float
    battery_voltage_v: float
    cell_voltage_v: float
    motor_voltage_v: float
    duty: float
    shaft_torque_nm: float
    wheel_torque_nm: float
    force_n: float
    cells_w: float
    pack_heat_w: float
    terminals_w: float
    controller_heat_w: float
    copper_heat_w: float
    brush_heat_w: float
    turning_heat_w: float
    auxiliaries_w: float
    shaft_w: float
    stage_losses_w: list[float]
    road_w: float
    rolling_w: float
    climbing_w: float
    air_w: float
    thrust_w: float
    wake_w: float
    blades_w: float
    brakes_w: float
    speeding_up_w: float
    efficiency: float | None
    energy_wh_per_km: float | None
    range_km: float | None
    limited_by: LimitWord | None
    takes: dict[str, str]


Band = list[float | None]
"""The 10, 50 and 90 % points of a figure; None where it is not finite there."""


class NodeAnswer(BaseModel):
    """A part's temperature at one moment: after a while, in the long run, and when it is too hot.

    `after_c` is None where it is burnt by then, `burnt_after_s` says when (None: it is not);
    `steady_c` is None where the copper runs away or burns before it settles; `to_limit_s` is None
    where the limit is never reached. `burnt_band` are the 10, 50 and 90 % points of the time at
    which it burns, None in a point where it does not.
    """

    after_c: float | None
    steady_c: float | None
    to_limit_s: float | None
    burnt_after_s: float | None
    burnt_band: Band | None = None


class MomentAnswer(BaseModel):
    """One of the five moments; see `powertrain.operating.moments.Moment`.

    `title` is what it is called, `during` when something is met in it.

    `lasts_s` is after how long the temperatures are read. `bands` go by the names of the state's
    values, with `winding_c`, `case_c`, `controller_c` and `pack_c`. `repeat_share` is the part of
    the time for which the moment can be kept up over and over.
    """

    id: MomentId
    title: str
    during: str
    target_kmh: float | None
    assumed: bool
    met: bool
    time_s: float | None
    distance_m: float | None
    peak_battery_current_a: float | None
    peak_motor_current_a: float | None
    state: StateAnswer
    gear: int
    lasts_s: float
    heat: dict[NodeId, NodeAnswer]
    runs_away: bool
    repeat_share: float
    bands: dict[str, Band]


class Weak(BaseModel):
    """A guess that makes a figure doubtful.

    `share` is its part of the figure's variance, `width_left` what is left of the band's width
    once it is measured, `how` how to measure it.
    """

    path: str
    label: str
    origin: str
    tolerance_pct: float
    share: float
    width_left: float
    how: str


class FigureDoubt(BaseModel):
    """One of the main figures, its band, and the guesses that make it wide, weakest first."""

    value: float | None
    band: Band
    weakest: list[Weak]


class DoubtAnswer(BaseModel):
    """How sure the main figures are, and which guess to measure next for the most of them."""

    figures: dict[FigureId, FigureDoubt]
    measure_next: Weak | None


class StallAnswer(BaseModel):
    """Held stalled at full throttle: seconds to the first limit (None: for ever), and whose."""

    seconds: float | None
    node: NodeId
    motor_current_a: float
    band: Band


class FirstLimit(BaseModel):
    """The first temperature limit that is passed, over climb, cruise and top speed."""

    seconds: float
    node: NodeId
    moment: MomentId


class HeatLimit(BaseModel):
    """How hot a part may get, and by whom."""

    value_c: float
    source: str


class Crossing(BaseModel):
    """Where full throttle meets the road on one grade; `label` names the grade."""

    grade_pct: float
    label: str
    own: bool
    speed_mps: float | None
    force_n: float | None
    limited_by: LimitWord | None
    road_force_n: list[float]


class MapAnswer(BaseModel):
    """Push against what the road asks, over speed; `push` is what that push is called.

    `drive_force_n` and `limited_by` go with `speeds_mps`, and so does the push in each gear of a
    gearbox; there is none without one. Each crossing's road force goes with `road_speeds_mps`.
    """

    push: str
    speeds_mps: list[float]
    drive_force_n: list[float]
    limited_by: list[LimitWord]
    gears_force_n: list[list[float]]
    road_speeds_mps: list[float]
    crossings: list[Crossing]


class Gauge(BaseModel):
    """How much of its tightest amps limit a part uses, at each moment."""

    part: PartId
    label: str
    unit: str
    limit: float
    limit_is: str
    by_moment: dict[MomentId, float]
    worst: MomentId


class LoadLabels(BaseModel):
    """What people call where the power ends, and the load's parts; see `powertrain.load.words`."""

    end: str
    parts: dict[str, str]
    unnamed: str
    weighs: str
    caution: str


class Answer(BaseModel):
    """All that the bench shows of one build."""

    name: str
    drive: str
    in_short: list[Piece]
    load: LoadLabels
    ratio: float
    train_efficiency: float
    pack_rest_v: float
    pack_full_v: float
    pack_wh: float
    usable_wh: float
    range_from_pct: float
    range_to_pct: float
    load_factor: float | None
    loss_names: dict[str, str]
    drive_mass_kg: float | None
    drive_price: float | None
    moments: list[MomentAnswer]
    map: MapAnswer
    gauges: list[Gauge]
    heat_limits: dict[NodeId, HeatLimit]
    heat_estimated: dict[str, str]
    stall: StallAnswer
    first_limit: FirstLimit | None
    doubt: DoubtAnswer
    board: Board
    verdicts: list[Verdict]
    not_judged: list[NotJudged]
    levers: list[Lever]
    warnings: list[Warning]
