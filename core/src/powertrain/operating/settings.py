"""At which moments a drive is looked at, as its document asks; what it leaves open is None."""

from dataclasses import dataclass
from typing import Literal

from powertrain.stated import Stated

MomentId = Literal["launch", "climb", "cruise", "top_speed", "wheels_up"]
MOMENT_IDS: tuple[MomentId, ...] = ("launch", "climb", "cruise", "top_speed", "wheels_up")
"""All of them, in the order in which they are shown; arrays over moments go by it."""

FROM_PCT, TO_PCT = 100.0, 10.0
"""States of charge between which a trip is reckoned when the document names none."""


@dataclass(frozen=True)
class Usable:
    """Between which states of charge the pack is used, in percent."""

    from_pct: float
    to_pct: float

    @classmethod
    def of(cls, moments: Stated) -> "Usable":
        """Return what a document says, or the usual."""
        begins, ends = moments.word("range_from_pct"), moments.word("range_to_pct")
        return cls(FROM_PCT if begins is None else begins, TO_PCT if ends is None else ends)

    @property
    def share(self) -> float:
        """Return the part of the pack's energy that is used, nought if the states are swapped."""
        return max(self.from_pct - self.to_pct, 0.0) / 100


@dataclass(frozen=True)
class MomentSettings:
    """What is asked; `assumed` names the moments that nobody asked for."""

    launch_to_kmh: float | None
    climb_grade_pct: float | None
    climb_speed_kmh: float | None
    climb_length_m: float | None
    climb_angle_deg: float | None
    climb_ms: float | None
    cruise_kmh: float | None
    usable: Usable
    assumed: tuple[MomentId, ...]

    @classmethod
    def of(cls, moments: Stated, assumed: tuple[MomentId, ...]) -> "MomentSettings":
        """Return what a document asks."""
        return cls(
            launch_to_kmh=moments.word("launch_to_kmh"),
            climb_grade_pct=moments.word("climb_grade_pct"),
            climb_speed_kmh=moments.word("climb_speed_kmh"),
            climb_length_m=moments.word("climb_length_m"),
            climb_angle_deg=moments.word("climb_angle_deg"),
            climb_ms=moments.word("climb_ms"),
            cruise_kmh=moments.word("cruise_kmh"),
            usable=Usable.of(moments),
            assumed=assumed,
        )
