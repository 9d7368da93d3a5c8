"""PostgreSQL's programs, and one server on one data directory: made, started, stopped, found again after a kill."""

from __future__ import annotations

import contextlib
import os
import pwd
import re
import shutil
import socket
import subprocess
import tempfile
import time
from pathlib import Path

import psutil
from sqlalchemy import URL

from hearthkeep.store.errors import ClusterError

ROLE = "hearth"
#: PostgreSQL refuses to run as root; then it runs as this account, which Debian's package creates.
SERVER_ACCOUNT = "postgres"
PROGRAM_PLACES = Path("/usr/lib/postgresql")
START_TIMEOUT_S = 60
TRIES = 3
#: A week of logs, a file a weekday, written over when its day comes again; statements, which hold designs, are left out.
_LOG_SETTINGS = (
    "logging_collector=on",
    "log_directory=log",
    "log_filename=server-%a.log",
    "log_rotation_age=1d",
    "log_rotation_size=0",
    "log_truncate_on_rotation=on",
    "log_min_error_statement=panic",
)
_TEST_SETTINGS = ("fsync=off", "synchronous_commit=off", "full_page_writes=off")


def installed_versions() -> list[str]:
    """Major versions whose server is installed in Debian's places, newest first."""
    found = {path.parts[-3] for path in PROGRAM_PLACES.glob("*/bin/initdb")}
    return sorted(found, key=float, reverse=True)


def program(name: str, version: str | None = None) -> Path:
    """A program of the given major version, or of the newest installed."""
    for candidate in installed_versions() if version is None else [version]:
        path = PROGRAM_PLACES / candidate / "bin" / name
        if path.exists():
            return path
    on_path = shutil.which(name)
    if on_path is None:
        raise ClusterError(f"PostgreSQL's {name} is missing. Install the server: apt-get install postgresql")
    return Path(on_path)


def server_account() -> pwd.struct_passwd:
    """The account the server runs as: one's own, or Debian's where one is root."""
    if os.geteuid() != 0:
        return pwd.getpwuid(os.geteuid())
    try:
        return pwd.getpwnam(SERVER_ACCOUNT)
    except KeyError as error:
        raise ClusterError(
            f"There is no account '{SERVER_ACCOUNT}'. Install Debian's postgresql package: apt-get install postgresql"
        ) from error


def account_can_enter(folder: Path) -> bool:
    """Whether the server's account may pass through a folder."""
    return run(["test", "-x", str(folder)]).returncode == 0


def run(
    command: list[str], *, text: str | None = None, variables: dict[str, str] | None = None
) -> subprocess.CompletedProcess[str]:
    """Run a program as the server's account, `text` as its input, with further environment variables."""
    environment = {**os.environ, "LC_ALL": "C.UTF-8", **(variables or {})}
    if os.geteuid() == 0:
        command = ["runuser", "-u", server_account().pw_name, "--", *command]
    # Output goes to a file: a started server would keep a pipe open for ever.
    with tempfile.TemporaryFile("w+", errors="replace") as output:
        # Without a text the input is empty, and not the terminal's.
        done = subprocess.run(
            command, cwd="/", env=environment, stdout=output, stderr=output, text=True, check=False, input=text or ""
        )
        output.seek(0)
        return subprocess.CompletedProcess(command, done.returncode, stdout=output.read(), stderr="")


class Server:
    """The server of one data directory. Methods are safe to repeat."""

    def __init__(self, data: Path, *, durable: bool = True) -> None:
        self.data = data
        #: Off only for tests, whose data may be lost.
        self.durable = durable

    @property
    def version(self) -> str:
        """Major version that wrote the data."""
        return (self.data / "PG_VERSION").read_text().strip()

    def make(self, password: str, *, workshop: Path) -> None:
        """Make the cluster in a folder of its own beside its place and move it there whole; nothing half-done stays.

        `workshop` is the caller's alone: what an interrupted attempt left there is removed.
        """
        shutil.rmtree(workshop, ignore_errors=True)
        secret, fresh = workshop / "password", workshop / "postgres"
        try:
            workshop.mkdir(mode=0o700)
            fresh.mkdir(mode=0o700)
            with os.fdopen(os.open(secret, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
                file.write(password)
            if os.geteuid() == 0:
                account = server_account()
                for path in (workshop, secret, fresh):
                    os.chown(path, account.pw_uid, account.pw_gid)
            options = [] if self.durable else ["--no-sync"]
            done = run([
                str(program("initdb")), "-D", str(fresh), "-U", ROLE, "--encoding=UTF8", "--locale=C.UTF-8",
                "--auth=scram-sha-256", f"--pwfile={secret}", "--no-instructions", *options,
            ])  # fmt: skip
            if done.returncode != 0:
                raise ClusterError(f"The database could not be set up in {self.data.parent}: {_last_line(done)}")
            if self.data.exists():
                raise ClusterError(f"{self.data} appeared while the database was being set up; it was left as it is.")
            fresh.rename(self.data)
        finally:
            shutil.rmtree(workshop, ignore_errors=True)

    def start(self, port: int | None = None) -> None:
        """Start it, on a free port or on this one; one that runs already is waited for."""
        if self._runs_or_answers():
            return
        self._own_it()
        give_up, tries = time.monotonic() + START_TIMEOUT_S, 0
        while True:
            tries += 1
            settings = ["listen_addresses=127.0.0.1", "unix_socket_directories=", "max_connections=60", *_LOG_SETTINGS]
            settings += () if self.durable else _TEST_SETTINGS
            options = " ".join([f"-p {port or _free_port()}", *(f"-c {setting}" for setting in settings)])
            # The directory goes by the environment: on the command line it would pass through a shell.
            done = run(
                [str(program("pg_ctl", self.version)), "start", "-w", "-t", str(START_TIMEOUT_S), "-o", options],
                variables={"PGDATA": str(self.data)},
            )
            if done.returncode == 0:
                return
            told = done.stdout + self._newest_log()
            # After a kill the old back ends need a moment to notice; a port may be taken between look and use.
            passing = "in use" in told or "already running" in told
            # Anything else may have been a kill in the midst of it, and is tried twice more.
            if (not passing and tries >= TRIES) or time.monotonic() > give_up:
                raise ClusterError(f"The database did not start: {_last_text(told) or _last_line(done)}")
            time.sleep(0.3)
            if self._runs_or_answers():
                return

    def stop(self) -> None:
        """Stop it cleanly; nothing happens when it is not running, and another's stop at the same time is waited for."""
        give_up = time.monotonic() + START_TIMEOUT_S
        while self.is_running():
            done = run(
                [str(program("pg_ctl", self.version)), "stop", "-m", "fast", "-w", "-t", "60"],
                variables={"PGDATA": str(self.data)},
            )
            if done.returncode == 0:
                return
            if time.monotonic() > give_up:
                raise ClusterError(f"The database did not stop: {_last_line(done)}")
            time.sleep(0.2)

    def is_running(self) -> bool:
        """Whether its first process lives: the one named in its lock file, if that works in this directory."""
        lock = self._lock()
        return lock is not None and _works_in(lock[0], self.data)

    def port(self) -> int:
        """The fourth line of its lock file."""
        lock = self._lock()
        if lock is None or len(lock[1]) < 4 or not lock[1][3].isdigit():
            raise ClusterError("The database is not running.")
        return int(lock[1][3])

    def url(self, password: str, database: str) -> URL:
        """Address of a database on the running server."""
        return URL.create(
            "postgresql+psycopg",
            username=ROLE,
            password=password,
            host="127.0.0.1",
            port=self.port(),
            database=database,
        )

    def set_password(self, password: str) -> None:
        """Set the role's password anew while the server is stopped; whoever owns the files may."""
        done = run(
            [str(program("postgres", self.version)), "--single", "-D", str(self.data), "postgres"],
            text=f"ALTER ROLE {ROLE} PASSWORD '{password}'\n",
        )
        if done.returncode != 0 or "ERROR" in done.stdout or "FATAL" in done.stdout:
            raise ClusterError(f"The database's password could not be set anew: {_last_line(done)}")

    # --- inside

    def _runs_or_answers(self) -> bool:
        """Whether it runs, once it answers; a dead one's leavings are cleared."""
        give_up = time.monotonic() + START_TIMEOUT_S
        while self.is_running():
            with contextlib.suppress(OSError, ClusterError), socket.create_connection(("127.0.0.1", self.port()), 1):
                return True
            # Starting up, or dying from a kill: either shows within moments.
            if time.monotonic() > give_up:
                raise ClusterError("The database is there but does not answer. Stop it with: ./hearth stop")
            time.sleep(0.1)
        self._clear_lock()
        return False

    def _lock(self) -> tuple[int, list[str]] | None:
        """Number of the first process, and all lines of its lock file; none without one."""
        try:
            lines = (self.data / "postmaster.pid").read_text().splitlines()
            return int(lines[0]), lines
        except (OSError, ValueError, IndexError):
            return None

    def _clear_lock(self) -> None:
        """Remove the lock file of a server that is dead, once every process of it has left the directory.

        Left there it would stop the next start wherever its number lives on: as a process that nobody has reaped, or as
        another program's.
        """
        lock = self._lock()
        if lock is None:
            return
        named = Path(lock[1][1]) if len(lock[1]) > 1 else self.data
        if named.resolve() != self.data.resolve() and (named / "postmaster.pid").exists():
            with contextlib.suppress(OSError):
                if (named / "postmaster.pid").read_text().splitlines()[:3] == lock[1][:3]:
                    raise ClusterError(
                        f"{self.data} was copied from {named} while the database there was running; such a copy may be "
                        f"torn. Stop Hearth Keep there and copy the whole folder again, or make a backup there with "
                        f"./hearth backup and bring it here with ./hearth restore."
                    )
        give_up = time.monotonic() + START_TIMEOUT_S
        while _someone_works_in(self.data):
            if time.monotonic() > give_up:
                raise ClusterError(f"The database was killed, but some of its processes still work in {self.data}.")
            time.sleep(0.1)
        (self.data / "postmaster.pid").unlink(missing_ok=True)

    def _own_it(self) -> None:
        """Say early, and with the way out, what the server would say in its own words."""
        account = server_account()
        owner = self.data.stat().st_uid
        if owner != account.pw_uid:
            raise ClusterError(
                f"{self.data} belongs to account number {owner}, and the database runs as '{account.pw_name}'. Copy "
                f"the folder with its owners kept (cp -a), or run: chown -R {account.pw_name} '{self.data}'"
            )

    def _newest_log(self) -> str:
        logs = sorted((self.data / "log").glob("server-*.log"), key=lambda path: path.stat().st_mtime)
        return logs[-1].read_text(errors="replace")[-4_000:] if logs else ""


def _works_in(pid: int, folder: Path) -> bool:
    """Whether a process of the server lives and has the folder as its working directory, as all of them have."""
    try:
        process = psutil.Process(pid)
        if not process.name().startswith("postgres") or process.status() == psutil.STATUS_ZOMBIE:
            return False
        place = str(Path(f"/proc/{pid}/cwd").readlink())
    except PermissionError:
        # In some containers not even root may look at other accounts' processes; the server's own account may.
        place = run(["readlink", f"/proc/{pid}/cwd"]).stdout.strip()
    except (OSError, psutil.Error):
        return False
    return place == str(folder.resolve())


def _someone_works_in(folder: Path) -> bool:
    return any(_works_in(pid, folder) for pid in psutil.pids())


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _last_line(done: subprocess.CompletedProcess[str]) -> str:
    return _last_text(done.stdout) or f"exit code {done.returncode}"


def _last_text(text: str) -> str:
    """The line that says most: the last with an error in it, else the last."""
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    errors = [line for line in lines if "FATAL" in line or "error" in line.lower() or "No space" in line]
    # The server's own prefix, a time and a process number, means nothing to a person.
    return re.sub(r"^.*?(FATAL|ERROR):\s+", "", (errors or lines or [""])[-1])
