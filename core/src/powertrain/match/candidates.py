"""Candidates as a wish sees them: one, or an array of them."""

from dataclasses import dataclass

from powertrain.arrays import Array
from powertrain.stated import Stated
from powertrain.verdicts.context import Batch


@dataclass(frozen=True)
class Candidates:
    """Builds with all that is solved of them, and what they cost and weigh.

    `said` is what their documents state. `price` is NaN where a part's price is not known;
    `added_kg` is the mass of all drive parts.
    """

    said: Stated
    batch: Batch
    price: Array
    added_kg: Array
    stages: Array
