"""The application: routers, guard, error mapping, front end."""

from __future__ import annotations

from pathlib import Path

from fastapi import FastAPI
from sqlalchemy import Engine
from starlette.middleware.gzip import GZipMiddleware

import hearthkeep
from hearthkeep.api import assessments, designs, health, library, loads, pages, problems, sheets, weather
from hearthkeep.api.guard import Guard
from hearthkeep.store import Designs, Library, Summaries, WeatherYears


def create_app(*, engine: Engine, port: int, web: Path | None) -> FastAPI:
    """Build the application on an engine; without `web` it serves the interface only."""
    app = FastAPI(
        title="Hearth Keep",
        version=hearthkeep.__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.designs = Designs(engine)
    app.state.summaries = Summaries(engine)
    app.state.library = Library(engine)
    app.state.weather = WeatherYears(engine)
    app.state.engine = engine
    problems.install(app)
    routers = (
        designs.router,
        assessments.router,
        loads.router,
        library.router,
        weather.router,
        sheets.router,
        health.router,
    )
    for router in routers:
        app.include_router(router, responses=problems.PROBLEMS)
    if web is not None:
        pages.install(app, web)
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=4)
    app.add_middleware(Guard, ports=(port,))
    return app
