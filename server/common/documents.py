"""Documents as they are stored."""

from pydantic import BaseModel


def plain(document: BaseModel) -> dict[str, object]:
    """Return a checked document as it is stored: what was said, and no more."""
    return document.model_dump(mode="json", exclude_unset=True, exclude_none=True)
