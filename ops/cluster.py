"""A private PostgreSQL cluster on loopback, run by an unprivileged user.

One cluster serves the product and keeps what people typed, with full durability. Tests make
throw-away ones of their own.
"""

import hashlib
import os
import pwd
import secrets
import shutil
import socket
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

LOCAL = Path(os.environ.get("YT_LOCAL") or Path(__file__).resolve().parents[1] / ".local")
"""Where this machine's own files are; another place makes another, separate product."""

USER, DATABASE = "app", "young_torrent"

LISTENING = ["listen_addresses = '127.0.0.1'", "unix_socket_directories = ''"]
THROW_AWAY = ["fsync = off", "synchronous_commit = off", "full_page_writes = off"]


class ClusterError(RuntimeError):
    """PostgreSQL could not be started or made; the message says what to look at."""


@dataclass(frozen=True)
class Cluster:
    """Where a cluster lives and how to reach it."""

    home: Path
    throw_away: bool = False

    @property
    def data(self) -> Path:
        """PostgreSQL's own directory."""
        return self.home / "data"

    @property
    def log(self) -> Path:
        """What PostgreSQL has to say."""
        return self.home / "postgres.log"

    @property
    def password_file(self) -> Path:
        """The generated password, readable by its owner alone."""
        return self.home / "password"

    @property
    def port(self) -> int:
        """Port of the running cluster, from its pid file."""
        return int((self.data / "postmaster.pid").read_text().splitlines()[3])

    @property
    def environment(self) -> dict[str, str]:
        """What the server needs to know to connect."""
        return {
            "YT_DB_NAME": DATABASE,
            "YT_DB_USER": USER,
            "YT_DB_PASSWORD": self.password_file.read_text().strip(),
            "YT_DB_PORT": str(self.port),
        }

    def start(self) -> None:
        """Make the cluster if it is not there, and start it if it does not run."""
        _own(self.home)
        if not (self.data / "PG_VERSION").is_file():
            self._make()
        if not self.runs():
            self._start()

    def runs(self) -> bool:
        """Return whether a server runs on this cluster's data."""
        status = _as_owner([_tool("pg_ctl"), "-D", str(self.data), "status"], check=False)
        return status.returncode == 0

    def stop(self) -> None:
        """Stop the cluster; connections are ended, nothing committed is lost."""
        if self.runs():
            _as_owner([_tool("pg_ctl"), "-D", str(self.data), "-m", "fast", "-w", "-s", "stop"])

    def remove(self) -> None:
        """Stop a throw-away cluster and delete it."""
        if not self.throw_away:
            raise ClusterError("only throw-away clusters are deleted")
        self.stop()
        shutil.rmtree(self.home, ignore_errors=True)

    def _make(self) -> None:
        """Make the cluster beside its place and move it there whole, so that none is half made."""
        fresh = self.home / "data.new"
        shutil.rmtree(fresh, ignore_errors=True)
        if not self.password_file.is_file():
            descriptor = os.open(self.password_file, os.O_WRONLY | os.O_CREAT, 0o600)
            with os.fdopen(descriptor, "w") as file:
                file.write(secrets.token_urlsafe(24))
        _own(self.password_file)
        _as_owner(
            [
                _tool("initdb"), "-D", str(fresh), "-U", USER, "-E", "UTF8", "--locale=C.UTF-8",
                "--auth=scram-sha-256", "--pwfile", str(self.password_file),
                *(["--no-sync"] if self.throw_away else []),
            ]
        )  # fmt: skip
        fresh.rename(self.data)

    def _start(self) -> None:
        for attempt in range(4):
            # The port is kept from start to start: who lost the connection finds it again.
            self._settle(new_port=attempt > 0)
            command = [_tool("pg_ctl"), "-D", str(self.data), "-l", str(self.log), "-w"]
            done = _as_owner([*command, "-t", "60", "-s", "start"], check=False)
            if done.returncode == 0:
                self._make_database()
                return
        raise ClusterError(f"PostgreSQL did not start; see {self.log}")

    def _settle(self, *, new_port: bool) -> None:
        """Write where PostgreSQL listens into its own settings, once or for a new port."""
        settings = self.data / "young-torrent.conf"
        main = self.data / "postgresql.conf"
        include = f"include_if_exists '{settings.name}'"
        if include not in main.read_text():
            with main.open("a") as file:
                file.write(f"\n{include}\n")
        if settings.is_file() and not new_port:
            return
        lines = [f"port = {_free_port()}", *LISTENING, *(THROW_AWAY if self.throw_away else [])]
        settings.write_text("\n".join(lines) + "\n")
        _own(settings)

    def _make_database(self) -> None:
        import psycopg

        password = self.password_file.read_text().strip()
        place = f"host=127.0.0.1 port={self.port} user={USER} dbname=postgres"
        with psycopg.connect(place, password=password, autocommit=True) as connection:
            known = connection.execute("select 1 from pg_database where datname=%s", [DATABASE])
            if known.fetchone() is None:
                connection.execute(f"create database {DATABASE}")


def cluster_below(local: Path) -> Cluster:
    """Return the product's cluster under `local`.

    PostgreSQL refuses to run as root, and its own user can't pass through a private directory
    such as root's home; the cluster of a checkout there lives in /var/lib under a name of its
    own.
    """
    home = local / "postgres"
    if os.geteuid() == 0 and not _reachable(home):
        mark = hashlib.sha256(str(local).encode()).hexdigest()[:12]
        home = Path("/var/lib/young-torrent") / mark
    return Cluster(home)


def throw_away_cluster() -> Cluster:
    """Return a cluster for one test run."""
    home = Path(tempfile.mkdtemp(prefix="young-torrent-test-"))
    return Cluster(home, throw_away=True)


def _reachable(place: Path) -> bool:
    """Return whether PostgreSQL's user can pass through every directory above `place`."""
    above = [parent for parent in place.resolve().parents if parent.exists()]
    return all(parent.stat().st_mode & 0o001 for parent in above)


def _runner() -> str | None:
    """Return the unprivileged user to run as when this is root, else None."""
    return "postgres" if os.geteuid() == 0 else None


def _own(place: Path) -> None:
    """Make a directory that the cluster's user owns, or hand it an existing file."""
    if not place.exists():
        place.mkdir(parents=True)
    user = _runner()
    if user is not None:
        account = pwd.getpwnam(user)
        os.chown(place, account.pw_uid, account.pw_gid)


def _as_owner(command: list[str], check: bool = True) -> subprocess.CompletedProcess[bytes]:
    user = _runner()
    full = ["runuser", "-u", user, "--", *command] if user else command
    done = subprocess.run(
        full, cwd="/", stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE
    )
    if check and done.returncode != 0:
        raise ClusterError(f"{Path(command[0]).name}: {done.stderr.decode().strip()}")
    return done


def _tool(name: str) -> str:
    """Return the path of a PostgreSQL program, the newest installed."""
    found = sorted(
        Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=lambda p: int(p.parts[-3])
    )
    if found:
        return str(found[-1])
    on_path = shutil.which(name)
    if on_path is None:
        raise ClusterError(f"{name} is not installed; install Debian's package postgresql")
    return on_path


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port


if __name__ == "__main__":
    if sys.argv[1:] not in (["start"], ["stop"]):
        sys.exit("usage: python -m ops.cluster start|stop")
    getattr(cluster_below(LOCAL), sys.argv[1])()
