"""The reasons for which candidates fall out, in words; a rule brings its own."""

from powertrain.verdicts.registry import stopping_rules

WORDS = {
    "stage_teeth": "a stage would have too few teeth or reduce too much",
    "not_tried": "not looked at: the search ended before, with the best found so far",
    "hub_motor": "a hub motor takes no gearing, another motor needs one",
    "controller_kind": "the controller does not drive that kind of motor",
    "top_speed_min": "too slow",
    "top_speed_max": "too fast",
    "climb": "the hill is too steep for it at that speed",
    "cruise": "it could not hold the cruising speed",
    "range": "it would not go far enough",
    "launch": "it gets going too slowly",
    "run_up": "it is not up to speed in the length there is",
    "hold_stall": "held stalled it gets too hot too soon",
    "budget": "it costs more than the budget",
    "added_mass": "it weighs more than allowed",
    "full_charge_volts": "fresh off the charger it has more volts than allowed",
    "motor_space": "the motor does not fit its room",
    "controller_space": "the controller does not fit its room",
    "pack_space": "the pack does not fit its room",
    "commutation": "the motor is not of the kind asked for",
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
    known = WORDS.get(name, reason.replace("_", " ")) if rule is None else rule.rejects
    if reason.endswith("_unknown"):
        return f"not known, so it can't be shown otherwise: {known}"
    return known
