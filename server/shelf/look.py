"""Parts of one's own and of what ships in one table, of which only what is shown is read."""

from typing import Any

from powertrain.catalogue.fits import fits_brief, fits_build
from powertrain.catalogue.table import PartsTable, row_of_unreadable, table_of
from powertrain.documents.shelf import Part as PartDocument
from powertrain.errors import Refusal
from powertrain.shelf.shipped import shipped_shelf
from shelf.models import Part
from shelf.schemas import LookRequest
from shelf.whole import read_each

MOST_TRIED = 300
"""Parts of one's own that are held against a build or brief at a time."""


def look(user: Any, kind: str, asked: LookRequest) -> PartsTable:
    """Return the parts of a kind that are looked for.

    Raises
    ------
    Refusal
        If it is sorted by what is no column.
    """
    unfit = None
    if asked.build is not None:
        unfit = fits_build(asked.build)
    elif asked.brief is not None:
        unfit = fits_brief(asked.brief)
    mine = Part.objects.of(user).filter(kind=kind).saying(asked.words)
    count = mine.count()
    most = asked.limit if unfit is None else MOST_TRIED
    own: list[tuple[PartDocument, bool]] = []
    broken = []
    for part, read in read_each(mine.sorted_by(asked.sort, falling=asked.falling)[:most]):
        if isinstance(read, Refusal):
            problem = f"{read.where} {read.what}".strip()
            broken.append(row_of_unreadable(kind, part.ref, part.name, problem))
        else:
            own.append((read, True))
    shipped = [] if asked.only_own else [(part, False) for part in getattr(shipped_shelf(), kind)]
    table = table_of(
        kind,
        [*own, *shipped],
        words=asked.words,
        sort=asked.sort,
        falling=asked.falling,
        unfit=unfit,
        only_fit=asked.only_fit,
        limit=asked.limit,
    )
    not_read = count - len(own) - len(broken)
    return table.model_copy(
        update={
            "rows": [*table.rows, *broken],
            "total": table.total + len(broken) + (not_read if unfit is None else 0),
            "untried": 0 if unfit is None else not_read,
        }
    )
