"""Constants of nature and of the calendar, each with its source."""

import math

STANDARD_GRAVITY_MPS2 = 9.80665
"""Standard acceleration of gravity (NIST SP 811, B.8)."""

RPM_PER_RAD_S = 60.0 / (2.0 * math.pi)
"""Revolutions per minute in one radian per second (definition)."""

KMH_PER_MPS = 3.6
"""Kilometres per hour in one metre per second (definition)."""

COPPER_OHM_M = 17.24e-9
"""Resistivity of annealed copper at 20 C (IEC 60028)."""
