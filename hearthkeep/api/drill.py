"""Drill: a storm with surprises lived on a design. Nothing is kept here: the same storm and decisions always give the same."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from hearthkeep.api.assessments import JSON
from hearthkeep.api.bodies import Helpers
from hearthkeep.core.design import Design
from hearthkeep.core.drill import (
    LONGEST_DRILL_H,
    MOST_DECISIONS,
    DrillAccount,
    DrillDecision,
    DrillStand,
    Scenario,
    drawn_scenario,
)
from hearthkeep.workers import watch_tasks

router = APIRouter(prefix="/api/drill", tags=["drill"])


class DrawQuestion(BaseModel):
    """A design, and the seed of a storm."""

    design: Design
    seed: Annotated[int, Field(strict=True, ge=0, le=999_999)]


class DrillQuestion(BaseModel):
    """A drill as far as it was lived."""

    design: Design
    scenario: Scenario
    decisions: Annotated[list[DrillDecision], Field(max_length=MOST_DECISIONS)] = []


class StandQuestion(DrillQuestion):
    """A drill, and the moment that is looked at."""

    at_h: Annotated[float, Field(ge=0, le=LONGEST_DRILL_H, allow_inf_nan=False)]


@router.post("/scenario")
def scenario(question: DrawQuestion) -> Scenario:
    """Draw a storm with surprises for a design."""
    return drawn_scenario(question.design, question.seed)


@router.post("/stand", response_model=DrillStand)
async def stand(question: StandQuestion, workers: Helpers) -> Response:
    """A drill at a moment, as the person sees it."""
    found = await workers.run(
        watch_tasks.drilled, question.design, question.scenario, question.decisions, question.at_h
    )
    return Response(found, media_type=JSON)


@router.post("/account", response_model=DrillAccount)
async def account(question: DrillQuestion, workers: Helpers) -> Response:
    """The account of a drill that was lived to its end."""
    found = await workers.run_long(watch_tasks.drill_accounted, question.design, question.scenario, question.decisions)
    return Response(found, media_type=JSON)
