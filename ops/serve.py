"""``bin/start`` after its set-up: keeps database, web process and workers running.

One process owns a place, by a lock. It computes nothing and answers nobody, so that it is there
to begin again whatever of the others ends.
"""

import argparse
import json
import os
import secrets
import signal
import socket
import subprocess
import sys
import threading
import time
import urllib.request
from pathlib import Path
from queue import SimpleQueue

from ops.cluster import LOCAL, Cluster, ClusterError, cluster_below
from ops.keeping import Process, kept
from ops.machine_code import keep_below
from ops.owner import Owner, Taken

WORKERS = max(1, min(4, os.cpu_count() or 1))
"""Searches that are done at once: one for each core, so that one tab does not wait for another."""


def main() -> int:
    """Run the product until Ctrl-C or a termination signal; stop the database too."""
    options = _options()
    begun = time.monotonic()
    LOCAL.mkdir(parents=True, exist_ok=True)
    try:
        owner = Owner(LOCAL)
    except Taken as taken:
        print(taken, file=sys.stderr)
        return 1
    if _taken(options.port):
        print(f"Port {options.port} is in use; choose another with --port.", file=sys.stderr)
        return 1
    ended = _endings()
    cluster = cluster_below(LOCAL)
    status = Status(LOCAL)
    try:
        print("Starting the database", flush=True)
        cluster.start()
        os.environ.update(
            cluster.environment,
            YT_SECRET_KEY=_secret(LOCAL / "secret"),
            YT_KEY=_secret(LOCAL / "key"),
            YT_STATUS=str(status.place),
            YT_DB_HOME=str(cluster.home),
        )
        # What is heavy takes a core each; threads of one that wait in a loop would take others.
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        keep_below(LOCAL)
        web, workers = _web(options.port), _workers()
        database = Database(cluster, [web, *workers])
        # Those that use the database end before it does.
        with kept([database], status.tell), kept([web], status.tell):
            print("Bringing the database up to date", flush=True)
            _prepare(demo=options.demo)
            # The web process has read itself in meanwhile, and waits for this.
            status.prepared()
            address = f"http://127.0.0.1:{options.port}/"
            _wait_for(address, ended)
            with kept(workers, status.tell):
                owner.tell(address=address)
                seconds = time.monotonic() - begun
                print(f"Ready after {seconds:.1f} s: {address}?key={os.environ['YT_KEY']}")
                print(
                    "Open it once with its key; your browser keeps it. Ctrl-C stops it.", flush=True
                )
                ended.get()
    except ClusterError as problem:
        print(problem, file=sys.stderr)
        return 1
    except subprocess.CalledProcessError:
        if not ended.empty():
            return 0
        print("The database could not be brought up to date; see above.", file=sys.stderr)
        return 1
    finally:
        print("Stopping the database", flush=True)
        cluster.stop()
        owner.leave()
    return 0


class Status:
    """How everything stands, in a file that the web process reads."""

    def __init__(self, local: Path) -> None:
        self.place = local / "status.json"
        self._stands: dict[str, str] = {}
        self._ended: set[str] = set()
        self._prepared = False
        # Several threads tell; what one writes must not undo what another wrote.
        self._lock = threading.Lock()
        self._write()

    def prepared(self) -> None:
        """Note that the database has the form that the program needs."""
        with self._lock:
            self._prepared = True
            self._write()

    def tell(self, name: str, how: str) -> None:
        """Note how a thing stands, and print what is out of the ordinary."""
        with self._lock:
            before = self._stands.get(name)
            self._stands[name] = how
            self._write()
        # That something runs is told only where it did not for a while.
        if how not in ("up", "is starting") or (how == "up" and name in self._ended):
            print(f"{name}: {how}", file=sys.stderr, flush=True)
        if before is not None:
            self._ended.add(name)

    def _write(self) -> None:
        fresh = self.place.with_suffix(f".{secrets.token_hex(4)}")
        try:
            fresh.write_text(json.dumps({"stands": self._stands, "prepared": self._prepared}))
            fresh.replace(self.place)
        except OSError as problem:  # A full disk must not end what keeps the others running.
            print(f"status: {problem}", file=sys.stderr, flush=True)


class Database:
    """The cluster as something to keep running; one stopped by hand is left so.

    `users` are the processes that use it, to be begun again if it is found at another port.
    """

    name = "database"

    def __init__(self, cluster: Cluster, users: list[Process]) -> None:
        self._cluster, self._users = cluster, users

    def start(self) -> None:
        """Start the cluster, and let those that use it know where it is."""
        self._cluster.start()
        if os.environ.get("YT_DB_PORT") != str(self._cluster.port):
            os.environ.update(self._cluster.environment)
            for user in self._users:
                user.stop()

    def runs(self) -> bool:
        """Return whether it runs, or is not to."""
        return self._cluster.runs() or self._cluster.is_held

    def stop(self) -> None:
        """Stop the cluster."""
        self._cluster.stop()


def _web(port: int) -> Process:
    command = [sys.executable, "-m", "ops.web", "--port", str(port), *_attached()]
    return Process("web", command)


def _workers() -> list[Process]:
    command = [sys.executable, "-m", "ops.work", *_attached()]
    return [
        Process(f"worker {number}", command, graceful_s=4.0) for number in range(1, WORKERS + 1)
    ]


def _attached() -> list[str]:
    return ["--attached", str(os.getpid())]


def _endings() -> SimpleQueue[int]:
    """Return a queue that gets every wish to end this.

    A signal that raises can be lost: one that comes while some object is being cleared away is
    reported there and forgotten. This queue may be filled from within a signal's handler.
    """
    ended: SimpleQueue[int] = SimpleQueue()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda number, _: ended.put(number))
    return ended


def _options() -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="bin/start", description="Run Young Torrent.")
    parser.add_argument("--port", type=int, default=8000, help="port on 127.0.0.1 (8000)")
    parser.add_argument(
        "--no-demo", dest="demo", action="store_false", help="without the demo builds"
    )
    return parser.parse_args()


def _taken(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return True
    return False


def _secret(place: Path) -> str:
    """Return a secret that only its owner reads, made once."""
    if not place.is_file():
        fresh = place.with_suffix(".new")
        fresh.unlink(missing_ok=True)
        descriptor = os.open(fresh, os.O_WRONLY | os.O_CREAT, 0o600)
        with os.fdopen(descriptor, "w") as file:
            file.write(secrets.token_urlsafe(32))
        fresh.replace(place)
    return place.read_text().strip()


def _prepare(*, demo: bool) -> None:
    command = [sys.executable, "-m", "ops.prepare", *(["--demo"] if demo else [])]
    subprocess.run(command, check=True)


def _wait_for(address: str, ended: SimpleQueue[int]) -> None:
    """Wait until the web process answers, or somebody wants to end this."""
    while ended.empty():
        try:
            with urllib.request.urlopen(f"{address}api/health", timeout=5):
                return
        except OSError:
            time.sleep(0.05)


if __name__ == "__main__":
    sys.exit(main())
