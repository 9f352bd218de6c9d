"""The nut of a propeller against the way it turns: one way tightens it, the other loosens it.

A propeller is held back by the air, and its nut with it. Seen from the nut, at a shaft that points
forward (a tractor), what turns clockwise as seen from behind turns to the left; the nut lags behind
it to the right, which tightens a right-hand thread. Of a pusher it is the other way round (from
the geometry; common practice in what builders then do about it, no source).
"""

from collections.abc import Iterator

from powertrain.arrays import scalar
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import NotJudged, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge whether a right-hand thread is loosened; nothing where nobody said how it turns."""
    loosens = batch.ratings.propeller_loosens
    if loosens is None:
        return
    share = scalar(1.0 if loosens else 0.0) + batch.nowhere()
    yield Judgement("propeller_nut", share, scalar(0.0), grades(watch=share > 0))


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say which way the nut goes."""
    said = context.build.propeller
    assert said is not None
    turns = said.rotation.replace("_", "-")
    how = f"a {said.position} that turns {turns}, seen from behind"
    if found.word == "ok":
        title = "The propeller's nut tightens as it runs"
        why = f"Of {how}, with a right-hand thread. A brake on the motor pulls the other way."
    else:
        title = "A right-hand nut loosens as it runs"
        why = (
            f"Of {how}, the air works the nut off: a left-hand thread, a lock nut, or bolts "
            "through the hub. Look at it before every start, and stand out of its plane."
        )
    return verdict(found, "wheel", title, why, unit="", moment="launch")


def unknown(context: RuleContext) -> Iterator[NotJudged]:
    """Yield that nobody said which way it turns."""
    if context.build.propeller is not None and context.ratings.propeller_loosens is None:
        what = "Whether the propeller's nut loosens: which way it turns is not said."
        yield NotJudged(id="propeller_nut", part="wheel", path="propeller.rotation", say=what)


RULE = Rule(judge, say, unknown)
