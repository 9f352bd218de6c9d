"""Begin a build."""

import logging
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction

from builds.models import Build, Version
from powertrain.errors import Refusal

log = logging.getLogger(__name__)


def create_build(
    user: Any, document: dict[str, Any], change_id: UUID | None = None, demo: str = ""
) -> Build:
    """Store a new build with its first version and return it.

    The document is valid already. A `change_id` seen before returns the build it began, also
    where both come at the same moment.

    Raises
    ------
    Refusal
        If the `change_id` is that of a change to a build that is there already.
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
    known = Version.objects.filter(change_id=change_id).select_related("build").first()
    if known is None:
        return None
    if known.number != 1 or known.build.owner_id != user.pk:
        raise Refusal("change_id", USED)
    return known.build


USED = "is that of another change; send this one with a new one"
