"""Conversions between the documents' units and SI, each by its definition."""

from typing import TypeVar

import numpy as np

from powertrain.arrays import Array
from powertrain.constants import KMH_PER_MPS, RPM_PER_RAD_S

Real = TypeVar("Real", float, Array)


def rpm_from_rad_s(speed_rad_s: Real) -> Real:
    """Return revolutions per minute."""
    return speed_rad_s * RPM_PER_RAD_S


def mps_from_kmh(speed_kmh: Real) -> Real:
    """Return metres per second."""
    return speed_kmh / KMH_PER_MPS


def kmh_from_mps(speed_mps: Real) -> Real:
    """Return kilometres per hour."""
    return speed_mps * KMH_PER_MPS


def torque_constant_nm_per_a(kv_rpm_per_v: Real) -> Real:
    """Return Kt = 60/(2 pi KV), in N.m/A and equally V.s/rad.

    Source: identity of the SI units of both constants of a DC machine.

    Examples
    --------
    >>> round(torque_constant_nm_per_a(60.0), 6)
    0.159155
    """
    return RPM_PER_RAD_S / kv_rpm_per_v


def radius_m_from_circumference_mm(circumference_mm: Real) -> Real:
    """Return the rolling radius of a wheel that advances `circumference_mm` in one turn."""
    return circumference_mm / (2000.0 * np.pi)
