"""Begin a build."""

import logging
from typing import Any
from uuid import UUID

from django.db import transaction

from builds.models import Build, Version

log = logging.getLogger(__name__)


@transaction.atomic
def create_build(
    user: Any, document: dict[str, Any], change_id: UUID | None = None, demo: str = ""
) -> Build:
    """Store a new build with its first version and return it.

    The document is valid already. A `change_id` seen before returns the build it began.
    """
    if change_id is not None:
        known = Version.objects.filter(change_id=change_id, build__owner=user).first()
        if known is not None:
            return known.build
    build = Build.objects.create(owner=user, name=document["name"], demo=demo)
    Version.objects.create(
        build=build, number=1, parent=None, document=document, change_id=change_id, made_by=user
    )
    log.info("build=%s action=create", build.pk)
    return build
