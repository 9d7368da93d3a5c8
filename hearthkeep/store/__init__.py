"""The store: designs and their revisions in PostgreSQL, and the private server they live in."""

from hearthkeep.store.backup import Backup, load_backup, read_backup, write_backup
from hearthkeep.store.cluster import Cluster
from hearthkeep.store.database import engine_for, ensure_database, upgrade_schema
from hearthkeep.store.designs import Designs, RevisionInfo, StoredDesign
from hearthkeep.store.errors import (
    BackupError,
    ClusterError,
    DatabaseAwayError,
    DeletedError,
    InUseError,
    NewerSchemaError,
    NotFoundError,
    NothingToUndoError,
    StaleRevisionError,
    StoreError,
)
from hearthkeep.store.library import MODELS, SHEETS, Found, Library, Unit, UnitKind
from hearthkeep.store.nightly import LastBackup, Nightly
from hearthkeep.store.summaries import DesignLine, Summaries, Summary
from hearthkeep.store.weather import WeatherInfo, WeatherYears

__all__ = [
    "MODELS",
    "SHEETS",
    "Backup",
    "BackupError",
    "Cluster",
    "ClusterError",
    "DatabaseAwayError",
    "DeletedError",
    "DesignLine",
    "Designs",
    "Found",
    "InUseError",
    "LastBackup",
    "Library",
    "NewerSchemaError",
    "Nightly",
    "NotFoundError",
    "NothingToUndoError",
    "RevisionInfo",
    "StaleRevisionError",
    "StoreError",
    "StoredDesign",
    "Summaries",
    "Summary",
    "Unit",
    "UnitKind",
    "WeatherInfo",
    "WeatherYears",
    "engine_for",
    "ensure_database",
    "load_backup",
    "read_backup",
    "upgrade_schema",
    "write_backup",
]
