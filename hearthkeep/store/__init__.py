"""The store: designs and their revisions in PostgreSQL, and the private server they live in."""

from hearthkeep.store.cluster import Cluster, ClusterError
from hearthkeep.store.database import engine_for, ensure_database, upgrade_schema
from hearthkeep.store.designs import Designs, RevisionInfo, StoredDesign
from hearthkeep.store.errors import (
    DatabaseAwayError,
    DeletedError,
    NotFoundError,
    NothingToUndoError,
    StaleRevisionError,
    StoreError,
)

__all__ = [
    "Cluster",
    "ClusterError",
    "DatabaseAwayError",
    "DeletedError",
    "Designs",
    "NotFoundError",
    "NothingToUndoError",
    "RevisionInfo",
    "StaleRevisionError",
    "StoreError",
    "StoredDesign",
    "engine_for",
    "ensure_database",
    "upgrade_schema",
]
