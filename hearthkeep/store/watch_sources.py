"""Which devices and services are asked for each installation, as documents; what they say is read elsewhere."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Engine, func, select
from sqlalchemy.dialects.postgresql import insert

from hearthkeep.store.database import transaction
from hearthkeep.store.errors import NotFoundError
from hearthkeep.store.models import InstallationRow, WatchSourcesRow


@dataclass(frozen=True, kw_only=True, slots=True)
class SourcesKept:
    """The sources of one installation, and the design that it is built from."""

    installation_id: uuid.UUID
    design_id: uuid.UUID
    document: dict[str, Any]


class WatchSources:
    """Sources in PostgreSQL."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def find(self, installation_id: uuid.UUID) -> dict[str, Any] | None:
        """The sources of an installation; none where none are kept. Raises NotFoundError for an unknown installation."""
        with transaction(self._engine) as session:
            if session.get(InstallationRow, installation_id) is None:
                raise NotFoundError(f"There is no installation {installation_id}.")
            row = session.get(WatchSourcesRow, installation_id)
            return None if row is None else row.document

    def put(self, installation_id: uuid.UUID, document: dict[str, Any]) -> None:
        """Keep sources in the place of those before; raises NotFoundError."""
        values = {"installation_id": installation_id, "document": document, "saved_at": func.clock_timestamp()}
        statement = insert(WatchSourcesRow).values(values)
        statement = statement.on_conflict_do_update(index_elements=["installation_id"], set_={**values})
        with transaction(self._engine) as session:
            if session.get(InstallationRow, installation_id) is None:
                raise NotFoundError(f"There is no installation {installation_id}.")
            session.execute(statement)

    def every(self) -> tuple[SourcesKept, ...]:
        """Those of all installations."""
        query = select(WatchSourcesRow, InstallationRow.design_id).join(
            InstallationRow, InstallationRow.id == WatchSourcesRow.installation_id
        )
        with transaction(self._engine) as session:
            return tuple(
                SourcesKept(installation_id=row.installation_id, design_id=design_id, document=row.document)
                for row, design_id in session.execute(query)
            )
