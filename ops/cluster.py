"""A private PostgreSQL cluster on loopback, run by an unprivileged user.

One cluster serves the product and keeps what people typed, with full durability. Tests make
throw-away ones of their own.
"""

import fcntl
import hashlib
import os
import pwd
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import psycopg

LOCAL = Path(os.environ.get("YT_LOCAL") or Path(__file__).resolve().parents[1] / ".local")
"""Where this machine's own files are; another place makes another, separate product."""

KEEPER, USER, DATABASE = "app", "young_torrent", "young_torrent"
"""The cluster's own superuser, for upkeep alone; the role that the product works as, which owns
its database and nothing more; and that database."""

LISTENING = ["listen_addresses = '127.0.0.1'", "unix_socket_directories = ''"]
THROW_AWAY = ["fsync = off", "synchronous_commit = off", "full_page_writes = off"]

MOST_LOG_BYTES = 5_000_000
LEAST_FREE_BYTES = 20_000_000
"""Below this the disk is told as full: PostgreSQL's own files come in pieces of 16 MB."""

STARTS_WITHIN_S = 40.0


class ClusterError(RuntimeError):
    """PostgreSQL could not be started or made; the message says what to look at."""


@dataclass(frozen=True)
class Cluster:
    """Where a cluster lives and how to reach it."""

    home: Path
    throw_away: bool = False

    name = "database"

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
        """The superuser's generated password, readable by its owner alone."""
        return self.home / "password"

    @property
    def role_password_file(self) -> Path:
        """The password of the role that the product works as."""
        return self.home / "role-password"

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
            "YT_DB_PASSWORD": self.role_password_file.read_text().strip(),
            "YT_DB_PORT": str(self.port),
        }

    @property
    def is_held(self) -> bool:
        """Whether it was stopped by hand and is to stay so."""
        return (self.home / "held").exists()

    def start(self) -> None:
        """Make the cluster if it is not there, and start it if it does not run.

        Raises
        ------
        ClusterError
            If that is not possible; with a full disk it says so.
        """
        _own(self.home)
        (self.home / "held").unlink(missing_ok=True)
        with _one_at_a_time(self.home / "starting.lock"):
            if not (self.data / "PG_VERSION").is_file():
                self._make()
            if not self.runs():
                self._start()
            self._make_database()

    def runs(self) -> bool:
        """Return whether a server runs on this cluster's data."""
        return self.postmaster() is not None

    def postmaster(self) -> int | None:
        """Return the process number of this cluster's server, None if none runs.

        The number in its pid file may be another program's by now; a server of ours works in
        the directory of its data.
        """
        try:
            pid = int((self.data / "postmaster.pid").read_text().split("\n", 1)[0])
            works_in = os.readlink(f"/proc/{pid}/cwd")
            state = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0]
        except (OSError, ValueError):
            return None
        return pid if works_in == str(self.data.resolve()) and state not in "ZX" else None

    def stop(self) -> None:
        """Stop the cluster; connections are ended, nothing committed is lost."""
        for number, seconds in ((signal.SIGINT, 30), (signal.SIGQUIT, 10), (signal.SIGKILL, 5)):
            pid = self.postmaster()
            if pid is None:
                return
            with suppress(ProcessLookupError):
                os.kill(pid, number)
            end = time.monotonic() + seconds
            while self.postmaster() == pid and time.monotonic() < end:
                time.sleep(0.05)

    def hold(self) -> None:
        """Stop it, and let nobody who keeps it running start it again before `start`."""
        (self.home / "held").touch()
        self.stop()

    def remove(self) -> None:
        """Stop a throw-away cluster and delete it."""
        if not self.throw_away:
            raise ClusterError("only throw-away clusters are deleted")
        self.stop()
        shutil.rmtree(self.home, ignore_errors=True)

    def disk_is_full(self) -> bool:
        """Return whether there is no room left where the data are."""
        return shutil.disk_usage(self.home).free < LEAST_FREE_BYTES

    def connect(self, database: str = DATABASE) -> "psycopg.Connection[tuple[Any, ...]]":
        """Return a connection of the superuser, for upkeep."""
        import psycopg

        return psycopg.connect(
            f"host=127.0.0.1 port={self.port} user={KEEPER} dbname={database} connect_timeout=10",
            password=self.password_file.read_text().strip(),
            autocommit=True,
        )

    def _make(self) -> None:
        """Make the cluster beside its place and move it there whole, so that none is half made."""
        fresh = self.home / "data.new"
        shutil.rmtree(fresh, ignore_errors=True)
        _secret_in(self.password_file)
        _own(self.password_file)
        _as_owner(
            [
                tool("initdb"),
                "-D",
                str(fresh),
                "-U",
                KEEPER,
                "-E",
                "UTF8",
                "--locale=C.UTF-8",
                "--auth=scram-sha-256",
                "--pwfile",
                str(self.password_file),
                "--data-checksums",
                *(["--no-sync"] if self.throw_away else []),
            ]
        )
        fresh.rename(self.data)

    def _start(self) -> None:
        if self.disk_is_full():
            raise ClusterError(f"The disk is full: make room where {self.home} is")
        self._turn_log()
        pg_ctl = self._own_tool("pg_ctl")
        end, new_port, pause_s = time.monotonic() + STARTS_WITHIN_S, False, 0.25
        while True:
            # The port is kept from start to start: who lost the connection finds it again.
            self._settle(new_port=new_port)
            # Nothing of ours runs: the number in it is of a server that is gone.
            (self.data / "postmaster.pid").unlink(missing_ok=True)
            before = self.log.stat().st_size if self.log.exists() else 0
            command = [pg_ctl, "-D", str(self.data), "-l", str(self.log), "-w"]
            done = _as_owner([*command, "-t", "60", "-s", "start"], check=False)
            if done.returncode == 0:
                return
            said = self._said_since(before)
            if "No space left on device" in said or self.disk_is_full():
                raise ClusterError(f"The disk is full: make room where {self.home} is")
            new_port = "could not bind" in said
            if time.monotonic() > end:
                raise ClusterError(f"PostgreSQL did not start; see {self.log}")
            # Connections of a server that was killed keep its memory for a moment yet.
            time.sleep(pause_s)
            pause_s = min(2.0, pause_s * 2)

    def version(self) -> str | None:
        """Return the version of PostgreSQL that wrote the data, None if there are none."""
        place = self.data / "PG_VERSION"
        return place.read_text().strip() if place.is_file() else None

    def _own_tool(self, name: str) -> str:
        """Return a program of the version that wrote the data; another can't read them."""
        return tool(name, self.version() or "*")

    def _said_since(self, place: int) -> str:
        try:
            with self.log.open("rb") as log:
                log.seek(place)
                return log.read(100_000).decode(errors="replace")
        except OSError:
            return ""

    def _turn_log(self) -> None:
        """Begin a new log where the last has grown long; one of before is kept."""
        if self.log.exists() and self.log.stat().st_size > MOST_LOG_BYTES:
            self.log.replace(self.log.with_suffix(".log.1"))

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
        """Make the product's role and database, and hand over what the superuser once owned."""
        from psycopg import sql

        made = _secret_in(self.role_password_file)
        with self.connect("postgres") as connection:
            role = connection.execute("select rolcreatedb from pg_roles where rolname=%s", [USER])
            name = sql.Identifier(USER)
            if role.fetchone() is None:
                connection.execute(sql.SQL("create role {} login").format(name))
                made = True
            if made:
                # Tests make databases of their own.
                more = sql.SQL("createdb" if self.throw_away else "nocreatedb")
                password = sql.Literal(self.role_password_file.read_text().strip())
                connection.execute(
                    sql.SQL("alter role {} {} password {}").format(name, more, password)
                )
            known = connection.execute(
                "select pg_get_userbyid(datdba) from pg_database where datname=%s", [DATABASE]
            ).fetchone()
            if known is None:
                connection.execute(
                    sql.SQL("create database {} owner {}").format(sql.Identifier(DATABASE), name)
                )
        if known is not None and known[0] != USER:
            with self.connect() as connection:
                hand_over(connection)


def hand_over(connection: "psycopg.Connection[tuple[Any, ...]]") -> None:
    """Make the product's role the owner of its database and of all that is in it."""
    with connection.transaction():
        connection.execute(HAND_OVER)


HAND_OVER = f"""
do $$
declare one record;
begin
  for one in
    select format('alter %s %s owner to {USER}',
      case relkind when 'S' then 'sequence' when 'v' then 'view' else 'table' end,
      oid::regclass) as say
    from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'p', 'v')
    union all
    select format('alter sequence %s owner to {USER}', c.oid::regclass)
    from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind = 'S'
      and not exists (select 1 from pg_depend d where d.objid = c.oid and d.deptype in ('a', 'i'))
    union all
    select format('alter routine %s owner to {USER}', p.oid::regprocedure)
    from pg_proc p where p.pronamespace = 'public'::regnamespace
    union all
    select format('alter type %s owner to {USER}', t.oid::regtype)
    from pg_type t left join pg_class c on c.oid = t.typrelid
    where t.typnamespace = 'public'::regnamespace and t.typelem = 0
      and (t.typrelid = 0 or c.relkind = 'c')
  loop
    execute one.say;
  end loop;
  execute 'alter schema public owner to {USER}';
  execute 'alter database {DATABASE} owner to {USER}';
end $$
"""


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


def tool(name: str, version: str = "*") -> str:
    """Return the path of a PostgreSQL program, the newest installed or one of a version."""
    found = sorted(
        (place for root in ROOTS for place in Path(root).glob(f"{version}/bin/{name}")),
        key=lambda p: int(p.parts[-3]),
    )
    if found:
        return str(found[-1])
    on_path = shutil.which(name) if not _installed() else None
    if on_path is None:
        package = "postgresql" if version == "*" else f"postgresql-{version}"
        raise ClusterError(f"{name} is not installed; install Debian's package {package}")
    return on_path


ROOTS = [*filter(None, [os.environ.get("YT_POSTGRESQL")]), "/usr/lib/postgresql"]
"""Where versions of PostgreSQL are, each in a folder of its number."""


def _installed() -> list[str]:
    """Return the versions that are installed where Debian puts them, the oldest first."""
    found = {place.parts[-3] for root in ROOTS for place in Path(root).glob("*/bin/pg_ctl")}
    return sorted(found, key=int)


def newest_version() -> str:
    """Return the newest version of PostgreSQL that is installed."""
    installed = _installed()
    if not installed:
        raise ClusterError("PostgreSQL is not installed where Debian puts it")
    return installed[-1]


def _secret_in(place: Path) -> bool:
    """Make a secret that only its owner reads; return whether there was none yet."""
    if place.is_file():
        return False
    descriptor = os.open(place, os.O_WRONLY | os.O_CREAT, 0o600)
    with os.fdopen(descriptor, "w") as file:
        file.write(secrets.token_urlsafe(24))
    return True


@contextmanager
def _one_at_a_time(place: Path) -> Iterator[None]:
    descriptor = os.open(place, os.O_RDWR | os.O_CREAT, 0o600)
    try:
        fcntl.flock(descriptor, fcntl.LOCK_EX)
        yield
    finally:
        os.close(descriptor)


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port


def main() -> int:
    """Start the product's database alone, or stop it and let it stay so until a start."""
    if sys.argv[1:] not in (["start"], ["stop"]):
        print("usage: python -m ops.cluster start|stop", file=sys.stderr)
        return 2
    cluster = cluster_below(LOCAL)
    try:
        cluster.start() if sys.argv[1] == "start" else cluster.hold()
    except ClusterError as problem:
        print(problem, file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
