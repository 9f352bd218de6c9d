"""What every part of a document has in common."""

from pydantic import BaseModel, ConfigDict


class Model(BaseModel):
    """A part of a document: unknown keys are errors, nothing is coerced, nothing changes."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
