"""Begin builds from a table: the good rows, all at once; the bad ones are told."""

from collections.abc import Iterable
from typing import Any

from django.db import transaction

from builds.actions.create import create_build
from common.documents import plain
from powertrain.documents.table import BadRow, read_rows

MOST_TOLD = 200
"""Bad rows that are told one by one; more are counted."""


@transaction.atomic
def bring_in_builds(user: Any, lines: Iterable[str]) -> tuple[int, list[BadRow], int]:
    """Return how many builds began, the first bad rows, and how many there were."""
    added = bad_count = 0
    bad: list[BadRow] = []
    for row in read_rows("builds", lines):
        if isinstance(row, BadRow):
            bad_count += 1
            bad += [row] if len(bad) < MOST_TOLD else []
        else:
            create_build(user, plain(row))
            added += 1
    return added, bad, bad_count
