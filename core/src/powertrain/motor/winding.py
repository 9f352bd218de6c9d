"""By what number the windings of one can are told apart."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Winding:
    """A winding's number, its unit, and the document path where it stands.

    `rises_with_speed` says whether a larger number is a faster motor at the same volts.
    """

    value: float
    unit: str
    path: str
    rises_with_speed: bool = True
