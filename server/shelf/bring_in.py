"""Tables and documents of parts that are brought in: the good ones go in, the bad are told."""

from collections.abc import Iterable, Iterator
from typing import Any

from common.incoming import text_lines
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import FORMAT, KINDS, Part
from powertrain.documents.table import BadRow, read_rows
from powertrain.errors import Refusal
from shelf.whole import shipped_ids

MOST_TOLD = 200
"""Bad rows that are told one by one; more are counted."""


Taken = dict[str, str]
"""Ids that are taken, each with the kind of part that has it."""


class Good:
    """The good parts of one kind in a source, with the bad ones counted on the way.

    A part whose id is used twice, is that of a part that ships, or of one of one's own of
    another kind, is bad too.
    """

    def __init__(
        self, kind: str, parts: Iterable[tuple[BadRow, Part | None]], taken: Taken
    ) -> None:
        self._kind, self._parts, self._taken = kind, parts, taken
        self.bad: list[BadRow] = []
        self.bad_count = 0

    def __iter__(self) -> Iterator[Part]:
        seen: set[str] = set()
        for place, part in self._parts:
            told = place
            if part is not None:
                problem = self._problem(part.id, seen)
                if problem is None:
                    seen.add(part.id)
                    self._taken[part.id] = self._kind
                    yield part
                    continue
                told = BadRow(place.line, "id", problem)
            self.bad_count += 1
            if len(self.bad) < MOST_TOLD:
                self.bad.append(told)

    def _problem(self, ref: str, seen: set[str]) -> str | None:
        if ref in shipped_ids():
            return "is that of a part that ships; give it another"
        if ref in seen:
            return f"{ref!r} is there twice; the first counts"
        if self._taken.get(ref, self._kind) != self._kind:
            return f"{ref!r} is one of your {self._taken[ref]}; give it another"
        return None


def of_table(kind: str, chunks: Iterable[bytes], taken: Taken) -> Good:
    """Return the parts of a table that comes in bytes, row by row."""
    rows = read_rows(kind, text_lines(chunks))

    def parts() -> Iterator[tuple[BadRow, Part | None]]:
        for line, row in enumerate(rows, 2):
            yield (row, None) if isinstance(row, BadRow) else (BadRow(line, "", ""), row)

    return Good(kind, parts(), taken)


def of_document(document: Any, taken: Taken) -> dict[str, Good]:
    """Return the parts of a shelf document, list by list, each checked by itself.

    Raises
    ------
    Refusal
        If it is no shelf at all.
    """
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise Refusal("format", f"must be {FORMAT}")
    unknown = set(document) - {"format", "name", *KINDS}
    if unknown:
        raise Refusal(sorted(unknown)[0], "is not known here")
    for kind in KINDS:
        if not isinstance(document.get(kind, []), list):
            raise Refusal(kind, "must be a list of parts")
    return {
        kind: Good(kind, _checked(kind, document[kind]), taken)
        for kind in KINDS
        if kind in document
    }


def _checked(kind: str, documents: list[Any]) -> Iterator[tuple[BadRow, Part | None]]:
    for place, document in enumerate(documents):
        try:
            yield BadRow(place, "", ""), check_model(KINDS[kind], document)
        except Refusal as refusal:
            yield BadRow(place, f"{kind}.{place}.{refusal.where}", refusal.what), None
