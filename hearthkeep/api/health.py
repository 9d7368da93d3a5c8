"""Whether the application and its database answer."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel
from sqlalchemy import Engine, text
from sqlalchemy.exc import SQLAlchemyError

import hearthkeep
from hearthkeep.store import DatabaseAwayError
from hearthkeep.workers import Workers

router = APIRouter(prefix="/api", tags=["health"])


class Health(BaseModel):
    """Both answer."""

    version: str
    database: str
    #: Whether an assessment begins at once: not while a server that was just started is loading or compiling the model.
    is_ready: bool


@router.get("/health")
def health(request: Request) -> Health:
    """Answers 503 while the database is away."""
    engine: Engine = request.app.state.engine
    try:
        with engine.connect() as connection:
            connection.execute(text("select 1"))
    except SQLAlchemyError as error:
        raise DatabaseAwayError("The database does not answer. Work in open windows is kept; try again.") from error
    workers: Workers = request.app.state.workers
    return Health(version=hearthkeep.__version__, database="answers", is_ready=workers.is_ready)
