"""A propeller in numbers: thrust and power at a speed of turning and of the air."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from powertrain.arrays import Array, floats, scalar
from powertrain.propeller.blade import SOUND_MPS
from powertrain.propeller.chart import Charts, generic_chart, stated_chart, together
from powertrain.stated import Stated

FASTEST_TIP = 0.85
"""Share of the speed of sound above which a tip loses more than it gives, and howls."""

LEAST_TURNS = 1e-9


@dataclass(frozen=True)
class Turning:
    """What a propeller does; `advance` is J = V/(n D), `tip_mps` the tips' way through the air."""

    thrust_n: Array
    power_w: Array
    ct: Array
    cp: Array
    advance: Array
    tip_mps: Array


@dataclass(frozen=True)
class Blades:
    """One propeller in some air, or many: `which` finds each one's coefficients."""

    diameter_m: Array
    pitch_m: Array
    density: Array
    which: Array
    charts: Charts
    thrust_share: Array
    power_share: Array
    """Of what the chart says; one but for draws of what nobody knows."""

    @classmethod
    def of(cls, said: Stated, density: Array) -> "Blades":
        """Return the propeller that a document describes, or many that vary one."""
        diameter, pitch = said.number("diameter_mm") / 1000, said.number("pitch_mm") / 1000
        blades = said.number("blades")
        table, static = said.word("table"), said.word("static")
        if table:
            rows = np.array([(row.advance_ratio, row.ct, row.cp) for row in table])
            which, charts = scalar(0.0), stated_chart(*rows.T)
        else:
            which, charts = _generic(diameter, pitch, blades)
        if static is not None:
            # One point of one propeller says how far off its kind is from the generic blade.
            charts = _measured(charts, static, float(said.part.diameter_mm / 1000))
        shares = (_share(said, "thrust_share"), _share(said, "power_share"))
        return cls(diameter, pitch, density, which, charts, *shares)

    @property
    def disc_m2(self) -> Array:
        """Area that the tips go round."""
        return np.pi / 4 * self.diameter_m**2

    def turning(self, turns: Array, air_mps: Array) -> Turning:
        """Return thrust and power at turns a second and a speed of the air along the axis.

        Air from behind is taken for still air: blades that stir their own wake follow no theory.
        """
        turns = np.maximum(turns, LEAST_TURNS)
        advance = np.maximum(air_mps, 0.0) / (turns * self.diameter_m)
        around = np.pi * turns * self.diameter_m
        ct, cp = self.charts.at(self.which, advance, around)
        ct, cp = ct * self.thrust_share, cp * self.power_share
        rho, size = self.density, self.diameter_m
        return Turning(
            thrust_n=ct * rho * turns**2 * size**4,
            power_w=cp * rho * turns**3 * size**5,
            ct=ct,
            cp=cp,
            advance=advance,
            tip_mps=np.hypot(around, np.maximum(air_mps, 0.0)),
        )


def _share(said: Stated, key: str) -> Array:
    return said.number(key) if said.gives(key) else scalar(1.0)


def _generic(diameter_m: Array, pitch_m: Array, blades: Array) -> tuple[Array, Charts]:
    """Return which chart each of some shapes has, and the charts: one of each shape."""
    shapes = np.stack(
        [np.ravel(one) for one in np.broadcast_arrays(pitch_m / diameter_m, blades, diameter_m)]
    )
    known, which = np.unique(shapes, axis=1, return_inverse=True)
    charts = [generic_chart(float(r), int(b), float(d)) for r, b, d in known.T]
    shape = np.broadcast_shapes(np.shape(diameter_m), np.shape(pitch_m), np.shape(blades))
    if shape == ():
        return scalar(0.0), charts[0]
    return floats(which.reshape(shape)).astype(float), together(charts)


def _measured(charts: Charts, static: Any, diameter_m: float) -> Charts:
    """Return charts scaled through one point of a scale and a meter, a factor for each."""
    turns, rho = static.rpm / 60, static.air_density_kg_m3
    around = scalar(np.pi * turns * diameter_m)
    ct, cp = charts.at(scalar(0.0), scalar(0.0), around)
    own_ct = static.thrust_n / (rho * turns**2 * diameter_m**4)
    own_cp = static.shaft_power_w / (rho * turns**3 * diameter_m**5)
    return charts.scaled(float(own_ct / ct), float(own_cp / cp))


def too_fast(tip_mps: float) -> str | None:
    """Return what is to be said of tips near the speed of sound; None where nothing is."""
    if tip_mps <= FASTEST_TIP * SOUND_MPS:
        return None
    return (
        f"the tips go {tip_mps:.0f} m/s, {tip_mps / SOUND_MPS:.2f} of the speed of sound; above "
        f"{FASTEST_TIP:g} of it they lose more than they give, and figures are worth little"
    )
