"""The trike with what a maker states, and a build with something set on it."""

import pytest

from powertrain.compile.build import with_moments
from powertrain.documents.build import Build
from powertrain.documents.paths import changed
from powertrain.documents.reading import check_build

RATED = {
    "motor.continuous_current_a": 55,
    "motor.max_rpm": 4200,
    "controller.max_voltage_v": 63,
    "controller.capacitor_voltage_v": 63,
    "vehicle.rated_speed_kmh": 45,
}


@pytest.fixture
def build(trike) -> Build:
    return with_moments(check_build(changed(trike, RATED)))


def set_on(build: Build, change) -> Build:
    return check_build(changed(build.model_dump(mode="json", exclude_unset=True), change))
