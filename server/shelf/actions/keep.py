"""Add a part, say it anew, go back to what was said before, take it away and bring it back."""

import re
from collections.abc import Iterable
from typing import Any

from django.db import transaction
from django.utils import timezone

from builds.errors import NotThere
from builds.views_of import plain
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import KINDS
from powertrain.documents.shelf import Part as PartDocument
from shelf.models import Part, PartVersion
from shelf.whole import shipped_ids

BATCH = 500
"""Parts that are written at once."""


@transaction.atomic
def add_part(user: Any, kind: str, document: dict[str, Any]) -> Part:
    """Add a part; without an id it gets one from its name, and a taken one is counted on.

    Raises
    ------
    Refusal
        If the document is no such part.
    """
    said = dict(document)
    said["id"] = _free_ref(user, str(said.get("id") or _ref_of(str(said.get("name", "")))))
    checked = check_model(KINDS[kind], said)
    return next(iter(_written(user, kind, [checked])))


@transaction.atomic
def change_part(user: Any, kind: str, ref: str, document: dict[str, Any]) -> Part:
    """Say a part anew; its id stays, and what was said before can be gone back to."""
    part = Part.objects.one(user, kind, ref, lock=True)
    checked = check_model(KINDS[kind], {**document, "id": ref})
    _say(part, checked)
    return part


@transaction.atomic
def say_before(user: Any, kind: str, ref: str) -> Part:
    """Go back to what a part said before; raise `NotThere` if it never said anything else."""
    part = Part.objects.one(user, kind, ref, lock=True)
    parent = part.versions.get(number=part.head).parent
    if parent is None:
        raise NotThere("part", "says what it said first; there is nothing to undo")
    part.head, part.document = parent, part.versions.get(number=parent).document
    part.name = part.document["name"][:120]
    part.save(update_fields=["head", "document", "name", "changed_at"])
    return part


def set_away(user: Any, kind: str, ref: str, *, away: bool) -> Part:
    """Take a part off the shelf, or bring it back."""
    part = Part.objects.one(user, kind, ref)
    part.removed_at = timezone.now() if away else None
    part.save(update_fields=["removed_at"])
    return part


@transaction.atomic
def bring_in(user: Any, kind: str, documents: Iterable[PartDocument]) -> tuple[int, int]:
    """Put many checked parts in, each id once; one that is there already is said anew.

    Returns how many were added and how many changed. All go in, or none.
    """
    known = set(Part.objects.filter(owner=user, kind=kind).values_list("ref", flat=True))
    added = changed = 0
    waiting: list[PartDocument] = []
    for document in documents:
        if document.id in known:
            _say(Part.objects.one(user, kind, document.id, lock=True), document)
            changed += 1
            continue
        waiting.append(document)
        added += 1
        if len(waiting) >= BATCH:
            _written(user, kind, waiting)
            waiting = []
    _written(user, kind, waiting)
    return added, changed


def _written(user: Any, kind: str, documents: list[PartDocument]) -> list[Part]:
    parts = [
        Part(owner=user, kind=kind, ref=document.id, name=document.name, document=plain(document))
        for document in documents
    ]
    Part.objects.bulk_create(parts)
    PartVersion.objects.bulk_create(
        PartVersion(part=part, number=1, parent=None, document=part.document) for part in parts
    )
    return parts


def _say(part: Part, document: PartDocument) -> None:
    said = plain(document)
    last = part.versions.order_by("-number").values_list("number", flat=True)[0]
    PartVersion.objects.create(part=part, number=last + 1, parent=part.head, document=said)
    part.head, part.document, part.name = last + 1, said, document.name
    part.removed_at = None
    part.save(update_fields=["head", "document", "name", "removed_at", "changed_at"])


def _ref_of(name: str) -> str:
    """Return an id made of a name's letters and digits."""
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60] or "part"


def _free_ref(user: Any, wanted: str) -> str:
    taken = set(Part.objects.filter(owner=user).values_list("ref", flat=True)) | shipped_ids()
    if wanted not in taken:
        return wanted
    stem = wanted[:70]
    return next(
        ref for ref in (f"{stem}-{count}" for count in range(2, len(taken) + 3)) if ref not in taken
    )
