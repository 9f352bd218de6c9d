"""Two to five builds beside one another."""

from typing import Any

from pydantic import BaseModel

from powertrain.bench.answer import MapAnswer, MomentAnswer
from powertrain.bench.solve import solve
from powertrain.compare.candidate import Compared
from powertrain.compare.rows import CompareRow, rows_of
from powertrain.compare.terms import Terms, on_terms
from powertrain.compile.build import compile_drive
from powertrain.documents.build import Build
from powertrain.errors import Refusal
from powertrain.in_words import drive_in_words

FEWEST, MOST = 2, 5


class Candidate(BaseModel):
    """One build as it was compared: its document, streams, and push over speed."""

    name: str
    drive: str
    changed: list[str]
    document: dict[str, Any]
    motors: int
    moments: list[MomentAnswer]
    map: MapAnswer


class CompareAnswer(BaseModel):
    """Builds beside one another, and the rows of their table; values go with the candidates."""

    terms: Terms
    candidates: list[Candidate]
    rows: list[CompareRow]


def compare(builds: list[Build], terms: Terms) -> CompareAnswer:
    """Return builds beside one another; each figure is the bench's of the document shown.

    Raises
    ------
    Refusal
        If there are fewer than two or more than five.
    """
    if not FEWEST <= len(builds) <= MOST:
        raise Refusal("documents", f"must be {FEWEST} to {MOST} builds, not {len(builds)}")
    equal = on_terms(builds, terms)
    compared = [
        Compared(one.build, compile_drive(one.build), solve(one.build), terms.hours)
        for one in equal
    ]
    return CompareAnswer(
        terms=terms,
        candidates=[
            Candidate(
                name=one.build.name,
                drive=drive_in_words(one.build),
                changed=one.changed,
                document=one.build.model_dump(mode="json", exclude_unset=True),
                motors=one.build.motor.count,
                moments=solved.answer.moments,
                map=solved.answer.map,
            )
            for one, solved in zip(equal, compared, strict=True)
        ],
        rows=list(rows_of(compared)),
    )
