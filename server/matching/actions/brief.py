"""Begin a brief, change it, take it out of the list and bring it back."""

from typing import Any
from uuid import UUID

from django.utils import timezone

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


def set_away(user: Any, brief_id: UUID, *, away: bool) -> Brief:
    """Take a brief out of the list, or put it back; what it says stays."""
    brief = Brief.objects.one(user, brief_id)
    brief.removed_at = timezone.now() if away else None
    brief.save(update_fields=["removed_at"])
    return brief
