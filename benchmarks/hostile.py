"""Sends the hostile requests of the tests to a running product: `bin/hostile`, docs/hostile.md.

What the tests can't say is measured here: how long each took, and what memory is left in use.
"""

import http.client
import os
import sys
import time
from collections import Counter

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

import django

django.setup()

from benchmarks.growth import resident_mb  # noqa: E402
from config.api import api  # noqa: E402
from e2e.product import KEYED, ROOT, Product  # noqa: E402
from tests.asked import sound_requests  # noqa: E402
from tests.hostile import Request, of_documents, of_paths  # noqa: E402

DRAWN = 2000
SLOWEST_S, MOST_MB = 2.0, 200.0


def sent(product: Product, request: Request) -> tuple[int, float]:
    """Return status and seconds of a request; status 0 where there was no answer."""
    connection = http.client.HTTPConnection("127.0.0.1", product.port, timeout=120)
    begun = time.monotonic()
    try:
        path = request.path.replace(" ", "%20")
        headers = {"Content-Type": request.content_type, **KEYED}
        connection.request(request.method, f"/api{path}", request.body, headers)
        answer = connection.getresponse()
        answer.read()
        status = answer.status
    except (OSError, http.client.HTTPException):
        status = 0
    connection.close()
    return status, time.monotonic() - begun


def main() -> int:
    """Send all of them; return 1 if one failed, took too long, or memory stayed in use."""
    product = Product()
    product.start()
    try:
        build = product.begin().rsplit("/", 1)[1]
        brief = product.post("/api/briefs", sound_requests()["/briefs"])["id"]
        asked = sound_requests(build, brief)
        for path, body in asked.items():
            product.post(f"/api{path}", body)
        rest = resident_mb(product, "ops.web|forkserver")
        paths = {
            path.removeprefix("/api"): methods
            for path, methods in api.get_openapi_schema()["paths"].items()
        }
        requests = [*of_paths(paths), *of_documents(asked, DRAWN, seed=7)]
        statuses: Counter[int] = Counter()
        slowest: list[tuple[float, str]] = []
        failed = []
        for request in requests:
            status, took = sent(product, request)
            statuses[status] += 1
            slowest.append((took, request.name))
            if status == 0 or status >= 500:
                failed.append(f"{request.name}: {status}")
        after = resident_mb(product, "ops.web|forkserver")
    finally:
        product.end()
    slowest.sort(reverse=True)
    lines = [
        "# Requests made to break it",
        "",
        f"Written by `bin/hostile`: {len(requests):,} requests (hostile bodies, values, addresses,"
        " methods and tables; the tests send many of them too), one after another, to a product of"
        " its own.",
        "",
        f"- answers by status: {', '.join(f'{n:,} of {s}' for s, n in sorted(statuses.items()))}",
        f"- failed (none, or 500 and above): {len(failed)}",
        f"- longest: {slowest[0][0]:.2f} s ({slowest[0][1][:80]}); over {SLOWEST_S:.0f} s:"
        f" {sum(took > SLOWEST_S for took, _ in slowest)}",
        f"- memory of what answers: {rest:.0f} MB at rest, {after:.0f} MB afterwards",
    ]
    (ROOT / "docs" / "hostile.md").write_text("\n".join(lines) + "\n")
    print("\n".join(lines), *failed[:20], *(f"{t:.2f} {n}" for t, n in slowest[:8]), sep="\n")
    return 1 if failed or slowest[0][0] > SLOWEST_S or after - rest > MOST_MB else 0


if __name__ == "__main__":
    sys.exit(main())
