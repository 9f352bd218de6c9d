"""A pack asked for more amps than those of its greatest power gives less with every amp more."""

from collections.abc import Iterator
from dataclasses import replace

from powertrain.arrays import scalar
from powertrain.operating.full_throttle import full_throttle
from powertrain.operating.in_air import in_air
from powertrain.verdicts.context import Batch, RuleContext
from powertrain.verdicts.rule import Judgement, Rule, exceeds, grades, verdict
from powertrain.verdicts.verdict import Fix, Verdict


def judge(batch: Batch) -> Iterator[Judgement]:
    """Judge full throttle from rest against the amps at which the pack gives most.

    Where pack and leads hold back more than motors and path, full throttle there is not the
    hardest push: a limit at the pack's best amps pushes harder.
    """
    if in_air(batch.drive) is not None:
        # Blades turn away from rest before anything is pushed.
        return
    drive, amps = batch.drive, batch.start.battery_current_a
    best_a = drive.pack.current_at_greatest_power_a(drive.controller.standby_a)
    beyond = exceeds(amps, best_a)
    yield Judgement("pack_peak_power", amps, best_a, grades(watch=beyond), applies=beyond)


def say(context: RuleContext, found: Judgement) -> Verdict:
    """Say what it takes, and how hard it would push held to its best."""
    drive, best_a = context.drive, float(found.limit)
    limit_a = float(f"{0.995 * best_a:.3g}") / context.build.controller.count
    held = drive.controller.held_to(scalar(best_a))
    better = full_throttle(replace(drive, controller=held), scalar(0.0))
    title = (
        f"Full throttle at rest takes {float(found.value):.0f} A; the pack gives most power at "
        f"{best_a:.0f} A"
    )
    why = (
        "Beyond it the pack's own resistance keeps more than it gives on. Held to that, the "
        f"start pushes {float(better.force_n):.0f} N instead of {float(context.start.force_n):.0f} "
        "N."
    )
    change = {"controller.battery_current_limit_a": limit_a}
    fix = Fix(say=f"Set the pack amps limit to {limit_a:g} A", change=change)
    return verdict(found, "pack", title, why, unit="A", moment="launch", fix=fix)


RULE = Rule(judge, say)
