"""What people call what a load does. No computation asks for any of it."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class LoadWords:
    """The words of one kind of load; moments go by their ids.

    Attributes
    ----------
    titles, during, met : mapping
        What each moment is called, ``{situation}`` standing for its situation in words; when
        something is met in it, in short and in a sentence.
    short : mapping
        How one line says flat out (``top_speed``), the hard situation, and the same where nobody
        asked for it (``climb``, ``climb_assumed``).
    takes, parts : mapping
        What each of the load's `takes` is called, and what the wheel and the vehicle are.
    unnamed, weighs : str
        What the wheel is where it has no name, and what the vehicle's kilograms do.
    situation : callable
        Says a situation.
    labels : mapping
        What situations with a name of their own are called on a map.
    end, push : str
        Where the power ends, which is what the pack's watts reach, and what the drive does to it.
    hard_done, hard_missed : str
        Titles of the hard situation being done and not, with ``{situation}`` and ``{top}``, the
        speed in km/h that it is done at.
    hard_done_why, hard_missed_why : str
        What stands below them; the second takes ``{shorter}``, what turns the output shaft slower.
    shorter : str
        What that is where there is no gearing to shorten.
    caution : str
        What whoever stands beside it at full throttle has to mind.
    assumed, assumed_trip : str
        When something is met in a hard situation that nobody asked for, and on a trip at a
        ``{speed}`` in km/h that nobody asked for.
    """

    titles: Mapping[str, str]
    during: Mapping[str, str]
    met: Mapping[str, str]
    short: Mapping[str, str]
    takes: Mapping[str, str]
    parts: Mapping[str, str]
    unnamed: str
    weighs: str
    situation: Callable[[float], str]
    labels: Mapping[float, str]
    end: str
    push: str
    hard_done: str
    hard_missed: str
    hard_done_why: str
    hard_missed_why: str
    shorter: str
    caution: str
    assumed: str
    assumed_trip: str

    def label(self, situation: float) -> str:
        """Return what a situation is called on a map."""
        return self.labels.get(situation) or self.situation(situation)

    def title(self, moment: str, situation: float) -> str:
        """Return what a moment is called."""
        return self.titles[moment].format(situation=self.situation(situation))
