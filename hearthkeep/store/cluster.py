"""The private PostgreSQL server of a data folder: on loopback, with its own password and a free port."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from sqlalchemy import URL

from hearthkeep.store.carry_over import carry_over
from hearthkeep.store.errors import ClusterError
from hearthkeep.store.folder import DataFolder
from hearthkeep.store.postgres import Server, installed_versions


class Cluster:
    """The server of one data folder. Methods are safe to repeat."""

    def __init__(self, home: Path, *, durable: bool = True, tell: Callable[[str], None] = lambda _: None) -> None:
        self.home = home
        #: Off only for tests, whose data may be lost.
        self.durable = durable
        self.folder = DataFolder(home)
        #: Told of what is out of the ordinary and was put right.
        self._tell = tell

    def ensure_running(self, port: int | None = None) -> None:
        """Make the database if the folder is new, and start its server if it is not running, on this port if one is given."""
        data = self.folder.settle()
        server = Server(data, durable=self.durable)
        if not data.exists():
            if not data.parent.exists():
                data.parent.mkdir(parents=True)
                # The server's account passes through; the data themselves are its own alone.
                data.parent.chmod(0o711)
            server.make(self.folder.secret() or self.folder.new_secret(), workshop=self.folder.workshop())
            self.folder.mark_made()
        self._fit_version(server)
        if not self.folder.secret():
            server.stop()
            server.set_password(self.folder.new_secret())
            self._tell(f"The database's password was missing from {self.home / 'secret'}; a new one was set.")
        server.start(port)

    def is_running(self) -> bool:
        """Whether the server's first process lives."""
        server = self._server()
        return server is not None and server.is_running()

    def stop(self) -> None:
        """Stop the server cleanly; nothing happens when it is not running."""
        server = self._server()
        if server is not None:
            server.stop()

    def destroy(self) -> None:
        """Stop the server and remove its data. For tests."""
        self.stop()
        self.folder.remove()

    def url(self, database: str) -> URL:
        """Address of a database on the running server."""
        server = self._server()
        if server is None:
            raise ClusterError("The database is not running.")
        return server.url(self.folder.secret(), database)

    # --- inside

    def _server(self) -> Server | None:
        """The server as it stands; none while no database was made."""
        record = self.folder.record()
        if record is None or not (self.folder.place(record) / "PG_VERSION").exists():
            return None
        return Server(self.folder.place(record), durable=self.durable)

    def _fit_version(self, server: Server) -> None:
        """Carry data of an older PostgreSQL over to the newest installed; say what is missing where that cannot be."""
        versions = installed_versions()
        found = server.version
        if not versions or found == versions[0]:
            return
        if float(found) > float(versions[0]) or found not in versions:
            older = "older" if float(found) < float(versions[0]) else "newer"
            way = ", once; its data are then carried over on their own" if older == "older" else ""
            raise ClusterError(
                f"{server.data} was written by PostgreSQL {found}, {older} than the {versions[0]} installed here. Install "
                f"it{way}: apt-get install postgresql-{found}"
            )
        if not self.folder.secret():
            server.stop()
            server.set_password(self.folder.new_secret())
        carry_over(self.folder, server, durable=self.durable, tell=self._tell)
