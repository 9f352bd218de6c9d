"""Named reads of builds."""

from typing import TYPE_CHECKING, Any
from uuid import UUID

from django.db import models

from common.errors import NotFound

if TYPE_CHECKING:
    from collections.abc import Iterator

    from builds.models import Build, Version


class BuildQuerySet(models.QuerySet["Build"]):
    """Builds, always of one owner."""

    def of(self, user: Any) -> "BuildQuerySet":
        """Return the builds of `user` that are not removed, the last changed first."""
        return self.filter(owner=user, removed_at=None)

    def named(self, words: str) -> "BuildQuerySet":
        """Return those whose name holds all of some words."""
        found = self
        for word in words.split():
            found = found.filter(name__icontains=word)
        return found

    def whose(self, whose: str) -> "BuildQuerySet":
        """Return all, those that are `own`, or the `examples` that nobody changed."""
        untouched = ~models.Q(demo="") & models.Q(head=1)
        if whose == "own":
            return self.exclude(untouched)
        return self.filter(untouched) if whose == "examples" else self

    def removed(self, user: Any) -> "BuildQuerySet":
        """Return the builds that `user` removed and may want back."""
        return self.filter(owner=user).exclude(removed_at=None).order_by("-removed_at")

    def one(self, user: Any, build_id: UUID, *, lock: bool = False) -> "Build":
        """Return one build of `user`, locked against other writers if asked.

        Raises
        ------
        NotFound
            If `user` has no such build.
        """
        builds = self.filter(owner=user)
        found = (builds.select_for_update() if lock else builds).filter(pk=build_id).first()
        if found is None:
            raise NotFound("build", "is not among your builds")
        return found


def version_of(build: "Build", number: int) -> "Version":
    """Return one version of a build; raise `NotFound` if it has none of that number."""
    found = build.versions.filter(number=number).first()
    if found is None:
        raise NotFound("version", f"{number} does not exist")
    return found


def next_of(build: "Build") -> "Version | None":
    """Return the version that redo goes to: the last one made from the one that stands."""
    return build.versions.filter(parent=build.head, aside=False).order_by("-number").first()


def stored_documents(builds: BuildQuerySet) -> "Iterator[dict[str, Any]]":
    """Yield the documents that stand, in the order of the builds, a few held at a time."""
    standing = builds.filter(versions__number=models.F("head"))
    yield from standing.values_list("versions__document", flat=True).iterator(chunk_size=200)
