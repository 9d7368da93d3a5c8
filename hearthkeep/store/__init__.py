"""The store: designs and their revisions in PostgreSQL, and the private server they live in."""

from hearthkeep.store.alternatives import LONGEST_LABEL, MOST_ALTERNATIVES, Alternatives, Variant
from hearthkeep.store.backup import Backup, load_backup, read_backup, write_backup
from hearthkeep.store.cluster import Cluster
from hearthkeep.store.database import direct, engine_for, ensure_database, together, upgrade_schema
from hearthkeep.store.designs import Checked, Designs, RevisionInfo, Saved, StoredDesign
from hearthkeep.store.errors import (
    BackupError,
    ClusterError,
    DatabaseAwayError,
    DeletedError,
    DiskFullError,
    InUseError,
    NewerSchemaError,
    NotFoundError,
    NothingToUndoError,
    StaleRevisionError,
    StoreError,
)
from hearthkeep.store.jobs import Job, Jobs
from hearthkeep.store.library import MODELS, SHEETS, Found, Library, Unit, UnitKind
from hearthkeep.store.logbook import Installation, KeptEntry, Logbook, NewEntry
from hearthkeep.store.nightly import LastBackup, Nightly
from hearthkeep.store.readings import Added, NewSeries, Readings, SeriesKept
from hearthkeep.store.summaries import DesignLine, LinePage, Summaries, Summary
from hearthkeep.store.watch_sources import SourcesKept, WatchSources
from hearthkeep.store.weather import WeatherInfo, WeatherYears

__all__ = [
    "LONGEST_LABEL",
    "MODELS",
    "MOST_ALTERNATIVES",
    "SHEETS",
    "Added",
    "Alternatives",
    "Backup",
    "BackupError",
    "Checked",
    "Cluster",
    "ClusterError",
    "DatabaseAwayError",
    "DeletedError",
    "DesignLine",
    "Designs",
    "DiskFullError",
    "Found",
    "InUseError",
    "Installation",
    "Job",
    "Jobs",
    "KeptEntry",
    "LastBackup",
    "Library",
    "LinePage",
    "Logbook",
    "NewEntry",
    "NewSeries",
    "NewerSchemaError",
    "Nightly",
    "NotFoundError",
    "NothingToUndoError",
    "Readings",
    "RevisionInfo",
    "Saved",
    "SeriesKept",
    "SourcesKept",
    "StaleRevisionError",
    "StoreError",
    "StoredDesign",
    "Summaries",
    "Summary",
    "Unit",
    "UnitKind",
    "Variant",
    "WatchSources",
    "WeatherInfo",
    "WeatherYears",
    "direct",
    "engine_for",
    "ensure_database",
    "load_backup",
    "read_backup",
    "together",
    "upgrade_schema",
    "write_backup",
]
