"""Services outside, each behind a small ``Protocol``: weather warnings, a utility's outages, and a gateway that sends messages."""

from __future__ import annotations

import http.client
import json
import smtplib
import time
from collections.abc import Sequence
from dataclasses import dataclass
from email.message import EmailMessage
from typing import Annotated, Any, Literal, Protocol
from urllib.parse import urlsplit

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

from hearthkeep.core.watch import WeatherAlert
from hearthkeep.devices.patience import cut_off
from hearthkeep.devices.registers import DeviceError, SilentError
from hearthkeep.exchange import MOST_CAP_BYTES, MOST_FEED_BYTES, CapError, read_alert, read_alert_links

#: A service has so long for each word and for a whole answer [s], and for a list with all that lies behind it [s].
SERVICE_PATIENCE_S, WHOLE_ANSWER_S, WHOLE_LIST_S = 4.0, 6.0, 12.0
#: A gateway has so long for all addresses of a message together [s].
WHOLE_MESSAGE_S = 12.0
#: A feed of outages is no longer than this [bytes].
MOST_OUTAGES_BYTES = 128 * 1024
MOST_SUBJECT, MOST_TEXT = 150, 2_000


class UtilityOutage(BaseModel):
    """One outage as a utility tells it."""

    model_config = ConfigDict(frozen=True, extra="ignore")

    id: Annotated[str, Field(min_length=1, max_length=100)]
    area: Annotated[str, Field(max_length=200)] = ""
    began: AwareDatetime
    #: When it is thought to end; none where nobody says so.
    estimated_restoration: AwareDatetime | None = None
    customers_out: Annotated[int, Field(ge=0, le=100_000_000)] | None = None
    cause: Annotated[str, Field(max_length=300)] = ""
    #: When this was said.
    revised: AwareDatetime | None = None


class _Feed(BaseModel):
    format: Literal["outages"]
    version: Literal[1]
    outages: Annotated[tuple[UtilityOutage, ...], Field(max_length=200)]


@dataclass(frozen=True, kw_only=True, slots=True)
class Warned:
    """What a warning service said: its messages, and what of them could not be read, in words."""

    alerts: tuple[WeatherAlert, ...]
    wrong: tuple[str, ...]


class WarningSource(Protocol):
    """Where weather warnings come from."""

    def alerts(self) -> Warned:
        """Every message it has; raises DeviceError."""
        ...


class OutageSource(Protocol):
    """Where a utility tells of its outages."""

    def outages(self) -> tuple[UtilityOutage, ...]:
        """Those of now; raises DeviceError."""
        ...


class MessageGateway(Protocol):
    """What sends a short message to a telephone or an address."""

    def send(self, to: Sequence[str], subject: str, text: str) -> None:
        """Hand a message over for each address; raises DeviceError where it is not taken."""
        ...


class CapService:
    """CAP 1.2 messages in an Atom list over HTTP."""

    def __init__(self, address: str, certificate: str | None) -> None:
        self._address, self._certificate = address, certificate

    def alerts(self) -> Warned:
        """Every message of the list that lies with the list itself; raises DeviceError."""
        try:
            links = read_alert_links(fetched(self._address, MOST_FEED_BYTES))
        except CapError as error:
            raise DeviceError(f"The list of warnings cannot be read. {error}") from error
        found, wrong = [], []
        give_up_s = time.monotonic() + WHOLE_LIST_S
        for number, link in enumerate(links):
            if time.monotonic() > give_up_s:
                wrong.append(
                    f"{len(links) - number} warnings are left out: the service took more than {WHOLE_LIST_S:.0f} s."
                )
                break
            if urlsplit(link)[:2] != urlsplit(self._address)[:2]:
                # Nothing is asked that is not named in the settings.
                wrong.append(f"A warning lies elsewhere and is not fetched: {link[:200]}")
                continue
            try:
                found.append(read_alert(fetched(link, MOST_CAP_BYTES), self._certificate))
            except (CapError, DeviceError) as error:
                # The others say what they say.
                wrong.append(f"A warning is left out. {error}")
        return Warned(alerts=tuple(found), wrong=tuple(wrong))


class OutageFeed:
    """A utility's outages as JSON over HTTP."""

    def __init__(self, address: str) -> None:
        self._address = address

    def outages(self) -> tuple[UtilityOutage, ...]:
        """Those of now; raises DeviceError."""
        content = fetched(self._address, MOST_OUTAGES_BYTES)
        try:
            return _Feed.model_validate(json.loads(content)).outages
        except (ValidationError, ValueError, RecursionError) as error:
            first = error.errors()[0] if isinstance(error, ValidationError) else None
            where = "it is no JSON" if first is None else f"{'.'.join(map(str, first['loc']))}: {first['msg']}"
            raise DeviceError(f"The feed of outages cannot be read: {where[:300]}.") from error


def header_text(text: str) -> str:
    """A text for a header of a message: on one line, and nothing in it taken for an encoded word, whose line breaks would count."""
    return " ".join(text.replace("=?", "= ?").split())


class MailGateway:
    """Mail by SMTP; gateways to telephones take it as well."""

    def __init__(self, host: str, port: int, sender: str) -> None:
        self._host, self._port, self._sender = host, port, sender

    def send(self, to: Sequence[str], subject: str, text: str) -> None:
        """Hand a message over for each address; raises DeviceError where it is not taken."""
        server = smtplib.SMTP(timeout=SERVICE_PATIENCE_S)
        asked = to[0] if to else ""
        try:
            with cut_off(WHOLE_MESSAGE_S, lambda: server.sock):
                server.connect(self._host, self._port)
                for asked in to:
                    server.send_message(self._message(asked, subject, text))
                server.quit()
        except (OSError, ValueError, smtplib.SMTPException) as error:
            raise SilentError(f"The message gateway did not take it for {asked}: {str(error)[:200]}.") from error
        finally:
            server.close()

    def _message(self, to: str, subject: str, text: str) -> EmailMessage:
        message = EmailMessage()
        message["From"], message["To"] = self._sender, to
        message["Subject"] = header_text(subject)[:MOST_SUBJECT]
        message.set_content(text[:MOST_TEXT])
        return message


def fetched(address: str, most: int) -> bytes:
    """What lies at an http address, no longer than so many bytes; no redirection is followed. Raises DeviceError."""
    return _answer(address, most, None)


def asked_json(address: str, body: object | None = None) -> Any:
    """A stand-in's answer as JSON; raises DeviceError."""
    content = _answer(address, MOST_OUTAGES_BYTES, None if body is None else json.dumps(body).encode())
    try:
        return json.loads(content)
    except ValueError as error:
        raise DeviceError(f"{address[:200]} answers no JSON.") from error


def _answer(address: str, most: int, body: bytes | None) -> bytes:
    parts = urlsplit(address)
    target = (parts.path or "/") + (f"?{parts.query}" if parts.query else "")
    try:
        connection = http.client.HTTPConnection(parts.hostname or "", parts.port or 80, timeout=SERVICE_PATIENCE_S)
        try:
            connection.connect()
            # The library forgets it once the head of an answer is there.
            held = connection.sock
            with cut_off(WHOLE_ANSWER_S, lambda: held) as cut:
                if body is None:
                    connection.request("GET", target)
                else:
                    connection.request("POST", target, body, {"Content-Type": "application/json"})
                answer = connection.getresponse()
                content = answer.read(most + 1)
        finally:
            connection.close()
        if cut.is_made:
            # An answer without a length would pass for whole.
            raise SilentError(f"{address[:200]} takes more than {WHOLE_ANSWER_S:.0f} s for an answer.")
    except (OSError, http.client.HTTPException, ValueError) as error:
        raise SilentError(f"Nobody answers at {address[:200]}.") from error
    if answer.status != http.client.OK:
        raise DeviceError(f"{address[:200]} answers {answer.status}.")
    if len(content) > most:
        raise DeviceError(f"{address[:200]} answers more than {most // 1024} kB.")
    return content
