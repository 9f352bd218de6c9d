"""An archive brought in: what is not there comes, what is there stays, and nothing is doubled.

A thing that is there with the same history, or a longer one that begins alike, stays as it is;
one whose history goes on in the archive goes on. Where both went on differently, both are kept:
the archive's comes as one of its own, and coming again is recognised.
"""

import json
import zipfile
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import IO, Any, Literal, TypeVar
from uuid import UUID, uuid5

from django.db import transaction
from pydantic import BaseModel, ValidationError

from accounts.personal import in_turn
from builds.models import Build, Version
from logbook.models import MeasuredRun, RunPhoto
from matching.models import Brief, Match, Origin
from powertrain.documents.reading import refusal_of
from powertrain.documents.text import parse
from powertrain.errors import Refusal
from runs.models import KeptRide
from shelf.actions.keep import free_ref
from shelf.models import Part, PartVersion
from shelf.whole import shipped_ids
from upkeep.forms import BriefForm, BuildForm, Manifest, MeasuredForm, PartForm, RideForm

LARGEST_ENTRY = 200_000_000
MOST_ENTRIES = 2_000_000
MOST_BYTES = 20_000_000_000

Became = Literal["added", "went_on", "beside", "known"]
FormOf = TypeVar("FormOf", bound=BaseModel)


@dataclass
class ImportCounts:
    """What became of each kind of thing in an archive, counted."""

    builds: Counter[Became] = field(default_factory=Counter)
    parts: Counter[Became] = field(default_factory=Counter)
    briefs: Counter[Became] = field(default_factory=Counter)


@transaction.atomic
def bring_in(user: Any, source: IO[bytes]) -> ImportCounts:
    """Bring in everything of an archive, or nothing.

    Raises
    ------
    Refusal
        Naming the entry, if it is no archive of ours, or one of a newer program.
    """
    in_turn(user)
    try:
        with zipfile.ZipFile(source) as archive:
            return _all(user, archive)
    except (zipfile.BadZipFile, zipfile.LargeZipFile, NotImplementedError, EOFError) as problem:
        raise Refusal("archive", f"is no archive that can be read: {problem}") from None


def _all(user: Any, archive: zipfile.ZipFile) -> ImportCounts:
    entries = archive.infolist()
    if len(entries) > MOST_ENTRIES or sum(entry.file_size for entry in entries) > MOST_BYTES:
        raise Refusal("archive", "holds more than anybody can have built")
    names = {entry.filename for entry in entries}
    if "archive.json" not in names:
        raise Refusal("archive.json", "is missing; this is no archive of Young Torrent")
    _read(archive, "archive.json", Manifest)
    told = ImportCounts()
    # Briefs first: builds name the ones that they were made for.
    for folder, form, take, counted in _KINDS:
        for name in sorted(names):
            if name.startswith(folder) and name.endswith(".json"):
                counted(told)[take(user, _read(archive, name, form))] += 1
    return told


def _read(archive: zipfile.ZipFile, name: str, form: type[FormOf]) -> FormOf:
    with archive.open(name) as entry:
        text = entry.read(LARGEST_ENTRY + 1)
    try:
        plain = parse(text, largest=LARGEST_ENTRY, deepest=64)
        return form.model_validate_json(json.dumps(plain))
    except Refusal as refusal:
        raise Refusal(f"{name}, {refusal.where}".removesuffix(", "), refusal.what) from None
    except ValidationError as problem:
        first = problem.errors(include_url=False)[0]
        place = ".".join(str(step) for step in first["loc"])
        if place == "format":
            raise Refusal(name, "is of a form that this program does not know") from None
        raise Refusal(f"{name}, {place}", refusal_of(first, place).what) from None


# --- builds ------------------------------------------------------------------------------------


def _take_build(user: Any, form: BuildForm) -> Became:
    pointed_at = [form.head, form.pinned]
    pointed_at += [ride.version for ride in form.rides]
    pointed_at += [max(run.version, run.taught_in or 1) for run in form.measured]
    _check_history(form.versions, pointed_at, f"builds/{form.id}.json")
    own_ids = [form.id, _beside(form.id, user.pk)]
    there = Build.objects.filter(owner=user, pk__in=own_ids).first()
    if there is None and form.demo:
        # The demo builds of another place are the same builds under other ids.
        there = Build.objects.filter(owner=user, demo=form.demo).first()
    if there is None:
        taken = Build.objects.filter(pk=form.id).exists()
        return _write_build(user, form, own_ids[1] if taken else own_ids[0])
    known = [(one.number, one.document) for one in there.versions.all()]
    compared = _compared(known, [(one.number, one.document) for one in form.versions])
    if compared != "apart":
        _add_rides(there, form)
        _add_measured(there, form)
    match compared:
        case "same":
            if form.changed_at > there.changed_at:
                _stand(there, form)
            return "known"
        case "shorter":
            return "known"
        case "longer":
            _add_versions(user, there, form, len(known))
            _stand(there, form)
            return "went_on"
        case _:
            own = _beside(form.id, _mark(form.versions))
            if Build.objects.filter(pk=own).exists():
                return "known"
            beside = form.model_copy(
                update={"demo": "", "name": f"{form.name[:105]} (archive)", "origin": None}
            )
            _write_build(user, beside, own)
            return "beside"


def _write_build(user: Any, form: BuildForm, own: UUID) -> Became:
    build = Build.objects.create(pk=own, owner=user, name=form.name, demo=form.demo)
    _add_versions(user, build, form, 0)
    _stand(build, form)
    _add_rides(build, form)
    _add_measured(build, form)
    if form.origin is not None:
        brief = Brief.objects.filter(owner=user, pk=form.origin.brief).first()
        if brief is not None:
            Origin.objects.create(build=build, brief=brief, document=form.origin.document)
    return "added"


def _add_versions(user: Any, build: Build, form: BuildForm, known: int) -> None:
    more = form.versions[known:]
    marks = [one.change_id for one in more if one.change_id]
    taken = set(Version.objects.filter(change_id__in=marks).values_list("change_id", flat=True))
    Version.objects.bulk_create(
        Version(
            build=build,
            number=one.number,
            parent=one.parent,
            document=one.document,
            changes=one.changes,
            aside=one.aside,
            made_by=user,
            made_at=one.made_at,
            change_id=None if one.change_id in taken else one.change_id,
        )
        for one in more
    )


def _add_rides(build: Build, form: BuildForm) -> None:
    """Keep the rides of an archive that are not kept yet; ids that others have are made anew."""
    there = [_same_ride(one) for one in KeptRide.objects.filter(build=build)]
    others = set(
        KeptRide.objects.filter(pk__in=[one.id for one in form.rides])
        .exclude(build=build)
        .values_list("pk", flat=True)
    )
    KeptRide.objects.bulk_create(
        (
            KeptRide(
                pk=_beside(one.id, build.pk) if one.id in others else one.id,
                build=build,
                **one.model_dump(mode="json", exclude={"id", "made_at", "removed_at"}),
                made_at=one.made_at,
                removed_at=one.removed_at,
            )
            for one in form.rides
            if _same_ride(one) not in there
        ),
        ignore_conflicts=True,
    )


def _add_measured(build: Build, form: BuildForm) -> None:
    """Put the measured runs of an archive in that are not there yet."""
    ids = [one.id for one in form.measured]
    found = MeasuredRun.objects.filter(pk__in=ids).exclude(build=build)
    others = set(found.values_list("pk", flat=True))
    there = {_same_run(one): one.pk for one in MeasuredRun.objects.filter(build=build)}
    own = {
        one.id: there.get(_same_run(one))
        or (_beside(one.id, build.pk) if one.id in others else one.id)
        for one in form.measured
    }
    MeasuredRun.objects.bulk_create(
        (
            MeasuredRun(
                pk=own[one.id],
                build=build,
                version=one.version,
                document=one.document,
                taught_in=one.taught_in,
                made_at=one.made_at,
                removed_at=one.removed_at,
            )
            for one in form.measured
            if _same_run(one) not in there
        ),
        ignore_conflicts=True,
    )
    photos = [(photo, own[one.id]) for one in form.measured for photo in one.photos]
    known = RunPhoto.objects.filter(pk__in=[photo.id for photo, _ in photos])
    elsewhere = set(known.exclude(run__build=build).values_list("pk", flat=True))
    RunPhoto.objects.bulk_create(
        (
            RunPhoto(
                pk=_beside(photo.id, run) if photo.id in elsewhere else photo.id,
                run_id=run,
                jpeg=photo.jpeg,
                made_at=photo.made_at,
                removed_at=photo.removed_at,
            )
            for photo, run in photos
        ),
        ignore_conflicts=True,
    )


def _same_run(run: MeasuredRun | MeasuredForm) -> tuple[Any, ...]:
    """Return what makes a measured run the same in two places, whatever its id."""
    return run.version, run.made_at, json.dumps(run.document, sort_keys=True)


def _same_ride(ride: KeptRide | RideForm) -> tuple[Any, ...]:
    """Return what makes a ride the same in two places, whatever its id."""
    return ride.version, ride.name, ride.air_c, json.dumps(ride.ride, sort_keys=True)


def _stand(build: Build, form: BuildForm) -> None:
    """Let a build stand as the archive has it, changed when it was changed there."""
    Build.objects.filter(pk=build.pk).update(
        name=form.name,
        head=form.head,
        pinned=form.pinned,
        made_at=form.made_at,
        changed_at=form.changed_at,
        removed_at=form.removed_at,
        ticks={key: ticked.model_dump() for key, ticked in form.ticks.items()},
        card_of="",
    )


# --- parts -------------------------------------------------------------------------------------


def _take_part(user: Any, form: PartForm) -> Became:
    _check_history(form.versions, [form.head], f"parts/{form.kind}/{form.ref}.json")
    there = Part.objects.filter(owner=user, ref=form.ref).first()
    if there is None and form.ref not in shipped_ids():
        return _write_part(user, form, form.ref)
    if there is not None and there.kind == form.kind:
        known = [(one.number, one.document) for one in there.versions.all()]
        match _compared(known, [(one.number, one.document) for one in form.versions]):
            case "same":
                if form.changed_at > there.changed_at:
                    _say(there, form)
                return "known"
            case "shorter":
                return "known"
            case "longer":
                _add_sayings(there, form, len(known))
                _say(there, form)
                return "went_on"
    mark = _mark(form.versions)
    if Part.objects.filter(pk=_beside(form.id, mark)).exists():
        return "known"
    _write_part(user, form, free_ref(user, form.ref), _beside(form.id, mark))
    return "beside"


def _write_part(user: Any, form: PartForm, ref: str, own: UUID | None = None) -> Became:
    if own is None:
        taken = Part.objects.filter(pk=form.id).exists()
        own = _beside(form.id, user.pk) if taken else form.id
    part = Part(pk=own, owner=user, kind=form.kind, ref=ref)
    part.say(_document_of(form))
    part.save(force_insert=True)
    _add_sayings(part, form, 0)
    _say(part, form)
    return "added"


def _add_sayings(part: Part, form: PartForm, known: int) -> None:
    PartVersion.objects.bulk_create(
        PartVersion(
            part=part,
            number=one.number,
            parent=one.parent,
            made_at=one.made_at,
            document={**one.document, "id": part.ref} if part.ref != form.ref else one.document,
        )
        for one in form.versions[known:]
    )


def _say(part: Part, form: PartForm) -> None:
    document = _document_of(form)
    part.say({**document, "id": part.ref} if part.ref != form.ref else document)
    Part.objects.filter(pk=part.pk).update(
        head=form.head,
        document=part.document,
        name=part.name,
        words=part.words,
        family=part.family,
        made_at=form.made_at,
        changed_at=form.changed_at,
        removed_at=form.removed_at,
    )


def _document_of(form: PartForm) -> dict[str, Any]:
    said = next(one.document for one in form.versions if one.number == form.head)
    if not isinstance(said.get("name"), str):
        raise Refusal(f"parts/{form.kind}/{form.ref}.json", "has no name")
    return said


# --- briefs ------------------------------------------------------------------------------------


def _take_brief(user: Any, form: BriefForm) -> Became:
    there = Brief.objects.filter(owner=user, pk=form.id).first()
    became: Became = "known"
    if there is None:
        taken = Brief.objects.filter(pk=form.id).exists()
        own = _beside(form.id, user.pk) if taken else form.id
        there = Brief.objects.filter(owner=user, pk=own).first()
        if there is None:
            there = Brief.objects.create(pk=own, owner=user, name=form.name, document=form.document)
            became = "added"
    if became == "added" or form.changed_at > there.changed_at:
        became = "added" if became == "added" else "went_on"
        Brief.objects.filter(pk=there.pk).update(
            name=form.name,
            document=form.document,
            said=form.said,
            made_at=form.made_at,
            changed_at=form.changed_at,
            removed_at=form.removed_at,
        )
    known = set(Match.objects.filter(pk__in=[one.id for one in form.matches]).values_list("pk"))
    new = [one for one in form.matches if (one.id,) not in known]
    Match.objects.bulk_create(
        Match(
            pk=one.id,
            brief=there,
            **one.model_dump(exclude={"id"}),
        )
        for one in new
    )
    return became


# --- all ---------------------------------------------------------------------------------------

_KINDS: list[tuple[str, type[Any], Callable[[Any, Any], Became], Callable[[ImportCounts], Any]]] = [
    ("briefs/", BriefForm, _take_brief, lambda told: told.briefs),
    ("parts/", PartForm, _take_part, lambda told: told.parts),
    ("builds/", BuildForm, _take_build, lambda told: told.builds),
]

Said = list[tuple[int, dict[str, Any]]]


def _compared(here: Said, there: Said) -> Literal["same", "shorter", "longer", "apart"]:
    """Return how a history of an archive goes with one that is here."""
    common = min(len(here), len(there))
    if here[:common] != there[:common]:
        return "apart"
    if len(here) == len(there):
        return "same"
    return "shorter" if len(there) < len(here) else "longer"


def _check_history(versions: list[Any], pointed_at: list[int], place: str) -> None:
    """Refuse a history with a gap, or one that something points out of."""
    numbers = [one.number for one in versions]
    if numbers != list(range(1, len(numbers) + 1)) or max(pointed_at) > len(numbers):
        raise Refusal(place, "has a history with a gap")
    if any(one.parent is not None and one.parent >= one.number for one in versions):
        raise Refusal(place, "has a version that was made from a later one")


def _mark(versions: list[Any]) -> str:
    said = [[one.number, one.document] for one in versions]
    return json.dumps(said, sort_keys=True)


def _beside(own: UUID, mark: Any) -> UUID:
    """Return the id of what comes beside something of that id, the same each time."""
    return uuid5(own, str(mark))
