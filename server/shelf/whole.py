"""The whole shelf of somebody: what ships, and what is their own."""

from functools import cache
from typing import Any

from powertrain.documents.reading import check_model
from powertrain.documents.shelf import KINDS, Shelf
from powertrain.documents.shelf import Part as PartDocument
from powertrain.shelf.shipped import shipped_shelf
from shelf.models import Part


def shelf_of(user: Any) -> Shelf:
    """Return everything that may be bought, one's own parts first."""
    return shipped_shelf().model_copy(
        update={
            kind: [*own, *getattr(shipped_shelf(), kind)]
            for kind in KINDS
            if (own := own_parts(user, kind))
        }
    )


def own_parts(user: Any, kind: str) -> list[PartDocument]:
    """Return the parts of one kind that are one's own, the last changed first."""
    parts = Part.objects.of(user).filter(kind=kind)
    return [check_model(KINDS[kind], part.document) for part in parts]


def taken_ids(user: Any) -> dict[str, str]:
    """Return the ids of all of one's own parts, removed ones too, each with its kind."""
    return dict(Part.objects.filter(owner=user).values_list("ref", "kind"))


@cache
def shipped_ids() -> frozenset[str]:
    """Return the ids of all parts that ship."""
    return frozenset(part.id for kind in KINDS for part in getattr(shipped_shelf(), kind))
