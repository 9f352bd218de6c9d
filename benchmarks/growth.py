"""Years of work: `bin/growth` fills a product of its own and writes docs/growth.md.

Each page's first data, at a few builds and parts and at very many, over HTTP.
"""

import json
import os
import subprocess
import sys
import time
from collections.abc import Callable
from statistics import median
from typing import Any

from e2e.product import DEMO, ROOT, Product

SIZES = ((100, 1_000), (10_000, 100_000))
"""Builds and parts of one's own."""

FILL = """
import copy, random, sys, uuid
import django
django.setup()
from accounts.personal import the_owner
from builds.demo import demo_builds
from builds.models import Build, Version
from common.documents import plain
from powertrain.documents.shelf import KINDS
from powertrain.shelf.shipped import shipped_shelf
from shelf.models import Part, PartVersion

builds, parts = int(sys.argv[1]), int(sys.argv[2])
owner, draw = the_owner(), random.Random(1)
documents = [plain(one) for one in demo_builds().values()]
have = Build.objects.count()
for first in range(have, builds, 500):
    made, versions = [], []
    for number in range(first, min(first + 500, builds)):
        document = copy.deepcopy(draw.choice(documents))
        document["name"] = f"{draw.choice(['Reed', 'Sedge', 'Rush'])} cart {number}"
        document["vehicle"]["mass_kg"] = round(draw.uniform(60, 300), 1)
        build = Build(owner=owner, name=document["name"])
        made.append(build)
        versions.append(Version(build=build, number=1, document=document, made_by=owner))
    Build.objects.bulk_create(made)
    Version.objects.bulk_create(versions)

# What people collect most: motors, controllers and packs; teeth, wheels and the rest less.
shares = {"motors": 0.35, "controllers": 0.2, "packs": 0.2, "cells": 0.1, "teeth": 0.05,
          "wheels": 0.05, "strands": 0.02, "wires": 0.02, "connectors": 0.01}
for kind, share in shares.items():
    wanted = int(parts * share)
    shipped = [plain(part) for part in getattr(shipped_shelf(), kind)]
    have = Part.objects.filter(kind=kind).count()
    for first in range(have, wanted, 500):
        made = []
        for number in range(first, min(first + 500, wanted)):
            document = copy.deepcopy(draw.choice(shipped))
            document["id"] = f"own-{kind}-{number}"
            document["name"] = f"{draw.choice(['Heron', 'Teal', 'Snipe'])} {kind[:-1]} {number}"
            document.pop("provenance", None)
            if kind == "motors":
                document["family"] = f"can {number // 6}"
                motor = document["motor"]
                for key in ("kv_rpm_per_v", "resistance_ohm", "price", "mass_kg"):
                    if motor.get(key):
                        motor[key] = round(motor[key] * draw.uniform(0.8, 1.25), 5)
            part = Part(owner=owner, kind=kind, ref=document["id"])
            part.say(document)
            made.append(part)
        Part.objects.bulk_create(made)
        PartVersion.objects.bulk_create(
            PartVersion(part=part, number=1, document=part.document) for part in made)
"""


def fill(product: Product, builds: int, parts: int) -> None:
    """Put builds and parts straight into the database, as years would have."""
    environment = {
        **os.environ,
        **product.cluster.environment,
        "DJANGO_SETTINGS_MODULE": "config.settings",
        "YT_LOG_LEVEL": "WARNING",
        "YT_DB_STATEMENT_TIMEOUT_S": "0",
    }
    subprocess.run(
        [sys.executable, "-c", FILL, str(builds), str(parts)], env=environment, check=True
    )
    with product.cluster.connect() as connection:
        connection.execute("analyze")


def questions(product: Product) -> dict[str, Callable[[], Any]]:
    """Return what each page asks first."""
    trike = json.loads((DEMO / "causeway-trike.json").read_text())
    motors = product.post("/api/shelf/motors/look", {"only_own": True, "limit": 1})
    own = product.get(f"/api/shelf/motors/parts/{motors['rows'][0]['id']}")["document"]
    of_own = {**trike, "motor": {**own["motor"], "name": own["name"]}, "provenance": {}}
    return {
        "builds": lambda: product.get("/api/builds"),
        "builds by a word": lambda: product.get("/api/builds?words=reed+77"),
        "builds by name": lambda: product.get("/api/builds?sort=name"),
        "builds to choose from": lambda: product.get("/api/builds?limit=100"),
        "briefs": lambda: product.get("/api/briefs"),
        "names to choose from": lambda: product.get("/api/shelf/names"),
        "motors": lambda: product.post("/api/shelf/motors/look", {"limit": 300}),
        "motors by a word": lambda: product.post(
            "/api/shelf/motors/look", {"limit": 300, "words": "teal 99"}
        ),
        "motors by KV": lambda: product.post(
            "/api/shelf/motors/look", {"limit": 300, "sort": "motor.kv_rpm_per_v"}
        ),
        "motors that fit a build": lambda: product.post(
            "/api/shelf/motors/look", {"limit": 300, "build": trike}
        ),
        "tooth ladder": lambda: product.post("/api/ladder", {"document": trike}),
        "windings of an own can": lambda: product.post("/api/windings", {"document": of_own}),
        "roads to a speed": lambda: product.post(
            "/api/roads", {"document": trike, "wish_kmh": 45.0}
        ),
        "what is kept": lambda: product.get("/api/upkeep"),
    }


def first_result(product: Product) -> float:
    """Return the seconds from asking for a search to its first result."""
    document = json.loads((ROOT / "docs/examples/brief-trike.json").read_text())
    begun = time.monotonic()
    match = product.post("/api/briefs", {"document": document, "search": True})["match"]["id"]
    while True:
        told = product.get(f"/api/matches/{match}")
        if told["answer"] and told["answer"]["results"]:
            found = time.monotonic() - begun
            break
        if told["state"] not in ("waiting", "running") or time.monotonic() - begun > 180:
            return float("nan")
        time.sleep(0.03)
    product.post(f"/api/matches/{match}/cancel", {})
    return found


def resident_mb(product: Product, module: str) -> float:
    """Return the memory of all processes of the product that run a module, in MB."""
    total = 0
    for pid in product.pids(module):
        with open(f"/proc/{pid}/status") as status:
            total += next(int(line.split()[1]) for line in status if line.startswith("VmRSS"))
    return total / 1000


def measured(ask: Callable[[], Any]) -> float:
    """Return the median of some askings, in seconds; the first, which warms, is not among them."""
    ask()
    waits = []
    for _ in range(7):
        begun = time.monotonic()
        ask()
        waits.append(time.monotonic() - begun)
    return median(waits)


def main() -> int:
    """Measure at each size and write the table."""
    product = Product()
    product.start()
    columns: list[dict[str, float]] = []
    try:
        for builds, parts in SIZES:
            begun = time.monotonic()
            fill(product, builds, parts)
            print(
                f"filled to {builds} builds and {parts} parts in {time.monotonic() - begun:.0f} s"
            )
            column = {}
            for name, ask in questions(product).items():
                column[name] = measured(ask)
                print(f"  {name}: {1000 * column[name]:.0f} ms", flush=True)
            column["a brief's first result"] = median(first_result(product) for _ in range(3))
            column["memory, answering (MB)"] = resident_mb(product, "ops.web|forkserver")
            column["memory, workers (MB)"] = resident_mb(product, "ops.work")
            for name in list(column)[-3:]:
                print(f"  {name}: {column[name]:.2f}", flush=True)
            columns.append(column)
    finally:
        product.end()
    (ROOT / "docs" / "growth.md").write_text(_page(columns))
    return 0


def _page(columns: list[dict[str, float]]) -> str:
    small, large = columns
    lines = [
        "# What years of work do to it",
        "",
        "Written by `bin/growth`: the first data of each page over HTTP, the median of seven, at"
        f" {SIZES[0][0]:,} builds and {SIZES[0][1]:,} parts of one's own and at {SIZES[1][0]:,} and"
        f" {SIZES[1][1]:,}, on two shared cores.",
        "",
        "| page | few | very many | ratio |",
        "|---|---|---|---|",
    ]
    for name, before in small.items():
        after = large[name]
        unit, times = ("", 1.0) if "MB" in name else (" ms", 1000.0)
        lines.append(
            f"| {name} | {times * before:,.0f}{unit} | {times * after:,.0f}{unit}"
            f" | {after / before:.1f} |"
        )
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    sys.exit(main())
