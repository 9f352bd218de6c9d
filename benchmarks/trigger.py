"""Frames that reach ten pages which hold a trigger at once: `bin/bench trigger`."""

import http.client
import json
import statistics
import threading
import time
from typing import Any

from e2e.product import KEYED, Product, product_in_a_browser

PAGES, SECONDS = 10, 8.0


def main() -> None:
    """Print frames a second, and the longest gap, of each page."""
    with product_in_a_browser() as (product, _):
        document = _trike(product)
        keys = []
        begun = time.perf_counter()
        for _ in range(PAGES):
            status, told = _sent(product, "POST", "/api/trigger", {"document": document})
            assert status == 200, told
            keys.append(told["id"])
        print(f"begun in {(time.perf_counter() - begun) / PAGES * 1000:.0f} ms each")
        gaps: list[list[float]] = [[] for _ in keys]
        threads = [
            threading.Thread(target=_watch, args=(product, key, gaps[at]))
            for at, key in enumerate(keys)
        ]
        for thread in threads:
            thread.start()
        for pull in range(int(SECONDS * 4)):
            for key in keys:
                _sent(product, "PUT", f"/api/trigger/{key}", {"trigger": pull % 4 / 4})
            time.sleep(0.2)
        for thread in threads:
            thread.join()
        rates = [len(some) / sum(some) for some in gaps]
        longest = [1000 * max(some) for some in gaps]
        print(f"frames a second: least {min(rates):.1f}, middle {statistics.median(rates):.1f}")
        print(f"longest gap: {max(longest):.0f} ms")


def _trike(product: Product) -> Any:
    listed = product.get("/api/builds?whose=examples")["builds"]
    one = next(build for build in listed if build["name"] == "Causeway trike")
    return product.get(f"/api/builds/{one['id']}/document")


def _sent(product: Product, method: str, path: str, body: Any) -> tuple[int, Any]:
    connection = http.client.HTTPConnection("127.0.0.1", product.port, timeout=30)
    headers = {**KEYED, "Content-Type": "application/json"}
    connection.request(method, path, json.dumps(body), headers)
    answer = connection.getresponse()
    text = answer.read()
    connection.close()
    return answer.status, json.loads(text) if text else None


def _watch(product: Product, key: str, gaps: list[float]) -> None:
    connection = http.client.HTTPConnection("127.0.0.1", product.port, timeout=30)
    connection.request("GET", f"/api/trigger/{key}/frames", headers=KEYED)
    answer = connection.getresponse()
    ends = time.perf_counter() + SECONDS
    before: float | None = None
    while time.perf_counter() < ends:
        line = answer.readline()
        if not line.startswith(b"data:"):
            continue
        now = time.perf_counter()
        if before is not None:
            gaps.append(now - before)
        before = now
    connection.close()


if __name__ == "__main__":
    main()
