"""The application: routers, guard, error mapping, front end."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from fastapi import FastAPI
from sqlalchemy import Engine

import hearthkeep
from hearthkeep.api import (
    alternatives,
    assessments,
    backups,
    building,
    designs,
    devices,
    drill,
    formats,
    growth,
    health,
    kits,
    library,
    loads,
    logbook,
    opinions,
    pages,
    papers,
    places,
    problems,
    readings,
    sheets,
    starting,
    storms,
    transfer,
    trials,
    watch,
    weather,
    wiring,
)
from hearthkeep.api.bodies import upload_places
from hearthkeep.api.guard import Guard
from hearthkeep.api.held import Held, PartsSent
from hearthkeep.api.summarising import Summarising
from hearthkeep.jobs import JobQueue, OwnWorker
from hearthkeep.polling import Poller
from hearthkeep.store import (
    Alternatives,
    Designs,
    Jobs,
    Library,
    Logbook,
    Nightly,
    Readings,
    Summaries,
    WatchSources,
    WeatherYears,
)
from hearthkeep.workers import Press, Workers


def create_app(
    *,
    engine: Engine,
    workers: Workers,
    port: int,
    web: Path | None,
    nightly: Nightly | None = None,
    own_worker: OwnWorker | None = None,
    poller: Poller | None = None,
    stand_ins: Callable[[], str | None] = lambda: None,
) -> FastAPI:
    """Build the application on an engine and its helping processes; without `web` it serves the interface only, without `own_worker`
    long work waits for workers started elsewhere, and without `poller` no device is asked. `stand_ins` says where simulated
    devices are asked about themselves, if there are any."""
    app = FastAPI(
        title="Hearth Keep",
        version=hearthkeep.__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.designs = Designs(engine)
    app.state.alternatives = Alternatives(engine)
    app.state.summaries = Summaries(engine)
    app.state.library = Library(engine)
    app.state.weather = WeatherYears(engine)
    app.state.logbook = Logbook(engine)
    app.state.readings = Readings(engine)
    app.state.watch_sources = WatchSources(engine)
    app.state.poller = poller
    app.state.stand_ins = stand_ins
    app.state.jobs = Jobs(engine)
    app.state.queue = JobQueue(engine.url, app.state.jobs)
    app.state.own_worker = own_worker
    app.state.engine = engine
    app.state.workers = workers
    app.state.press = Press(engine.url)
    app.state.held = Held()
    app.state.uploads = upload_places()
    app.state.parts_sent = PartsSent()
    app.state.summarising = Summarising()
    app.state.nightly = nightly
    problems.install(app)
    routers = (
        designs.router,
        alternatives.router,
        starting.router,
        assessments.router,
        loads.router,
        library.router,
        weather.router,
        sheets.router,
        transfer.router,
        wiring.router,
        places.router,
        storms.router,
        trials.router,
        kits.router,
        opinions.router,
        growth.router,
        building.router,
        logbook.router,
        readings.router,
        watch.router,
        devices.router,
        drill.router,
        papers.router,
        formats.router,
        health.router,
        backups.router,
    )
    for router in routers:
        app.include_router(router, responses=problems.PROBLEMS)
    if web is not None:
        pages.install(app, web)
    app.add_middleware(Guard, ports=(port,))
    return app
