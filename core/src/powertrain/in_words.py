"""A drive in a line of words."""

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.build import Build
from powertrain.documents.propeller import Propeller
from powertrain.motor.kinds import in_words
from powertrain.stated import Stated

INCH_MM = 25.4


def drive_in_words(document: Build) -> str:
    """Return the drive in one line, as a builder would say it."""
    battery, motor = document.battery, document.motor
    pack = f"{battery.series}S{battery.parallel}P {CHEMISTRIES[battery.chemistry].name}"
    motors = f"{motor.count} x " if motor.count > 1 else ""
    stages = len(document.gearing)
    direct = "hub motor" if document.wheel is not None else "direct"
    words = {0: direct, 1: "one stage", 2: "two stages", 3: "three stages", 4: "four stages"}
    train = words.get(stages, f"{stages} stages")
    air = "" if document.propeller is None else f", {_size(document.propeller)}"
    return f"{pack}, {motors}{in_words(Stated(motor))}, {train}{air}"


def _size(said: Propeller) -> str:
    """Return a propeller's size as it is printed on it, in inches."""
    return f"{said.diameter_mm / INCH_MM:.3g} x {said.pitch_mm / INCH_MM:.3g} propeller"
