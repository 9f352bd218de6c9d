"""Add a part, say it anew, go back to what was said before, take it away and bring it back."""

import re
from collections.abc import Iterable
from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from accounts.personal import in_turn
from common.documents import plain
from common.errors import NotFound
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import KINDS
from powertrain.documents.shelf import Part as PartDocument
from shelf.models import SAID, Part, PartVersion
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
    in_turn(user)
    said = dict(document)
    said["id"] = free_ref(user, str(said.get("id") or _ref_of(str(said.get("name", "")))))
    checked = check_model(KINDS[kind], said)
    return next(iter(_written(user, kind, [checked])))


@transaction.atomic
def change_part(user: Any, kind: str, ref: str, document: dict[str, Any]) -> Part:
    """Say a part anew; its id stays, and what was said before can be gone back to."""
    part = Part.objects.one(user, kind, ref, lock=True)
    checked = check_model(KINDS[kind], {**document, "id": ref})
    _say([part], {ref: plain(checked)})
    return part


@transaction.atomic
def undo_part(user: Any, kind: str, ref: str) -> Part:
    """Go back to what a part said before; raise `NotFound` if it never said anything else."""
    part = Part.objects.one(user, kind, ref, lock=True)
    parent = part.versions.get(number=part.head).parent
    if parent is None:
        raise NotFound("part", "says what it said first; there is nothing to undo")
    part.head = parent
    part.say(part.versions.get(number=parent).document)
    part.save(update_fields=["head", *SAID, "changed_at"])
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

    Returns how many were added and how many changed; what says the same as before is neither.
    All go in, or none.
    """
    in_turn(user)
    known = set(Part.objects.filter(owner=user, kind=kind).values_list("ref", flat=True))
    added = changed = 0
    new: list[PartDocument] = []
    there: list[PartDocument] = []
    for document in documents:
        (there if document.id in known else new).append(document)
        if len(new) >= BATCH:
            added += len(_written(user, kind, new))
            new = []
        if len(there) >= BATCH:
            changed += _said_anew(user, kind, there)
            there = []
    return added + len(_written(user, kind, new)), changed + _said_anew(user, kind, there)


def _written(user: Any, kind: str, documents: list[PartDocument]) -> list[Part]:
    parts = [Part(owner=user, kind=kind, ref=document.id) for document in documents]
    for part, document in zip(parts, documents, strict=True):
        part.say(plain(document))
    Part.objects.bulk_create(parts)
    PartVersion.objects.bulk_create(
        PartVersion(part=part, number=1, parent=None, document=part.document) for part in parts
    )
    return parts


def _said_anew(user: Any, kind: str, documents: list[PartDocument]) -> int:
    """Say parts anew that are there already; return how many of them said something else."""
    said = {document.id: plain(document) for document in documents}
    parts = [
        part
        for part in Part.objects.select_for_update().filter(owner=user, kind=kind, ref__in=said)
        if part.document != said[part.ref] or part.removed_at is not None
    ]
    _say(parts, said)
    return len(parts)


def _say(parts: list[Part], said: dict[str, dict[str, Any]]) -> None:
    """Say locked parts anew: their documents by their ids."""
    lasts = dict(
        PartVersion.objects.filter(part__in=parts)
        .order_by()
        .values_list("part")
        .annotate(last=Max("number"))
    )
    versions = []
    for part in parts:
        document, number = said[part.ref], lasts[part.pk] + 1
        versions.append(PartVersion(part=part, number=number, parent=part.head, document=document))
        part.head = number
        part.say(document)
        part.removed_at, part.changed_at = None, timezone.now()
    PartVersion.objects.bulk_create(versions)
    Part.objects.bulk_update(parts, ["head", *SAID, "removed_at", "changed_at"])


def _ref_of(name: str) -> str:
    """Return an id made of a name's letters and digits."""
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60] or "part"


def free_ref(user: Any, wanted: str) -> str:
    """Return an id that no part has yet, as near to the wanted one as may be."""
    stem = wanted[:70]
    alike = Part.objects.filter(owner=user, ref__startswith=stem).values_list("ref", flat=True)
    taken = {*alike, *shipped_ids()}
    if wanted not in taken:
        return wanted
    return next(
        ref for ref in (f"{stem}-{count}" for count in range(2, len(taken) + 3)) if ref not in taken
    )
