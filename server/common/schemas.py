"""Forms that all of the API shares: strict requests, and how anything is refused."""

from typing import Any

from ninja import Schema
from pydantic import ConfigDict


class StrictSchema(Schema):
    """A request that takes nothing for something else: no text for a number, no 1 for true."""

    model_config = ConfigDict(strict=True)


class ErrorBody(Schema):
    """Where something is wrong and what to do about it."""

    where: str
    what: str


class ErrorAnswer(Schema):
    """Any refusal."""

    error: ErrorBody
    operation: int | None = None
    kept: int | None = None
    head: int | None = None


REFUSED: dict[Any, Any] = dict.fromkeys((400, 401, 403, 409, 413, 422, 503, 507), ErrorAnswer)
"""What any question may be answered with instead; 409 where two met, 507 with a full disk."""

MISSING: dict[Any, Any] = {**REFUSED, 404: ErrorAnswer}
"""The same, of something that may not be there."""

TEXT: dict[str, Any] = {
    "requestBody": {"content": {"text/plain": {"schema": {"type": "string"}}}, "required": True}
}
"""How a body of plain text is told to the contract."""

CSV: dict[str, Any] = {
    "responses": {200: {"content": {"text/csv": {"schema": {"type": "string"}}}}}
}
"""How an answer that is a table is told to the contract."""


class Bad(Schema):
    """A row or part that was not brought in: its line (or place in its list), column and cure."""

    line: int
    column: str
    what: str


class BroughtIn(Schema):
    """What became of a table or document: `bad` are the first, `bad_count` all that stayed out."""

    added: int
    changed: int
    bad: list[Bad]
    bad_count: int
