"""Compiled code that is kept for the next process."""

import os
import subprocess
import sys

import llvmlite.binding as llvm
import pytest

from ops import machine_code as asked
from powertrain.tracing import machine_code as kept

SEVEN = "define double @seven(double %x) {\n %y = fadd double %x, 7.0\n ret double %y\n}\n"


@pytest.fixture
def folder(monkeypatch, tmp_path):
    llvm.initialize_native_target()
    llvm.initialize_native_asmprinter()
    place = tmp_path / "kept"
    monkeypatch.setenv(kept.FOLDER, str(place))
    return place


@pytest.fixture
def made(monkeypatch):
    """How often LLVM was asked."""
    count, make = [], kept._made

    def counted(text):
        count.append(text)
        return make(text)

    monkeypatch.setattr(kept, "_made", counted)
    return count


def test_a_text_is_compiled_once_and_then_read(folder, made):
    first = kept.machine_code(SEVEN)
    assert kept.machine_code(SEVEN) == first
    assert made == [SEVEN]
    (file,) = folder.iterdir()
    assert folder.stat().st_mode & 0o077 == 0
    assert file.stat().st_mode & 0o077 == 0
    other = SEVEN.replace("7.0", "8.0")
    assert kept.machine_code(other) != first
    assert made == [SEVEN, other]


@pytest.mark.parametrize("spoilt", [b"", b"short", b"\0" * 600])
def test_a_spoilt_file_is_made_anew(folder, made, spoilt):
    first = kept.machine_code(SEVEN)
    (file,) = folder.iterdir()
    for held in (spoilt, file.read_bytes()[:-1], file.read_bytes()[:-1] + b"?"):
        made.clear()
        file.write_bytes(held)
        assert kept.machine_code(SEVEN) == first
        assert made == [SEVEN]


def test_where_nothing_can_be_kept_it_is_compiled_all_the_same(folder, made):
    folder.write_text("no folder")
    first = kept.machine_code(SEVEN)
    assert kept.machine_code(SEVEN) == first
    assert made == [SEVEN, SEVEN]


def test_without_a_folder_nothing_is_kept(folder, made, monkeypatch):
    monkeypatch.delenv(kept.FOLDER)
    assert kept.machine_code(SEVEN) == kept.machine_code(SEVEN)
    assert made == [SEVEN, SEVEN]
    assert not folder.exists()


def test_what_was_not_used_for_longest_goes_first(folder, made, monkeypatch):
    monkeypatch.setattr(kept, "MOST_FILES", 2)
    texts = [SEVEN.replace("7.0", f"{n}.0") for n in range(3)]
    for age, text in zip((300, 200), texts, strict=False):
        kept.machine_code(text)
        newest = max(folder.iterdir(), key=lambda one: one.stat().st_mtime)
        os.utime(newest, (newest.stat().st_atime - age,) * 2)
    kept.machine_code(texts[0])
    kept.machine_code(texts[2])
    assert len(list(folder.iterdir())) == 2
    made.clear()
    kept.machine_code(texts[0])
    kept.machine_code(texts[2])
    assert made == []
    kept.machine_code(texts[1])
    assert made == [texts[1]]


def test_another_process_reads_it_and_reckons_the_same(folder):
    reckon = (
        "import numpy as np\n"
        "from core.tests.tracing.test_tracing import both_ways\n"
        "x = np.linspace(-1, 1, 21)\n"
        "code = lambda s, q: np.sqrt(np.abs(q)) * s - np.exp(q)\n"
        "print(both_ways(code, np.array([3.0]), np.array([0, 21]), x)[0].tolist())\n"
    )
    said, counts = [], []
    for _ in range(2):
        ran = subprocess.run(
            [sys.executable, "-c", reckon], capture_output=True, text=True, check=True
        )
        said.append(ran.stdout)
        counts.append({file.name for file in folder.iterdir()})
    assert said[0] == said[1]
    assert said[0].count(",") == 20
    assert counts[0] == counts[1]
    assert len(counts[0]) == 1


def test_who_begins_processes_names_the_folder_as_the_engine_does(monkeypatch, tmp_path):
    assert asked.FOLDER == kept.FOLDER
    monkeypatch.delenv(kept.FOLDER, raising=False)
    asked.keep_below(tmp_path)
    assert os.environ[kept.FOLDER] == str(tmp_path / "machine-code")
    monkeypatch.setenv(kept.FOLDER, "elsewhere")
    asked.keep_below(tmp_path)
    assert os.environ[kept.FOLDER] == "elsewhere"
