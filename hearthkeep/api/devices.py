"""Devices and services of an installation: which are asked, what they say now, and messages handed to a gateway."""

from __future__ import annotations

import threading
import uuid
from collections.abc import Callable
from typing import Annotated, cast

from fastapi import APIRouter, Depends, Request
from pydantic import BaseModel, StringConstraints

from hearthkeep.core.design import SEVERAL_LINES, SOME_LINE
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.devices import (
    MOST_TEXT,
    DeviceError,
    DeviceSource,
    MailGateway,
    MailSource,
    SilentError,
    Sources,
    asked_json,
    refuse_far_hosts,
)
from hearthkeep.polling import Gathered, Poller
from hearthkeep.standins.told import HOST, HouseWish, StandInState, SwitchState
from hearthkeep.store import WatchSources
from hearthkeep.workers import BusyError

#: Messages that are handed over side by side; a slow gateway holds no more of the interface than this.
MESSAGES_AT_ONCE = 4
_sending = threading.BoundedSemaphore(MESSAGES_AT_ONCE)
router = APIRouter(prefix="/api", tags=["devices"])


def _sources(request: Request) -> WatchSources:
    return cast(WatchSources, request.app.state.watch_sources)


def _poller(request: Request) -> Poller | None:
    return cast("Poller | None", request.app.state.poller)


def _polled(request: Request) -> Callable[[uuid.UUID], Gathered | None]:
    poller = _poller(request)
    return (lambda _: None) if poller is None else poller.gathered


SourcesStore = Annotated[WatchSources, Depends(_sources)]
Asker = Annotated[Poller | None, Depends(_poller)]
#: What is known of an installation's devices now.
Polled = Annotated[Callable[[uuid.UUID], Gathered | None], Depends(_polled)]


class DevicesNow(BaseModel):
    """What is asked for an installation, and what it says; nothing before the first round."""

    sources: Sources
    gathered: Gathered | None


class StandInsNow(BaseModel):
    """Simulated devices and services beside the server; nothing where there are none."""

    state: StandInState | None
    #: What is to be asked so that they are watched.
    sources: Sources | None


class ShortMessage(BaseModel):
    """A message to those whom the settings name."""

    subject: Annotated[str, StringConstraints(min_length=1, max_length=150, pattern=SOME_LINE)]
    text: Annotated[str, StringConstraints(min_length=1, max_length=MOST_TEXT, pattern=SEVERAL_LINES)]


class MessageTaken(BaseModel):
    """Whom the gateway took a message for."""

    to: list[str]


@router.get("/installations/{installation_id}/devices")
def devices(store: SourcesStore, polled: Polled, installation_id: uuid.UUID) -> DevicesNow:
    """What is asked for an installation, and what it says now."""
    return DevicesNow(sources=_kept(store, installation_id), gathered=polled(installation_id))


@router.put("/installations/{installation_id}/sources")
def put(store: SourcesStore, asker: Asker, installation_id: uuid.UUID, sources: Sources) -> Sources:
    """Say what is asked for an installation from now on; hosts must be this machine, or named where the application is started."""
    refuse_far_hosts(sources)
    store.put(installation_id, sources.model_dump(mode="json"))
    if asker is not None:
        asker.wake()
    return sources


@router.post("/installations/{installation_id}/messages")
def send(store: SourcesStore, installation_id: uuid.UUID, message: ShortMessage) -> MessageTaken:
    """Hand a message to the gateway that the settings name, for each of its addresses."""
    sources = _kept(store, installation_id)
    refuse_far_hosts(sources)
    mail = sources.mail
    if mail is None:
        accepted = "must be named in the settings of this installation before a message can be sent"
        raise InputError((FieldProblem(field="mail", value="none", accepted=accepted),))
    if not _sending.acquire(blocking=False):
        raise BusyError(f"{MESSAGES_AT_ONCE} messages are being sent already.")
    try:
        MailGateway(mail.host, mail.port, mail.sender).send(mail.to, message.subject, message.text)
    finally:
        _sending.release()
    return MessageTaken(to=list(mail.to))


@router.get("/stand-ins")
def stand_ins(request: Request) -> StandInsNow:
    """The simulated devices and services that run beside the server, with the faults that can be switched on."""
    address = request.app.state.stand_ins()
    if address is None:
        return StandInsNow(state=None, sources=None)
    try:
        return _told(asked_json(f"{address}/state"))
    except SilentError:
        return StandInsNow(state=None, sources=None)


@router.post("/stand-ins/fault")
def switch(request: Request, wish: SwitchState) -> StandInsNow:
    """Switch a fault of a simulated device on or off."""
    return _told(asked_json(f"{_beside(request)}/fault", wish.model_dump(mode="json")))


@router.post("/stand-ins/house")
def live(request: Request, wish: HouseWish) -> StandInsNow:
    """Let the people of the simulated house leave off loads, and start or stop its generator."""
    return _told(asked_json(f"{_beside(request)}/house", wish.model_dump(mode="json")))


def _beside(request: Request) -> str:
    address = request.app.state.stand_ins()
    if address is None:
        raise DeviceError("No simulated devices run beside this server.")
    return cast(str, address)


def _told(values: object) -> StandInsNow:
    state = StandInState.model_validate(values)
    base = f"http://{HOST}:{state.http_port}"
    return StandInsNow(
        state=state,
        sources=Sources(
            devices=tuple(
                DeviceSource(key=each.kind, name=each.name, kind=each.kind, host=HOST, port=state.modbus_port, unit=each.unit)
                for each in state.devices
            ),
            warnings=f"{base}/alerts.atom",
            certificate=state.certificate,
            outages=f"{base}/outages.json",
            mail=MailSource(host=HOST, port=state.smtp_port, sender="house@birchrow.example", to=("5550100@text.example",)),
        ),
    )  # fmt: skip


def _kept(store: WatchSources, installation_id: uuid.UUID) -> Sources:
    document = store.find(installation_id)
    return Sources() if document is None else Sources.model_validate(document)
