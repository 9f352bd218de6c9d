"""The private database cluster: durable, on loopback, behind a password, found again."""

import os
import shutil
import signal
import subprocess
import tempfile
import time
from pathlib import Path

import psycopg
import pytest

from ops.cluster import Cluster, ClusterError, throw_away_cluster


@pytest.fixture
def cluster():
    home = Path(tempfile.mkdtemp(prefix="young-torrent-test-"))
    made = Cluster(home)
    made.start()
    yield made
    made.stop()
    shutil.rmtree(home, ignore_errors=True)


def connect(cluster: Cluster, password: str) -> psycopg.Connection:
    place = f"host=127.0.0.1 port={cluster.port} user=young_torrent dbname=young_torrent"
    return psycopg.connect(place, password=password, autocommit=True)


def test_what_people_typed_is_kept_durably_and_found_at_the_same_port(cluster):
    password = cluster.role_password_file.read_text()
    with connect(cluster, password) as connection:
        settings = {
            name: connection.execute(f"show {name}").fetchone()[0]
            for name in (
                "fsync",
                "synchronous_commit",
                "full_page_writes",
                "listen_addresses",
                "data_checksums",
            )
        }
        connection.execute("create table kept (word text)")
        connection.execute("insert into kept values ('reed')")
    assert settings == {
        "fsync": "on",
        "synchronous_commit": "on",
        "full_page_writes": "on",
        "listen_addresses": "127.0.0.1",
        "data_checksums": "on",
    }
    port = cluster.port
    cluster.stop()
    assert not cluster.runs()
    cluster.start()
    cluster.start()
    assert cluster.port == port
    with connect(cluster, password) as connection:
        assert connection.execute("select word from kept").fetchall() == [("reed",)]


def test_nobody_comes_in_without_the_password(cluster):
    for place in (cluster.password_file, cluster.role_password_file):
        assert place.stat().st_mode & 0o077 == 0
    with pytest.raises(psycopg.OperationalError, match="password"):
        connect(cluster, "guess")


def test_a_cluster_that_keeps_data_is_never_deleted(cluster):
    with pytest.raises(ClusterError):
        cluster.remove()
    assert cluster.data.is_dir()


def test_the_role_that_the_product_works_as_owns_its_database_and_no_more(cluster):
    with connect(cluster, cluster.role_password_file.read_text()) as connection:
        rights = connection.execute(
            "select rolsuper, rolcreatedb, rolcreaterole from pg_roles where rolname=current_user"
        ).fetchone()
        assert rights == (False, False, False)
        connection.execute("create table mine (word text)")
        with pytest.raises(psycopg.errors.InsufficientPrivilege):
            connection.execute("copy mine from program 'echo reed'")
        with pytest.raises(psycopg.errors.InsufficientPrivilege):
            connection.execute("create database another")


def test_what_the_superuser_owned_is_handed_over(cluster):
    with cluster.connect() as connection:
        connection.execute(
            "create type kind as enum ('reed', 'sedge');"
            "create table old (id bigserial primary key, kind kind);"
            "create function twice(n int) returns int language sql as 'select 2 * n';"
            "insert into old (kind) values ('reed');"
            "alter database young_torrent owner to app"
        )
    cluster.start()
    with connect(cluster, cluster.role_password_file.read_text()) as connection:
        connection.execute("alter table old add column more text")
        connection.execute("insert into old (kind, more) values ('sedge', twice(4)::text)")
        connection.execute("alter type kind add value 'rush'")
        connection.execute("drop function twice")
        assert connection.execute("select id, kind, more from old").fetchall() == [
            (1, "reed", None),
            (2, "sedge", "8"),
        ]


def test_the_number_of_an_innocent_process_is_not_taken_for_the_server(cluster):
    port = cluster.port
    told = (cluster.data / "postmaster.pid").read_text()
    cluster.stop()
    with subprocess.Popen(["sleep", "600"]) as innocent:
        (cluster.data / "postmaster.pid").write_text(
            "\n".join([str(innocent.pid), *told.split("\n")[1:]])
        )
        assert not cluster.runs()
        cluster.stop()
        cluster.start()
        assert cluster.runs()
        assert cluster.port == port
        assert innocent.poll() is None
        cluster.stop()
        assert innocent.poll() is None
        innocent.kill()


@pytest.mark.parametrize("written", ["", "reed\n", "-1\n", "99999999999999\n"])
def test_a_broken_pid_file_does_not_keep_it_from_starting(cluster, written):
    cluster.stop()
    (cluster.data / "postmaster.pid").write_text(written)
    cluster.start()
    assert cluster.runs()


def test_a_killed_server_is_started_at_once_though_its_connections_still_end(cluster):
    password = cluster.role_password_file.read_text()
    connections = [connect(cluster, password) for _ in range(5)]
    for _ in range(2):
        os.kill(cluster.postmaster(), signal.SIGKILL)
        while cluster.runs():
            time.sleep(0.01)
        cluster.start()
        with connect(cluster, password) as connection:
            assert connection.execute("select 1").fetchone() == (1,)
    for connection in connections:
        connection.close()


def test_one_stopped_by_hand_stays_so_until_it_is_started(cluster):
    cluster.hold()
    assert (cluster.runs(), cluster.is_held) == (False, True)
    cluster.start()
    assert (cluster.runs(), cluster.is_held) == (True, False)


def test_a_full_disk_is_told_as_such(cluster, monkeypatch):
    cluster.stop()
    monkeypatch.setattr(Cluster, "disk_is_full", lambda self: True)
    with pytest.raises(ClusterError, match="disk is full"):
        cluster.start()
    monkeypatch.undo()
    cluster.start()
    assert cluster.runs()


def test_a_making_that_was_cut_short_is_made_anew():
    cluster = throw_away_cluster()
    (cluster.home / "data.new").mkdir()
    (cluster.home / "data.new" / "half").write_text("made")
    cluster.start()
    assert cluster.runs()
    cluster.remove()
    assert not cluster.home.exists()
