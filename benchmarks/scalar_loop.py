"""Top speed the plain way: one build, Python floats, bisection. The yardstick of the ratios."""

import math


def top_speed_mps(build: dict, grade_pct: float = 0.0) -> float:
    """Return the top speed of a plain build document without standby or brush drop."""
    battery, motor, controller = build["battery"], build["motor"], build["controller"]
    vehicle = build["vehicle"]
    open_v = battery["series"] * battery["cell_voltage_v"]
    pack_ohm = battery["series"] / battery["parallel"] * battery["cell_resistance_mohm"] / 1000
    pack_ohm += battery["wiring_resistance_mohm"] / 1000
    k = 60 / (2 * math.pi * motor["kv_rpm_per_v"])
    ohm = motor["resistance_ohm"] + controller["resistance_ohm"]
    ratio, eta = 1.0, 1.0
    for stage in build["gearing"]:
        ratio *= stage["driven_teeth"] / stage["driver_teeth"]
        eta *= stage["efficiency"]
    radius = build["wheel"]["rolling_circumference_mm"] / 2000 / math.pi
    slope = math.atan(grade_pct / 100)
    weight = vehicle["mass_kg"] * 9.80665
    still = weight * (vehicle["rolling_resistance"] * math.cos(slope) + math.sin(slope))
    motor_limit = controller["motor_current_limit_a"]
    pack_limit = controller["battery_current_limit_a"]

    def spare(v: float) -> float:
        w = v / radius * ratio
        amps = max(0.0, (open_v - k * w) / (pack_ohm + ohm))
        pack = amps
        if amps > motor_limit:
            amps = motor_limit
            power = amps * (k * w + amps * ohm)
            pack = 2 * power / (open_v + math.sqrt(open_v * open_v - 4 * pack_ohm * power))
        if pack > pack_limit:
            power = (open_v - pack_limit * pack_ohm) * pack_limit
            amps = 2 * power / (k * w + math.sqrt(k * w * k * w + 4 * ohm * power))
        push = k * (amps - motor["no_load_current_a"]) * ratio * eta / radius
        return push - still - 0.5 * 1.225 * vehicle["drag_area_m2"] * v * v

    low, high = 0.0, open_v / k / ratio * radius
    for _ in range(52):
        middle = (low + high) / 2
        low, high = (middle, high) if spare(middle) > 0 else (low, middle)
    return low
