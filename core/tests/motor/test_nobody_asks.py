"""Nothing but a kind's own files and the two lists asks which kind a motor is."""

import re
from pathlib import Path

import pytest

from powertrain.documents.motors import MOTOR_DOCUMENTS
from powertrain.motor.kinds import KINDS

ROOT = Path(__file__).parents[3]
OWN = (
    "core/src/powertrain/documents/motors/",
    "core/src/powertrain/motor/",
    # Which constants can be worked out from what somebody knows: routes are of a kind by nature.
    "core/src/powertrain/identify/",
    "core/src/powertrain/listing/",
    # Invented parts, and who drives what of them.
    "core/src/powertrain/shelf/",
    "core/src/powertrain/documents/shelf.py",
    # Which kind suits a vehicle is advised by its name.
    "core/src/powertrain/set_up/advise.py",
    # The empty part of one's own that is begun with.
    "web/src/features/shelf/draft.ts",
    "web/src/api/generated/",
)
CLASSES = [model.__name__ for model in (*MOTOR_DOCUMENTS, *KINDS.values())]


def sources():
    for pattern in ("core/src/**/*.py", "server/**/*.py", "web/src/**/*.ts", "web/src/**/*.tsx"):
        for path in sorted(ROOT.glob(pattern)):
            place = path.relative_to(ROOT).as_posix()
            if not place.startswith(OWN) and "/tests/" not in place and ".test." not in place:
                yield place, path.read_text()


def test_a_kind_is_named_in_both_lists():
    named = [model.model_fields["kind"].annotation.__args__[0] for model in MOTOR_DOCUMENTS]
    assert named == list(KINDS)


@pytest.mark.parametrize("kind", KINDS)
def test_no_place_names_a_kind(kind):
    found = [place for place, text in sources() if re.search(rf"[\"']{kind}[\"']", text)]
    assert found == []


def test_no_place_names_the_class_of_a_kind():
    classes = re.compile(rf"\b({'|'.join(CLASSES)})\b")
    assert [place for place, text in sources() if classes.search(text)] == []


def test_the_search_would_see_one():
    # The demonstration builds do name theirs, in data.
    texts = [path.read_text() for path in (ROOT / "core/src/powertrain/shelf").glob("*.py")]
    assert any(re.search(r"[\"']packaged[\"']", text) for text in texts)
