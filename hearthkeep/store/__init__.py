"""The store: designs and their revisions in PostgreSQL, and the private server they live in."""

from hearthkeep.store.cluster import Cluster, ClusterError
from hearthkeep.store.database import engine_for, ensure_database, upgrade_schema
from hearthkeep.store.designs import Designs, RevisionInfo, StoredDesign
from hearthkeep.store.errors import (
    DatabaseAwayError,
    DeletedError,
    InUseError,
    NotFoundError,
    NothingToUndoError,
    StaleRevisionError,
    StoreError,
)
from hearthkeep.store.library import MODELS, SHEETS, Found, Library, Unit, UnitKind
from hearthkeep.store.summaries import DesignLine, Summaries, Summary
from hearthkeep.store.weather import WeatherInfo, WeatherYears

__all__ = [
    "MODELS",
    "SHEETS",
    "Cluster",
    "ClusterError",
    "DatabaseAwayError",
    "DeletedError",
    "DesignLine",
    "Designs",
    "Found",
    "InUseError",
    "Library",
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
    "upgrade_schema",
]
