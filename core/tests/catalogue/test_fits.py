"""What fits: a part is put into the build by hand, and every rule of the bench judges it there."""

from typing import Any

import pytest

from core.tests.conftest import document_with
from powertrain.bench.solve import solve
from powertrain.catalogue.fits import fits_brief, fits_build
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.reading import check_build
from powertrain.shelf.shipped import shipped_shelf
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.registry import judge_all

SHELF = shipped_shelf()
STRICT = {
    "motor.max_rpm": 4200,
    "motor.continuous_current_a": 60,
    "motor.peak_current_a": 120,
    "controller.max_voltage_v": 63,
    "battery.continuous_current_a": 60,
    "moments.climb_length_m": 300,
    "moments.climb_grade_pct": 6,
    "moments.cruise_kmh": 20,
    "moments.launch_to_kmh": 15,
}


@pytest.fixture(scope="module")
def build() -> Build:
    return check_build(document_with(STRICT))


def stopped(changes: dict[str, Any]) -> bool:
    built = check_build(document_with({**STRICT, **changes}))
    verdicts, _ = judge_all(RuleContext.of(built))
    return any(verdict.severity == "stop" for verdict in verdicts)


def dumped(model: Any) -> dict[str, Any]:
    return model.model_dump(mode="json", exclude_unset=True)


def agrees(build: Build, parts: list[Any], placed: Any) -> tuple[int, int]:
    """Hold what is said of each part against the bench; return how many fit and don't."""
    reasons = fits_build(build)(parts)
    for part, reason in zip(parts, reasons, strict=True):
        changes = placed(part)
        wanted = changes is not None and not stopped(changes)
        assert (reason is None) == wanted, (part.id, reason)
    fit = sum(reason is None for reason in reasons)
    return fit, len(reasons) - fit


def test_motors(build):
    def placed(part):
        motor = part.motor
        if part.mounts == "hub" or motor.kind == "packaged" or motor.commutation != "brushless":
            return None
        return {"motor": {**dumped(motor), "count": 1}}

    fit, unfit = agrees(build, SHELF.motors, placed)
    assert fit > 3
    assert unfit > 20


def test_controllers_are_set_as_a_careful_builder_sets_them(build):
    def least(*values):
        known = [value for value in values if value is not None]
        return {"value": min(known)} if known else {}

    def placed(part):
        own = part.controller
        if part.drives != "brushless":
            return None
        motor_a, pack_a = own.motor_current_limit_a, own.battery_current_limit_a
        if part.settable:
            # Motor amps to the least peak that motor or controller names, pack amps to what pack
            # and controller give for long, each on the side its rating is of.
            at_pack = own.rating_side == "battery"
            motor_a = least(motor_a, None if at_pack else own.peak_current_a, 120).get("value")
            pack_a = least(pack_a, own.continuous_current_a if at_pack else None, 60).get("value")
        limits = {"motor_current_limit_a": motor_a, "battery_current_limit_a": pack_a}
        said = {**dumped(own), **{key: value for key, value in limits.items() if value is not None}}
        return {"controller": said}

    fit, unfit = agrees(build, SHELF.controllers, placed)
    assert fit > 2
    assert unfit > 5


def test_packs_come_as_full_as_the_present_one(build):
    # Rested, lithium-ion is empty at 3.0 V and full at 4.18, so that 4.1 V is 93 % of the way;
    # LiFePO4 lies between 2.8 and 3.40, lead between 1.95 and 2.13, NiMH between 1.1 and 1.4,
    # LiPo between 3.3 and 4.18 (common practice, no source).
    ends = {
        "li_ion": (3.0, 4.18),
        "lipo": (3.3, 4.18),
        "lifepo4": (2.8, 3.40),
        "lead_acid": (1.95, 2.13),
        "nimh": (1.1, 1.4),
    }

    def placed(part):
        empty, full = ends[part.battery.chemistry]
        rests = empty + (4.1 - 3.0) / (4.18 - 3.0) * (full - empty)
        return {"battery": {**dumped(part.battery), "cell_voltage_v": rests}}

    fit, unfit = agrees(build, SHELF.packs, placed)
    assert fit > 1
    assert unfit > 5


def test_wheels_wires_and_connectors(build):
    assert agrees(build, SHELF.wheels, lambda part: {"wheel": dumped(part.wheel)})[0] > 3
    thin, thick = agrees(build, SHELF.wires, lambda one: {"wiring.pack_wire_mm2": one.area_mm2})
    assert thin > 0
    assert thick > 0
    plugs = agrees(
        build, SHELF.connectors, lambda part: {"wiring.connector_current_a": part.current_a}
    )
    assert min(plugs) > 0


def test_a_part_has_to_do_what_the_build_does_now():
    # The trike alone leaves it open where it is looked at; the bench says where that is.
    left_open = check_build(document_with({"motor.max_rpm": 4200}))
    shown = {moment.id: moment.target_kmh for moment in solve(left_open).moments}
    said = check_build(
        document_with(
            {
                "motor.max_rpm": 4200,
                "moments.cruise_kmh": shown["cruise"],
                "moments.launch_to_kmh": shown["launch"],
            }
        )
    )
    for parts in (SHELF.wheels, SHELF.motors):
        assert fits_build(left_open)(parts) == fits_build(said)(parts)
    # A wheel so small that the trike crawls would burn its motor on the way.
    told = dict(
        zip([part.id for part in SHELF.wheels], fits_build(left_open)(SHELF.wheels), strict=True)
    )
    assert told["mudlark-55x35"] is not None


def test_teeth_and_chains_need_a_stage_of_their_kind_and_pitch():
    stage = {"kind": "chain", "driver_teeth": 16, "driven_teeth": 60, "efficiency": 0.95}
    eight = check_build(document_with({"gearing": [{**stage, "pitch_mm": 12.7}]}))
    open_pitch = check_build(document_with({"gearing": [stage]}))
    for parts in (SHELF.teeth, SHELF.strands):
        of_eight, of_any = fits_build(eight)(parts), fits_build(open_pitch)(parts)
        for part, said, said_of_any in zip(parts, of_eight, of_any, strict=True):
            chain = part.kind == "chain"
            assert (said is None) == (chain and part.pitch_mm == pytest.approx(12.7)), part.id
            # A stage that does not say its pitch may be of any.
            assert (said_of_any is None) == chain, part.id


def test_a_hub_motor_and_a_geared_one_do_not_stand_in_for_one_another():
    hub = next(part for part in SHELF.motors if part.mounts == "hub")
    shaft = next(part for part in SHELF.motors if part.id == "otterlode-m90-80")
    wheel = check_build(document_with({"gearing": []}))
    geared = check_build(document_with({}))
    assert "needs gearing" in fits_build(wheel)([shaft])[0]
    assert "gearing" in fits_build(geared)([hub])[0]
    assert (
        "brushless"
        in fits_build(geared)(
            [next(part for part in SHELF.motors if part.motor.kind == "series_wound")]
        )[0]
    )


def test_cells_of_another_chemistry_do_not_go_into_the_pack(build):
    told = fits_build(build)(SHELF.cells)
    for part, reason in zip(SHELF.cells, told, strict=True):
        assert (reason is None) == (part.chemistry == "li_ion")


def of_brief(wishes: dict[str, Any]) -> Brief:
    return Brief.model_validate(
        {
            "format": "young-torrent.brief/1",
            "vehicle": {
                "kind": "ground",
                "mass_kg": 90,
                "rolling_resistance": 0.01,
                "drag_area_m2": 0.5,
            },
            "wheel": {"rolling_circumference_mm": 1500},
            "wishes": wishes,
        }
    )


@pytest.mark.parametrize(
    ("wishes", "kind", "fits"),
    [
        (
            {"max_full_charge_v": 42.0},
            "packs",
            lambda part: part.battery.chemistry != "li_ion" or part.battery.series <= 10,
        ),
        (
            {"motor_space": {"diameter_mm": 60}},
            "motors",
            lambda part: part.motor.diameter_mm is not None and part.motor.diameter_mm <= 60,
        ),
        ({"commutation": "brushed"}, "motors", lambda part: part.motor.commutation == "brushed"),
        (
            {"budget": 60},
            "controllers",
            lambda part: part.controller.price is None or part.controller.price <= 60,
        ),
        (
            {"max_added_mass_kg": 1.5},
            "motors",
            lambda part: part.motor.mass_kg is None or part.motor.mass_kg <= 1.5,
        ),
        (
            {"allowed_parts": ["otterlode-m90-80"]},
            "motors",
            lambda part: part.id == "otterlode-m90-80",
        ),
    ],
)
def test_a_brief_asks_a_part_what_the_part_can_answer(wishes, kind, fits):
    parts = [
        part
        for part in getattr(SHELF, kind)
        if kind != "packs" or part.battery.chemistry == "li_ion"
    ]
    told = fits_brief(of_brief(wishes))(parts)
    wanted = [fits(part) for part in parts]
    assert [reason is None for reason in told] == wanted
    assert 0 < sum(wanted) < len(wanted)


def test_what_is_missed_is_told_with_its_figure():
    pack = next(part for part in SHELF.packs if part.battery.series == 13)
    # Thirteen lithium-ion cells end charging at 54.6 V (data sheets).
    said = fits_brief(of_brief({"max_full_charge_v": 42}))([pack])[0]
    assert "42 V" in said
    assert "54.6 V" in said
