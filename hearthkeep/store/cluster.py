"""A private PostgreSQL server on loopback: its own data folder, its own password, a free port."""

from __future__ import annotations

import hashlib
import json
import os
import pwd
import re
import secrets
import shutil
import socket
import subprocess
import tempfile
import time
from pathlib import Path

from sqlalchemy import URL

from hearthkeep.core.errors import HearthKeepError

ROLE = "hearth"
#: PostgreSQL refuses to run as root; then it runs as this account, which Debian's package creates.
SERVER_ACCOUNT = "postgres"
#: Where root's clusters go when the data folder lies below a directory the server's account cannot enter.
SHARED_PLACE = Path("/var/lib/hearth-keep")
PROGRAM_PLACES = Path("/usr/lib/postgresql")
START_TIMEOUT_S = 60


class ClusterError(HearthKeepError):
    """The database server could not be set up, started or stopped."""

    code, title = "CLUSTER", "The database cannot be started"
    fix = "Do what is said above, then start again."


class Cluster:
    """The server of one data folder. Methods are safe to repeat."""

    def __init__(self, home: Path, *, durable: bool = True) -> None:
        self.home = home
        #: Off only for tests, whose data may be lost.
        self.durable = durable
        self._as_root = os.geteuid() == 0

    def ensure_running(self) -> None:
        """Initialise the data folder if it is new, and start the server if it is not running."""
        self.home.mkdir(parents=True, exist_ok=True)
        data = self._data_place()
        if not (data / "PG_VERSION").exists():
            self._initialise(data)
        give_up = time.monotonic() + START_TIMEOUT_S
        while self._is_running(data):
            if self._answers(data):
                return
            # Starting up, or dying from a kill: either shows within moments.
            if time.monotonic() > give_up:
                raise ClusterError("The database is there but does not answer. Stop it with: ./hearth stop")
            time.sleep(0.1)
        self._start(data)

    def stop(self) -> None:
        """Stop the server cleanly; nothing happens when it is not running."""
        data = self._recorded_place()
        if data is not None and (data / "PG_VERSION").exists() and self._is_running(data):
            done = self._call("pg_ctl", "stop", "-D", str(data), "-m", "fast", "-w", "-t", "60")
            if done.returncode != 0:
                raise ClusterError(f"The database did not stop: {_last_line(done)}")

    def destroy(self) -> None:
        """Stop the server and remove its data. For tests."""
        self.stop()
        data = self._recorded_place()
        if data is not None:
            shutil.rmtree(data.parent if data.parent.parent == SHARED_PLACE else data, ignore_errors=True)

    def url(self, database: str) -> URL:
        """Address of a database on the running server."""
        return URL.create(
            "postgresql+psycopg",
            username=ROLE,
            password=self._secret(),
            host="127.0.0.1",
            port=self._port(self._data_place()),
            database=database,
        )

    # --- places and secret

    def _data_place(self) -> Path:
        """Where the data stands; chosen once and written down, so that it never moves."""
        recorded = self._recorded_place()
        if recorded is not None:
            return recorded
        place = self.home / "postgres"
        if self._as_root and not self._account_can_enter(self.home):
            key = hashlib.sha256(str(self.home.resolve()).encode()).hexdigest()[:16]
            place = SHARED_PLACE / key / "postgres"
        _write_whole(self.home / "cluster.json", json.dumps({"data": str(place)}))
        return place

    def _recorded_place(self) -> Path | None:
        try:
            return Path(json.loads((self.home / "cluster.json").read_text())["data"])
        except FileNotFoundError:
            return None
        except (ValueError, KeyError, TypeError) as error:
            raise ClusterError(f"{self.home / 'cluster.json'} is damaged; it names the place of the data.") from error

    def _account_can_enter(self, folder: Path) -> bool:
        try:
            pwd.getpwnam(SERVER_ACCOUNT)
        except KeyError as error:
            raise ClusterError(
                f"There is no account '{SERVER_ACCOUNT}'. Install Debian's postgresql package: apt-get install postgresql"
            ) from error
        return self._run(["test", "-x", str(folder)]).returncode == 0

    def _secret(self) -> str:
        """The password, made on first use and readable by its owner only."""
        path = self.home / "secret"
        try:
            return path.read_text().strip()
        except FileNotFoundError:
            _write_whole(path, secrets.token_urlsafe(32), mode=0o600)
            return path.read_text().strip()

    # --- server

    def _initialise(self, data: Path) -> None:
        """Make the cluster beside its final place and move it there whole, so that nothing half-done stays."""
        fresh = data.with_name("postgres.new")
        shutil.rmtree(fresh, ignore_errors=True)
        shutil.rmtree(data, ignore_errors=True)
        data.parent.mkdir(parents=True, exist_ok=True)
        if self._as_root:
            # The server's account passes through; the secret beside the data stays its owner's alone.
            data.parent.chmod(0o711)
        with tempfile.TemporaryDirectory(prefix="hearth-") as scratch:
            password = Path(scratch) / "password"
            _write_whole(password, self._secret(), mode=0o600)
            fresh.mkdir(mode=0o700)
            if self._as_root:
                for path in (Path(scratch), password, fresh):
                    shutil.chown(path, SERVER_ACCOUNT)
            options = [] if self.durable else ["--no-sync"]
            done = self._call(
                "initdb", "-D", str(fresh), "-U", ROLE, "--encoding=UTF8", "--locale=C.UTF-8",
                "--auth=scram-sha-256", f"--pwfile={password}", "--no-instructions", *options,
            )  # fmt: skip
        if done.returncode != 0:
            shutil.rmtree(fresh, ignore_errors=True)
            raise ClusterError(f"The database could not be set up in {data.parent}: {_last_line(done)}")
        fresh.rename(data)

    def _start(self, data: Path) -> None:
        settings = ["-c listen_addresses=127.0.0.1", "-c unix_socket_directories=", "-c max_connections=40"]
        if not self.durable:
            settings += ["-c fsync=off", "-c synchronous_commit=off", "-c full_page_writes=off"]
        log = data / "server.log"
        give_up = time.monotonic() + START_TIMEOUT_S
        while True:
            log.unlink(missing_ok=True)
            options = " ".join([f"-p {_free_port()}", *settings])
            done = self._call(
                "pg_ctl", "start", "-D", str(data), "-w", "-t", str(START_TIMEOUT_S), "-l", str(log), "-o", options
            )
            if done.returncode == 0:
                return
            told = log.read_text(errors="replace") if log.exists() else ""
            # After a kill the old back ends need a moment to notice; a port may be taken between look and use.
            passing = "still in use" in told or "in use" in told or "already running" in told
            if not passing or time.monotonic() > give_up:
                raise ClusterError(f"The database did not start: {_last_text(told) or _last_line(done)}")
            time.sleep(0.3)

    def _is_running(self, data: Path) -> bool:
        self._clear_after_kill(data)
        return self._call("pg_ctl", "status", "-D", str(data)).returncode == 0

    def _answers(self, data: Path) -> bool:
        try:
            with socket.create_connection(("127.0.0.1", self._port(data)), timeout=1):
                return True
        except (OSError, ClusterError):
            return False

    def _clear_after_kill(self, data: Path) -> None:
        """Remove the lock file of a killed server that nobody has reaped: its number still looks alive to others.

        That is so in containers whose first process does not reap. The file goes only once every process of the
        server has left the data folder.
        """
        lock = data / "postmaster.pid"
        try:
            pid = int(lock.read_text().splitlines()[0])
            # The state follows the command's name, which stands in parentheses.
            state = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0]
        except (OSError, ValueError, IndexError):
            return
        if state != "Z":
            return
        give_up = time.monotonic() + START_TIMEOUT_S
        while _someone_works_in(data):
            if time.monotonic() > give_up:
                raise ClusterError(f"The database was killed, but some of its processes still work in {data}.")
            time.sleep(0.1)
        lock.unlink(missing_ok=True)

    def _port(self, data: Path) -> int:
        """The fourth line of the server's own lock file."""
        try:
            return int((data / "postmaster.pid").read_text().splitlines()[3])
        except (OSError, ValueError, IndexError) as error:
            raise ClusterError("The database is not running.") from error

    def _call(self, program: str, *arguments: str) -> subprocess.CompletedProcess[str]:
        return self._run([str(_program(program)), *arguments])

    def _run(self, command: list[str]) -> subprocess.CompletedProcess[str]:
        if self._as_root:
            command = ["runuser", "-u", SERVER_ACCOUNT, "--", *command]
        environment = {**os.environ, "LC_ALL": "C.UTF-8"}
        # Output goes to files: a started server would keep a pipe open for ever.
        with tempfile.TemporaryFile("w+") as output:
            done = subprocess.run(
                command, cwd="/", env=environment, stdin=subprocess.DEVNULL, stdout=output, stderr=output, check=False
            )
            output.seek(0)
            return subprocess.CompletedProcess(command, done.returncode, stdout=output.read(), stderr="")


def _program(name: str) -> Path:
    """A server program of the newest PostgreSQL installed."""
    found = sorted(PROGRAM_PLACES.glob(f"*/bin/{name}"), key=lambda path: float(path.parts[-3]), reverse=True)
    if found:
        return found[0]
    on_path = shutil.which(name)
    if on_path is None:
        raise ClusterError(f"PostgreSQL's {name} is missing. Install the server: apt-get install postgresql")
    return Path(on_path)


def _someone_works_in(folder: Path) -> bool:
    """Whether any process has the folder as its working directory, as every database process has."""
    for link in Path("/proc").glob("[0-9]*/cwd"):
        try:
            if link.readlink() == folder:
                return True
        except OSError:
            continue
    return False


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _write_whole(path: Path, text: str, *, mode: int = 0o644) -> None:
    """Write beside and rename, so that a reader never sees half a file."""
    try:
        handle, scratch = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
        with os.fdopen(handle, "w") as file:
            file.write(text)
            os.fchmod(file.fileno(), mode)
        Path(scratch).replace(path)
    except OSError as error:
        raise ClusterError(f"{path} could not be written: {error.strerror}") from error


def _last_line(done: subprocess.CompletedProcess[str]) -> str:
    return _last_text(done.stdout) or f"exit code {done.returncode}"


def _last_text(text: str) -> str:
    """The line that says most: the last with an error in it, else the last."""
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    errors = [line for line in lines if "FATAL" in line or "error" in line.lower() or "No space" in line]
    # The server's own prefix, a time and a process number, means nothing to a person.
    return re.sub(r"^.*?(FATAL|ERROR):\s+", "", (errors or lines or [""])[-1])
