"""What the throttle sends against what the controller understands."""

from collections.abc import Iterator

from powertrain.verdicts.verdict import Case, NotJudged, Verdict

WORDS = {"analogue": "a voltage", "pulse": "servo pulses", "serial": "messages"}


def judge(case: Case) -> Iterator[Verdict | NotJudged]:
    """Judge the two where both are stated."""
    gives, takes = case.build.vehicle.throttle_signal, case.build.controller.throttle_signal
    if gives is None and takes is None:
        return
    if gives is None or takes is None:
        path = "vehicle.throttle_signal" if gives is None else "controller.throttle_signal"
        say = "Throttle: what it sends and what the controller understands is not all known."
        yield NotJudged(id="throttle_signal", part="controller", path=path, say=say)
        return
    same = gives == takes
    yield Verdict(
        id="throttle_signal",
        part="controller",
        title=f"The throttle sends {WORDS[gives]}; the controller understands {WORDS[takes]}",
        severity="ok" if same else "watch",
        value=1.0 if same else 0.0,
        limit=1.0,
        unit="",
        moment=None,
        why="They understand one another."
        if same
        else "It needs a translator between them, or another throttle.",
        fix=None,
    )
