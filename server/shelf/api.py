"""The API of the parts shelf: it translates, and leaves deciding to actions and core."""

from collections.abc import Iterator
from itertools import chain
from typing import Any

from django.db import transaction
from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router, Status

from common.bounds import LARGEST_TABLE
from common.errors import NotFound
from common.incoming import pieces
from common.schemas import CSV, MISSING, REFUSED, TEXT, Bad, BroughtIn
from powertrain.catalogue.table import PartsTable
from powertrain.documents.describe import part_fields
from powertrain.documents.shelf import KINDS, Shelf
from powertrain.documents.table import write_rows
from powertrain.documents.text import parse
from powertrain.listing.read import Listing, read_listing
from powertrain.shelf.shipped import shipped_shelf
from shelf import schemas
from shelf.actions.keep import add_part, bring_in, change_part, set_away, undo_part
from shelf.bring_in import Good, of_document, of_table
from shelf.look import look as looked
from shelf.models import Part
from shelf.whole import as_row, names_of, shelf_of, taken_ids

router = Router(tags=["shelf"])


@router.get("/shelf", response={200: Shelf, **REFUSED}, exclude_unset=True, operation_id="shelf")
def shelf(request: HttpRequest) -> Shelf:
    """Return everything on the shelf."""
    return shelf_of(request.user)


@router.post("/shelf/{kind}/look", response={200: PartsTable, **REFUSED}, operation_id="look")
def look(request: HttpRequest, kind: schemas.Kind, payload: schemas.LookRequest) -> PartsTable:
    """Return the parts of a kind that are looked for, as a table."""
    return looked(request.user, kind, payload)


@router.get(
    "/shelf/names", response={200: schemas.ShelfNames, **REFUSED}, operation_id="shelf_names"
)
def names(request: HttpRequest) -> schemas.ShelfNames:
    """Return the parts that a brief may name, those last changed first."""
    kinds = ("motors", "controllers", "packs", "propellers")
    return schemas.ShelfNames(**{kind: names_of(request.user, kind) for kind in kinds})


@router.get(
    "/shelf/{kind}/fields",
    response={200: schemas.FieldsOfPart, **REFUSED},
    operation_id="part_fields",
)
def fields(request: HttpRequest, kind: schemas.Kind) -> schemas.FieldsOfPart:
    """Return every field of a kind of part with its unit and explanation."""
    return schemas.FieldsOfPart(fields=list(part_fields(kind)))


@router.post("/shelf/read-listing", response={200: Listing, **REFUSED}, operation_id="read_listing")
def listing(request: HttpRequest, payload: schemas.ListingRequest) -> Listing:
    """Return what a listing, as it stands in a shop, says of a part, and what is missing."""
    return read_listing(payload.text, payload.kind)


@router.get(
    "/shelf/{kind}/parts/{ref}",
    response={200: schemas.PartAnswer, **MISSING},
    operation_id="read_part",
)
def read(request: HttpRequest, kind: schemas.Kind, ref: str) -> schemas.PartAnswer:
    """Return one part."""
    own = Part.objects.find(request.user, kind, ref)
    if own is not None:
        return _answer(own)
    found = next((part for part in getattr(shipped_shelf(), kind) if part.id == ref), None)
    if found is None:
        raise NotFound("part", "is not on this shelf")
    document = found.model_dump(mode="json", exclude_unset=True)
    return schemas.PartAnswer(
        id=ref, kind=kind, own=False, document=document, can_undo=False, removed=False
    )


@router.post(
    "/shelf/{kind}/parts", response={201: schemas.PartAnswer, **REFUSED}, operation_id="add_part"
)
def add(
    request: HttpRequest, kind: schemas.Kind, payload: schemas.PartRequest
) -> Status[schemas.PartAnswer]:
    """Add a part of one's own; a taken id is counted on."""
    return Status(201, _answer(add_part(request.user, kind, payload.document)))


@router.post(
    "/shelf/{kind}/parts/{ref}",
    response={200: schemas.PartAnswer, **MISSING},
    operation_id="change_part",
)
def change(
    request: HttpRequest, kind: schemas.Kind, ref: str, payload: schemas.PartRequest
) -> schemas.PartAnswer:
    """Say a part of one's own anew."""
    return _answer(change_part(request.user, kind, ref, payload.document))


@router.post(
    "/shelf/{kind}/parts/{ref}/undo",
    response={200: schemas.PartAnswer, **MISSING},
    operation_id="undo_part",
)
def undo(request: HttpRequest, kind: schemas.Kind, ref: str) -> schemas.PartAnswer:
    """Go back to what a part said before."""
    return _answer(undo_part(request.user, kind, ref))


@router.post(
    "/shelf/{kind}/parts/{ref}/remove",
    response={200: schemas.PartAnswer, **MISSING},
    operation_id="remove_part",
)
def remove(request: HttpRequest, kind: schemas.Kind, ref: str) -> schemas.PartAnswer:
    """Take a part of one's own off the shelf; it can be brought back."""
    return _answer(set_away(request.user, kind, ref, away=True))


@router.post(
    "/shelf/{kind}/parts/{ref}/bring-back",
    response={200: schemas.PartAnswer, **MISSING},
    operation_id="bring_part_back",
)
def back(request: HttpRequest, kind: schemas.Kind, ref: str) -> schemas.PartAnswer:
    """Bring a part back to the shelf."""
    return _answer(set_away(request.user, kind, ref, away=False))


@router.get(
    "/shelf/{kind}/table",
    response={200: str, **REFUSED},
    operation_id="export_table",
    openapi_extra=CSV,
)
def table(request: HttpRequest, kind: schemas.Kind, own: bool = False) -> StreamingHttpResponse:
    """Return the parts of a kind as a table, CSV with units in its header.

    One that can't be read any more has a row with its id and name alone.
    """
    shipped = [] if own else getattr(shipped_shelf(), kind)
    mine = Part.objects.of(request.user).filter(kind=kind).iterator(chunk_size=200)
    lines: Iterator[str] = write_rows(kind, chain(map(as_row, mine), shipped))
    answer = StreamingHttpResponse(lines, content_type="text/csv; charset=utf-8")
    answer.headers["Content-Disposition"] = f'attachment; filename="{kind}.csv"'
    return answer


@router.post(
    "/shelf/bring-in/{kind}",
    response={200: BroughtIn, **REFUSED},
    operation_id="bring_in_table",
    openapi_extra=TEXT,
)
def take_table(request: HttpRequest, kind: schemas.Kind) -> BroughtIn:
    """Bring in a table of parts: the good rows go in, the bad ones are told by line and column."""
    found = of_table(kind, pieces(request), taken_ids(request.user))
    return _brought(request.user, {kind: found})


@router.post(
    "/shelf/bring-in",
    response={200: BroughtIn, **REFUSED},
    operation_id="bring_in_document",
    openapi_extra=TEXT,
)
def take_document(request: HttpRequest) -> BroughtIn:
    """Bring in a shelf document: the good parts go in, the bad ones are told by their place."""
    document = parse(request.read(), largest=LARGEST_TABLE)
    return _brought(request.user, of_document(document, taken_ids(request.user)))


def _brought(user: Any, lists: dict[str, Good]) -> BroughtIn:
    counts = [0, 0]
    with transaction.atomic():
        for kind in (kind for kind in KINDS if kind in lists):
            added, changed = bring_in(user, kind, lists[kind])
            counts = [counts[0] + added, counts[1] + changed]
    return BroughtIn(
        added=counts[0],
        changed=counts[1],
        bad=[
            Bad(line=row.line, column=row.column, what=row.what)
            for good in lists.values()
            for row in good.bad
        ],
        bad_count=sum(good.bad_count for good in lists.values()),
    )


def _answer(part: Part) -> schemas.PartAnswer:
    said = part.versions.filter(number=part.head).values_list("parent", flat=True)
    return schemas.PartAnswer(
        id=part.ref,
        kind=part.kind,
        own=True,
        document=part.document,
        can_undo=said[0] is not None,
        removed=part.removed_at is not None,
    )
