"""The reasons for which candidates fall out, in words."""

WORDS = {
    "tooth_load": "teeth, chain or belt would not stand the torque",
    "stage_teeth": "a stage would have too few teeth or reduce too much",
    "teeth": "a stage would have too few teeth or reduce too much",
    "ground_clearance": "a toothed wheel on the axle would strike the ground",
    "not_tried": "not looked at: the search ended before, with the best found so far",
    "hub_motor": "a hub motor takes no gearing, another motor needs one",
    "controller_kind": "the controller does not drive that kind of motor",
    "controller_volts": "the full pack is above the controller's volts",
    "controller_min_volts": "the pack is below the volts at which the controller works",
    "sensor_match": "the controller can't find the rotor from what the motor has",
    "motor_volts": "the full pack is above the motor's volts",
    "electrical_rpm": "the controller could not follow the motor's electrical rpm",
    "free_rpm": "with its wheels in the air the motor would turn too fast",
    "loaded_rpm": "the motor would turn too fast under load",
    "outputs": "there are more motors than outputs",
    "regeneration": "braking would push too much into the pack",
    "timing_sum": "timing adds up to too much",
    "motor_current": "the motor would carry more than it is rated for",
    "controller_current": "the controller would carry more than it is rated for",
    "pack_current": "the pack would give more than it may",
    "temperatures": "a part would get too hot",
    "cut_off": "the cells would sag below cut-off",
    "traction": "the wheels would spin or the front would lift",
    "wires": "wires or connector would carry too much",
    "asked_climb": "it could not climb or cruise as asked",
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
    known = WORDS.get(reason.removesuffix("_unknown"), reason.replace("_", " "))
    if reason.endswith("_unknown"):
        return f"not known, so it can't be shown otherwise: {known}"
    return known
