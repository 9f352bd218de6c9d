"""What is ticked off of a build's lists."""

from typing import Any
from uuid import UUID

from django.db import transaction

from builds.models import Build
from builds.schemas import ListId, Ticked


@transaction.atomic
def tick_off(user: Any, build_id: UUID, of_list: ListId, ticked: Ticked) -> None:
    """Keep what is done of one list; the others stay, and so does when the build was changed.

    Raises
    ------
    NotFound
        If there is no such build of this user.
    """
    build = Build.objects.one(user, build_id, lock=True)
    Build.objects.filter(pk=build.pk).update(
        ticks={**build.ticks, of_list: ticked.model_dump(mode="json")}
    )
