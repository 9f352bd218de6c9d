"""What every part of a document has in common."""

from pydantic import BaseModel, ConfigDict
from pydantic_core import PydanticCustomError


class Model(BaseModel):
    """A part of a document: unknown keys are errors, nothing is coerced, nothing changes."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)


def within(where: str, what: str) -> PydanticCustomError:
    """Return an error that names a place within the part that it is found in."""
    return PydanticCustomError("within", "{where} {what}", {"where": where, "what": what})
