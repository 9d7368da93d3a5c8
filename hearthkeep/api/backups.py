"""What is known of the backups made on their own."""

from __future__ import annotations

from fastapi import APIRouter, Request

from hearthkeep.store import LastBackup, Nightly

router = APIRouter(prefix="/api", tags=["backups"])


@router.get("/backups/last")
def last_backup(request: Request) -> LastBackup | None:
    """When the last nightly backup was made, and where; none where they are switched off."""
    nightly: Nightly | None = request.app.state.nightly
    return None if nightly is None else nightly.last()
