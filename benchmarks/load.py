"""How many may press levers at once: `bin/load` writes docs/load.md, as ratios to one client.

Every client has a bench of its own and presses a lever about twice a second, as somebody does who
looks at what it does; three times in ten it goes back to what it had before.
"""

import http.client
import json
import random
import sys
import threading
import time
from dataclasses import dataclass, field

from e2e.product import DEMO, KEYED, ROOT, Product

CLIENTS = (1, 20, 100, 200)
LASTS_S = 15.0
LOOKS_S = 0.5
"""Time between an answer and the next press."""


@dataclass
class Row:
    """What so many clients saw."""

    clients: int
    searches: bool
    waits: list[float] = field(default_factory=list)
    health: list[float] = field(default_factory=list)
    answers: int = 0
    starved: int = 0
    busy: int = 0

    def at(self, share: float) -> float:
        waits = sorted(self.waits)
        return waits[min(len(waits) - 1, int(share * len(waits)))] if waits else float("nan")


def press(port: int, number: int, over: threading.Event, row: Row, lock: threading.Lock) -> None:
    """Press levers on one bench until it is over."""
    # Nobody presses what somebody pressed in an earlier row: that would be remembered.
    draw = random.Random(f"{row.clients} {row.searches} {number}")
    document = json.loads((DEMO / "causeway-trike.json").read_text())
    document |= {"name": f"Bench {number}", "provenance": {}}
    document["vehicle"]["mass_kg"] = draw.uniform(100, 250)
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    waits, answers, busy, before = [], 0, 0, (13, 150.0)
    over.wait(draw.random() * LOOKS_S)
    while not over.is_set():
        now = (document["battery"]["series"], document["vehicle"]["mass_kg"])
        back = draw.random() < 0.3
        if back:
            document["battery"]["series"], document["vehicle"]["mass_kg"] = before
        else:
            document["battery"]["series"] = draw.randint(10, 16)
            document["vehicle"]["mass_kg"] = draw.uniform(100, 250)
        before = now
        body = json.dumps({"document": document, "operations": []})
        begun = time.monotonic()
        connection.request(
            "POST", "/api/solve", body, {"Content-Type": "application/json", **KEYED}
        )
        answer = connection.getresponse()
        answer.read()
        if answer.status == 200:
            answers += 1
            # What is remembered is answered in a millisecond, however many there are.
            if not back:
                waits.append(time.monotonic() - begun)
        else:
            busy += 1
        over.wait(LOOKS_S * (0.5 + draw.random()))
    with lock:
        row.waits += waits
        row.answers += answers
        row.starved += not answers
        row.busy += busy


def ask_health(port: int, over: threading.Event, row: Row) -> None:
    """Ask after the product's health, twenty times a second."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    while not over.wait(0.05):
        begun = time.monotonic()
        connection.request("GET", "/api/health")
        connection.getresponse().read()
        row.health.append(time.monotonic() - begun)


def measured(product: Product, clients: int, searches: bool) -> Row:
    """Let so many press levers for a while."""
    row, over, lock = Row(clients, searches), threading.Event(), threading.Lock()
    threads = [
        threading.Thread(target=press, args=(product.port, n, over, row, lock))
        for n in range(clients)
    ]
    threads.append(threading.Thread(target=ask_health, args=(product.port, over, row)))
    if searches:
        document = json.loads((ROOT / "docs/examples/brief-trike.json").read_text())
        for number in range(4):
            product.post(
                "/api/briefs", {"document": {**document, "name": f"B{number}"}, "search": True}
            )
    for thread in threads:
        thread.start()
    time.sleep(LASTS_S)
    over.set()
    for thread in threads:
        thread.join()
    return row


def main() -> int:
    """Measure every row and write the table."""
    product = Product()
    product.start()
    rows = []
    try:
        measured(product, 2, searches=False)  # until everything is warm
        for searches in (False, True):
            for clients in CLIENTS:
                row = measured(product, clients, searches)
                rows.append(row)
                print(_in_a_line(row), flush=True)
    finally:
        product.end()
    (ROOT / "docs" / "load.md").write_text(_page(rows))
    return 1 if any(row.starved for row in rows) else 0


def _in_a_line(row: Row) -> str:
    return (
        f"{row.clients} clients, searches {row.searches}: median {row.at(0.5):.3f} s, 95 %"
        f" {row.at(0.95):.3f} s, {row.answers} answers, starved {row.starved},"
        f" turned away {row.busy}, health at most {max(row.health):.3f} s"
    )


def _page(rows: list[Row]) -> str:
    one = rows[0]
    lines = [
        "# How many may press levers at once",
        "",
        "Written by `bin/load`: each client has a bench of its own and presses a lever about twice"
        f" a second, three times in ten back to what it had before, for {LASTS_S:.0f} s, client and"
        " product on the same two shared cores. The times are of what was new; what was there"
        " before is remembered and comes in a millisecond or two."
        f" One client without searches waits {1000 * one.at(0.5):.0f} ms at the median; the other"
        " figures are ratios to that. *Starved* got no answer at all, *turned away* were told to"
        " ask again. Health is asked for twenty times a second meanwhile.",
        "",
        "| clients | searches | median | 95 % | answers a second | starved | turned away"
        " | health, 95 % | health, longest |",
        "|---|---|---|---|---|---|---|---|---|",
    ]
    for row in rows:
        health = sorted(row.health)
        lines.append(
            f"| {row.clients} | {'four' if row.searches else 'none'}"
            f" | {row.at(0.5) / one.at(0.5):.1f} | {row.at(0.95) / one.at(0.5):.1f}"
            f" | {row.answers / LASTS_S:.0f} | {row.starved} | {row.busy}"
            f" | {1000 * health[int(0.95 * len(health))]:.0f} ms | {1000 * health[-1]:.0f} ms |"
        )
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    sys.exit(main())
