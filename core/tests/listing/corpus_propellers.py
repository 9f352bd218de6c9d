"""Lines as people write them of propellers, and of motors sold with one; see `corpus`.

Invented; sizes are in inches where a shop says none, which is common practice, no source.
"""

from typing import Any

Line = tuple[str, str, dict[str, Any], dict[str, Any]]

INCH = 25.4


def size(diameter: float, pitch: float, **more: Any) -> dict[str, Any]:
    return {"diameter_mm": diameter * INCH, "pitch_mm": pitch * INCH, **more}


PROPELLERS: list[Line] = [
    (
        "propellers",
        "Sallowfen R 10x5 propeller, 2 blade, 14 g",
        size(10, 5, blades=2, mass_kg=0.014),
        {},
    ),
    ("propellers", "9x4.7SF prop", size(9, 4.7), {}),
    ("propellers", "254 x 127 mm propeller", {"diameter_mm": 254, "pitch_mm": 127}, {}),
    (
        "propellers",
        "10x5R pusher prop",
        size(10, 5, position="pusher"),
        {"rotation": "counter_clockwise"},
    ),
    (
        "propellers",
        "3-blade 8x4.5 prop, CCW, 6 mm bore",
        size(8, 4.5, blades=3, rotation="counter_clockwise", **{"facts.bore_mm": 6}),
        {},
    ),
    (
        "propellers",
        "carbon propeller 15x5.5 max 8,500 rpm 24 g € 18.50",
        size(15, 5.5, max_rpm=8500, mass_kg=0.024, price=18.5),
        {},
    ),
    ("propellers", "1045 propellers pair", {"facts.pieces": 2}, size(10, 4.5)),
    ("propellers", "wooden prop 34x17 inch, weight 1.1 kg", size(34, 17, mass_kg=1.1), {}),
    ("propellers", "prop diameter 16 in pitch 8 in", size(16, 8), {}),
    ("propellers", "8x6x3 propeller", size(8, 6, blades=3), {}),
    ("propellers", "propeller 5x3 max rpm 30,000", size(5, 3, max_rpm=30000), {}),
    (
        "propellers",
        "twin blade 20x10 tractor propeller, clockwise",
        size(20, 10, blades=2, position="tractor", rotation="clockwise"),
        {},
    ),
    ("propellers", "11 x 5.5 prop", size(11, 5.5), {}),
    (
        "propellers",
        "Prop 7x4, two blades, 5 g, £2.40",
        size(7, 4, blades=2, mass_kg=0.005, price=2.4),
        {},
    ),
    ("propellers", "12x6E propeller", size(12, 6), {}),
    ("propellers", "13x6.5 electric propeller, up to 11,000 rpm", size(13, 6.5, max_rpm=11000), {}),
    (
        "propellers",
        "four blade propeller 16x9 anti-clockwise",
        size(16, 9, blades=4, rotation="counter_clockwise"),
        {},
    ),
    (
        "propellers",
        "propeller dia. 900 mm pitch 450 mm, 2 blades, 1.6 kg",
        {"diameter_mm": 900, "pitch_mm": 450, "blades": 2, "mass_kg": 1.6},
        {},
    ),
    (
        "propellers",
        "set of 4 props 6x4.5 CW",
        size(6, 4.5, rotation="clockwise", **{"facts.pieces": 4}),
        {},
    ),
    ("propellers", "5045 prop", {}, size(5, 4.5)),
    (
        "propellers",
        "28x14 pusher prop for airboat, 25 mm bore",
        size(28, 14, position="pusher", **{"facts.bore_mm": 25}),
        {},
    ),
    (
        "propellers",
        "Heronholt W 30 x 13 inch wood propeller, limit 4,400 rpm",
        size(30, 13, max_rpm=4400),
        {},
    ),
    (
        "propellers",
        "prop 14 x 7 in, static thrust 2.1 kg",
        size(14, 7, **{"facts.thrust_n": 20.59}),
        {},
    ),
    ("propellers", "40 cm x 20 cm propeller", {"diameter_mm": 400, "pitch_mm": 200}, {}),
    ("propellers", "8x4", size(8, 4), {}),
    (
        "propellers",
        '17x10" propeller, 3 pcs, 45 g',
        size(17, 10, mass_kg=0.045, **{"facts.pieces": 3}),
        {},
    ),
]

SOLD_WITH: list[Line] = [
    (
        "motors",
        "2212 920KV motor, prop 10x4.5, thrust 850 g at 11.1 V 15 A",
        {
            "facts.stator_diameter_mm": 22,
            "facts.stator_height_mm": 12,
            "kv_rpm_per_v": 920,
            "facts.propeller": "10x4.5",
            "facts.thrust_n": 8.336,
            "facts.rated_voltage_v": 11.1,
        },
        {"peak_current_a": 15},
    ),
    (
        "motors",
        "2814 1,000KV 12x6 prop 1.9 kg thrust 38 A max",
        {
            "facts.stator_diameter_mm": 28,
            "facts.stator_height_mm": 14,
            "kv_rpm_per_v": 1000,
            "facts.propeller": "12x6",
            "facts.thrust_n": 18.63,
            "peak_current_a": 38,
        },
        {},
    ),
]
