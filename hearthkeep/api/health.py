"""Whether the application and its database answer."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel
from sqlalchemy import Engine, text
from sqlalchemy.exc import SQLAlchemyError

import hearthkeep
from hearthkeep.store import DatabaseAwayError

router = APIRouter(prefix="/api", tags=["health"])


class Health(BaseModel):
    """Both answer."""

    version: str
    database: str


@router.get("/health")
def health(request: Request) -> Health:
    """Answers 503 while the database is away."""
    engine: Engine = request.app.state.engine
    try:
        with engine.connect() as connection:
            connection.execute(text("select 1"))
    except SQLAlchemyError as error:
        raise DatabaseAwayError("The database does not answer. Work in open windows is kept; try again.") from error
    return Health(version=hearthkeep.__version__, database="answers")
