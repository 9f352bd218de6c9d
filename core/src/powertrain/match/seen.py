"""Candidates as a wish sees them: one, or an array of them."""

from dataclasses import dataclass

from powertrain.arrays import Array
from powertrain.verdicts.verdict import Many


@dataclass(frozen=True)
class Seen:
    """Drives with their moments, and what they cost and weigh.

    `price` is NaN where a part's price is not known; `added_kg` is the mass of all drive parts.
    """

    many: Many
    price: Array
    added_kg: Array
    stages: Array
