"""A propeller in numbers: thrust and power at a speed of turning and of the air."""

from dataclasses import dataclass

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
    """Of what the chart says: by a static test, and in draws of what nobody knows."""

    @classmethod
    def of(cls, said: Stated, density: Array) -> "Blades":
        """Return the propeller that a document describes, or many that vary one."""
        diameter, pitch = said.number("diameter_mm") / 1000, said.number("pitch_mm") / 1000
        which, charts = _chart(said)
        of_thrust, of_power = _share(said, "thrust_share"), _share(said, "power_share")
        if said.word("static") is not None:
            ct_share, cp_share = _measured(said)
            of_thrust, of_power = of_thrust * ct_share, of_power * cp_share
        return cls(diameter, pitch, density, which, charts, of_thrust, of_power)

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


def _chart(said: Stated) -> tuple[Array, Charts]:
    """Return which chart a propeller has, or each of many, and the charts: one of each shape."""
    table = said.word("table")
    if table:
        rows = np.array([(row.advance_ratio, row.ct, row.cp) for row in table])
        return scalar(0.0), stated_chart(*rows.T)
    diameter_m = said.number("diameter_mm") / 1000
    ratio, blades = said.number("pitch_mm") / 1000 / diameter_m, said.number("blades")
    shapes = np.stack([np.ravel(one) for one in np.broadcast_arrays(ratio, blades, diameter_m)])
    known, which = np.unique(shapes, axis=1, return_inverse=True)
    charts = [generic_chart(float(r), int(b), float(d)) for r, b, d in known.T]
    shape = np.broadcast_shapes(np.shape(ratio), np.shape(blades))
    if shape == ():
        return scalar(0.0), charts[0]
    return floats(which.reshape(shape)).astype(float), together(charts)


def _measured(said: Stated) -> tuple[Array, Array]:
    """Return thrust and power of a scale and a meter over those of the chart.

    Of many that vary one propeller the point is that one's: it says how far off its kind is from
    the generic blade. Where each has a point of its own, it is held against its own chart.
    """
    point = said.under("static")
    each = any(point.varies(key) for key in ("rpm", "thrust_n", "shaft_power_w"))
    own = said if each else Stated(said.part)
    which, charts = _chart(own)
    diameter_m = own.number("diameter_mm") / 1000
    turns, rho = point.number("rpm") / 60, point.number("air_density_kg_m3")
    ct, cp = charts.at(which, scalar(0.0), np.pi * turns * diameter_m)
    own_ct = point.number("thrust_n") / (rho * turns**2 * diameter_m**4)
    own_cp = point.number("shaft_power_w") / (rho * turns**3 * diameter_m**5)
    return own_ct / ct, own_cp / cp


def too_fast(tip_mps: float) -> str | None:
    """Return what is to be said of tips near the speed of sound; None where nothing is."""
    if tip_mps <= FASTEST_TIP * SOUND_MPS:
        return None
    return (
        f"the tips go {tip_mps:.0f} m/s, {tip_mps / SOUND_MPS:.2f} of the speed of sound; above "
        f"{FASTEST_TIP:g} of it they lose more than they give, and figures are worth little"
    )
