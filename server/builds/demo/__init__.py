"""The workshop of Quillmere, an invented wetland reserve: builds to look at and play with."""

from pathlib import Path

from powertrain.documents.build import Build
from powertrain.documents.reading import read_build

ORDER = (
    "causeway-trike",
    "sluice-scooter",
    "bittern-hauler",
    "powered-barrow",
    "seed-rover",
    "peat-trolley",
    "ruff-tractor",
    "ruff-tractor-packaged",
    "coot-airboat",
    "tern-wing",
)
"""The trike is sound, the scooter's pack is too much for its controller, the hauler is geared too
tall and cooks; the tractor stands there twice, with either motor; the last two are pushed by
air."""


def demo_builds() -> dict[str, Build]:
    """Return each demo build by its slug, in the order in which they are shown."""
    folder = Path(__file__).parent
    return {slug: read_build((folder / f"{slug}.json").read_bytes()) for slug in ORDER}
