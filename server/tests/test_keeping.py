"""What is kept running is begun again, later and later while that does not help."""

import os
import subprocess
import sys
import threading
import time

import pytest

from ops.keeping import Patience, Process, kept
from ops.owner import Owner, Taken
from ops.serve import Database


def test_patience_grows_while_beginning_again_does_not_help():
    patience = Patience(first_s=0.2, most_s=5.0, sound_s=10.0)
    # By hand: at once, then 0.2 doubled each time, up to five.
    waits = [patience.after(ran_s=0.1) for _ in range(8)]
    assert waits == pytest.approx([0.0, 0.2, 0.4, 0.8, 1.6, 3.2, 5.0, 5.0])
    assert patience.after(ran_s=60.0) == 0.0
    assert patience.after(ran_s=0.1) == pytest.approx(0.2)


def until(true) -> None:
    for _ in range(500):
        if true():
            return
        time.sleep(0.02)
    raise AssertionError("waited in vain")


def test_a_process_that_is_killed_is_begun_again_and_ended_at_the_end():
    told: list[tuple[str, str]] = []
    sleeper = Process("sleeper", [sys.executable, "-c", "import time; time.sleep(600)"])
    with kept([sleeper], lambda name, how: told.append((name, how))):
        until(lambda: sleeper.pid)
        first = sleeper.pid
        os.kill(first, 9)
        until(lambda: sleeper.pid not in (None, first))
        second = sleeper.pid
    assert told == [("sleeper", "is starting"), ("sleeper", "up")] * 2
    with pytest.raises(ProcessLookupError):
        os.kill(second, 0)


class Stubborn:
    """Something that starts at the third attempt only."""

    name = "stubborn"

    def __init__(self) -> None:
        self.attempts = 0
        self.stopped = threading.Event()

    def start(self) -> None:
        self.attempts += 1
        if self.attempts < 3:
            raise OSError("The disk is full")

    def runs(self) -> bool:
        return self.attempts >= 3

    def stop(self) -> None:
        self.stopped.set()


def test_why_something_does_not_start_is_told_and_it_is_tried_again():
    told: list[str] = []
    thing = Stubborn()
    with kept([thing], lambda _, how: told.append(how)):
        until(thing.runs)
        until(lambda: told[-1] == "up")
    assert told == ["is starting", "The disk is full"] * 2 + ["is starting", "up"]
    assert thing.stopped.is_set()


class Moving:
    """A cluster that is found at another port after its second start."""

    is_held = False

    def __init__(self) -> None:
        self.port = 0

    @property
    def environment(self) -> dict[str, str]:
        return {"YT_DB_PORT": str(self.port)}

    def start(self) -> None:
        self.port = 5001 if self.port else 5000


def test_who_uses_a_database_that_moved_is_begun_again_where_it_is_now(monkeypatch):
    monkeypatch.setenv("YT_DB_PORT", "5000")
    user = Process("user", [sys.executable, "-c", "import time; time.sleep(600)"])
    user.start()
    database = Database(Moving(), [user])
    database.start()
    assert user.runs()
    database.start()
    assert (user.runs(), os.environ["YT_DB_PORT"]) == (False, "5001")


def test_a_place_has_one_owner_until_it_leaves(tmp_path):
    first = Owner(tmp_path)
    first.tell(address="http://127.0.0.1:8000/")
    with pytest.raises(Taken) as taken:
        Owner(tmp_path)
    assert f"process {os.getpid()}" in str(taken.value)
    assert "http://127.0.0.1:8000/" in str(taken.value)
    first.leave()
    Owner(tmp_path).leave()


def test_an_owner_that_is_killed_leaves_its_place_free(tmp_path):
    held = (
        "import sys, time; from pathlib import Path; from ops.owner import Owner;"
        "owner = Owner(Path(sys.argv[1])); print('has it', flush=True); time.sleep(600)"
    )
    command = [sys.executable, "-c", held, str(tmp_path)]
    with subprocess.Popen(command, stdout=subprocess.PIPE) as process:
        assert process.stdout is not None
        assert process.stdout.readline() == b"has it\n"
        with pytest.raises(Taken):
            Owner(tmp_path)
        process.kill()
        process.wait()
    Owner(tmp_path).leave()


@pytest.mark.parametrize("module", ["ops.work", "ops.web"])
def test_a_process_whose_parent_was_gone_before_it_read_that_ends(module):
    # Its parent's number is told to it; this test's own child has another parent.
    more = ["--port", "1"] if module == "ops.web" else []
    command = [sys.executable, "-m", module, *more, "--attached", "1"]
    assert subprocess.run(command, timeout=30, capture_output=True).returncode == 0
