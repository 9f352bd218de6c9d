"""Hill and cut-off once more where they are hardest: at the end of the trip."""

from collections.abc import Iterator

from powertrain.arrays import Array, greatest, scalar
from powertrain.units import kmh_from_mps
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.moments import assumed_hill
from powertrain.verdicts.rule import Judgement, Rule, grades, verdict
from powertrain.verdicts.verdict import Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge the hill that was asked for, and the sag, with the charge that a trip leaves.

    It warns and never stops: who knows of it turns home earlier. Asked of one build alone, whose
    document says how far its pack is used; nothing where that time is looked at anyway, or where
    the same is said of now.
    """
    end, now = batch.at_the_end, batch.moments
    if end is None:
        return
    if assumed_hill(batch) is None:
        fails = now.climb.met & ~end.moments.climb.met
        top = kmh_from_mps(end.moments.climb_top.speed_mps)
        wanted = scalar(now.climb.target_kmh or 0.0)
        yield Judgement("climb_at_end", top, wanted, grades(watch=fails), applies=fails)
    cut_v = batch.ratings.pack.cut_off_cell_v
    volts = _cell_v(end, _most_a(end))
    fails = (volts < cut_v) & (_cell_v(batch, _most_a(batch)) >= cut_v)
    yield Judgement("cut_off_at_end", volts, cut_v, grades(watch=fails), applies=fails)


def _most_a(batch: Batch) -> Array:
    """Return the greatest pack amps of what is asked, and at full throttle."""
    moments = batch.moments
    asked = [moments.cruise.state, moments.top_speed.state]
    if assumed_hill(batch) is None:
        asked.append(moments.climb.state)
    return greatest(moments.peaks.battery_a, *(state.battery_current_a for state in asked))


def _cell_v(batch: Batch, amps: Array) -> Array:
    return batch.drive.pack.voltage_v(amps) / batch.ratings.pack.series


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what is different by then."""
    end, usable = context.at_the_end, context.settings.usable
    assert end is not None
    left = f"with {usable.to_pct:g} % left"
    rest_v = float(end.drive.pack.open_circuit_v) / context.build.battery.series
    why = f"By then a cell rests at {rest_v:.2f} V, copper and magnets are warm."
    if found.id == "climb_at_end":
        words = context.drive.load.words
        situation = words.situation(context.moments.climb.situation)
        title = f"At the end of the trip, {left}: {words.hard_missed.format(situation=situation)}"
        if float(found.value) > 0:
            title += f" at {float(found.limit):g} km/h, only at {float(found.value):.1f}"
        return verdict(found, "vehicle", title, why, unit="km/h", moment="climb")
    amps = float(_most_a(end))
    title = f"At the end of the trip, {left}, cells sag to {float(found.value):.2f} V: cut-off"
    why += (
        f" {amps:.1f} A take them below {float(found.limit):.2f} V: ease off by then, set the pack "
        "amps lower, or turn home with more left."
    )
    return verdict(found, "pack", title, why, unit="V", moment=None)


RULE = Rule(judge, say)
