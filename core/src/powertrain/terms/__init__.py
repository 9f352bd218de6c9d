"""What things are called: one wording for engine and interface, what it means, how to measure."""

import json
from dataclasses import dataclass
from functools import cache
from importlib import resources


@dataclass(frozen=True)
class Term:
    """One thing: the trade's term, everyday words beside it, a sentence, and how to measure it."""

    term: str
    beside: str
    means: str
    measure: str


@cache
def all_terms() -> dict[str, Term]:
    """Return every term by its id."""
    text = resources.files(__name__).joinpath("terms.json").read_text("utf-8")
    return {name: Term(**said) for name, said in json.loads(text).items()}


def term(name: str) -> str:
    """Return what a thing is called."""
    return all_terms()[name].term
