"""Turns at a few places: fair among clients, room for what is quick, nobody waits for nobody."""

import threading
from collections.abc import Callable

import pytest

from serving.gate import Busy, Gate, Gone


def never() -> bool:
    return False


class Crowd:
    """Clients that wait at a gate, each in a thread; `order` is in which they came in."""

    def __init__(self, gate: Gate) -> None:
        self.gate, self.order = gate, []
        self._go_on: dict[str, threading.Event] = {}
        self._threads: list[threading.Thread] = []

    def comes(self, name: str, client: str, *, long: bool = False, gone: Callable = never) -> None:
        self._go_on[name] = threading.Event()
        before = self.gate.waiting + len(self.order)

        def go() -> None:
            try:
                with self.gate.turn(client, long=long, gone=gone):
                    self.order.append(name)
                    self._go_on[name].wait(10)
            except (Busy, Gone) as problem:
                self.order.append(f"{name} {type(problem).__name__}")

        thread = threading.Thread(target=go)
        thread.start()
        self._threads.append(thread)
        self.until(lambda: self.gate.waiting + len(self.order) > before)

    def leaves(self, name: str) -> None:
        count = len(self.order)
        waits = self.gate.waiting
        self._go_on[name].set()
        if waits:
            self.until(lambda: len(self.order) > count)

    def until(self, true: Callable[[], bool]) -> None:
        pause = threading.Event()
        for _ in range(1000):
            if true():
                return
            pause.wait(0.005)
        raise AssertionError(self.order)

    def end(self) -> None:
        for event in self._go_on.values():
            event.set()
        for thread in self._threads:
            thread.join(10)


@pytest.fixture
def crowd():
    made = Crowd(Gate(places=2, most_waiting=8))
    yield made
    made.end()


def test_whoever_asks_much_waits_behind_itself(crowd):
    crowd.comes("a1", "a")
    crowd.comes("a2", "a")
    for name in ("a3", "a4", "a5"):
        crowd.comes(name, "a")
    crowd.comes("b1", "b")
    crowd.comes("c1", "c")
    for name in ("a1", "a2", "a3", "b1"):
        crowd.leaves(name)
    # a3 came before b and c, but then each of the others is let in before a's next.
    assert crowd.order[:6] == ["a1", "a2", "a3", "b1", "c1", "a4"]


def test_a_place_is_always_free_for_what_is_quick(crowd):
    crowd.comes("long1", "a", long=True)
    crowd.comes("long2", "b", long=True)
    crowd.comes("quick", "c")
    assert crowd.order == ["long1", "quick"]
    crowd.leaves("long1")
    assert crowd.order == ["long1", "quick", "long2"]


def test_too_many_are_told_at_once():
    crowd = Crowd(Gate(places=2, most_waiting=1))
    for name in ("in1", "in2", "waits"):
        crowd.comes(name, name)
    crowd.comes("over", "d")
    assert crowd.order[-1] == "over Busy"
    crowd.end()
    assert "waits" in crowd.order


def test_who_has_gone_is_not_waited_for(crowd):
    for name in ("in1", "in2"):
        crowd.comes(name, name)
    crowd.comes("left", "x", gone=lambda: True)
    crowd.until(lambda: "left Gone" in crowd.order)
    assert crowd.gate.waiting == 0


def test_a_place_is_given_back_when_something_fails():
    gate = Gate(places=2, most_waiting=2)
    for _ in range(5):
        with pytest.raises(KeyError), gate.turn("a", long=True, gone=never):
            raise KeyError
    with gate.turn("a", long=True, gone=never):
        assert gate.waiting == 0


def test_one_place_is_not_enough():
    with pytest.raises(ValueError, match="quick"):
        Gate(places=1, most_waiting=1)
