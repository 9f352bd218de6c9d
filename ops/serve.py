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


def main() -> int:
    """Run the product until Ctrl-C or a termination signal; stop the database too."""
    options = _options()
    begun = time.monotonic()
    if _taken(options.port):
        print(f"Port {options.port} is in use; choose another with --port.", file=sys.stderr)
        return 1
    from ops.cluster import LOCAL, ClusterError, cluster_below

    # Said anew, since a shell that starts this in the background hands it down as ignored.
    signal.signal(signal.SIGINT, signal.default_int_handler)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    LOCAL.mkdir(parents=True, exist_ok=True)
    cluster = cluster_below(LOCAL)
    try:
        print("Starting the database", flush=True)
        cluster.start()
        os.environ.update(cluster.environment, YT_SECRET_KEY=_secret(LOCAL))
        _prepare(demo=options.demo)
        with _workers():
            _serve(options.port, begun)
    except ClusterError as problem:
        print(problem, file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        pass
    finally:
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        print("Stopping the database", flush=True)
        cluster.stop()
    return 0


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
        for worker in list(running.values()):
            worker.terminate()
        for thread in keeping:
            thread.join(timeout=10)


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

    django.setup()
    print("Bringing the database up to date", flush=True)
    call_command("migrate", verbosity=0, interactive=False)
    if demo:
        call_command("load_demo")
    from django.db import connections

    connections.close_all()


def _serve(port: int, begun: float) -> None:
    import waitress

    from config.wsgi import application

    threading.Thread(target=_warm, args=(), daemon=True).start()
    seconds = time.monotonic() - begun
    print(f"Ready after {seconds:.1f} s: http://127.0.0.1:{port}/   (Ctrl-C stops it)", flush=True)
    waitress.serve(
        application,
        host="127.0.0.1",
        port=port,
        threads=6,
        ident="",
        clear_untrusted_proxy_headers=True,
    )


def _warm() -> None:
    """Solve once, so that the first person does not wait for imports."""
    from builds.demo import demo_builds
    from powertrain.bench.solve import solve

    for document in demo_builds().values():
        solve(document)


if __name__ == "__main__":
    sys.exit(main())
