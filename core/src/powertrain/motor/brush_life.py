"""How long brushes last, with a band as wide as nobody's knowledge of them.

Common practice, no source: in a rider's vehicle about a thousand hours at the amps that the motor
carries for long, in a model's small can about fifty; less in proportion to the amps above, no
more than three times as long below. A set of brushes with the work is a tenth of the motor; a can
whose brushes can't be changed is bought anew.
"""

from dataclasses import dataclass

LIFE_H, MODEL_LIFE_H = 1000.0, 50.0
BAND = 3.0
"""A life is as likely this many times shorter as longer."""

MOST_LONGER = 3.0
SET_SHARE = 0.1


@dataclass(frozen=True)
class BrushLife:
    """Hours that a set lasts, with ends between which it lies four times in five."""

    hours: float
    least: float
    most: float
    replaced: bool
    """Whether the whole motor is changed, its brushes being fixed."""

    @classmethod
    def at(cls, amps: float, lasting_a: float, *, is_model: bool) -> "BrushLife":
        """Return it at some amps; `lasting_a` is what the motor carries for long, inf if unsaid."""
        base = MODEL_LIFE_H if is_model else LIFE_H
        eased = lasting_a / amps if 0 < lasting_a < float("inf") and amps > 0 else 1.0
        hours = base * min(eased, MOST_LONGER)
        return cls(hours, hours / BAND, hours * BAND, is_model)

    def cost(self, hours: float, motor_price: float) -> tuple[float, float, float]:
        """Return what brushes cost over some hours, and its ends; what is not worn out is free."""
        each = motor_price * (1.0 if self.replaced else SET_SHARE)
        lives = (self.hours, self.most, self.least)
        found = [each * max(hours / life - 1, 0.0) for life in lives]
        return found[0], found[1], found[2]
