"""Begin a brief, and change it."""

from typing import Any
from uuid import UUID

from matching.models import Brief


def keep_brief(user: Any, document: dict[str, Any], brief_id: UUID | None = None) -> Brief:
    """Store a brief, a new one or in the place of what it said before."""
    name = document.get("name", "Brief")
    if brief_id is None:
        return Brief.objects.create(owner=user, name=name, document=document)
    brief = Brief.objects.one(user, brief_id)
    brief.document, brief.name = document, name
    brief.save(update_fields=["document", "name", "changed_at"])
    return brief
