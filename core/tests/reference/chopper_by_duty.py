"""Full throttle found another way: raise the duty of an averaged chopper until a limit is met.

Plain scalars and the chopper's current relation I_b - I_standby = n D I, which the engine does
not use. Written for the tests; it shares no code with the engine.
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Circuit:
    """One drive as plain numbers; limits may be infinite."""

    open_v: float
    pack_ohm: float
    path_ohm: float
    motor_ohm: float
    constant: float
    motors: int
    motor_limit_a: float
    pack_limit_a: float
    standby_a: float = 0.0
    brush_v: float = 0.0

    def motor_a(self, duty: float, speed_rad_s: float) -> float:
        source = duty * (self.open_v - self.standby_a * self.pack_ohm)
        ohm = self.motor_ohm + self.path_ohm + self.motors * duty * duty * self.pack_ohm
        return (source - self.constant * speed_rad_s - self.brush_v) / ohm

    def pack_a(self, duty: float, speed_rad_s: float) -> float:
        return self.standby_a + self.motors * duty * self.motor_a(duty, speed_rad_s)

    def within(self, duty: float, speed_rad_s: float) -> bool:
        return (
            self.motor_a(duty, speed_rad_s) <= self.motor_limit_a
            and self.pack_a(duty, speed_rad_s) <= self.pack_limit_a
        )

    def full_throttle_duty(self, speed_rad_s: float) -> float:
        """Return the largest duty within the limits, by bisection."""
        if self.within(1.0, speed_rad_s):
            return 1.0
        low, high = 0.0, 1.0
        for _ in range(200):
            middle = (low + high) / 2
            low, high = (middle, high) if self.within(middle, speed_rad_s) else (low, middle)
        return low
