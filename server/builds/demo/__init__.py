"""The workshop of Quillmere, an invented wetland reserve: builds to look at and play with."""

from pathlib import Path

from powertrain.documents.build import Build
from powertrain.documents.reading import read_build


def demo_builds() -> dict[str, Build]:
    """Return each demo build by its slug, in the order in which they are shown."""
    files = sorted(Path(__file__).parent.glob("*.json"))
    return {file.stem: read_build(file.read_bytes()) for file in files}
