"""Storms to start from."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from hearthkeep.core.outage import UsualStorm, usual_storms

router = APIRouter(prefix="/api", tags=["storms"])


@router.get("/usual-storms")
def storms(
    latitude_deg: Annotated[float, Query(ge=-66, le=66)], year: Annotated[int, Query(ge=1950, le=2100)]
) -> list[UsualStorm]:
    """Invented outages to start from, in the season and hemisphere they belong to."""
    return list(usual_storms(latitude_deg, year))
