"""What is heavy is answered in processes: once for equals, stopped in time, never for nobody."""

import os
import threading
import time
from collections.abc import Callable
from pathlib import Path

import pytest

from serving.hand import PipedAnswer
from serving.heavy import Weight, weight_of
from serving.pool import Gone, Pool, ProcessExpired, Remembered, TookTooLong

PURE = Weight(long=False, pure=True, most_s=60.0)
READING = Weight(long=False, pure=False, most_s=60.0)
HASTY = Weight(long=False, pure=False, most_s=0.5)


def does(environ: dict[str, str], body: bytes) -> PipedAnswer:
    """Do what the body says, in a process of the pool; each time is noted in a file."""
    with Path(environ["NOTES"]).open("a") as notes:
        notes.write(f"{os.getpid()}\n")
    deed, _, seconds = body.decode().partition(" ")
    if deed == "sleep":
        time.sleep(float(seconds))
    if deed == "die":
        os._exit(1)
    return PipedAnswer(200 if deed != "fail" else 422, [("X-Deed", deed)], body)


class Probe:
    def __init__(self, pool: Pool, notes: Path) -> None:
        self.pool, self.notes = pool, notes

    def __call__(
        self, body: str, weight: Weight = READING, gone: Callable[[], bool] = lambda: False
    ) -> PipedAnswer:
        environ = {
            "REQUEST_METHOD": "POST",
            "PATH_INFO": "/api/solve",
            "QUERY_STRING": "",
            "NOTES": str(self.notes),
        }
        return self.pool.answer(
            environ, body.encode(), weight, threading.current_thread().name, gone
        )

    @property
    def pids(self) -> list[str]:
        return self.notes.read_text().split() if self.notes.exists() else []


@pytest.fixture(scope="module")
def pool():
    made = Pool(places=2, answer=does)
    yield made
    made.close()


@pytest.fixture
def ask(pool, tmp_path):
    return Probe(pool, tmp_path / "notes")


def at_once(count: int, do: Callable[[], object]) -> list[object]:
    told: list[object] = []

    def one() -> None:
        try:
            told.append(do())
        except Exception as problem:
            told.append(problem)

    threads = [threading.Thread(target=one) for _ in range(count)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return told


def is_ended(pid: int) -> bool:
    for _ in range(200):
        try:
            os.kill(pid, 0)
        except ProcessLookupError:
            return True
        time.sleep(0.02)
    return False


def test_a_question_is_answered_in_another_process(ask):
    assert ask("echo") == (200, [("X-Deed", "echo")], b"echo")
    assert ask.pids != [str(os.getpid())]
    assert len(ask.pids) == 1


def test_equal_pure_questions_are_answered_once(ask):
    told = at_once(12, lambda: ask("sleep 0.3", PURE))
    assert told == [(200, [("X-Deed", "sleep")], b"sleep 0.3")] * 12
    assert len(ask.pids) == 1
    ask("sleep 0.3", PURE)
    assert len(ask.pids) == 1


def test_what_may_change_meanwhile_is_answered_each_time(ask):
    at_once(3, lambda: ask("sleep 0.1", READING))
    assert len(ask.pids) == 3


def test_a_refusal_is_not_remembered(ask):
    assert [ask("fail", PURE).status for _ in range(2)] == [422, 422]
    assert len(ask.pids) == 2


def test_what_takes_too_long_is_stopped_and_others_are_answered_after_it(ask):
    with pytest.raises(TookTooLong):
        ask("sleep 30", HASTY)
    assert ask("echo").status == 200
    assert is_ended(int(ask.pids[0]))


def test_a_killed_process_ends_its_question_alone(ask):
    told = at_once(2, lambda: ask("die"))
    assert [type(one) for one in told] == [ProcessExpired] * 2
    assert [one.status for one in at_once(4, lambda: ask("echo"))] == [200] * 4


def test_a_long_question_that_nobody_waits_for_is_stopped(ask):
    with pytest.raises(Gone):
        ask("sleep 30", gone=lambda: True)
    assert is_ended(int(ask.pids[0]))


def test_an_answer_is_still_made_for_the_one_who_waits(ask):
    first_has_gone = threading.Event()
    leader = threading.Thread(target=lambda: ask("sleep 2", PURE, first_has_gone.is_set))
    leader.start()
    while not ask.pids:
        time.sleep(0.01)
    threading.Timer(0.2, first_has_gone.set).start()
    assert ask("sleep 2", PURE).status == 200
    leader.join()
    assert len(ask.pids) == 1


def test_the_oldest_answers_are_forgotten_first():
    remembered = Remembered(most_bytes=400)
    for number in range(6):
        remembered.keep(bytes([number]), PipedAnswer(200, [], b"x" * 100))
        remembered.get(b"\x00")
    kept = [number for number in range(6) if remembered.get(bytes([number]))]
    assert kept == [0, 3, 4, 5]
    remembered.keep(b"large", PipedAnswer(200, [], b"x" * 101))
    assert remembered.get(b"large") is None


@pytest.mark.parametrize(
    ("method", "path", "long"),
    [
        ("POST", "/api/solve", False),
        ("POST", "/api/windings", True),
        ("POST", "/api/matches/6f1c6d0e/why", True),
        ("GET", "/api/builds", False),
        ("POST", "/api/builds", None),
        ("GET", "/api/builds/6f1c6d0e", None),
        ("GET", "/api/health", None),
    ],
)
def test_what_is_heavy_is_known_by_its_address(method, path, long):
    weight = weight_of(method, path)
    assert (None if weight is None else weight.long) == long


def test_every_question_to_the_engine_is_heavy():
    from config.api import api

    light = {
        f"{method.upper()} {path}"
        for path, methods in api.get_openapi_schema()["paths"].items()
        for method, operation in methods.items()
        if operation["tags"] == ["engine"] and weight_of(method.upper(), path) is None
    }
    assert light == set()
