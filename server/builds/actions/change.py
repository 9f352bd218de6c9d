"""Change a build: save what was edited, undo, redo, go back to an older version."""

import logging
from typing import Any
from uuid import UUID

from django.db import transaction

from builds.models import Build, Version
from builds.querysets import next_of, version_of
from common.errors import Conflict, NotFound
from powertrain.documents.describe import changes_between

log = logging.getLogger(__name__)


def save_version(
    user: Any, build_id: UUID, base: int, document: dict[str, Any], change_id: UUID
) -> Build:
    """Store `document` as the next version of a build and return the build.

    A repeated `change_id` is answered as the first time, without a second version.

    Raises
    ------
    Conflict
        If `base` no longer stands. The document is kept all the same, as a version aside.
    """
    with transaction.atomic():
        build = Build.objects.one(user, build_id, lock=True)
        known = build.versions.filter(change_id=change_id).first()
        if known is None:
            known = _append(user, build, base, document, change_id)
        if not known.aside:
            return build
    raise Conflict(kept=known.number, head=build.head)


def _append(
    user: Any, build: Build, base: int, document: dict[str, Any], change_id: UUID | None
) -> Version:
    before = version_of(build, base)
    late = base != build.head
    version = Version.objects.create(
        build=build,
        number=build.newest_number + 1,
        parent=base,
        document=document,
        changes=changes_between(before.document, document),
        aside=late,
        change_id=change_id,
        made_by=user,
    )
    if not late:
        _stand(build, version)
    log.info("build=%s action=save version=%s aside=%s", build.pk, version.number, late)
    return version


def _stand(build: Build, version: Version) -> None:
    build.head = version.number
    build.name = version.document["name"]
    build.save(update_fields=["head", "name", "changed_at"])


@transaction.atomic
def undo(user: Any, build_id: UUID, base: int) -> Build:
    """Go back to the version that the present one was made from; it stays there for redo."""
    build = _standing(user, build_id, base)
    parent = version_of(build, base).parent
    if parent is None:
        raise NotFound("version", "is the first; there is nothing to undo")
    _stand(build, version_of(build, parent))
    return build


@transaction.atomic
def redo(user: Any, build_id: UUID, base: int) -> Build:
    """Go forward again to the last version made from the present one."""
    build = _standing(user, build_id, base)
    after = next_of(build)
    if after is None:
        raise NotFound("version", "is the last; there is nothing to redo")
    _stand(build, after)
    return build


@transaction.atomic
def restore(user: Any, build_id: UUID, base: int, number: int) -> Build:
    """Make an older version, or one kept aside, stand again, as a new version."""
    build = _standing(user, build_id, base)
    _append(user, build, base, version_of(build, number).document, None)
    return build


def _standing(user: Any, build_id: UUID, base: int) -> Build:
    build = Build.objects.one(user, build_id, lock=True)
    if base != build.head:
        raise Conflict(kept=None, head=build.head)
    return build


@transaction.atomic
def pin(user: Any, build_id: UUID, number: int) -> Build:
    """Choose the version that the present one is compared with."""
    build = Build.objects.one(user, build_id, lock=True)
    build.pinned = version_of(build, number).number
    build.save(update_fields=["pinned"])
    return build
