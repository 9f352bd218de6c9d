"""A part of somebody's own, as the tests of the shelf use it."""

MOTOR = {
    "name": "Old blue can",
    "motor": {
        "kind": "permanent_magnet",
        "kv_rpm_per_v": 790,
        "resistance_ohm": 0.03,
        "no_load_current_a": 0.9,
        "shaft_mm": 5,
    },
}
