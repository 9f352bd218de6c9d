"""``bin/start`` after its set-up: database, migrations, demo, and the one server process."""

import argparse
import os
import secrets
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from queue import SimpleQueue


def main() -> int:
    """Run the product until Ctrl-C or a termination signal; stop the database too."""
    options = _options()
    begun = time.monotonic()
    if _taken(options.port):
        print(f"Port {options.port} is in use; choose another with --port.", file=sys.stderr)
        return 1
    from ops.cluster import LOCAL, ClusterError, cluster_below

    ended = _endings()
    LOCAL.mkdir(parents=True, exist_ok=True)
    cluster = cluster_below(LOCAL)
    try:
        print("Starting the database", flush=True)
        cluster.start()
        os.environ.update(cluster.environment, YT_SECRET_KEY=_secret(LOCAL))
        # Searches take a core each; threads of one that wait in a loop would take the others.
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        if ended.empty():
            _prepare(demo=options.demo)
        if ended.empty():
            with _workers(), _server(options.port):
                seconds = time.monotonic() - begun
                address = f"http://127.0.0.1:{options.port}/"
                print(f"Ready after {seconds:.1f} s: {address}   (Ctrl-C stops it)", flush=True)
                ended.get()
    except ClusterError as problem:
        print(problem, file=sys.stderr)
        return 1
    finally:
        print("Stopping the database", flush=True)
        cluster.stop()
    return 0


def _endings() -> SimpleQueue[int]:
    """Return a queue that gets every wish to end this.

    A signal that raises can be lost: one that comes while some object is being cleared away is
    reported there and forgotten. This queue may be filled from within a signal's handler.
    """
    ended: SimpleQueue[int] = SimpleQueue()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda number, _: ended.put(number))
    return ended


WORKERS = max(1, min(4, os.cpu_count() or 1))
"""Searches that are done at once: one for each core, so that one tab does not wait for another."""


@contextmanager
def _workers() -> Iterator[None]:
    """Run workers beside the server, and another whenever one ends before its time."""
    over = threading.Event()
    running: dict[int, subprocess.Popen[bytes]] = {}

    def keep(place: int) -> None:
        while not over.is_set():
            running[place] = subprocess.Popen([sys.executable, "-m", "ops.work", "--attached"])
            running[place].wait()
            over.wait(1.0)

    keeping = [threading.Thread(target=keep, args=(i,), daemon=True) for i in range(WORKERS)]
    for thread in keeping:
        thread.start()
    try:
        yield
    finally:
        over.set()
        for thread in keeping:
            # Asked for as long as it takes, since one may have been begun a moment ago; a search
            # that is cut off here is found by the next worker.
            for ask in ("terminate", "terminate", "terminate", "kill", "kill"):
                for worker in list(running.values()):
                    getattr(worker, ask)()
                thread.join(timeout=1.5)
                if not thread.is_alive():
                    break


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


def _secret(local: Path) -> str:
    """Return the key that signs what the server hands out, made once."""
    place = local / "secret"
    if not place.is_file():
        descriptor = os.open(place, os.O_WRONLY | os.O_CREAT, 0o600)
        with os.fdopen(descriptor, "w") as file:
            file.write(secrets.token_urlsafe(48))
    return place.read_text()


def _prepare(*, demo: bool) -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    import django
    from django.core.management import call_command

    from powertrain.doubt.draws import ready

    django.setup()
    # Read while nobody listens yet: meanwhile no thread of this process answers.
    ready()
    print("Bringing the database up to date", flush=True)
    call_command("migrate", verbosity=0, interactive=False)
    if demo:
        call_command("load_demo")
    from django.db import connections

    connections.close_all()


@contextmanager
def _server(port: int) -> Iterator[None]:
    """Answer requests in threads beside this one; at the end let those under way finish."""
    import waitress

    from config.wsgi import application

    threading.Thread(target=_warm, daemon=True).start()
    server = waitress.create_server(
        application,
        host="127.0.0.1",
        port=port,
        threads=6,
        ident="",
        clear_untrusted_proxy_headers=True,
    )
    threading.Thread(target=server.run, daemon=True).start()
    try:
        yield
    finally:
        server.task_dispatcher.shutdown(timeout=5)


def _warm() -> None:
    """Solve once, so that the first person does not wait for imports."""
    from builds.demo import demo_builds
    from powertrain.bench.solve import solve

    for document in demo_builds().values():
        solve(document)


if __name__ == "__main__":
    sys.exit(main())
