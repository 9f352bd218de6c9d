"""Generates dc_machines.json: steady states of DC machines by a simulation library.

Run in an environment of its own with gym-electric-motor 3.0.3 and scipy:
``python core/tests/reference/dc_machines.py``. The library is too heavy to come along in every
test run; what it said is kept beside this file.
"""

import json
from pathlib import Path

import numpy as np
from gym_electric_motor.physical_systems import electric_motors
from scipy.optimize import fsolve

VOLTS = 48.0
MAGNETS = {"r_a": 0.1, "psi_e": 0.1, "l_a": 1e-3, "j_rotor": 1e-3}
SERIES = {
    "r_a": 0.016,
    "r_e": 0.048,
    "l_a": 1e-3,
    "l_e": 1e-3,
    "l_e_prime": 1.7e-3,
    "j_rotor": 1e-3,
}


def steady(motor, load_nm, guess):
    """Return current and speed at which neither current nor speed changes."""

    def changes(unknown):
        amps, speed = unknown
        state = np.array([amps])
        slope = motor.electrical_ode(state, np.array([VOLTS]), speed)
        return [float(np.atleast_1d(slope)[0]), motor.torque(state) - load_nm]

    amps, speed = fsolve(changes, guess, xtol=1e-13)
    return {"load_nm": load_nm, "current_a": float(amps), "speed_rad_s": float(speed)}


def main():
    magnets = electric_motors.DcPermanentlyExcitedMotor(motor_parameter=MAGNETS)
    series = electric_motors.DcSeriesMotor(motor_parameter=SERIES)
    loads = (1.0, 5.0, 15.0)
    said = {
        "volts": VOLTS,
        "permanent_magnet": {
            "parameters": MAGNETS,
            "points": [steady(magnets, t, [40, 300]) for t in loads],
        },
        "series": {"parameters": SERIES, "points": [steady(series, t, [60, 300]) for t in loads]},
    }
    Path(__file__).with_suffix(".json").write_text(json.dumps(said, indent=1) + "\n")


if __name__ == "__main__":
    main()
