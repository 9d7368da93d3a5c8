"""Which devices and services are asked for an installation: addresses and unit numbers, as they are kept."""

from __future__ import annotations

import ipaddress
import os
from collections import Counter
from typing import Annotated, Self
from urllib.parse import urlsplit

from pydantic import Field, StringConstraints, field_validator, model_validator

from hearthkeep.core.design import SEVERAL_LINES, DesignPart, Identifier, Name
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.watch import InstrumentKind

#: Hosts beside this machine that may be asked, by name or address, separated by commas.
HOSTS_VARIABLE = "HEARTH_DEVICE_HOSTS"
MOST_DEVICES, MOST_TO = 120, 8
#: How often devices are asked [s].
USUAL_EVERY_S = 15

Host = Annotated[str, StringConstraints(min_length=1, max_length=253, pattern=r"^[A-Za-z0-9.:_-]+$")]
Port = Annotated[int, Field(strict=True, ge=1, le=65_535)]
Address = Annotated[str, StringConstraints(max_length=500, pattern=r"^http://[^\s@]+$")]
MailAddress = Annotated[str, StringConstraints(max_length=200, pattern=r"^[A-Za-z0-9.+_-]+@[A-Za-z0-9.-]+$")]


class DeviceSource(DesignPart):
    """One device over Modbus TCP."""

    key: Identifier
    name: Name
    kind: InstrumentKind
    host: Host
    port: Port
    unit: Annotated[int, Field(strict=True, ge=0, le=247)]


class MailSource(DesignPart):
    """The gateway that messages are handed to, and whom they are for."""

    host: Host
    port: Port
    sender: MailAddress
    to: Annotated[tuple[MailAddress, ...], Field(min_length=1, max_length=MOST_TO)]


class Sources(DesignPart):
    """Everything that is asked for an installation; nothing else is."""

    every_s: Annotated[int, Field(strict=True, ge=5, le=600)] = USUAL_EVERY_S
    devices: Annotated[tuple[DeviceSource, ...], Field(max_length=MOST_DEVICES)] = ()
    #: An Atom list of CAP 1.2 messages, and the certificate that they are signed by (PEM).
    warnings: Address | None = None
    certificate: Annotated[str, StringConstraints(max_length=20_000, pattern=SEVERAL_LINES)] = ""
    #: A feed of outages as JSON.
    outages: Address | None = None
    mail: MailSource | None = None

    @field_validator("warnings", "outages")
    @classmethod
    def _names_a_host(cls, address: str | None) -> str | None:
        try:
            parts = urlsplit(address or "http://localhost")
            is_good = bool(parts.hostname) and (parts.port is None or parts.port > 0)
        except ValueError:
            is_good = False
        if not is_good:
            raise ValueError("must be an http address such as http://127.0.0.1:8791/alerts.atom")
        return address

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        for what, found in (
            ("key", Counter(device.key for device in self.devices)),
            ("name", Counter(device.name for device in self.devices)),
            ("host, port and unit", Counter((device.host, device.port, device.unit) for device in self.devices)),
        ):
            twice = next((each for each, count in found.items() if count > 1), None)
            if twice is not None:
                raise ValueError(f"devices must each have a {what} of their own (got {twice} twice)")
        return self


def refuse_far_hosts(sources: Sources) -> None:
    """Raise InputError where a host is neither this machine nor allowed by the environment."""
    named = [(f"devices.{at}.host", device.host) for at, device in enumerate(sources.devices)]
    named += [
        (name, urlsplit(address).hostname or "")
        for name in ("warnings", "outages")
        if (address := getattr(sources, name))
    ]
    named += [] if sources.mail is None else [("mail.host", sources.mail.host)]
    problems = tuple(
        FieldProblem(
            field=field, value=host,
            accepted=f"must be this machine (127.0.0.1), or a host that {HOSTS_VARIABLE} names where the application is started",
        )
        for field, host in named
        if not is_allowed(host)
    )  # fmt: skip
    if problems:
        raise InputError(problems)


def is_allowed(host: str) -> bool:
    """Whether a host is this machine, or one that the environment names."""
    if host in {each.strip() for each in os.environ.get(HOSTS_VARIABLE, "").split(",")} - {""}:
        return True
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return host == "localhost"
