"""How long it stands being held at full throttle."""

from collections.abc import Iterator

from powertrain.arrays import Array
from powertrain.documents.brief import Brief
from powertrain.match.candidates import Candidates
from powertrain.match.wish import OfDrive, Rejection, Wished
from powertrain.verdicts.rules.stall import stands

WISHES = {
    "hold_stall": Rejection("held stalled it gets too hot too soon", ("hold_stall_s",)),
}


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield the wish to stand a stall."""
    seconds = brief.wishes.hold_stall_s
    if seconds is not None:
        yield OfDrive(
            "hold_stall",
            "Stands a stall of",
            "s",
            seconds,
            1,
            brief.judged_at,
            _seconds,
            ungeared=True,
            stands=lambda candidates: stands(candidates.batch, seconds),
        )


def _seconds(candidates: Candidates) -> Array:
    return candidates.batch.stall.seconds
