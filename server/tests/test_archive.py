"""Everything of somebody goes out and comes in again: exactly, merged, without doubles."""

import copy
import io
import json
import random
import uuid
import zipfile
from datetime import timedelta

import pytest
from django.contrib.auth.models import User
from django.utils import timezone

from accounts.personal import the_owner
from builds.actions.change import pin, redo, save_version, undo
from builds.actions.create import create_build
from builds.actions.remove import remove_build
from builds.models import Build, Version
from common.errors import Conflict, NotFound
from logbook.models import MeasuredRun
from matching.actions.brief import keep_brief
from matching.models import Brief, Match, Origin
from powertrain.errors import Refusal
from runs.models import KeptRide
from shelf.actions.keep import add_part, change_part, set_away
from shelf.models import Part
from upkeep.bringing_in import bring_in
from upkeep.taking_out import taken_out

CELL = {"name": "Reed", "chemistry": "li_ion", "capacity_ah": 3.0, "resistance_mohm": 26.0}


def archive(user) -> bytes:
    return b"".join(taken_out(user))


def entries(text: bytes) -> dict[str, object]:
    """Return what an archive holds, but for when it was made."""
    with zipfile.ZipFile(io.BytesIO(text)) as opened:
        assert opened.testzip() is None
        held = {name: json.loads(opened.read(name)) for name in opened.namelist()}
    del held["archive.json"]["made_at"]
    return held


def brought(user, text: bytes) -> dict[str, dict[str, int]]:
    told = bring_in(user, io.BytesIO(text))
    return {kind: dict(counts) for kind, counts in vars(told).items()}


def forget() -> None:
    """Leave an empty product."""
    for kind in (Origin, Build, Part, Brief):
        kind.objects.all().delete()


def edited(owner, build, edits: int, seed: int):
    """Change a build at random: values, steps back and forth, changes that come too late."""
    draw = random.Random(seed)
    for _ in range(edits):
        build.refresh_from_db()
        deed = draw.choice(["save", "save", "save", "late", "undo", "redo", "pin"])
        try:
            if deed in ("save", "late"):
                document = copy.deepcopy(build.versions.get(number=build.head).document)
                document["vehicle"]["mass_kg"] = draw.choice(
                    [90, 90.0, 1e-3, 1 / 3, 195.123456789012, 2**53 - 1, 1e5]
                )
                document["conditions"] = draw.choice([{}, {"ambient_c": -0.0}, {"ambient_c": 20}])
                base = build.head if deed == "save" else max(1, build.head - 1)
                save_version(owner, build.pk, base, document, uuid.uuid4())
            elif deed == "pin":
                pin(owner, build.pk, draw.randint(1, build.newest_number))
            else:
                {"undo": undo, "redo": redo}[deed](owner, build.pk, build.head)
        except (NotFound, Conflict):
            continue


@pytest.fixture
def owner(db):
    return the_owner()


@pytest.fixture
def full(owner, trike):
    """A product with some of everything, also what can no longer be read."""
    for seed in range(4):
        build = create_build(owner, {**trike, "name": f"Cart {seed}"}, demo="" if seed else "cart")
        edited(owner, build, 25, seed)
    for removed_at in (None, timezone.now()):
        KeptRide.objects.create(
            build=build,
            version=1,
            name=f"To the dyke, {removed_at}",
            ride={"course": {"kind": "standing", "until_s": 9.5}},
            air_c=-5.5,
            track=[(51.0, 1.0, 0.0), (51.1, 1.0, 11119.5)],
            told={"soc_end_pct": 1 / 3},
            verdicts=[{"id": "arrives"}],
            removed_at=removed_at,
        )
    MeasuredRun.objects.create(
        build=build,
        version=1,
        document={"observations": [{"kind": "free", "motor_rpm": 3200.5}]},
        taught_in=1,
    )
    remove_build(owner, build.pk)
    broken = create_build(owner, {**trike, "name": "Broken"})
    Version.objects.filter(build=broken).update(document={"name": "Broken", "motor": {}})
    for number in range(3):
        add_part(owner, "cells", {**CELL, "capacity_ah": 3.0 + number})
    change_part(owner, "cells", "reed", {**CELL, "capacity_ah": 9.5})
    set_away(owner, "cells", "reed-2", away=True)
    said = {"format": "young-torrent.brief/1", "name": "Punt"}
    brief = keep_brief(owner, said, said=["vehicle.mass_kg"])
    Match.objects.create(
        brief=brief,
        document=said,
        state="done",
        considered=10**12,
        solved=5,
        to_solve=5,
        answer={"results": [], "rejected": {"mass": 3}},
        ended_at=timezone.now(),
    )
    Match.objects.create(brief=brief, document=said, state="running")
    Origin.objects.create(build=build, brief=brief, document=said)
    return owner


def test_an_empty_product_becomes_what_the_full_one_was(full):
    before = archive(full)
    held = entries(before)
    assert held["archive.json"] == {
        "format": "young-torrent.archive/1",
        "builds": 5,
        "parts": 3,
        "briefs": 1,
    }
    forget()
    assert brought(full, before) == {
        "builds": {"added": 5},
        "parts": {"added": 3},
        "briefs": {"added": 1},
    }
    assert entries(archive(full)) == held
    # And undo, redo and changes go on where they were.
    edited(full, Build.objects.filter(removed_at=None).exclude(name="Broken").first(), 10, 99)


def test_coming_again_changes_nothing(full):
    text = archive(full)
    held = entries(text)
    for _ in range(2):
        assert brought(full, text) == {
            "builds": {"known": 5},
            "parts": {"known": 3},
            "briefs": {"known": 1},
        }
    assert entries(archive(full)) == held


def test_a_history_that_went_on_goes_on_and_an_older_archive_takes_nothing_away(owner, trike):
    build = create_build(owner, trike)
    part = add_part(owner, "cells", CELL)
    old = archive(owner)
    heavier = {**trike, "name": "Heavier"}
    save_version(owner, build.pk, 1, heavier, uuid.uuid4())
    change_part(owner, "cells", part.ref, {**CELL, "capacity_ah": 4.0})
    new = archive(owner)
    assert brought(owner, old) == {"builds": {"known": 1}, "parts": {"known": 1}, "briefs": {}}
    assert entries(archive(owner)) == entries(new)
    forget()
    brought(owner, old)
    assert Build.objects.get().name == trike["name"]
    assert brought(owner, new) == {"builds": {"went_on": 1}, "parts": {"went_on": 1}, "briefs": {}}
    assert entries(archive(owner)) == entries(new)


def test_where_both_went_on_both_are_kept_once(owner, trike):
    build = create_build(owner, trike)
    part = add_part(owner, "cells", CELL)
    first = archive(owner)
    save_version(owner, build.pk, 1, {**trike, "name": "Mine"}, uuid.uuid4())
    change_part(owner, "cells", part.ref, {**CELL, "capacity_ah": 4.0})
    mine = archive(owner)
    forget()
    brought(owner, first)
    save_version(owner, build.pk, 1, {**trike, "name": "Other"}, uuid.uuid4())
    change_part(owner, "cells", part.ref, {**CELL, "capacity_ah": 5.0})
    for became in ("beside", "known"):
        assert brought(owner, mine) == {"builds": {became: 1}, "parts": {became: 1}, "briefs": {}}
        assert sorted(build.name for build in Build.objects.all()) == ["Mine (archive)", "Other"]
        said = {part.ref: part.document["capacity_ah"] for part in Part.objects.all()}
        assert said == {"reed": 5.0, "reed-2": 4.0}


def test_the_demo_builds_of_another_place_are_the_same_builds(owner, trike):
    create_build(owner, trike, demo="causeway-trike")
    text = archive(owner)
    forget()
    create_build(owner, trike, demo="causeway-trike")
    assert brought(owner, text)["builds"] == {"known": 1}
    assert Build.objects.count() == 1


def test_what_is_somebody_elses_stays_theirs(owner, trike):
    build = create_build(owner, trike)
    brief = keep_brief(owner, {"format": "young-torrent.brief/1", "name": "Punt"})
    text = archive(owner)
    other = User.objects.create(username="other")
    Build.objects.update(owner=other)
    Brief.objects.update(owner=other)
    for became in ("added", "known"):
        told = brought(owner, text)
        assert (told["builds"], told["briefs"]) == ({became: 1}, {became: 1})
    assert Build.objects.get(owner=other).pk == build.pk
    assert Brief.objects.get(owner=other).pk == brief.pk
    assert Build.objects.filter(owner=owner).count() == 1


def zipped(**files: object) -> bytes:
    sink = io.BytesIO()
    with zipfile.ZipFile(sink, "w") as made:
        for name, said in files.items():
            text = said if isinstance(said, bytes) else json.dumps(said).encode()
            made.writestr(name.replace("__", "/"), text)
    return sink.getvalue()


def spoilt(text: bytes, folder: str, change) -> bytes:
    held = entries(text)
    held["archive.json"]["made_at"] = timezone.now().isoformat()
    name = next(name for name in held if name.startswith(folder))
    change(held[name])
    return zipped(**held)


MANIFEST = {
    "format": "young-torrent.archive/1",
    "made_at": "2026-11-28T02:00:00Z",
    "builds": 0,
    "parts": 0,
    "briefs": 0,
}


@pytest.mark.parametrize(
    ("text", "where"),
    [
        (b"", "archive"),
        (b"PK\x03\x04 and no more", "archive"),
        (zipped(reed={}), "archive.json"),
        (zipped(**{"archive.json": b"{"}), "archive.json"),
        (zipped(**{"archive.json": {**MANIFEST, "format": "a/2"}}), "archive.json"),
        (zipped(**{"archive.json": MANIFEST, "builds__x.json": {}}), "builds/x.json, id"),
        (zipped(**{"archive.json": MANIFEST, "builds__x.json": b"[" * 9000}), "builds/x.json"),
        (zipped(**{"archive.json": MANIFEST, "parts__x.json": b"\xff"}), "parts/x.json"),
    ],
)
def test_what_is_no_archive_is_refused_by_its_entry(api, text, where):
    response = api.client.post("/api/archive", text, content_type="application/zip")
    assert response.status_code == 422
    assert json.loads(response.content)["error"]["where"] == where


@pytest.mark.parametrize(
    ("folder", "change"),
    [
        ("builds/", lambda said: said["versions"].pop(0)),
        ("builds/", lambda said: said.update(head=9000)),
        ("builds/", lambda said: said.update(pinned=9000)),
        ("builds/", lambda said: said["versions"][0].update(parent=1)),
        ("builds/", lambda said: said.update(colour="reed")),
        ("builds/", lambda said: said["versions"][0].update(document=[])),
        ("parts/", lambda said: said.update(kind="boats")),
        ("parts/", lambda said: said.update(ref="../reed")),
        ("parts/", lambda said: [one["document"].pop("name") for one in said["versions"]]),
        ("briefs/", lambda said: said["matches"][0].update(state="running")),
    ],
)
def test_of_an_archive_with_a_fault_nothing_comes_in(full, folder, change):
    text = spoilt(archive(full), folder, change)
    forget()
    with pytest.raises(Refusal) as refused:
        bring_in(full, io.BytesIO(text))
    assert refused.value.where.startswith(folder)
    assert [kind.objects.count() for kind in (Build, Part, Brief)] == [0, 0, 0]


def test_over_http_it_goes_out_as_a_file_and_comes_in_told(api, full):
    response = api.client.get("/api/archive")
    assert response.headers["Content-Type"] == "application/zip"
    assert "attachment" in response.headers["Content-Disposition"]
    text = response.getvalue()
    forget()
    told = api.client.post("/api/archive", text, content_type="application/zip")
    assert json.loads(told.content)["builds"] == {
        "added": 5,
        "went_on": 0,
        "beside": 0,
        "known": 0,
    }
    assert entries(archive(full)) == entries(text)


def test_times_come_back_as_they_were(full):
    long_ago = timezone.now() - timedelta(days=400)
    Build.objects.update(made_at=long_ago, changed_at=long_ago)
    text = archive(full)
    forget()
    brought(full, text)
    assert set(Build.objects.values_list("made_at", "changed_at")) == {(long_ago, long_ago)}
