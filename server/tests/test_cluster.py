"""The private database cluster: durable, on loopback, behind a password, found again."""

import shutil
import tempfile
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
    place = f"host=127.0.0.1 port={cluster.port} user=app dbname=young_torrent"
    return psycopg.connect(place, password=password, autocommit=True)


def test_what_people_typed_is_kept_durably_and_found_at_the_same_port(cluster):
    password = cluster.password_file.read_text()
    with connect(cluster, password) as connection:
        settings = {
            name: connection.execute(f"show {name}").fetchone()[0]
            for name in ("fsync", "synchronous_commit", "full_page_writes", "listen_addresses")
        }
        connection.execute("create table kept (word text)")
        connection.execute("insert into kept values ('reed')")
    assert settings == {
        "fsync": "on",
        "synchronous_commit": "on",
        "full_page_writes": "on",
        "listen_addresses": "127.0.0.1",
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
    assert cluster.password_file.stat().st_mode & 0o077 == 0
    with pytest.raises(psycopg.OperationalError, match="password"):
        connect(cluster, "guess")


def test_a_cluster_that_keeps_data_is_never_deleted(cluster):
    with pytest.raises(ClusterError):
        cluster.remove()
    assert cluster.data.is_dir()


def test_a_making_that_was_cut_short_is_made_anew():
    cluster = throw_away_cluster()
    (cluster.home / "data.new").mkdir()
    (cluster.home / "data.new" / "half").write_text("made")
    cluster.start()
    assert cluster.runs()
    cluster.remove()
    assert not cluster.home.exists()
