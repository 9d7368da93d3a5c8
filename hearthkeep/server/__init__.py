"""The application as a process: started, watched over, stopped; its backups made and restored."""

from hearthkeep.server.keeping import backup, restore
from hearthkeep.server.running import Running, ServeError, running, stop
from hearthkeep.server.serve import DEMO_DATABASE, OWN_DATABASE, serve

__all__ = ["DEMO_DATABASE", "OWN_DATABASE", "Running", "ServeError", "backup", "restore", "running", "serve", "stop"]
