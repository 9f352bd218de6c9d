"""Begin a brief, and change it."""

from typing import Any
from uuid import UUID

from matching.models import Brief


def keep_brief(
    user: Any,
    document: dict[str, Any],
    brief_id: UUID | None = None,
    said: list[str] | None = None,
) -> Brief:
    """Store a brief, a new one or in the place of what it said before.

    Parameters
    ----------
    said : list of str, optional
        Paths that a person said. None leaves it as it was; of a new brief, all is said.
    """
    name = document.get("name", "Brief")
    if brief_id is None:
        return Brief.objects.create(owner=user, name=name, document=document, said=said)
    brief = Brief.objects.one(user, brief_id)
    brief.document, brief.name = document, name
    brief.said = brief.said if said is None else said
    brief.save(update_fields=["document", "name", "said", "changed_at"])
    return brief
