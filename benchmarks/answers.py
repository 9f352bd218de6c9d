"""Every answer of the engine for a few hundred builds, written down and held against later ones.

A change of structure changes no answer. `record` asks every command and every question that the
server passes on, of random builds, of all demos and archetypes and of all briefs to begin from, and
writes down what was asked with what was answered; `compare` asks the same again and says what
differs: numbers by more than a billionth, and words.

    python -m benchmarks.answers record FILE [--builds N]
    python -m benchmarks.answers compare FILE [--every N] [--only NAME ...]
"""

import argparse
import contextlib
import gzip
import io
import json
import sys
import tempfile
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from benchmarks.differing import differences, settled
from benchmarks.made_up import Plain, documents
from powertrain import cli
from powertrain.archetypes import all_archetypes
from powertrain.bench.solve import solve
from powertrain.compare.baseline import baseline
from powertrain.compare.compared import compare
from powertrain.compare.terms import Terms
from powertrain.documents.brief import Brief
from powertrain.documents.build import Build
from powertrain.documents.reading import check_build, check_model
from powertrain.errors import Refusal
from powertrain.gearing.boost import boost
from powertrain.gearing.chart import speed_chart
from powertrain.gearing.ladder.answer import ladder_answer
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import sizes_of
from powertrain.gearing.overvolt import overvolt
from powertrain.gearing.roads import roads, top_kmh
from powertrain.gearing.runs import will_it_run
from powertrain.gearing.tyre import speeds
from powertrain.gearing.windings import windings
from powertrain.levers.operations import Turn, carry_out
from powertrain.levers.registry import levers_of
from powertrain.match.answer import answer_of
from powertrain.match.matched import matched
from powertrain.match.meets import meets
from powertrain.match.search import Search
from powertrain.match.why import why
from powertrain.shelf.shipped import shipped_shelf

# What is asked


def _command(*argv: str) -> Callable[[Plain], Any]:
    def ask(document: Plain) -> Any:
        with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
            json.dump(document, file)
            file.flush()
            out, problem = io.StringIO(), io.StringIO()
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(problem):
                status = cli.main([argv[0], file.name, *argv[1:]])
        said = out.getvalue() or problem.getvalue()
        return {"status": status, "said": json.loads(said)}

    return ask


def _of_build(ask: Callable[[Build], Any]) -> Callable[[Plain], Any]:
    return lambda document: _plain(ask(check_build(document)))


def _plain(value: Any) -> Any:
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    if isinstance(value, dict):
        return {key: _plain(item) for key, item in value.items()}
    return [_plain(item) for item in value] if isinstance(value, list) else value


def _ladder(build: Build) -> Any:
    sizes = sizes_of(build, shipped_shelf())
    return ladder_answer(build, rungs_of(build, sizes), limit=8)


def _compared(build: Build) -> Any:
    other = all_archetypes()[0].document
    return [
        compare([build, other], Terms(same_vehicle=same, same_voltage=same))
        for same in (False, True)
    ]


def _pressed(build: Build) -> Any:
    return [lever.model_dump(mode="json") for lever in levers_of(build)]


def _turned(build: Build) -> Any:
    document = build.model_dump(mode="json", exclude_unset=True)
    return [
        carry_out(document, Turn(do="turn", kind=kind))
        for kind in ("permanent_magnet", "series_wound", "packaged")
    ]


def _helped(build: Build) -> Any:
    helper = all_archetypes()[2].document
    return boost(build, helper, max(1, build.battery.series // 2), 5.0)


BUILD_QUESTIONS: dict[str, Callable[[Plain], Any]] = {
    "top-speed": _command("top-speed"),
    "top-speed-uphill": _command("top-speed", "--grade", "6"),
    "top-speed-downhill": _command("top-speed", "--grade", "-7"),
    "cruise": _command("cruise", "--speed", "9"),
    "cruise-uphill": _command("cruise", "--speed", "4", "--grade", "4"),
    "full-throttle": _command("full-throttle", "--speed", "6"),
    "launch": _command("launch", "--to", "8"),
    "free": _command("free"),
    "derate": _command("derate", "--current", "20", "--load-factor", "10"),
    "checks": _command("checks"),
    "thermal": _command("thermal"),
    "levers": _command("levers"),
    "ladder": _command("ladder", "--limit", "6"),
    "solve": _of_build(solve),
    "ladder-shown": _of_build(_ladder),
    "compare": _of_build(_compared),
    "baseline": _of_build(lambda build: baseline(build, None)),
    "will-it-run": _of_build(will_it_run),
    "speed-chart": _of_build(lambda build: speed_chart(build, shipped_shelf())),
    "windings": _of_build(lambda build: windings(build, shipped_shelf())),
    "overvolt": _of_build(lambda build: overvolt(build, build.battery.series + 2)),
    "roads": _of_build(lambda build: roads(build, 1.15 * top_kmh(build), shipped_shelf())),
    "speeds": _of_build(lambda build: speeds(build, speed_kmh=11.0)),
    "boost": _of_build(_helped),
    "every-lever": _of_build(_pressed),
    "turned": _of_build(_turned),
}


def _brief(document: Plain) -> Brief:
    return check_model(Brief, document)


def _by_trio(document: Plain) -> Any:
    search = Search(_brief(document), shipped_shelf(), best=20).run()
    return _plain(answer_of(search, 10, by_trio=True))


def _why(document: Plain) -> Any:
    part = shipped_shelf().motors[3].id
    return _plain(why(_brief(document), shipped_shelf(), {"motor": part}))


BRIEF_QUESTIONS: dict[str, Callable[[Plain], Any]] = {
    "match": lambda document: _plain(matched(_brief(document), shipped_shelf(), 10)),
    "match-by-parts": _by_trio,
    "match-why": _why,
    "meets": lambda document: _plain(
        [meets(_brief(document), archetype.document) for archetype in all_archetypes()]
    ),
}
QUESTIONS = {"build": BUILD_QUESTIONS, "brief": BRIEF_QUESTIONS}


# Of what it is asked


def _asked(name: str, of: str, document: Plain, only: tuple[str, ...]) -> list[Plain]:
    rows = []
    for question, ask in QUESTIONS[of].items():
        if only and question not in only:
            continue
        try:
            answer = ask(document)
        except Refusal as refusal:
            answer = {"refused": refusal.as_dict()}
        except Exception as problem:  # a fault before is a fault to be told of, too
            answer = {"fault": type(problem).__name__}
        rows.append({"name": name, "question": question, "answer": answer})
    return rows


def record(path: Path, count: int) -> None:
    """Write down what was asked, and every answer."""
    asked = list(documents(count))
    with ProcessPoolExecutor() as pool, gzip.open(path, "wt") as file:
        jobs = [pool.submit(_asked, *one, ()) for one in asked]
        for (name, of, document), job in zip(asked, jobs, strict=True):
            row = {"name": name, "of": of, "document": document, "answers": job.result()}
            file.write(json.dumps(row) + "\n")
            print(name, flush=True)


def compared(path: Path, every: int, only: tuple[str, ...], shown: int) -> int:
    """Ask again, print what differs, and return how many answers do."""
    with gzip.open(path, "rt") as file:
        rows = [json.loads(line) for line in file][::every]
    numbers: Counter[str] = Counter()
    words: Counter[str] = Counter()
    told = 0
    with ProcessPoolExecutor() as pool:
        jobs = [pool.submit(_asked, row["name"], row["of"], row["document"], only) for row in rows]
        for row, job in zip(rows, jobs, strict=True):
            before = {one["question"]: one["answer"] for one in row["answers"]}
            for one in job.result():
                question = one["question"]
                for place, was, now in differences(
                    settled(before.get(question)), settled(one["answer"])
                ):
                    kind = words if isinstance(was, str) and isinstance(now, str) else numbers
                    kind[question] += 1
                    told += 1
                    if told <= shown:
                        print(f"{row['name']}: {question}: {place}: {was!r} -> {now!r}"[:400])
    print(f"{len(rows)} documents; numbers differ: {dict(numbers)}; words differ: {dict(words)}")
    return sum(numbers.values()) + sum(words.values())


def main() -> int:
    """Run one of the two."""
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("what", choices=("record", "compare"))
    parser.add_argument("file", type=Path)
    parser.add_argument("--builds", type=int, default=300)
    parser.add_argument("--every", type=int, default=1)
    parser.add_argument("--only", nargs="*", default=())
    parser.add_argument("--shown", type=int, default=40)
    asked = parser.parse_args()
    if asked.what == "record":
        record(asked.file, asked.builds)
        return 0
    return 1 if compared(asked.file, asked.every, tuple(asked.only), asked.shown) else 0


if __name__ == "__main__":
    sys.exit(main())
