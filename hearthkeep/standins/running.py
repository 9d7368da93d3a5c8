"""All stand-ins in one process: devices, warnings, outage feed, message gateway, and the switches of their faults."""

from __future__ import annotations

import asyncio
import socket
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import uvicorn
from fastapi import FastAPI, HTTPException, Response

from hearthkeep.core.design import Design
from hearthkeep.core.foresight import Choices
from hearthkeep.core.watch import DEVICE_WORDS
from hearthkeep.standins.alerts import WarningService
from hearthkeep.standins.house import House
from hearthkeep.standins.instruments import FAULTS, UNITS, panel_of
from hearthkeep.standins.mail import Gateway, Taken
from hearthkeep.standins.modbus import DeviceServer
from hearthkeep.standins.told import (
    HOST,
    HTTP_PORT,
    MODBUS_PORT,
    SMTP_PORT,
    HouseWish,
    LineState,
    StandInDevice,
    StandInState,
    SwitchState,
)
from hearthkeep.standins.utility import feed_of


@dataclass(frozen=True, kw_only=True, slots=True)
class Wanted:
    """What is to be simulated."""

    design: Design
    #: The outage began so many hours ago; to come where it is below nothing [h].
    since_h: float = 0.0
    #: So many times as fast as the clock on the wall.
    speed: float = 1.0
    http_port: int = HTTP_PORT
    modbus_port: int = MODBUS_PORT
    smtp_port: int = SMTP_PORT
    seed: int = 0


class StandIns:
    """The simulated house and everything that speaks for it."""

    def __init__(self, wanted: Wanted) -> None:
        """Put the house where it stands now."""
        self.wanted = wanted
        self.offset_h = wanted.design.site.utc_offset_h
        self._began_at = datetime.now(UTC)
        local = self._local(self._began_at)
        begun = local - timedelta(hours=wanted.since_h)
        self.house = House(wanted.design, begun, since=min(local, begun), seed=wanted.seed)
        self.house.at(local)
        self.panel = panel_of(self.house, seed=wanted.seed)
        self.hours_h = wanted.design.outage.duration_h
        self.warnings = WarningService(begun, self.hours_h, self.offset_h)
        self.gateway = Gateway()
        self.server = DeviceServer(self.panel, self.clock, self.offset_h)
        self.modbus_port = self.smtp_port = self.http_port = 0

    def _local(self, moment: datetime) -> datetime:
        return moment.replace(tzinfo=None) + timedelta(hours=self.offset_h)

    def now(self) -> datetime:
        """The moment of the house, UTC."""
        passed = datetime.now(UTC) - self._began_at
        return self._began_at + passed * self.wanted.speed

    def clock(self) -> datetime:
        """The moment of the house, local standard time to the second."""
        return self._local(self.now()).replace(microsecond=0)

    @property
    def base(self) -> str:
        """Where the services are asked."""
        return f"http://{HOST}:{self.http_port}"

    def state(self) -> StandInState:
        """Everything as it is now."""
        return StandInState(
            design=self.house.design.name,
            now=self.now(),
            speed=self.wanted.speed,
            begun=(self.house.begun - timedelta(hours=self.offset_h)).replace(tzinfo=UTC),
            hours_h=self.hours_h,
            devices=[
                StandInDevice(kind=each.kind, name=DEVICE_WORDS[each.kind].capitalize(), unit=UNITS[each.kind]) for each in self.panel
            ],
            switches=[
                SwitchState(device=each.kind, fault=fault, on=fault in each.faults) for each in self.panel for fault in FAULTS[each.kind]
            ],
            line=self.server.line,
            load_ids=[load.id for load in self.house.design.loads],
            off=sorted(self.house.choices.off),
            generator=self.house.choices.generator,
            http_port=self.http_port,
            modbus_port=self.modbus_port,
            smtp_port=self.smtp_port,
            certificate=self.warnings.certificate,
        )  # fmt: skip

    def app(self) -> FastAPI:
        """The services over HTTP."""
        app = FastAPI(title="Hearth Keep stand-ins", docs_url=None, redoc_url=None, openapi_url=None)

        @app.get("/state")
        def state() -> StandInState:
            return self.state()

        @app.post("/fault")
        def switch(wish: SwitchState) -> StandInState:
            instrument = next((each for each in self.panel if each.kind is wish.device), None)
            if instrument is None or wish.fault not in FAULTS[wish.device]:
                raise HTTPException(
                    422, f"There is no {wish.device.value} here that can have the fault {wish.fault.value}."
                )
            self.house.at(self.clock())
            instrument.switch(wish.fault, wish.on, self.clock())
            return self.state()

        @app.post("/line/{line}")
        def spoil(line: LineState) -> StandInState:
            self.server.line = line
            return self.state()

        @app.post("/house")
        def decide(wish: HouseWish) -> StandInState:
            known = {load.id for load in self.house.design.loads}
            if unknown := set(wish.off) - known:
                raise HTTPException(422, f"off: no load is called {sorted(unknown)[0]!r}.")
            self.house.at(self.clock())
            self.house.decide(Choices(off=frozenset(wish.off), generator=wish.generator))
            return self.state()

        @app.get("/alerts.atom")
        def alerts() -> Response:
            return Response(self.warnings.feed(self.now(), self.base), media_type="application/atom+xml")

        @app.get("/alerts/{name}.xml")
        def alert(name: str) -> Response:
            told = next((each for each in self.warnings.sent_by(self.now()) if each.identifier == name), None)
            if told is None:
                raise HTTPException(404, f"There is no warning {name}.")
            return Response(self.warnings.message(told), media_type="application/cap+xml")

        @app.get("/certificate.pem")
        def certificate() -> Response:
            return Response(self.warnings.certificate, media_type="application/x-pem-file")

        @app.get("/outages.json")
        def outages() -> dict[str, object]:
            begun = (self.house.begun - timedelta(hours=self.offset_h)).replace(tzinfo=UTC)
            return feed_of(begun, self.hours_h, self.now())

        @app.get("/messages")
        def messages() -> list[Taken]:
            return list(self.gateway.taken)

        return app

    async def run(self, told: Callable[[StandIns], None]) -> None:
        """Serve until cancelled; `told` is called once everybody listens. Raises OSError where a port is taken."""
        with socket.socket() as listener:
            listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            listener.bind((HOST, self.wanted.http_port))
            listener.listen()
            self.http_port = int(listener.getsockname()[1])
            self.modbus_port = await self.server.start(HOST, self.wanted.modbus_port)
            mail = await asyncio.get_running_loop().create_server(self.gateway.session, HOST, self.wanted.smtp_port)
            self.smtp_port = int(mail.sockets[0].getsockname()[1])
            config = uvicorn.Config(
                self.app(), log_config=None, access_log=False, lifespan="off", timeout_graceful_shutdown=1
            )
            try:
                told(self)
                await uvicorn.Server(config).serve(sockets=[listener])
            finally:
                mail.close()
                await self.server.stop()
