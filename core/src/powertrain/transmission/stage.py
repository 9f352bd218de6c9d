"""One reduction in numbers: its ratio, its loss, its teeth and what those are made of."""

from dataclasses import dataclass

import numpy as np

from powertrain.arrays import Array, scalar
from powertrain.stated import Stated
from powertrain.transmission.train import TOOTHED, ratio_of

SIZES = (
    "driver_teeth",
    "driven_teeth",
    "pitch_mm",
    "allowed_pull_n",
    "module_mm",
    "face_mm",
    "allowed_stress_mpa",
)


@dataclass(frozen=True)
class StageData:
    """One stage, or many of one kind; what is not stated, or has no teeth, is NaN."""

    kind: str
    ratio: Array
    efficiency: Array
    driver_teeth: Array
    driven_teeth: Array
    pitch_mm: Array
    allowed_pull_n: Array
    module_mm: Array
    face_mm: Array
    allowed_stress_mpa: Array

    @classmethod
    def of(cls, said: Stated) -> "StageData":
        """Return what a document says of a stage."""
        kind, unknown = said.word("kind"), scalar(np.nan)
        sizes = {key: said.number(key, np.nan) if kind in TOOTHED else unknown for key in SIZES}
        return cls(kind=kind, ratio=ratio_of(said), efficiency=said.number("efficiency"), **sizes)

    @property
    def toothed(self) -> bool:
        """Whether it has teeth that can be counted."""
        return self.kind in TOOTHED
