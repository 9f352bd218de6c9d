"""A higher pack beside the present one: a verdict with conditions, never just yes or no."""

from typing import Any, Literal

from pydantic import BaseModel

from powertrain.arrays import scalar
from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.bench.answer import Answer, Band, StateAnswer
from powertrain.bench.solve import solve
from powertrain.compile.build import compile_drive, with_moments
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build
from powertrain.doubt.tolerances import doubtful_inputs
from powertrain.errors import Refusal
from powertrain.operating.peaks import peaks_to

Weight = Literal["fine", "condition", "stop"]


class Side(BaseModel):
    """The present or the higher pack, in figures, and the bands of those that doubt touches.

    `state` is where the watts go at top speed.
    """

    series: int
    full_v: float
    nominal_v: float
    free_rpm: float
    loaded_rpm: float
    top_speed_kmh: float
    pack_limit_a: float | None
    pack_peak_w: float
    winding_climb_c: float | None
    case_climb_c: float | None
    state: StateAnswer
    bands: dict[str, Band]


class Condition(BaseModel):
    """One limit that the higher pack meets or not, and what has to be so for it."""

    id: str
    weight: Weight
    say: str


class OvervoltAnswer(BaseModel):
    """Both packs and the conditions; `change` sets the higher pack with its limit."""

    now: Side
    then: Side
    over_pct: float
    verdict: str
    conditions: list[Condition]
    schools: list[str]
    change: dict[str, Any]


SCHOOLS = [
    "One school holds to the maker's cells: what is printed was tested, and nobody pays for what "
    "burns above it.",
    "The other goes by the limits alone: rpm free at full charge, controller volts, heat. Motors "
    "30 to 50 % over their volts often live, if the watts stay where they were.",
]


def overvolt(build: Build, series: int) -> OvervoltAnswer:
    """Return what becomes of a build with `series` cells of its kind.

    The pack's amps limit is lowered in proportion to the volts, which keeps the watts; cutting
    motor amps instead would cut torque.

    Raises
    ------
    Refusal
        If it is not more cells than there are.
    """
    if series <= build.battery.series:
        raise Refusal("series", f"must be above the {build.battery.series} there are")
    build = with_moments(build)
    limit = build.controller.battery_current_limit_a
    change: dict[str, Any] = {"battery.series": series}
    if limit is not None:
        lowered = limit * build.battery.series / series
        change["controller.battery_current_limit_a"] = float(f"{lowered:.3g}")
    document = build.model_dump(mode="json", exclude_unset=True)
    higher = check_build(changed(document, change))
    solved = solve(higher)
    now, then = _side(build, solve(build)), _side(higher, solved)
    conditions = [
        _rpm(build, then),
        *_volts(higher, then),
        _watts(build, change, now, then),
        _heat(solved),
        _brakes(build, then),
    ]
    return OvervoltAnswer(
        now=now,
        then=then,
        over_pct=100 * (series / build.battery.series - 1),
        verdict=_verdict(conditions),
        conditions=conditions,
        schools=SCHOOLS,
        change=change,
    )


def _side(build: Build, answer: Answer) -> Side:
    moments = {moment.id: moment for moment in answer.moments}
    top, climb = moments["top_speed"], moments["climb"]
    chemistry = CHEMISTRIES[build.battery.chemistry]
    drive = compile_drive(build)
    peaks = peaks_to(drive, scalar(top.state.speed_mps))
    peak_w = max(float(peaks.terminals_w), *(m.state.terminals_w for m in (top, climb)))
    return Side(
        series=build.battery.series,
        full_v=answer.pack_full_v,
        nominal_v=build.battery.series * chemistry.nominal_v,
        free_rpm=moments["wheels_up"].state.motor_rpm,
        loaded_rpm=top.state.motor_rpm,
        top_speed_kmh=3.6 * top.state.speed_mps,
        pack_limit_a=build.controller.battery_current_limit_a,
        pack_peak_w=peak_w,
        winding_climb_c=climb.heat["winding"].after_c,
        case_climb_c=climb.heat["case"].after_c,
        state=top.state,
        bands={
            "free_rpm": moments["wheels_up"].bands["motor_rpm"],
            "loaded_rpm": top.bands["motor_rpm"],
            "top_speed_kmh": answer.doubt.figures["top_speed_kmh"].band,
            "winding_climb_c": climb.bands["winding_c"],
            "case_climb_c": climb.bands["case_c"],
        },
    )


def _rpm(build: Build, then: Side) -> Condition:
    """Judge free rpm straight off the charger, with the doubt of the motor's KV."""
    limit = build.motor.max_rpm
    if compile_drive(build).motor.races_unloaded:
        return _loaded_rpm(limit, then)
    doubts = {one.path: 100 * one.tolerance for one in doubtful_inputs(build)}
    off = round(doubts.get("motor.kv_rpm_per_v", 0.0), 1)
    most = then.free_rpm * (1 + off / 100)
    if limit is None:
        say = (
            f"With its wheels in the air it turns {then.free_rpm:,.0f} rpm (within {off:g} %): "
            "find out the motor's highest rpm first."
        )
        return Condition(id="free_rpm", weight="condition", say=say)
    if then.free_rpm > limit:
        say = f"With its wheels in the air it turns {then.free_rpm:,.0f} rpm of {limit:,.0f}."
        return Condition(id="free_rpm", weight="stop", say=say)
    if most > limit:
        say = (
            f"{then.free_rpm:,.0f} rpm in the air, of {limit:,.0f}: within {off:g} % of doubt it "
            "may pass. Measure its KV first, and never lift the wheels at full throttle."
        )
        return Condition(id="free_rpm", weight="condition", say=say)
    say = f"In the air it turns {then.free_rpm:,.0f} rpm of {limit:,.0f}, doubt included."
    return Condition(id="free_rpm", weight="fine", say=say)


def _loaded_rpm(limit: float | None, then: Side) -> Condition:
    """Judge a motor that always races unloaded: by its load."""
    say = f"Loaded, it turns {then.loaded_rpm:,.0f} rpm at top speed"
    say += "; find out its highest rpm first" if limit is None else f" of {limit:,.0f}"
    loose = "Unloaded it races at any volts: never lift the wheels, and couple it firmly."
    over = limit is not None and then.loaded_rpm > limit
    weight: Weight = "stop" if over else "condition"
    return Condition(id="free_rpm", weight=weight, say=f"{say}. {loose}")


def _volts(build: Build, then: Side) -> list[Condition]:
    found = _motor_volts(build, then)
    controller = build.controller
    for key, noun, limit in (
        ("controller_volts", "The controller is rated", controller.max_voltage_v),
        ("capacitors", "Its capacitors are rated", controller.capacitor_voltage_v),
    ):
        if limit is None:
            say = f"{noun} for nobody knows what: read it before {then.full_v:.1f} V go on."
            found.append(Condition(id=key, weight="condition", say=say))
        else:
            over = then.full_v > limit * (1 + 1e-9)
            say = f"{noun} {limit:g} V; straight off the charger come {then.full_v:.1f} V."
            found.append(Condition(id=key, weight="stop" if over else "fine", say=say))
    return found


def _motor_volts(build: Build, then: Side) -> list[Condition]:
    """Judge the volts against what the motor's maker allows, where he is known to."""
    limit = build.motor.max_voltage_v
    if limit is not None:
        over = then.nominal_v > limit * (1 + 1e-9)
        say = f"The motor's maker allows {limit:g} V; the pack would have {then.nominal_v:.1f} V."
        if over:
            say += " Brushes, bars and insulation were tried at those: ask him first."
        return [Condition(id="motor_volts", weight="condition" if over else "fine", say=say)]
    if build.motor.commutation != "brushed":
        return []
    say = (
        "Nobody tells the motor's highest volts: more of them between the bars of its commutator "
        "make a ring of fire. Ask its maker; watch the brushes in the dark at first."
    )
    return [Condition(id="motor_volts", weight="condition", say=say)]


def _watts(build: Build, change: dict[str, Any], now: Side, then: Side) -> Condition:
    limit = build.controller.battery_current_limit_a
    if limit is None:
        say = (
            f"No pack amps limit is set: the pack would give up to {then.pack_peak_w:,.0f} W "
            f"instead of {now.pack_peak_w:,.0f} W. Set one."
        )
        return Condition(id="watts", weight="condition", say=say)
    lowered = change["controller.battery_current_limit_a"]
    say = (
        f"Lower the pack amps limit from {limit:g} to {lowered:g} A: the watts stay at "
        f"{lowered * then.nominal_v:,.0f} W. Leave the motor amps: cutting those cuts torque."
    )
    return Condition(id="watts", weight="condition", say=say)


def _heat(answer: Answer) -> Condition:
    hot = [verdict for verdict in answer.verdicts if verdict.id.endswith("_temperature")]
    stops = [verdict for verdict in hot if verdict.severity == "stop"]
    if stops:
        return Condition(id="heat", weight="stop", say=f"{stops[0].title}.")
    # A hill that is not climbed is stood on at full throttle.
    stuck = [one for one in answer.verdicts if one.id == "asked_climb" and one.severity != "ok"]
    if stuck:
        return Condition(id="heat", weight="condition", say=f"{stuck[0].title}.")
    watched = [verdict for verdict in hot if verdict.severity == "watch"]
    if watched:
        return Condition(id="heat", weight="condition", say=f"{watched[0].title}.")
    return Condition(
        id="heat", weight="fine", say="Nothing passes its temperature on the hill or at cruise."
    )


def _brakes(build: Build, then: Side) -> Condition:
    rated = build.vehicle.rated_speed_kmh
    if rated is None:
        say = (
            f"It goes {then.top_speed_kmh:.0f} km/h then: see that frame, tyres and brakes were "
            "made for that, and what the law says of it."
        )
        return Condition(id="brakes", weight="condition", say=say)
    if then.top_speed_kmh <= rated:
        say = f"It goes {then.top_speed_kmh:.0f} km/h; frame and brakes were made for {rated:g}."
        return Condition(id="brakes", weight="fine", say=say)
    say = (
        f"It goes {then.top_speed_kmh:.0f} km/h then, and frame and brakes were made for "
        f"{rated:g}: gear it down to that, limit its speed, or have better brakes."
    )
    return Condition(id="brakes", weight="condition", say=say)


def _verdict(conditions: list[Condition]) -> str:
    stops = sum(one.weight == "stop" for one in conditions)
    asked = sum(one.weight == "condition" for one in conditions)
    if stops:
        first = next(one for one in conditions if one.weight == "stop")
        return f"Not like this: {first.say}"
    if asked:
        return f"It can be done on {asked} condition{'s' if asked > 1 else ''}."
    return "Nothing known speaks against it."
