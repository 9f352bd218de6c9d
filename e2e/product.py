"""The real product in a process of its own, and how headless Chromium is begun beside it."""

import itertools
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, sync_playwright

from ops.cluster import Cluster, cluster_below

NUMBERS = itertools.count(1)
ROOT = Path(__file__).resolve().parents[1]
DEMO = ROOT / "server" / "builds" / "demo"
LAUNCH: dict[str, Any] = {
    "executable_path": "/usr/bin/chromium",
    "args": [
        "--no-sandbox",
        "--disable-dev-shm-usage",
        "--disable-gpu",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--no-first-run",
    ],
}
"""How headless Chromium is begun."""

KEY = "of-products-that-tests-begin"
KEYED = {"Authorization": f"Bearer {KEY}"}
"""The key that every product here has, and how a browser or script shows it."""


class Product:
    """One running product with a database of its own."""

    def __init__(self, *, warm: bool = True) -> None:
        """Prepare a place for it; where nobody searches, workers need not warm up for that."""
        self.warm = warm
        self.local = Path(tempfile.mkdtemp(prefix="young-torrent-e2e-"))
        self.local.chmod(0o755)
        (self.local / "key").write_text(KEY)
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.process: subprocess.Popen[bytes] | None = None

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    @property
    def cookie(self) -> dict[str, Any]:
        """The cookie that a browser has once it opened the address with the key."""
        return {
            "name": f"young_torrent_{self.port}",
            "value": KEY,
            "domain": "127.0.0.1",
            "path": "/",
            "expires": -1,
            "httpOnly": True,
            "secure": False,
            "sameSite": "Strict",
        }

    @property
    def cluster(self) -> Cluster:
        return cluster_below(self.local)

    def start(self) -> None:
        log = (self.local / "server.log").open("ab")
        self.process = subprocess.Popen(
            [sys.executable, "-m", "ops.serve", "--port", str(self.port)],
            cwd=ROOT,
            env={**os.environ, "YT_LOCAL": str(self.local), "YT_WARM": "1" if self.warm else "0"},
            stdout=log,
            stderr=log,
            start_new_session=True,
        )
        for _ in range(600):
            try:
                if self.get("/api/health")["database"]:
                    return
            except OSError:  # Not there yet, or too busy beginning to answer in time.
                time.sleep(0.1)
        told = (self.local / "server.log").read_text()
        # Whoever waits for this product gets none to end.
        self.end()
        raise AssertionError(told)

    def kill(self) -> None:
        """End all that runs but the database as a power cut would: no handler runs."""
        assert self.process is not None
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()

    def pids(self, module: str) -> list[int]:
        """Return the process numbers of this product's processes that run a module."""
        assert self.process is not None
        told = subprocess.run(
            ["pgrep", "-f", "-g", str(self.process.pid), module], capture_output=True, text=True
        )
        return [int(line) for line in told.stdout.split()]

    def end(self) -> None:
        if self.process is not None and self.process.poll() is None:
            self.process.send_signal(signal.SIGINT)
            self.process.wait(timeout=30)
        self.cluster.stop()
        shutil.rmtree(self.local, ignore_errors=True)

    def get(self, path: str) -> Any:
        request = urllib.request.Request(self.url + path, headers=KEYED)
        with urllib.request.urlopen(request, timeout=5) as response:
            return json.load(response)

    def post(self, path: str, body: Any) -> Any:
        return self.sent(path, body, "POST")

    def put(self, path: str, body: Any) -> Any:
        return self.sent(path, body, "PUT")

    def sent(self, path: str, body: Any, method: str) -> Any:
        request = urllib.request.Request(
            self.url + path,
            json.dumps(body).encode(),
            {"Content-Type": "application/json", **KEYED},
            method=method,
        )
        with urllib.request.urlopen(request, timeout=5) as response:
            return json.load(response)

    def begin(self, **changes: Any) -> str:
        """Begin a build from the trike with whole sections changed; return its address."""
        trike = json.loads((DEMO / "causeway-trike.json").read_text())
        document = {**trike, "provenance": {}, "name": f"Trike {next(NUMBERS)}", **changes}
        build = self.post("/api/builds", {"document": document, "change_id": str(uuid.uuid4())})
        return f"{self.url}/builds/{build['id']}"

    def build(self, address: str) -> Any:
        return self.get("/api/builds/" + address.rsplit("/", 1)[1])


@contextmanager
def product_in_a_browser() -> Iterator[tuple[Product, Browser]]:
    """Run a product of its own with a browser, for pictures and measurements."""
    running = Product()
    running.start()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(**LAUNCH)
            yield running, browser
            browser.close()
    finally:
        running.end()
