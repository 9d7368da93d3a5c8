"""One installation: its devices and services asked round by round."""

from __future__ import annotations

import logging
import time
import uuid
from collections.abc import Iterable
from concurrent.futures import Executor
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta

from pymodbus.client import ModbusTcpClient

from hearthkeep.core.design import Design
from hearthkeep.core.watch import DeviceFault, WeatherAlert, named, standing
from hearthkeep.devices import (
    CapService,
    DeviceError,
    ModbusRegisters,
    OutageFeed,
    SilentError,
    Sources,
    UtilityOutage,
    connection,
    cut_off,
    heard,
    refuse_far_hosts,
)
from hearthkeep.polling.gathered import Gathered, ServiceShown
from hearthkeep.polling.kept import readings_of
from hearthkeep.polling.talk import Talk
from hearthkeep.store import NewSeries

_log = logging.getLogger(__name__)
_EPOCH = datetime(1970, 1, 1, tzinfo=UTC)
#: Services are asked so often, and one reading of each series is kept in so long [s].
SERVICES_EVERY_S, KEPT_EVERY_S = 60.0, 60.0
#: The devices behind one address have so long in a round, all together [s].
ADDRESS_S = 8.0
#: What was said so many rounds ago is none of now.
FRESH_ROUNDS = 3.0


@dataclass
class Place:
    """An installation that is watched."""

    installation_id: uuid.UUID
    design: Design
    sources: Sources
    talks: dict[str, Talk] = field(default_factory=dict)
    faults: tuple[DeviceFault, ...] = ()
    alerts: tuple[WeatherAlert, ...] = ()
    utility_outages: tuple[UtilityOutage, ...] = ()
    warnings: ServiceShown | None = None
    utility: ServiceShown | None = None
    #: Services are asked just now.
    is_asking_services: bool = False
    _clients: dict[tuple[str, int], ModbusTcpClient] = field(default_factory=dict)
    _next: datetime = _EPOCH
    _services_next: datetime = _EPOCH
    _kept_minute: int = -1

    def take(self, sources: Sources, design: Design) -> None:
        """Go on with other sources; devices that stay keep what they said."""
        self.design = design
        if sources == self.sources:
            return
        before = {source.key: source for source in self.sources.devices}
        self.talks = {
            source.key: self.talks[source.key]
            for source in sources.devices
            if before.get(source.key) == source and source.key in self.talks
        }
        self.sources, self.warnings, self.utility, self.alerts, self.utility_outages = sources, None, None, (), ()
        self.faults = tuple(fault for fault in self.faults if fault.key in self.talks)
        self._next = self._services_next = _EPOCH
        self.close()

    def is_due(self, now: datetime) -> bool:
        """Whether a round is due; a clock that was set back makes it due as well."""
        return now >= self._next or self._next - now > timedelta(seconds=self.sources.every_s)

    def round(self, now: datetime, beside: Executor) -> list[NewSeries]:
        """
        Ask everybody once, name the faults, and say what is to be kept.

        :param now: the moment, UTC.
        :param beside: asks several addresses side by side.
        """
        refuse_far_hosts(self.sources)
        self._next = now + timedelta(seconds=self.sources.every_s)
        now_s = (now - _EPOCH).total_seconds() + 3600.0 * self.design.site.utc_offset_h
        for source in self.sources.devices:
            self.talks.setdefault(source.key, Talk(source, now_s))
        by_address: dict[tuple[str, int], list[Talk]] = {}
        for talk in self.talks.values():
            if talk.is_due(now_s):
                by_address.setdefault((talk.source.host, talk.source.port), []).append(talk)
        asked = [beside.submit(self._ask, address, talks, now, now_s) for address, talks in by_address.items()]
        for each in asked:
            each.result()
        self.faults = named(self.design, [talk.track() for talk in self.talks.values()], now_s, self.faults)
        minute = int((now - _EPOCH).total_seconds() // KEPT_EVERY_S)
        if minute == self._kept_minute:
            return []
        self._kept_minute = minute
        within_s = FRESH_ROUNDS * self.sources.every_s
        return readings_of(list(self.talks.values()), self.faults, now, now_s, within_s)

    def services_due(self, now: datetime) -> bool:
        """Whether warnings and the utility are to be asked, and none of that is under way."""
        is_time = now >= self._services_next or self._services_next - now > timedelta(seconds=SERVICES_EVERY_S)
        return is_time and not self.is_asking_services

    def ask_services(self, now: datetime) -> None:
        """Ask for warnings and the utility's outages; whatever goes wrong is told as the service's trouble."""
        self.is_asking_services = True
        self._services_next = now + timedelta(seconds=SERVICES_EVERY_S)
        try:
            self._ask_warnings(now)
            self._ask_utility(now)
        finally:
            self.is_asking_services = False

    def gathered(self, now: datetime) -> Gathered:
        """Everything that is known now."""
        return Gathered(
            at=now,
            devices=tuple(
                self.talks[source.key].shown(self.faults) for source in self.sources.devices if source.key in self.talks
            ),
            faults=self.faults,
            alerts=standing(self.alerts, now),
            warnings=self.warnings,
            utility_outages=self.utility_outages,
            utility=self.utility,
        )

    def close(self) -> None:
        """Let every connection go."""
        for client in self._clients.values():
            client.close()
        self._clients.clear()

    def _ask(self, address: tuple[str, int], talks: Iterable[Talk], now: datetime, now_s: float) -> None:
        """Ask the devices behind one address, one after the other; where nobody listens the rest are spared."""
        client = self._clients.setdefault(address, connection(*address))
        # Who drips its answers is cut off, and with the connection whatever of them is on its way.
        with cut_off(ADDRESS_S, lambda: client.socket):
            self._ask_each(client, talks, now, now_s)

    def _ask_each(self, client: ModbusTcpClient, talks: Iterable[Talk], now: datetime, now_s: float) -> None:
        nobody: SilentError | None = None
        give_up = time.monotonic() + ADDRESS_S
        # Who waits longest is asked first: where the silent take all the time the others have their turn in the next round.
        for talk in sorted(talks, key=lambda each: each.asked_s):
            if time.monotonic() > give_up:
                return
            try:
                if nobody is not None:
                    raise nobody
                said = heard(ModbusRegisters(client, talk.source.unit))
            except SilentError as error:
                nobody = nobody or (None if client.connected or self._listens(client) else error)
                talk.kept_silent(str(error), now_s)
            except DeviceError as error:
                talk.kept_silent(str(error), now_s)
            else:
                talk.answered(said, now, now_s)

    @staticmethod
    def _listens(client: ModbusTcpClient) -> bool:
        """Whether anybody takes a connection at all: then it is the one unit that is silent."""
        try:
            return bool(client.connect())
        except OSError:
            return False

    def _ask_warnings(self, now: datetime) -> None:
        sources = self.sources
        if sources.warnings is None:
            return
        before = self.warnings or ServiceShown(answered_at=None, trouble="", wrong=())
        try:
            warned = CapService(sources.warnings, sources.certificate or None).alerts()
        except Exception as error:
            trouble = _trouble_of(error)
            if self.sources is sources:
                self.warnings = replace(before, trouble=trouble)
            return
        if self.sources is not sources:
            # Settings were changed meanwhile: what another service said is none of these.
            return
        # What was warned of stays until it is replaced or over, though its sender forgets it.
        # Under one name the signed and the unsigned are both held: which of them counts is not for the sender to say.
        known = {(alert.identifier, alert.is_signed): alert for alert in (*self.alerts, *warned.alerts)}
        self.alerts = tuple(sorted(known.values(), key=lambda alert: alert.sent))[-100:]
        self.warnings = ServiceShown(answered_at=now, trouble="", wrong=warned.wrong)

    def _ask_utility(self, now: datetime) -> None:
        sources = self.sources
        if sources.outages is None:
            return
        before = self.utility or ServiceShown(answered_at=None, trouble="", wrong=())
        try:
            outages = OutageFeed(sources.outages).outages()
        except Exception as error:
            trouble = _trouble_of(error)
            if self.sources is sources:
                self.utility = replace(before, trouble=trouble)
            return
        if self.sources is not sources:
            return
        self.utility_outages = outages
        self.utility = ServiceShown(answered_at=now, trouble="", wrong=())


def _trouble_of(error: Exception) -> str:
    """Why a service's answer is of no use; a fault of ours is told as well, and stands in the log."""
    if isinstance(error, DeviceError):
        return str(error)
    _log.exception("A service's answer met a fault of ours.")
    return f"Its answer cannot be used ({type(error).__name__})."
