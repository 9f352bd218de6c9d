"""Documents as they were written once are read today; those of a newer program are refused."""

import json
from pathlib import Path

import pytest

from powertrain.bench.solve import solve
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.reading import check_build, check_model, read_build
from powertrain.documents.shelf import Shelf
from powertrain.documents.upgrade import upgraded
from powertrain.errors import Refusal

SAMPLES = Path(__file__).parent / "samples"
KINDS = {"build": Build, "brief": Brief, "shelf": Shelf}


@pytest.mark.parametrize("sample", sorted(SAMPLES.glob("*.json")), ids=lambda path: path.stem)
def test_what_was_once_written_is_read(sample):
    said = json.loads(sample.read_text())
    read = check_model(KINDS[sample.stem.split("-")[0]], said)
    # Nothing that it said is lost, and nothing is put into its mouth.
    assert read.model_dump(mode="json", exclude_unset=True) == said


@pytest.mark.parametrize("name", ["build-1-first", "build-1-moments", "build-1-hub"])
def test_builds_of_then_are_solved_now(name):
    build = read_build((SAMPLES / f"{name}.json").read_bytes())
    assert solve(build).moments


STEPS = {
    "young-torrent.build/1": lambda said: {
        **said,
        "format": "young-torrent.build/2",
        "title": said["name"],
    },
    "young-torrent.build/2": lambda said: {
        key: value
        for key, value in {**said, "format": "young-torrent.build/3"}.items()
        if key != "name"
    },
}


def test_steps_are_gone_through_one_after_another():
    said = {"format": "young-torrent.build/1", "name": "Trike"}
    third = {"format": "young-torrent.build/3", "title": "Trike"}
    assert upgraded(said, "young-torrent.build/3", STEPS) == third
    assert upgraded(third, "young-torrent.build/3", STEPS) == third
    second = {"format": "young-torrent.build/2", "name": "Cart", "title": "Barrow"}
    assert upgraded(second, "young-torrent.build/3", STEPS)["title"] == "Barrow"
    assert said == {"format": "young-torrent.build/1", "name": "Trike"}


def test_a_document_of_a_newer_program_says_so():
    said = json.loads((SAMPLES / "build-1-first.json").read_text())
    with pytest.raises(Refusal) as refused:
        check_build({**said, "format": "young-torrent.build/2"})
    assert refused.value.where == "format"
    assert "of a newer program" in refused.value.what


@pytest.mark.parametrize("form", ["young-torrent.build/0", "young-torrent.brief/1", "", 1, None])
def test_a_form_that_is_none_is_refused_as_before(form):
    said = json.loads((SAMPLES / "build-1-first.json").read_text())
    with pytest.raises(Refusal) as refused:
        check_build({**said, "format": form})
    assert (refused.value.where, "newer" in refused.value.what) == ("format", False)
