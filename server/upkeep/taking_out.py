"""Everything of somebody as an archive, written while it is read."""

import zipfile
from collections.abc import Iterable, Iterator
from typing import Any

from django.utils import timezone
from pydantic import BaseModel

from builds.models import Build
from logbook.models import MeasuredRun
from matching.models import Brief, Match
from runs.models import KeptRide
from shelf.models import Part
from upkeep.forms import (
    FORMAT,
    BriefForm,
    BuildForm,
    Manifest,
    MatchForm,
    MeasuredForm,
    OriginForm,
    PartForm,
    PhotoForm,
    RideForm,
    SayingForm,
    VersionForm,
)

AT_A_TIME = 100
"""Things that are held at once."""


def taken_out(user: Any) -> Iterator[bytes]:
    """Yield the bytes of an archive of everything that `user` has."""
    sink = _Sink()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:  # type: ignore[call-overload]
        for name, form in _everything(user):
            archive.writestr(name, form.model_dump_json())
            yield sink.taken()
    yield sink.taken()


def _everything(user: Any) -> Iterator[tuple[str, BaseModel]]:
    builds = Build.objects.filter(owner=user)
    parts = Part.objects.filter(owner=user)
    briefs = Brief.objects.filter(owner=user)
    yield (
        "archive.json",
        Manifest(
            format=FORMAT,
            made_at=timezone.now(),
            builds=builds.count(),
            parts=parts.count(),
            briefs=briefs.count(),
        ),
    )
    for brief in _each(briefs.prefetch_related("matches")):
        yield f"briefs/{brief.pk}.json", _brief(brief)
    for part in _each(parts.prefetch_related("versions")):
        yield f"parts/{part.kind}/{part.ref}.json", _part(part)
    for build in _each(builds.prefetch_related("versions").select_related("origin")):
        yield f"builds/{build.pk}.json", _build(build)


def _each(found: Any) -> Iterable[Any]:
    return found.order_by("pk").iterator(chunk_size=AT_A_TIME)  # type: ignore[no-any-return]


def _build(build: Build) -> BuildForm:
    origin = getattr(build, "origin", None)
    versions = build.versions.all()
    return BuildForm(
        **_of(build, BuildForm, "origin", "versions", "rides", "measured"),
        origin=origin and OriginForm(brief=origin.brief_id, document=origin.document),
        versions=[VersionForm(**_of(version, VersionForm)) for version in versions],
        measured=[
            MeasuredForm(
                **_of(run, MeasuredForm, "photos"),
                photos=[
                    PhotoForm(**_of(photo, PhotoForm, "jpeg"), jpeg=bytes(photo.jpeg))
                    for photo in run.photos.all()
                ],
            )
            for run in MeasuredRun.objects.filter(build=build)
        ],
        rides=[RideForm(**_of(ride, RideForm)) for ride in KeptRide.objects.filter(build=build)],
    )


def _part(part: Part) -> PartForm:
    versions = [SayingForm(**_of(version, SayingForm)) for version in part.versions.all()]
    return PartForm(**_of(part, PartForm, "versions"), versions=versions)


def _brief(brief: Brief) -> BriefForm:
    over = [Match.State.DONE, Match.State.CANCELLED, Match.State.FAILED]
    matches = [
        MatchForm(**_of(match, MatchForm)) for match in brief.matches.all() if match.state in over
    ]
    return BriefForm(**_of(brief, BriefForm, "matches"), matches=matches)


def _of(row: Any, form: type[BaseModel], *but: str) -> dict[str, Any]:
    """Return the fields of a form as a row has them."""
    return {name: getattr(row, name) for name in form.model_fields if name not in but}


class _Sink:
    """Where the archive is written to, a piece of it at a time."""

    def __init__(self) -> None:
        self._pieces: list[bytes] = []

    def write(self, piece: bytes) -> int:
        self._pieces.append(bytes(piece))
        return len(piece)

    def flush(self) -> None:
        """Do nothing: a piece is taken away when it is."""

    def taken(self) -> bytes:
        """Return what was written since the last time."""
        pieces, self._pieces = self._pieces, []
        return b"".join(pieces)
