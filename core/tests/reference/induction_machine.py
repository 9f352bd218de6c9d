"""Generates induction_machine.json: steady states of induction machines by a simulation library.

Run in an environment of its own with motulator 0.5.0 and scipy:
``python core/tests/reference/induction_machine.py``. The library is too heavy to come along in
every test run; what it said is kept beside this file.
"""

import json
from pathlib import Path

import numpy as np
from motulator.drive.model import InductionMachine
from motulator.drive.utils import InductionMachineInvGammaPars, InductionMachinePars
from scipy.optimize import fsolve, minimize_scalar

MACHINES = {
    "cart": {"n_p": 2, "R_s": 0.011, "R_R": 0.008, "L_sgm": 0.06e-3, "L_M": 0.9e-3},
    "truck": {"n_p": 3, "R_s": 0.004, "R_R": 0.006, "L_sgm": 0.1e-3, "L_M": 1.6e-3},
}
PHASE_V = 30.0
SPEEDS = (60.0, 150.0, 300.0)
SLIPS = (12.0, 25.0, 40.0)


def steady(parameters, speed_rad_s, slip_rad_s):
    """Return torque, amps (peak) and watts at a slip, `PHASE_V` at the terminals."""
    gamma = InductionMachinePars.from_inv_gamma_model_pars(
        InductionMachineInvGammaPars(**parameters)
    )
    machine = InductionMachine(gamma)
    stator_rad_s = parameters["n_p"] * speed_rad_s + slip_rad_s
    machine.inp.u_ss, machine.inp.w_M = PHASE_V + 0j, speed_rad_s

    def changes(unknown):
        fluxes = unknown[0] + 1j * unknown[1], unknown[2] + 1j * unknown[3]
        machine.state.psi_ss, machine.state.psi_rs = fluxes
        machine.set_outputs(0)
        slopes = machine.rhs()
        # A steady state turns with the volts.
        still = [s - 1j * stator_rad_s * f for s, f in zip(slopes, fluxes, strict=True)]
        return [still[0].real, still[0].imag, still[1].real, still[1].imag]

    fsolve(changes, [0.0, -0.1, 0.0, -0.1], xtol=1e-12)
    watts = 1.5 * (machine.inp.u_ss * np.conj(machine.i_ss)).real
    return float(machine.tau_M), float(abs(machine.i_ss)), float(watts)


def main():
    said = {"phase_v": PHASE_V, "machines": {}}
    for name, parameters in MACHINES.items():
        points = []
        for speed in SPEEDS:
            for slip in SLIPS:
                torque, amps, watts = steady(parameters, speed, slip)
                points.append(
                    {
                        "speed_rad_s": speed,
                        "slip_rad_s": slip,
                        "torque_nm": torque,
                        "peak_a": amps,
                        "terminal_w": watts,
                    }
                )
        breakdown = []
        for speed in SPEEDS:
            found = minimize_scalar(
                lambda slip, at=(parameters, speed): -steady(*at, slip)[0],
                bounds=(1.0, 400.0),
                method="bounded",
                options={"xatol": 1e-9},
            )
            breakdown.append({"speed_rad_s": speed, "torque_nm": float(-found.fun)})
        said["machines"][name] = {
            "parameters": parameters,
            "points": points,
            "breakdown": breakdown,
        }
    Path(__file__).with_suffix(".json").write_text(json.dumps(said, indent=1) + "\n")


if __name__ == "__main__":
    main()
