"""Shelves small enough to try everything on them, and briefs that each look at one case."""

import json
from pathlib import Path

from powertrain.documents.brief import Brief
from powertrain.documents.shelf import Shelf
from powertrain.shelf.shipped import shipped_shelf

TRIKE = json.loads((Path(__file__).parents[3] / "docs/examples/brief-trike.json").read_text())

CARTS = {
    "motors": ("otterlode-m90-80", "sedgeholt-o80-75", "millsluice-h246-10"),
    "controllers": ("withyvane-t100-60", "fenlode-l120-50"),
    "packs": ("merewisp-c21-50-10s4p", "merewisp-c21-40p-12s4p"),
    "teeth": {
        "lockgate-c8-driver": (9, 13),
        "lockgate-c8-driven": (44, 68),
        "lockgate-c12-driver": (9, 13),
        "lockgate-c12-driven": (36, 52),
    },
}

OLD = {
    "motors": ("hollinfen-g115-110", "tarnlow-f102-85", "hollinfen-p150-48"),
    "controllers": ("withyvane-d150-60", "withyvane-d70-60", "withyvane-k150-63"),
    "packs": ("hollinfen-l2-18-18s1p", "merewisp-c21-40p-14s5p"),
    "teeth": {"lockgate-c15-driver": (11, 15), "lockgate-c15-driven": (38, 54)},
}

TWINS = {
    "motors": ("otterlode-m90-80", "sedgeholt-o80-75"),
    # One has an output for each of two motors, of the other two are taken.
    "controllers": ("withyvane-t2x60-60", "withyvane-t60-60", "fenlode-l120-50"),
    "packs": ("merewisp-c21-50-10s4p", "merewisp-c21-40p-12s4p"),
    "teeth": CARTS["teeth"],
}

MODELS = {
    "motors": ("reedquay-n36-2400", "sedgeholt-o35-790", "tarnlow-f36-900"),
    "controllers": ("fenlode-l45-13", "fenlode-b40-13"),
    "packs": ("saltern-y50-2s1p", "saltern-n50-6s1p"),
    "teeth": {"lockgate-m08-driver": (11, 15, 20), "lockgate-m08-driven": (44, 56)},
}

BRIEFS = {
    "trike": (CARTS, {**TRIKE["wishes"], "max_added_mass_kg": 14}, {}),
    "trike, quick away, stalls": (
        CARTS,
        {
            "top_speed_kmh": {"min": 20},
            "climb": {"grade_pct": 8, "speed_kmh": 10},
            "launch": {"to_kmh": 15, "within_s": 4},
            "run_up_m": 60,
            "hold_stall_s": 8,
        },
        {},
    ),
    "trike with a pack of its own": (
        CARTS,
        {
            "climb": {"grade_pct": 5},
            "budget": 400,
            "pack_space": {"length_mm": 300, "width_mm": 200, "height_mm": 90},
        },
        {"battery": "merewisp-c21-50-10s4p"},
    ),
    "trike on little grip": (
        CARTS,
        {"top_speed_kmh": {"min": 22}, "climb": {"grade_pct": 5, "speed_kmh": 10}},
        {},
        {"vehicle": {"traction": {"friction": 0.35, "driven_share": 0.5}}},
    ),
    "trike with the wind behind it": (
        CARTS,
        {"top_speed_kmh": {"min": 20, "max": 45}, "cruise_kmh": 18},
        {},
        {"conditions": {"headwind_mps": -14.0}},
    ),
    "trike with a gearbox": (
        CARTS,
        {
            "top_speed_kmh": {"min": 18, "max": 44},
            "climb": {"grade_pct": 7, "speed_kmh": 9},
            "cruise_kmh": 16,
        },
        {"gearing": [{"kind": "gearbox", "ratios": [10, 6, 4], "efficiency": 0.96}]},
        {"brief": {"final_drive": {"ratio": 2.0, "efficiency": 0.97}}},
    ),
    "trike with the axle's own ratio": (
        CARTS,
        {"top_speed_kmh": {"min": 20}, "climb": {"grade_pct": 6, "speed_kmh": 8}},
        {},
        {"brief": {"final_drive": {"ratio": 2.0, "efficiency": 0.97}}},
    ),
    "small wheels": (
        CARTS,
        {"top_speed_kmh": {"min": 4}, "climb": {"grade_pct": 4}},
        {},
        {"wheel": {"rolling_circumference_mm": 420}, "vehicle": {"mass_kg": 60}},
    ),
    "two motors": (
        TWINS,
        {"top_speed_kmh": {"min": 20}, "climb": {"grade_pct": 8, "speed_kmh": 8}},
        {},
        {"brief": {"motor_count": 2}},
    ),
    "trolley": (
        OLD,
        {
            "top_speed_kmh": {"min": 10, "max": 25},
            "climb": {"grade_pct": 3, "speed_kmh": 8},
            "range_km": 6,
        },
        {},
    ),
    "small and fast": (
        MODELS,
        {
            "top_speed_kmh": {"min": 30},
            "commutation": "brushless",
            "cruise_kmh": 20,
            "motor_space": {"diameter_mm": 37},
            "allowed_parts": ["fenlode-l45-13"],
        },
        {},
    ),
}

VEHICLES = {
    id(TWINS): (TRIKE["vehicle"], TRIKE["wheel"]),
    id(CARTS): (TRIKE["vehicle"], TRIKE["wheel"]),
    id(OLD): (
        {"kind": "ground", "mass_kg": 400, "rolling_resistance": 0.012, "drag_area_m2": 1.5},
        {"rolling_circumference_mm": 1200},
    ),
    id(MODELS): (
        {"kind": "ground", "mass_kg": 2.2, "rolling_resistance": 0.03, "drag_area_m2": 0.03},
        {"rolling_circumference_mm": 330},
    ),
}


def small_shelf(chosen):
    whole = shipped_shelf()
    teeth = [
        item.model_copy(
            update={"sizes": [s for s in item.sizes if s.teeth in chosen["teeth"][item.id]]}
        )
        for item in whole.teeth
        if item.id in chosen["teeth"]
    ]
    kinds = {
        kind: [part for part in getattr(whole, kind) if part.id in chosen[kind]]
        for kind in ("motors", "controllers", "packs")
    }
    assert all(len(kinds[kind]) == len(chosen[kind]) for kind in kinds)
    return Shelf(format="young-torrent.shelf/1", teeth=teeth, **kinds)


def brief_of(name):
    chosen, wishes, owned, *more = BRIEFS[name]
    vehicle, wheel = VEHICLES[id(chosen)]
    changes = more[0] if more else {}
    vehicle = {**vehicle, **changes.get("vehicle", {})}
    wheel = {**wheel, **changes.get("wheel", {})}
    document = {
        "format": "young-torrent.brief/1",
        "vehicle": vehicle,
        "wheel": wheel,
        "wishes": wishes,
        "owned": owned,
        "conditions": changes.get("conditions", {}),
        **changes.get("brief", {}),
    }
    return Brief.model_validate(document), small_shelf(chosen)
