"""Breaks the running product in every way that a machine does, and looks what is left.

`bin/faults [TIMES]` writes docs/faults.md: for each fault, how long nobody was answered, whether
every edit that was acknowledged is still there, and what the product said meanwhile.
"""

import contextlib
import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path

from e2e.product import DEMO, ROOT, Product

BACK_WITHIN_S = 10.0


@dataclass
class Outcome:
    """What one fault did, each time it was tried."""

    name: str
    what: str
    back_s: list[float] = field(default_factory=list)
    acknowledged: int = 0
    lost: int = 0
    said: set[str] = field(default_factory=set)
    wrong: list[str] = field(default_factory=list)


class Editor:
    """Somebody who edits a build without a pause, and remembers each edit that was acknowledged."""

    def __init__(self, product: Product) -> None:
        self._product = product
        document = json.loads((DEMO / "causeway-trike.json").read_text())
        self._document = {**document, "name": f"Edited {uuid.uuid4().hex[:6]}", "provenance": {}}
        body = {"document": self._document, "change_id": str(uuid.uuid4())}
        self._id = product.post("/api/builds", body)["id"]
        self.acknowledged: list[int] = []
        self.said: set[str] = set()
        self.last_answer = time.monotonic()
        self.longest_silence = 0.0
        self._over = threading.Event()
        self._thread = threading.Thread(target=self._edit, daemon=True)
        self._thread.start()

    def stop(self) -> None:
        self._over.set()
        self._thread.join()

    def lost(self) -> int:
        """Return how many acknowledged edits are not among the versions."""
        kept = set()
        with self._product.cluster.connect() as connection:
            rows = connection.execute(
                "select document->'vehicle'->>'mass_kg' from builds_version where build_id = %s",
                [self._id],
            ).fetchall()
            kept = {float(mass) for (mass,) in rows}
        return sum(float(mass) not in kept for mass in self.acknowledged)

    def _edit(self) -> None:
        head, mass = 1, 100
        while not self._over.is_set():
            mass += 1
            self._document["vehicle"]["mass_kg"] = mass
            body = {"base": head, "document": self._document, "change_id": str(uuid.uuid4())}
            while not self._over.is_set():
                try:
                    head = self._product.post(f"/api/builds/{self._id}/versions", body)["head"]
                except urllib.error.HTTPError as problem:
                    self._hear(problem)
                    time.sleep(0.05)
                except (OSError, ValueError):
                    time.sleep(0.05)
                else:
                    self.acknowledged.append(mass)
                    now = time.monotonic()
                    self.longest_silence = max(self.longest_silence, now - self.last_answer)
                    self.last_answer = now
                    break
            time.sleep(0.01)

    def _hear(self, problem: urllib.error.HTTPError) -> None:
        with contextlib.suppress(ValueError, KeyError, OSError):
            error = json.loads(problem.read())["error"]
            self.said.add(f"{problem.code} {error['where']} {error['what']}"[:160])


# --- faults: each breaks something and returns once the product may be expected to be well -------


def kill_web(product: Product) -> None:
    """SIGKILL of the process that answers"""
    os.kill(product.pids("ops.web")[0], signal.SIGKILL)


def kill_worker(product: Product) -> None:
    """SIGKILL of a worker"""
    os.kill(product.pids("ops.work")[0], signal.SIGKILL)


def kill_postmaster(product: Product) -> None:
    """SIGKILL of the database's postmaster"""
    os.kill(_postmaster(product), signal.SIGKILL)


def kill_backend(product: Product) -> None:
    """SIGKILL of one of the database's own processes, at which it ends all the others"""
    told = subprocess.run(
        ["pgrep", "-P", str(_postmaster(product)), "-f", "young_torrent"],
        capture_output=True,
        text=True,
    )
    os.kill(int(told.stdout.split()[0]), signal.SIGKILL)


def restart_database(product: Product) -> None:
    """The database stopped and started, as an upgrade of its package does"""
    os.kill(_postmaster(product), signal.SIGINT)


def kill_everything(product: Product) -> None:
    """SIGKILL of everything, database too; then a start at once"""
    postmaster = _postmaster(product)
    product.kill()
    os.kill(postmaster, signal.SIGKILL)
    product.start()


def kill_all_but_database(product: Product) -> None:
    """SIGKILL of everything but the database; then a start at once"""
    product.kill()
    product.start()


def stale_pids(product: Product) -> None:
    """Everything killed, and the database's pid file names an innocent process"""
    postmaster = _postmaster(product)
    product.kill()
    os.kill(postmaster, signal.SIGKILL)
    place = product.cluster.data / "postmaster.pid"
    with subprocess.Popen(["sleep", "600"]) as innocent:
        _, rest = place.read_text().split("\n", 1)
        place.write_text(f"{innocent.pid}\n{rest}")
        product.start()
        alive = innocent.poll() is None
        innocent.kill()
    if not alive:
        raise AssertionError("an innocent process was ended")


def second_start(product: Product) -> None:
    """A second start, on the same port and on another, and both leave at once"""
    for port in (product.port, product.port + 1):
        done = subprocess.run(
            [sys.executable, "-m", "ops.serve", "--port", str(port)],
            cwd=ROOT,
            text=True,
            env={**os.environ, "YT_LOCAL": str(product.local)},
            capture_output=True,
            timeout=30,
        )
        if done.returncode != 1 or "runs here already" not in done.stderr:
            raise AssertionError(f"a second start said {done.stderr!r}")


def step_clock(product: Product) -> None:
    """Times that are compared with now stepped by an hour, as by a clock that is set"""
    with product.cluster.connect() as connection:
        # The machine's clock is not ours to set; what compares stored times with now sees this.
        connection.execute(
            "update procrastinate_workers set last_heartbeat = now() - interval '1 hour'"
        )
        connection.execute("update matching_match set made_at = made_at + interval '1 hour'")


def stop_for_a_while(product: Product) -> None:
    """The database frozen for three seconds, then let go (SIGSTOP, SIGCONT)"""
    pids = [_postmaster(product), *_children(_postmaster(product))]
    for pid in pids:
        os.kill(pid, signal.SIGSTOP)
    time.sleep(3)
    for pid in pids:
        os.kill(pid, signal.SIGCONT)


FAULTS: list[Callable[[Product], None]] = [
    kill_web,
    kill_worker,
    kill_postmaster,
    kill_backend,
    restart_database,
    stop_for_a_while,
    kill_everything,
    kill_all_but_database,
    stale_pids,
    second_start,
    step_clock,
]


def _postmaster(product: Product) -> int:
    pid = product.cluster.postmaster()
    assert pid is not None
    return pid


def _children(pid: int) -> list[int]:
    told = subprocess.run(["pgrep", "-P", str(pid)], capture_output=True, text=True)
    return [int(line) for line in told.stdout.split()]


def tried(product: Product, fault: Callable[[Product], None], outcome: Outcome) -> None:
    """Break the product once while somebody edits, and note what became of it."""
    editor = Editor(product)
    while len(editor.acknowledged) < 10:
        time.sleep(0.02)
    editor.longest_silence = 0.0
    before = len(editor.acknowledged)
    try:
        fault(product)
        end = time.monotonic() + 3 * BACK_WITHIN_S
        # Well again: it goes on for a while without a pause.
        while time.monotonic() < end and len(editor.acknowledged) < before + 40:
            time.sleep(0.05)
        if len(editor.acknowledged) < before + 40:
            outcome.wrong.append("was not back after 30 s")
    except AssertionError as problem:
        outcome.wrong.append(str(problem)[-200:])
    editor.stop()
    outcome.back_s.append(editor.longest_silence)
    outcome.acknowledged += len(editor.acknowledged)
    outcome.lost += editor.lost()
    outcome.said |= editor.said


# --- a search, and a full disk, which need a place of their own ---------------------------------


def search_through_a_restart(product: Product, outcome: Outcome) -> None:
    """Restart the database in the middle of a search: it ends all the same."""
    document = json.loads((ROOT / "docs/examples/brief-trike.json").read_text())
    brief = product.post("/api/briefs", {"document": document, "search": True})
    match, begun = brief["match"]["id"], time.monotonic()
    while product.get(f"/api/matches/{match}")["solved"] == 0 and time.monotonic() - begun < 30:
        time.sleep(0.05)
    os.kill(_postmaster(product), signal.SIGINT)
    broken = time.monotonic()
    state = ""
    while time.monotonic() - broken < 120:
        with contextlib.suppress(OSError):
            state = product.get(f"/api/matches/{match}")["state"]
        if state in ("done", "failed"):
            break
        time.sleep(0.2)
    outcome.back_s.append(time.monotonic() - broken)
    outcome.said.add(f"the search ended as {state}")
    if state not in ("done", "failed"):
        outcome.wrong.append(f"the search stays {state}")


@contextlib.contextmanager
def small_disk(megabytes: int) -> Iterator[Path | None]:
    """Lend a small file system of its own; None where this machine lends none."""
    place = Path(tempfile.mkdtemp(prefix="young-torrent-small-disk-"))
    done = subprocess.run(
        ["mount", "-t", "tmpfs", "-o", f"size={megabytes}m,mode=755", "tmpfs", str(place)],
        capture_output=True,
    )
    if done.returncode != 0:
        yield None
        return
    try:
        yield place
    finally:
        subprocess.run(["umount", "-l", str(place)], check=False)
        place.rmdir()


def full_disk(outcome: Outcome, times: int) -> None:
    """Fill the disk while somebody edits, see what is said, and make room again."""
    with small_disk(250) as place:
        if place is None:
            outcome.said.add("not tried: this machine lends no file system of its own")
            return
        product = Product()
        shutil.rmtree(product.local)
        product.local = place / "local"
        product.local.mkdir()
        (product.local / "key").write_text("of-products-that-tests-begin")
        product.start()
        try:
            for _ in range(times):
                editor = Editor(product)
                while len(editor.acknowledged) < 10:
                    time.sleep(0.02)
                filler = place / "filler"
                with contextlib.suppress(OSError), filler.open("wb") as file:
                    while True:
                        file.write(b"x" * 1_000_000)
                        file.flush()
                full = time.monotonic()
                while not any("507" in one or "full" in one for one in editor.said):
                    if time.monotonic() - full > 30:
                        outcome.wrong.append("a full disk was not told in 30 s")
                        break
                    time.sleep(0.05)
                filler.unlink()
                room, before = time.monotonic(), len(editor.acknowledged)
                while len(editor.acknowledged) < before + 20 and time.monotonic() - room < 30:
                    time.sleep(0.05)
                if len(editor.acknowledged) < before + 20:
                    outcome.wrong.append("was not back 30 s after there was room")
                outcome.back_s.append(time.monotonic() - room)
                editor.stop()
                outcome.acknowledged += len(editor.acknowledged)
                outcome.lost += editor.lost()
                outcome.said |= editor.said
        finally:
            product.end()


def main() -> int:
    """Try every fault some times; return 1 if an edit was lost or something did not come back."""
    times = int(sys.argv[1]) if len(sys.argv) > 1 else 5
    outcomes = []
    product = Product()
    product.start()
    try:
        for fault in FAULTS:
            outcome = Outcome(fault.__name__.replace("_", " "), fault.__doc__ or "")
            for _ in range(times):
                tried(product, fault, outcome)
            outcomes.append(_shown(outcome))
        outcome = Outcome("search", "The database restarted in the middle of a search")
        for _ in range(times):
            search_through_a_restart(product, outcome)
        outcomes.append(_shown(outcome))
    finally:
        product.end()
    outcome = Outcome("full disk", "The disk filled to its last byte, then room made")
    full_disk(outcome, times)
    outcomes.append(_shown(outcome))
    (ROOT / "docs" / "faults.md").write_text(_page(outcomes, times))
    return 1 if any(one.lost or one.wrong for one in outcomes) else 0


def _shown(outcome: Outcome) -> Outcome:
    silence = f"{max(outcome.back_s):.1f} s" if outcome.back_s else "-"
    print(
        f"{outcome.name}: {outcome.lost} of {outcome.acknowledged} lost, back within {silence}",
        *outcome.wrong,
        flush=True,
    )
    return outcome


def _page(outcomes: list[Outcome], times: int) -> str:
    lines = [
        "# What the product does when things break",
        "",
        f"Written by `bin/faults {times}`: each fault {times} times, while somebody edits a build"
        " without a pause. *Lost* are edits that were acknowledged and are not among the versions"
        " afterwards; *silent* is the longest time in which no edit was acknowledged (for the"
        " search, until it ended; for the disk, after there was room).",
        "",
        "| fault | acknowledged | lost | silent, median | longest | what was said meanwhile |",
        "|---|---|---|---|---|---|",
    ]
    for one in outcomes:
        silent = sorted(one.back_s) or [float("nan")]
        said = "; ".join(sorted(one.said) + [f"**{wrong}**" for wrong in one.wrong]) or "nothing"
        what = one.what.strip().rstrip(".")
        lines.append(
            f"| {what} | {one.acknowledged:,} | {one.lost} | {silent[len(silent) // 2]:.1f} s"
            f" | {silent[-1]:.1f} s | {said} |"
        )
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    sys.exit(main())
