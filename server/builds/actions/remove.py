"""Take a build out of the list, and bring it back. Nothing is ever deleted."""

from typing import Any
from uuid import UUID

from django.utils import timezone

from builds.models import Build


def remove_build(user: Any, build_id: UUID) -> Build:
    """Take a build out of the list; it can be brought back."""
    build = Build.objects.one(user, build_id)
    build.removed_at = timezone.now()
    build.save(update_fields=["removed_at"])
    return build


def bring_back(user: Any, build_id: UUID) -> Build:
    """Put a removed build back into the list."""
    build = Build.objects.one(user, build_id)
    build.removed_at = None
    build.save(update_fields=["removed_at"])
    return build
