"""A drive in a line of words."""

from powertrain.battery.chemistry import CHEMISTRIES
from powertrain.documents.build import Build
from powertrain.motor.kinds import in_words
from powertrain.stated import Stated


def drive_in_words(document: Build) -> str:
    """Return the drive in one line, as a builder would say it."""
    battery, motor = document.battery, document.motor
    pack = f"{battery.series}S{battery.parallel}P {CHEMISTRIES[battery.chemistry].name}"
    motors = f"{motor.count} x " if motor.count > 1 else ""
    stages = len(document.gearing)
    words = {0: "hub motor", 1: "one stage", 2: "two stages", 3: "three stages", 4: "four stages"}
    train = words.get(stages, f"{stages} stages")
    return f"{pack}, {motors}{in_words(Stated(motor))}, {train}"
