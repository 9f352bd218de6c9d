"""Begin a build."""

import logging
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction

from builds.models import Build, Version

log = logging.getLogger(__name__)


def create_build(
    user: Any, document: dict[str, Any], change_id: UUID | None = None, demo: str = ""
) -> Build:
    """Store a new build with its first version and return it.

    The document is valid already. A `change_id` seen before returns the build it began, also
    where both come at the same moment.
    """
    known = _begun_by(user, change_id)
    if known is not None:
        return known
    try:
        return _create(user, document, change_id, demo)
    except IntegrityError:
        known = _begun_by(user, change_id)
        if known is None:
            raise
        return known


@transaction.atomic
def _create(user: Any, document: dict[str, Any], change_id: UUID | None, demo: str) -> Build:
    build = Build.objects.create(owner=user, name=document["name"], demo=demo)
    Version.objects.create(
        build=build, number=1, parent=None, document=document, change_id=change_id, made_by=user
    )
    log.info("build=%s action=create", build.pk)
    return build


def _begun_by(user: Any, change_id: UUID | None) -> Build | None:
    if change_id is None:
        return None
    begun = Version.objects.filter(change_id=change_id, number=1, made_by=user)
    known = begun.select_related("build").first()
    return None if known is None else known.build
