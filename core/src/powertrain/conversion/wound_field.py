"""A motor with a wound field that is no series motor: shunt, or compound.

The field acts as so many amps in its shunt winding: its own, and those of the armature by the turns
of the series winding, with it (cumulative) or against it (differential)::

    I_f* = I_f +- (N_series/N_shunt) I_a
    E = V - I_a R
    n = n_0 (E/E_0) (flux(I_f0)/flux(I_f*))

with the flux of Froelich's curve, ``I/(I + I_half)`` (Chapman, Electric Machinery Fundamentals,
from memory; the curve from memory).
"""

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

FieldKind = Literal["series", "shunt", "compound", "unclear"]

SERIES_BELOW, SHUNT_ABOVE = 5.0, 20.0
"""Ohms of a field over those of its armature: a series field is of the same thick wire, a shunt
field of thin wire on the whole volts; common practice, no source."""


class WoundField(BaseModel):
    """What is measured at the terminals, cold, and where it runs free.

    `shunt_ohm` is that of the thin winding, `series_ohm` that of the thick one; None where there is
    no such pair of terminals.
    """

    model_config = ConfigDict(strict=True, extra="forbid")

    armature_ohm: float = Field(ge=1e-6, le=1000)
    shunt_ohm: float | None = Field(None, ge=1e-6, le=1e6)
    series_ohm: float | None = Field(None, ge=1e-6, le=1000)
    volts: float | None = Field(None, ge=0.1, le=1000)
    free_rpm: float | None = Field(None, ge=1, le=100_000)
    amps: float | None = Field(None, ge=0, le=10_000)
    turns_share: float = Field(0.003, ge=0, le=1)
    """Series turns over shunt turns, of each pole."""
    half_field_a: float | None = Field(None, ge=1e-6, le=1e9)
    sense: Literal["cumulative", "differential"] = "cumulative"


class WoundFieldAnswer(BaseModel):
    """What kind it is, what that means, and its speed under load where that can be told."""

    kind: FieldKind
    say: str
    field_a: float | None
    rpm: float | None


def wound_field(told: WoundField) -> WoundFieldAnswer:
    """Return what a motor is by the ohms at its terminals, and how it keeps its speed."""
    kind = kind_of(told)
    field_a = None
    if told.volts is not None and told.shunt_ohm is not None:
        field_a = told.volts / told.shunt_ohm
    rpm = None
    if (
        kind in ("shunt", "compound")
        and field_a is not None
        and told.volts is not None
        and told.free_rpm is not None
        and told.amps is not None
    ):
        turns = told.turns_share if kind == "compound" else 0.0
        ohm = told.armature_ohm + (told.series_ohm or 0.0 if kind == "compound" else 0.0)
        half = HALF_SHARE * field_a if told.half_field_a is None else told.half_field_a
        rpm = speed_rpm(
            told.volts,
            ohm,
            told.amps,
            free_rpm=told.free_rpm,
            field_a=field_a,
            series_field_a=(1 if told.sense == "cumulative" else -1) * turns * told.amps,
            half_field_a=half,
        )
    return WoundFieldAnswer(kind=kind, say=SAY[kind], field_a=field_a, rpm=rpm)


HALF_SHARE = 0.75
"""Field amps of half saturation over those of the rated field; common practice, no source."""


def kind_of(told: WoundField) -> FieldKind:
    """Return what the ohms at the terminals say."""
    thin = told.shunt_ohm is not None and told.shunt_ohm > SHUNT_ABOVE * told.armature_ohm
    thick = told.series_ohm is not None and told.series_ohm < SERIES_BELOW * told.armature_ohm
    if thin and thick:
        return "compound"
    if thin and told.series_ohm is None:
        return "shunt"
    if thick and told.shunt_ohm is None:
        return "series"
    return "unclear"


SAY: dict[FieldKind, str] = {
    "series": "A series motor: thick field, torque with the square of the amps, and it races free.",
    "shunt": (
        "A shunt motor: it keeps its speed and starts with less than a series motor. Never open "
        "its field while it turns: it would race. On a controller feed the field by itself, first."
    ),
    "compound": (
        "A compound motor: the thin field holds its speed free, the thick one helps at a start. "
        "Joined the wrong way round the thick one takes away what the thin one gives: it starts "
        "weakly and runs off under load."
    ),
    "unclear": (
        "These ohms fit none of them: measure again with the brushes lifted, each winding alone."
    ),
}


def speed_rpm(
    volts: float,
    ohm: float,
    amps: float,
    *,
    free_rpm: float,
    field_a: float,
    series_field_a: float,
    half_field_a: float,
) -> float | None:
    """Return the speed under load, None where the field is all but gone.

    Parameters
    ----------
    volts, ohm, amps : float
        At the terminals, of armature and thick winding, through the armature.
    free_rpm : float
        Speed with no load, where the armature's volts are all of `volts`.
    field_a, series_field_a : float
        Amps of the shunt winding, and those that the series winding counts for, signed.
    half_field_a : float
        Field amps of half the saturated flux.
    """

    def flux(field: float) -> float:
        return field / (field + half_field_a)

    now_a = field_a + series_field_a
    if now_a <= 0:
        return None
    return free_rpm * (volts - amps * ohm) / volts * flux(field_a) / flux(now_a)
