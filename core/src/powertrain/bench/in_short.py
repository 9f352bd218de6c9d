"""A build as a friend would tell it: how fast, how far, what gets in the way, in one line."""

from typing import Literal

from pydantic import BaseModel

from powertrain.heat.limits import NODES, NodeId
from powertrain.operating.distance import range_km
from powertrain.operating.moment import Moment
from powertrain.operating.settings import MomentId
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import RuleContext
from powertrain.verdicts.moments import assumed_hill
from powertrain.verdicts.verdict import Verdict

TOO_HOT: dict[NodeId, str] = {
    "winding": "the winding is too hot",
    "case": "the can is too hot to hold",
    "controller": "the controller is too hot",
    "pack": "the pack is too hot",
}

SOON_S = 1800.0
"""Half an hour: what gets too hot later is not told in one line."""


class Piece(BaseModel):
    """Some words of the line, or a figure in them.

    `value` goes with `unit`, that of a document; `leads` says what a press of it opens: a moment,
    or the verdicts.
    """

    words: str
    value: float | None = None
    unit: Literal["km/h", "km", "s", "A", ""] = ""
    leads: MomentId | Literal["verdicts"] | None = None


def in_short(context: RuleContext, verdicts: list[Verdict]) -> list[Piece]:
    """Return the line of one build, piece by piece."""
    moments = context.moments
    flat, hill = moments.top_speed, moments.climb
    if not bool(flat.met):
        words = f"It can't start {context.drive.load.words.short['top_speed']}; "
        return [Piece(words=words), *_stops(verdicts)]
    return [
        *_flat_out(context, flat),
        *_hard(context, hill),
        *_lasts(context),
        Piece(words="; "),
        *_stops(verdicts),
    ]


def _kmh(moment: Moment) -> float:
    return float(kmh_from_mps(moment.state.speed_mps))


def _flat_out(context: RuleContext, moment: Moment) -> list[Piece]:
    words = f" {context.drive.load.words.short['top_speed']}"
    return [
        Piece(words="", value=_kmh(moment), unit="km/h", leads=moment.id),
        Piece(words=words),
    ]


def _hard(context: RuleContext, moment: Moment) -> list[Piece]:
    """Return what is said of the hill, or of what is held, and for how long it goes well."""
    load = context.drive.load
    if moment.situation == float(load.usual) and not load.is_held:
        # A hill of nought is the flat, of which all is said.
        return []
    words = load.words
    key = "climb" if assumed_hill(context) is None else "climb_assumed"
    where = words.short[key].format(situation=words.situation(moment.situation))
    if not bool(moment.met):
        return [Piece(words=f", not {where}")]
    if _kmh(moment) > 0:
        found = [Piece(words="", value=_kmh(moment), unit="km/h", leads=moment.id)]
    else:
        amps = float(moment.state.motor_current_a)
        found = [Piece(words="", value=amps, unit="A", leads=moment.id)]
    return [Piece(words=", "), *found, Piece(words=f" {where}"), *_until(context)]


def _until(context: RuleContext) -> list[Piece]:
    """Return after how long the hard moment makes something too hot, where it lasts so long."""
    heat, place = context.results.heat, 1
    times: dict[NodeId, float] = {
        node: float(getattr(heat, node).to_limit_s[place]) for node in NODES
    }
    first = min(NODES, key=lambda node: times[node])
    lasts_s = SOON_S
    if context.settings.climb_length_m is not None:
        lasts_s = float(context.results.climb_s)
    if not times[first] < lasts_s:
        return []
    return [
        Piece(words=" for "),
        Piece(words="", value=times[first], unit="s", leads="climb"),
        Piece(words=f", until {TOO_HOT[first]}"),
    ]


def _lasts(context: RuleContext) -> list[Piece]:
    """Return how far a charge goes on an ordinary trip; nothing where a trip takes none."""
    cruise = context.moments.cruise
    far = float(range_km(context.drive, context.settings.usable, cruise.state))
    if not far > 0:
        return []
    return [
        Piece(words="; a charge lasts "),
        Piece(words="", value=far, unit="km", leads="cruise"),
        Piece(words=" at "),
        Piece(words="", value=_kmh(cruise), unit="km/h", leads="cruise"),
    ]


def _stops(verdicts: list[Verdict]) -> list[Piece]:
    """Return what stops it, or how much there is to watch, or that nothing does."""
    stops = [verdict for verdict in verdicts if verdict.severity == "stop"]
    if not stops:
        return [Piece(words="nothing stops it", leads="verdicts")]
    first = stops[0].title[:1].lower() + stops[0].title[1:]
    more = f", and {len(stops) - 1} more" if len(stops) > 1 else ""
    return [Piece(words="what stops it", leads="verdicts"), Piece(words=f": {first}{more}")]
