"""Top speed against what frame and brakes were made for."""

from collections.abc import Iterator

from powertrain.stated import unstated
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Brakes take energy with the square of speed; a stronger drive leaves them as they were."""
    rated_kmh = batch.ratings.vehicle.rated_speed_kmh
    if unstated(rated_kmh):
        return
    top_kmh = kmh_from_mps(batch.moments.top_speed.state.speed_mps)
    yield Judgement("rated_speed", top_kmh, rated_kmh, grades(watch=exceeds(top_kmh, rated_kmh)))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say how much faster it goes than it was made for."""
    share = float(found.value) / float(found.limit)
    title = f"Top speed is {share * 100:.0f} % of what it was made for"
    why = f"Each stop has to take {share**2:.1f} times the energy that its brakes were made for."
    return verdict(found, "vehicle", title, why, unit="km/h", moment="top_speed")


RULE = Rule(judge, say)
