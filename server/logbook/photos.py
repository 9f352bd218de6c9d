"""Photos of a measured run: made small, and stripped of where and by what they were taken."""

from io import BytesIO
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from builds.models import Build
from common.errors import NotFound
from logbook.actions import build_runs
from logbook.models import RunPhoto
from powertrain.errors import Refusal

MOST_PHOTOS = 12
LONGEST_PX = 1600
LARGEST_PX = 100_000_000
QUALITY = 82


def small_jpeg(picture: bytes) -> bytes:
    """Return a picture as a JPEG of at most `LONGEST_PX` a side, turned as it was held.

    It is painted anew: what a camera wrote beside it (place, time, owner, a small picture of the
    uncut one) does not come along.

    Raises
    ------
    Refusal
        If it is no JPEG, PNG or WebP, is broken, or is too large to be opened.
    """
    # Loaded here alone: no other question needs it.
    from PIL import Image, ImageOps, UnidentifiedImageError

    try:
        with Image.open(BytesIO(picture), formats=("JPEG", "PNG", "WEBP")) as opened:
            wide, high = opened.size
            if wide * high > LARGEST_PX:
                raise Refusal("photo", f"has {wide} x {high} points; make it smaller first")
            upright = ImageOps.exif_transpose(opened)
            upright.thumbnail((LONGEST_PX, LONGEST_PX))
            flat = Image.new("RGB", upright.size, "white")
            seen = upright.convert("RGBA")
            flat.paste(seen, mask=seen.getchannel("A"))
    except UnidentifiedImageError:
        what = "is no JPEG, PNG or WebP; save it as one of these"
        raise Refusal("photo", what) from None
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError) as problem:
        raise Refusal("photo", f"can't be opened: {problem}") from None
    into = BytesIO()
    flat.save(into, "JPEG", quality=QUALITY, optimize=True)
    return into.getvalue()


def keep_photo(
    user: Any, build_id: UUID, run_id: UUID, photo_id: UUID, picture: bytes | None
) -> RunPhoto:
    """Keep a photo with a run; sent again, it is there once, and comes back if it was taken out.

    `picture` may be None to bring one back.

    Raises
    ------
    NotFound
        If there is no such run, or no such photo to bring back.
    Refusal
        If it can't be read, or the run has all it may have.
    """
    build = Build.objects.one(user, build_id)
    run = build_runs(build).filter(pk=run_id).first()
    if run is None:
        raise NotFound("run", "is not among those of this build")
    jpeg = small_jpeg(picture) if picture else None
    with transaction.atomic():
        known = RunPhoto.objects.filter(pk=photo_id).first()
        if known is not None and known.run_id != run.pk:
            raise NotFound("photo", "is not of this run")
        if known is not None:
            known.removed_at = None
            known.save(update_fields=["removed_at"])
            return known
        if jpeg is None:
            raise NotFound("photo", "is not of this run")
        if run_photos(run).count() >= MOST_PHOTOS:
            raise Refusal("photo", f"is one more than the {MOST_PHOTOS} that a run keeps")
        return RunPhoto.objects.create(pk=photo_id, run=run, jpeg=jpeg)


def run_photos(run: Any) -> Any:
    """Return the photos that stand with a run."""
    return RunPhoto.objects.filter(run=run, removed_at=None)


def photo_of(user: Any, build_id: UUID, run_id: UUID, photo_id: UUID) -> RunPhoto:
    """Return a photo.

    Raises
    ------
    NotFound
        If there is none.
    """
    build = Build.objects.one(user, build_id)
    found = RunPhoto.objects.filter(
        pk=photo_id, run_id=run_id, run__build=build, removed_at=None
    ).first()
    if found is None:
        raise NotFound("photo", "is not of this run")
    return found


def take_photo_out(user: Any, build_id: UUID, run_id: UUID, photo_id: UUID) -> None:
    """Take a photo out; keeping it again brings it back.

    Raises
    ------
    NotFound
        If there is none.
    """
    found = photo_of(user, build_id, run_id, photo_id)
    RunPhoto.objects.filter(pk=found.pk).update(removed_at=timezone.now())
