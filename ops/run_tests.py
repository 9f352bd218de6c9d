"""Runs every test and closes with one line that adds them up."""

import json
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from xml.etree import ElementTree

ROOT = Path(__file__).resolve().parents[1]


@dataclass(frozen=True)
class Count:
    """How many tests passed, failed and were left out."""

    passed: int
    failed: int
    skipped: int = 0

    def __add__(self, other: "Count") -> "Count":
        return Count(
            self.passed + other.passed, self.failed + other.failed, self.skipped + other.skipped
        )


def main(arguments: list[str]) -> int:
    """Return 0 if every test passed and there were some."""
    with tempfile.TemporaryDirectory() as told:
        place = Path(told)
        if arguments:
            counts = _python(place / "pytest.xml", arguments)
        else:
            # The engine needs one core and nothing else; journeys in a browser need the machine.
            with ThreadPoolExecutor() as pool:
                engine = pool.submit(_python, place / "core.xml", ["core/tests"], quiet=True)
                counts = _python(place / "server.xml", ["server/tests"]) + _interface(place)
                counts = counts + engine.result()
            counts = counts + _python(place / "e2e.xml", ["e2e"])
    skipped = f", {counts.skipped} skipped" if counts.skipped else ""
    print(f"\n{counts.passed} passed, {counts.failed} failed{skipped}")
    return 0 if counts.failed == 0 and counts.passed > 0 else 1


def _python(report: Path, arguments: list[str], *, quiet: bool = False) -> Count:
    """Run Python's tests; quietly, what they say is told when they are done."""
    command = [sys.executable, "-m", "pytest", "-q", f"--junitxml={report}", *arguments]
    ran = subprocess.run(command, cwd=ROOT, capture_output=quiet, text=True)
    if quiet:
        print(ran.stdout, ran.stderr, sep="", flush=True)
    status = ran.returncode
    if not report.is_file():
        return Count(0, 1)
    suite = ElementTree.parse(report).getroot()[0].attrib
    wrong, skipped = int(suite["failures"]) + int(suite["errors"]), int(suite["skipped"])
    passed = int(suite["tests"]) - wrong - skipped
    return Count(passed, wrong or (1 if status not in (0, 5) else 0), skipped)


def _interface(place: Path) -> Count:
    report = place / "vitest.json"
    command = ["npx", "vitest", "run", "--reporter=default", "--reporter=json"]
    status = subprocess.run([*command, f"--outputFile={report}"], cwd=ROOT / "web").returncode
    if not report.is_file():
        return Count(0, 1)
    result = json.loads(report.read_text())
    failed = result["numFailedTests"]
    return Count(result["numPassedTests"], failed or (1 if status else 0))


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
