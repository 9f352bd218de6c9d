"""Words that people stumbled over and that are not said any more: the trade has one for each."""

from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]

RETIRED = {
    "gets going in": "acceleration",
    "gets going too slowly": "accelerates too slowly",
    "least room": "smallest margin",
    "goes {} farther": "more range",
    '"climbs at"': "speed up the hill",
    "nothing on the bench yet": "what do you want to move?",
    'room to spare"': "margin",
    "fits what?": "whatever it fits",
    "speed: teeth, winding": "gearing: teeth, winding",
}
"""What is retired, in small letters, and what stands in its place."""

SHOWN = [
    *sorted((ROOT / "core/src").rglob("*.py")),
    *sorted((ROOT / "server").glob("*/*.py")),
    *sorted((ROOT / "web/src").rglob("*.ts")),
    *sorted((ROOT / "web/src").rglob("*.tsx")),
    ROOT / "README.md",
]


@pytest.mark.parametrize("words", RETIRED)
def test_what_is_retired_is_said_nowhere(words):
    assert len(SHOWN) > 400
    said = [file.name for file in SHOWN if words in file.read_text().lower()]
    assert said == [], f"say {RETIRED[words]}"
