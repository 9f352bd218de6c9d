"""What is read on a test day, as people say it."""

WORDS = {
    "speed_kmh": ("speed", "km/h"),
    "motor_rpm": ("turns of the motor", "rpm"),
    "wheel_rpm": ("turns of the wheel", "rpm"),
    "battery_voltage_v": ("pack volts", "V"),
    "battery_current_a": ("pack amps", "A"),
    "motor_current_a": ("motor amps", "A"),
    "time_s": ("time", "s"),
    "distance_m": ("way", "m"),
    "distance_km": ("way", "km"),
    "energy_wh": ("watt-hours", "Wh"),
    "soc_end_pct": ("charge left", "%"),
    "thrust_n": ("thrust", "N"),
    "rolling_circumference_mm": ("one turn of the wheel", "mm"),
    "winding_c": ("winding", "C"),
    "case_c": ("motor's case", "C"),
    "controller_c": ("controller", "C"),
    "pack_c": ("pack", "C"),
}
"""What is read, as people call it, and its unit."""

KINDS = {
    "free": "wheels in the air",
    "static": "standing at full throttle",
    "top_speed": "top speed",
    "steady": "at a held speed",
    "launch": "a standing start",
    "coast_down": "rolling out",
    "temperature": "temperature",
    "trip": "a trip",
    "roll_out": "one turn of the wheel",
    "telemetry": "the logger",
}
