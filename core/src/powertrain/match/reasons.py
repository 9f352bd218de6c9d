"""The reasons for which candidates fall out, in words; a rule and a wish bring their own."""

from powertrain.match.wish_registry import rejections
from powertrain.verdicts.registry import stopping_rules

WORDS = {
    "stage_teeth": "a stage would have too few teeth or reduce too much",
    "not_tried": "not looked at: the search ended before, with the best found so far",
    "hub_motor": "a hub motor takes no gearing, another motor needs one",
    "hub_propeller": "a hub motor turns a wheel, not a propeller",
    "controller_kind": "the controller does not drive that kind of motor",
    "allowed_parts": "not among the admitted parts",
}


def sentence(reason: str) -> str:
    """Return a reason as a sentence of its own."""
    words = in_words(reason)
    return f"{words[0].upper()}{words[1:]}."


def in_words(reason: str) -> str:
    """Return a reason as people say it."""
    name = reason.removesuffix("_unknown")
    rule = stopping_rules().get(name)
    if rule is not None:
        known = rule.rejects
    elif name in rejections():
        known = rejections()[name].words
    else:
        known = WORDS.get(name, reason.replace("_", " "))
    if reason.endswith("_unknown"):
        return f"not known, so it can't be shown otherwise: {known}"
    return known
