"""What a new design may start from."""

from __future__ import annotations

import asyncio
from dataclasses import asdict

from fastapi import APIRouter
from pydantic import BaseModel

from hearthkeep.api.bodies import Helpers
from hearthkeep.api.designs import SummaryFigures
from hearthkeep.starting import STARTING_POINTS, Start, StartingPoint, starting_design
from hearthkeep.workers import tasks

router = APIRouter(tags=["designs"])


class StartOffered(BaseModel):
    """One starting point, and what it comes to as it is."""

    start: Start
    title: str
    meaning: str
    is_empty: bool
    figures: SummaryFigures | None


@router.get("/api/starting-points")
async def starting_points(workers: Helpers) -> list[StartOffered]:
    """The two empty starting points, and the patterns with their hours carried."""

    async def offered(point: StartingPoint) -> StartOffered:
        values = starting_design(point.start).model_dump(mode="json")
        summary, _ = await workers.run(tasks.summarise, values, None)
        return StartOffered(**asdict(point), figures=None if summary is None else SummaryFigures(**asdict(summary)))

    return list(await asyncio.gather(*map(offered, STARTING_POINTS)))
