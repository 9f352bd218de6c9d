"""Backups: all of it comes back, nothing unsound is used, and older databases are brought along."""

import io
import json
import os
import shutil
import subprocess
import sys
import tarfile
import tempfile
from pathlib import Path

import pytest

from ops import backup
from ops.backup import BackupError, back_up, keep_one, restore
from ops.cluster import DATABASE, USER, Cluster, ClusterError, cluster_below, tool
from ops.upgrade_database import upgrade

SAMPLE = Path(__file__).parent / "samples" / "database-at-first.dump"
"""The database of the product as it was on 28 November 2026: demo builds, one of them edited,
undone and compared, one removed, two parts, a brief with its search and a build made of it."""


@pytest.fixture(scope="module")
def local():
    place = Path(tempfile.mkdtemp(prefix="young-torrent-test-"))
    place.chmod(0o755)
    yield place
    cluster_below(place).stop()
    shutil.rmtree(place, ignore_errors=True)


@pytest.fixture(scope="module")
def prepared(local) -> Cluster:
    """The database of that time as the superuser left it, brought to the present form."""
    cluster = cluster_below(local)
    cluster.start()
    with cluster.connect("postgres") as connection:
        connection.execute(f"drop database {DATABASE}")
        connection.execute(f"create database {DATABASE}")
    backup._run(cluster, "pg_restore", "--no-owner", f"--dbname={DATABASE}", str(SAMPLE))
    cluster.start()
    done = run_prepare(local, cluster)
    assert done.returncode == 0, done.stderr
    return cluster


def run_prepare(local: Path, cluster: Cluster) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, **cluster.environment, "YT_LOCAL": str(local)}
    return subprocess.run(
        [sys.executable, "-m", "ops.prepare"], env=environment, capture_output=True, text=True
    )


def rows(cluster: Cluster, ask: str) -> list[tuple]:
    with cluster.connect() as connection:
        return connection.execute(ask).fetchall()


ALL = (
    "select b.name, b.demo, b.head, b.pinned, b.removed_at is null, v.number, v.document::text,"
    " v.change_id from builds_build b join builds_version v on v.build_id = b.id"
    " order by b.name, v.number"
)


def test_a_database_of_then_is_brought_to_the_present_form(local, prepared):
    builds = rows(prepared, "select name, head, pinned from builds_build order by name")
    assert len(builds) == 7
    assert ("Causeway trike", 3, 2) in [(name, head, pinned) for name, head, pinned in builds]
    assert rows(prepared, "select count(*) from builds_build where removed_at is not null") == [
        (1,)
    ]
    heavy = rows(
        prepared,
        "select document->'vehicle'->'mass_kg' from builds_version where number = 4",
    )
    assert heavy == [(1 / 3 + 150,)]
    # What is searched of parts was filled in.
    found = rows(prepared, "select ref, family, words like '%blue%' from shelf_part order by ref")
    assert found == [("old-blue-can", "blue can", True), ("reed", "", False)]
    assert rows(prepared, "select state, feasible from matching_match") == [("done", 1260)]
    owners = rows(
        prepared,
        "select distinct tableowner from pg_tables where schemaname = 'public'",
    )
    assert owners == [(USER,)]


def test_before_its_form_changed_it_was_backed_up(prepared):
    (kept,) = (prepared.home / "backups").glob("before-change-of-form-*.backup")
    told = backup._opened(kept)
    assert "builds.0001_initial" in told["migrations"]
    assert "builds.0002_cards" not in told["migrations"]


def test_all_of_it_comes_back(prepared, tmp_path):
    before = rows(prepared, ALL)
    assert len(before) > 8
    place = tmp_path / "here" / "all.backup"
    told = back_up(prepared, place)
    assert (place.stat().st_mode & 0o077, told["format"]) == (0, "young-torrent.backup/1")
    with prepared.connect() as connection:
        connection.execute("delete from matching_origin")
        connection.execute("delete from builds_version where number > 1")
        connection.execute("update builds_build set head = 1, pinned = 1, name = 'lost'")
    lost = rows(prepared, ALL)
    restore(prepared, place)
    assert rows(prepared, ALL) == before
    # What was there before is kept too.
    newest = max((prepared.home / "backups").glob("before-restore-*.backup"), key=os.path.getmtime)
    restore(prepared, newest)
    assert rows(prepared, ALL) == lost
    restore(prepared, place)
    assert rows(
        prepared, f"select pg_get_userbyid(datdba) from pg_database where datname = '{DATABASE}'"
    ) == [(USER,)]


def edited(text: bytes, **changes) -> bytes:
    """Return a backup with its own words about itself changed."""
    sink = io.BytesIO()
    with tarfile.open(fileobj=io.BytesIO(text)) as old, tarfile.open(fileobj=sink, mode="w") as new:
        for entry in old.getmembers():
            inner = old.extractfile(entry).read()
            if entry.name == "backup.json":
                inner = json.dumps({**json.loads(inner), **changes}).encode()
                entry.size = len(inner)
            new.addfile(entry, io.BytesIO(inner))
    return sink.getvalue()


@pytest.mark.parametrize(
    ("spoil", "words"),
    [
        (lambda text: b"", "is no backup"),
        (lambda text: b"reed" * 1000, "is no backup"),
        (lambda text: text[: len(text) // 2], "no backup of Young Torrent, or only a part"),
        (lambda text: text[:40_000] + b"xxxx" + text[40_004:], "is damaged"),
        (lambda text: edited(text, format="young-torrent.backup/2"), "is not of the form"),
        (lambda text: edited(text, sha256="0"), "is damaged"),
        (lambda text: edited(text, migrations=["builds.9999_of_a_newer_one"]), "newer program"),
    ],
)
def test_what_is_no_sound_backup_changes_nothing(prepared, tmp_path, spoil, words):
    place = tmp_path / "all.backup"
    back_up(prepared, place)
    before = rows(prepared, ALL)
    place.write_bytes(spoil(place.read_bytes()))
    with pytest.raises(BackupError, match=words):
        restore(prepared, place)
    assert rows(prepared, ALL) == before


def test_a_backup_that_can_not_be_written_leaves_nothing(prepared, tmp_path, monkeypatch):
    def full(*_, **__):
        raise OSError(28, "No space left on device")

    place = tmp_path / "all.backup"
    place.write_bytes(b"of before")
    monkeypatch.setattr(backup.tarfile, "open", full)
    with pytest.raises(BackupError, match="No space left"):
        back_up(prepared, place)
    assert (place.read_bytes(), list(tmp_path.iterdir())) == (b"of before", [place])


def test_of_those_made_by_themselves_the_last_five_are_kept(prepared):
    for number in range(7):
        keep_one(prepared, f"test-{number}")
    kept = sorted(path.stem[:-23] for path in (prepared.home / "backups").iterdir())
    assert kept == [f"before-test-{number}" for number in range(2, 7)]


def test_a_database_of_a_newer_program_is_left_alone_and_said_so(local, prepared):
    with prepared.connect() as connection:
        connection.execute(
            "insert into django_migrations (app, name, applied)"
            " values ('builds', '9999_of_a_newer_one', now())"
        )
    before = rows(prepared, ALL)
    done = run_prepare(local, prepared)
    assert done.returncode == 1
    assert "newer program: it has builds.9999_of_a_newer_one" in done.stderr
    assert rows(prepared, ALL) == before
    with prepared.connect() as connection:
        connection.execute("delete from django_migrations where name = '9999_of_a_newer_one'")


def test_data_of_the_newest_version_need_no_upgrade(prepared):
    assert "Nothing was changed" in upgrade(prepared)


def test_data_of_a_version_that_is_not_installed_say_what_to_install(prepared):
    with pytest.raises(ClusterError, match="install Debian's package postgresql-9"):
        tool("pg_ctl", "9")


def test_an_upgrade_that_fails_leaves_the_data_as_they_were(local, prepared, monkeypatch):
    before = rows(prepared, ALL)
    prepared.stop()
    monkeypatch.setattr("ops.upgrade_database.newest_version", lambda: "99")

    def breaks(*_):
        raise BackupError("a cell went flat")

    monkeypatch.setattr("ops.upgrade_database.restore", breaks)
    with pytest.raises(BackupError, match="flat"):
        upgrade(prepared)
    prepared.start()
    assert rows(prepared, ALL) == before
    # With a version that can be installed it goes through: here the same one, made anew.
    prepared.stop()
    shutil.rmtree(prepared.home / "data.99.broken")
    monkeypatch.setattr("ops.upgrade_database.restore", restore)
    assert "kept in" in upgrade(prepared)
    prepared.start()
    assert rows(prepared, ALL) == before
