"""A backup of everything in one file, checked; and the product as it was from such a file.

The file is a plain tar: ``backup.json`` says what it is and how its parts are to sum up,
``database.dump`` is PostgreSQL's own dump of the database.
"""

import argparse
import hashlib
import io
import json
import os
import shutil
import subprocess
import sys
import tarfile
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from ops.cluster import DATABASE, KEEPER, LOCAL, USER, Cluster, ClusterError, cluster_below, tool
from ops.owner import Owner, Taken

FORMAT = "young-torrent.backup/1"

KEPT = 5
"""Backups that are made by themselves before the database changes its form, and kept."""


class BackupError(RuntimeError):
    """A backup could not be made or used; the message says why and what to do."""


def back_up(cluster: Cluster, place: Path) -> dict[str, Any]:
    """Write a backup of a running cluster's database to `place`, whole or not at all.

    Raises
    ------
    BackupError
        If it could not be written, or what was written can't be read.
    """
    place.parent.mkdir(parents=True, exist_ok=True)
    half = place.with_name(f".{place.name}.half")
    try:
        with tempfile.TemporaryDirectory(dir=place.parent) as beside:
            dump = Path(beside) / "database.dump"
            _run(cluster, "pg_dump", "--format=custom", f"--file={dump}", DATABASE)
            _run(cluster, "pg_restore", "--list", str(dump))
            told = _told(cluster, dump)
            with tarfile.open(half, "w") as tar:
                text = json.dumps(told, indent=1).encode()
                entry = tarfile.TarInfo("backup.json")
                entry.size, entry.mtime, entry.mode = len(text), int(time.time()), 0o600
                tar.addfile(entry, io.BytesIO(text))
                tar.add(dump, "database.dump")
        half.chmod(0o600)
        _opened(half)
        half.replace(place)
    except OSError as problem:
        raise BackupError(f"The backup could not be written: {problem}") from None
    finally:
        half.unlink(missing_ok=True)
    return told


def restore(cluster: Cluster, place: Path) -> dict[str, Any]:
    """Put what a backup holds in the place of what a running cluster has.

    What is there now is backed up first. The old database goes only once the new one stands.

    Raises
    ------
    BackupError
        If the file is no sound backup, or of a newer program; nothing is changed then.
    """
    told = _opened(place)
    newer = sorted(set(told["migrations"]) - _known_migrations())
    if newer:
        raise BackupError(
            f"{place} is of a newer program (it has {newer[0]}); bring the program up to date"
        )
    fresh = f"{DATABASE}_fresh"
    with cluster.connect("postgres") as connection, tempfile.TemporaryDirectory() as beside:
        # First of all, since the backup may be one of those that go when another is made.
        dump = Path(beside) / "database.dump"
        with tarfile.open(place) as tar, dump.open("wb") as out:
            entry = tar.extractfile("database.dump")
            assert entry is not None
            shutil.copyfileobj(entry, out)
        if _migrations(cluster):
            keep_one(cluster, "restore")
        connection.execute(f"drop database if exists {fresh}")
        connection.execute(f"create database {fresh} owner {USER}")
        # What the dump's owner is called is of no matter here.
        _run(
            cluster,
            "pg_restore",
            "--exit-on-error",
            "--no-owner",
            f"--role={USER}",
            f"--dbname={fresh}",
            str(dump),
        )
        connection.execute(f"drop database if exists {DATABASE} with (force)")
        connection.execute(f"alter database {fresh} rename to {DATABASE}")
    return told


def keep_one(cluster: Cluster, before: str) -> Path:
    """Back up into the place of backups that are made by themselves; the oldest go."""
    folder = cluster.home / "backups"
    when = datetime.now(UTC).strftime("%Y%m%d-%H%M%S-%f")
    place = folder / f"before-{before}-{when}.backup"
    back_up(cluster, place)
    by_age = sorted(folder.glob("before-*.backup"), key=lambda p: p.stem[-22:])
    for old in by_age[:-KEPT]:
        old.unlink()
    return place


def _opened(place: Path) -> dict[str, Any]:
    """Return what a backup says of itself, once its parts sum up."""
    try:
        with tarfile.open(place) as tar:
            manifest = tar.extractfile("backup.json")
            dump = tar.extractfile("database.dump")
            told = {} if manifest is None else json.load(manifest)
            sum_ = "" if dump is None else _sum(dump)
    except FileNotFoundError:
        raise BackupError(f"There is no file {place}") from None
    except (OSError, tarfile.TarError, KeyError, ValueError, EOFError):
        raise BackupError(f"{place} is no backup of Young Torrent, or only a part of one") from None
    if not isinstance(told, dict) or told.get("format") != FORMAT:
        raise BackupError(f"{place} is not of the form {FORMAT}")
    if told.get("sha256") != sum_:
        raise BackupError(f"{place} is damaged: its database does not sum up to what it should")
    return told


def _told(cluster: Cluster, dump: Path) -> dict[str, Any]:
    with dump.open("rb") as file:
        sum_ = _sum(file)
    with cluster.connect() as connection:
        found = connection.execute("show server_version").fetchone()
    return {
        "format": FORMAT,
        "made_at": datetime.now(UTC).isoformat(timespec="seconds"),
        "postgresql": found[0] if found else "",
        "sha256": sum_,
        "migrations": _migrations(cluster),
    }


def _sum(file: IO[bytes]) -> str:
    digest = hashlib.sha256()
    while piece := file.read(1_000_000):
        digest.update(piece)
    return digest.hexdigest()


def _migrations(cluster: Cluster) -> list[str]:
    """Return which changes of form the database has been through, none of an empty one."""
    with cluster.connect() as connection:
        table = connection.execute("select to_regclass('django_migrations')").fetchone()
        if table is None or table[0] is None:
            return []
        rows = connection.execute("select app, name from django_migrations order by id").fetchall()
    return [f"{app}.{name}" for app, name in rows]


def _known_migrations() -> set[str]:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    import django

    django.setup()
    from django.db.migrations.loader import MigrationLoader

    return {".".join(key) for key in MigrationLoader(None).disk_migrations}


def newer_than_program(cluster: Cluster) -> list[str]:
    """Return the changes of form of a database that this program does not know."""
    return sorted(set(_migrations(cluster)) - _known_migrations())


def behind_program(cluster: Cluster) -> bool:
    """Return whether a database that holds something lacks changes of form."""
    has = set(_migrations(cluster))
    return bool(has) and bool(_known_migrations() - has)


def _run(cluster: Cluster, program: str, *arguments: str) -> None:
    """Run one of PostgreSQL's programs as the cluster's superuser."""
    environment = {
        **os.environ,
        "PGHOST": "127.0.0.1",
        "PGPORT": str(cluster.port),
        "PGUSER": KEEPER,
        "PGPASSWORD": cluster.password_file.read_text().strip(),
    }
    done = subprocess.run(
        [tool(program), *arguments], env=environment, capture_output=True, text=True
    )
    if done.returncode != 0:
        raise BackupError(f"{program}: {done.stderr.strip()[-500:]}")


@contextmanager
def running(local: Path) -> Iterator[Cluster]:
    """Lend the place's cluster, begun for this alone if nobody runs the product."""
    cluster = cluster_below(local)
    try:
        owner = Owner(local)
    except Taken:
        yield cluster
        return
    was_up = cluster.runs()
    try:
        cluster.start()
        yield cluster
    finally:
        if not was_up:
            cluster.stop()
        owner.leave()


def main() -> int:
    """Make a backup, or restore from one."""
    parser = argparse.ArgumentParser(prog="bin/backup or bin/restore")
    parser.add_argument("what", choices=["backup", "restore"])
    parser.add_argument("file", type=Path)
    options = parser.parse_args()
    LOCAL.mkdir(parents=True, exist_ok=True)
    place = options.file.resolve()
    try:
        if options.what == "backup":
            with running(LOCAL) as cluster:
                back_up(cluster, place)
            print(f"Everything is in {place}. bin/restore {options.file} brings it back.")
        else:
            _restore(place)
    except (BackupError, ClusterError, Taken) as problem:
        print(problem, file=sys.stderr)
        return 1
    return 0


def _restore(place: Path) -> None:
    try:
        owner = Owner(LOCAL)
    except Taken as taken:
        raise BackupError(f"{taken} Stop it first, then restore.") from None
    cluster = cluster_below(LOCAL)
    try:
        cluster.start()
        told = restore(cluster, place)
    finally:
        cluster.stop()
        owner.leave()
    print(f"The product is as it was on {told['made_at']}; bin/start begins it.")
    print(f"What was there before is in {cluster.home / 'backups'}.")


if __name__ == "__main__":
    sys.exit(main())
