"""A whole match in one call."""

from powertrain.documents.brief import Brief
from powertrain.documents.shelf import Shelf
from powertrain.match.answer import MatchAnswer, answer_of
from powertrain.match.relax import blocked, relaxations
from powertrain.match.search import Search


def matched(brief: Brief, shelf: Shelf, limit: int = 20) -> MatchAnswer:
    """Return every candidate's fate and the best `limit` of them.

    When nothing is feasible the answer names the single wishes that would let something
    through.
    """
    search = Search(brief, shelf, best=max(limit, 1)).run()
    if search.tally.feasible:
        return answer_of(search, limit)
    relaxed = tuple(relaxations(brief, shelf))
    stands = () if relaxed else tuple(blocked(brief, shelf, search))
    return answer_of(search, limit, relaxed, blocked=stands)
