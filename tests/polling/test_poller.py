"""The poller on a real database: what it keeps, what it keeps apart, and what it bears."""

import socket
import time
import unittest
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from unittest import mock

from hearthkeep.core.design import read_design
from hearthkeep.core.logbook import DOUBTED
from hearthkeep.core.watch import FaultKind, InstrumentKind
from hearthkeep.devices import CapService, Sources, Warned
from hearthkeep.exchange import read_alert
from hearthkeep.polling import Poller
from hearthkeep.standins.alerts import WarningService
from hearthkeep.standins.told import HOST
from hearthkeep.store import DatabaseAwayError, Designs, Logbook, Readings, WatchSources
from tests.support.designs import ROOT
from tests.support.shared import fresh_engine
from tests.support.standing_in import Standing

START = datetime(2026, 2, 3, 12, tzinfo=UTC)


class Clock:
    """A clock that is set by hand."""

    def __init__(self, now):
        self.now = now

    def __call__(self):
        return self.now


class Polling(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.engine = fresh_engine()
        cls.addClassCleanup(cls.engine.dispose)
        cls.standing = cls.enterClassContext(Standing("birchrow-16", since_h=20.0))
        cls.sources, cls.readings, cls.logs = WatchSources(cls.engine), Readings(cls.engine), Logbook(cls.engine)
        design = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
        cls.design = Designs(cls.engine).create(design)

    def setUp(self):
        self.place = self.logs.begin(self.design.id, "Cellar").id
        self.clock = Clock(START)
        self.addCleanup(self.sources.put, self.place, Sources().model_dump(mode="json"))

    def devices(self):
        port = self.standing.state["modbus_port"]
        return [
            {"key": each["kind"], "name": each["name"], "kind": each["kind"], "host": HOST, "port": port, "unit": each["unit"]}
            for each in self.standing.state["devices"]
        ]  # fmt: skip

    def poller(self, **sources):
        document = {"devices": self.devices(), **sources}
        self.sources.put(self.place, Sources.model_validate(document).model_dump(mode="json"))
        poller = Poller(self.engine, clock=self.clock)
        self.addCleanup(poller.stop)
        return poller

    def rounds(self, poller, count, *, every_s=15):
        for _ in range(count):
            poller.look()
            self.clock.now += timedelta(seconds=every_s)

    def kept(self):
        return {(each.quantity, each.part): each.count for each in self.readings.series(self.place)}

    def test_it_keeps_one_reading_a_minute_under_the_installations_own_name(self):
        self.rounds(self.poller(), 12)
        kept = self.kept()
        for quantity in ("bank_v", "bank_a", "charge", "bank_c", "inverter_w", "sun_w", "generator_w"):
            self.assertEqual(kept[quantity, ""], 3, quantity)
        self.assertEqual(kept["bank_v", "Inverter/charger"], 3)
        at_us, _ = self.readings.of(self.place, "charge", "")
        self.assertEqual([int(each) % 1_000_000 for each in at_us], [0, 0, 0])

    def test_started_anew_it_doubles_nothing(self):
        self.rounds(self.poller(), 4)
        self.clock.now = START
        self.rounds(self.poller(), 8)
        self.assertEqual(self.kept()["charge", ""], 2)

    def test_what_a_device_says_with_a_named_fault_is_kept_apart(self):
        self.standing.switch("inverter", "scale", True)
        self.addCleanup(self.standing.switch, "inverter", "scale", False)
        poller = self.poller()
        self.rounds(poller, 24)
        found = poller.gathered(self.place)
        self.assertEqual([(each.kind, each.name) for each in found.faults], [(FaultKind.SCALE, "Inverter/charger")])
        self.assertTrue(next(each for each in found.devices if each.key == "inverter").is_doubted)
        kept = self.kept()
        self.assertGreaterEqual(kept["inverter_w", f"Inverter/charger{DOUBTED}"], 4)
        self.assertLessEqual(kept.get(("inverter_w", ""), 0), 2)
        self.assertEqual(kept["charge", ""], 6)

    def test_a_device_that_falls_silent_is_named_and_found_again(self):
        poller = self.poller()
        self.rounds(poller, 3)
        self.standing.switch("monitor", "dropped", True)
        self.rounds(poller, 8)
        found = poller.gathered(self.place)
        self.assertEqual([(each.kind, each.key) for each in found.faults], [(FaultKind.DROPPED, "monitor")])
        self.assertIn("No answer", found.devices[0].trouble)
        # The others are read on, and no old charge stands for a new one.
        self.assertGreater(self.kept()["inverter_w", ""], self.kept()["charge", ""])
        self.standing.switch("monitor", "dropped", False)
        self.rounds(poller, 8)
        self.assertEqual(poller.gathered(self.place).faults, ())
        self.assertEqual(poller.gathered(self.place).devices[0].trouble, "")

    def test_while_the_database_is_away_readings_wait(self):
        poller = self.poller()
        self.rounds(poller, 1)
        with mock.patch.object(Readings, "add", side_effect=DatabaseAwayError("away")):
            for _ in range(16):
                with self.subTest("asked on"):
                    try:
                        self.rounds(poller, 1)
                    except DatabaseAwayError:
                        self.clock.now += timedelta(seconds=15)
        self.assertEqual(self.kept()["charge", ""], 1)
        self.rounds(poller, 1)
        self.assertEqual(self.kept()["charge", ""], 5)

    def test_a_clock_that_is_moved(self):
        poller = self.poller()
        self.rounds(poller, 8)
        for moved in (timedelta(hours=-1), timedelta(days=400), timedelta(days=-30 * 365)):
            self.clock.now += moved
            self.rounds(poller, 8)
            found = poller.gathered(self.place)
            self.assertEqual(found.faults, (), moved)
            # A device's own clock is compared with this machine's, and not gone by.
            self.assertGreater(abs(found.devices[0].clock_off_s), 3_000)

    def test_a_hundred_devices_of_which_most_are_not_there(self):
        many = [
            {"key": f"d{at}", "name": f"Device {at}", "kind": "monitor", "host": "127.0.0.2", "port": 1 + at, "unit": 1} for at in range(96)
        ]  # fmt: skip
        poller = self.poller(devices=[*self.devices(), *many])
        began = time.monotonic()
        self.rounds(poller, 2)
        self.assertLess(time.monotonic() - began, 20.0)
        found = poller.gathered(self.place)
        self.assertEqual(len(found.devices), 100)
        self.assertEqual(sum(each.trouble == "" for each in found.devices), 4)
        self.assertEqual(self.kept()["charge", ""], 1)

    def test_forty_silent_units_behind_one_address_hold_up_neither_the_others_nor_the_end(self):
        with socket.create_server(("127.0.0.1", 0)) as mute:
            port = mute.getsockname()[1]
            many = [
                {"key": f"d{at}", "name": f"Device {at}", "kind": "monitor", "host": "127.0.0.1", "port": port, "unit": 1 + at}
                for at in range(40)
            ]  # fmt: skip
            poller = self.poller(devices=[*self.devices(), *many])
            began = time.monotonic()
            self.rounds(poller, 2)
            self.assertLess(time.monotonic() - began, 30.0)
        found = poller.gathered(self.place).devices
        self.assertEqual([each.trouble for each in found[:4]], [""] * 4)
        # In the second round those were asked that had waited.
        self.assertGreater(sum("No answer" in each.trouble for each in found[4:]), 6)

    def test_services_are_asked_beside_and_their_silence_is_told(self):
        base = self.standing.base
        poller = self.poller(
            warnings=f"{base}/alerts.atom",
            certificate=self.standing.state["certificate"],
            outages=f"{base}/outages.json",
        )
        self.clock.now = datetime.now(UTC)
        self.rounds(poller, 1)
        found = poller.gathered(self.place)
        self.assertEqual(
            [(each.event, each.is_signed, each.is_exercise) for each in found.alerts], [("Ice storm", True, True)]
        )
        self.assertEqual([each.id for each in found.utility_outages], ["birchrow-feeder-3"])
        self.sources.put(
            self.place, Sources(warnings="http://127.0.0.1:9/x", outages="http://127.0.0.1:9/y").model_dump(mode="json")
        )
        poller.wake()
        self.rounds(poller, 1)
        found = poller.gathered(self.place)
        self.assertEqual((found.alerts, found.utility_outages, found.warnings.answered_at), ((), (), None))
        self.assertIn("Nobody answers", found.warnings.trouble)

    def test_an_unsigned_message_under_the_name_of_a_signed_one_takes_nothing_from_it(self):
        service = WarningService(START.replace(tzinfo=None), 72.0, 0.0)
        signed = read_alert(service.message(service.sent_by(START)[0]), service.certificate)
        false = replace(signed, is_signed=False, headline="All is over", message_type="Cancel", sent=START)
        poller = self.poller(devices=[], warnings="http://127.0.0.1:9/x")
        for told in ((signed,), (false,), (false,)):
            with mock.patch.object(CapService, "alerts", return_value=Warned(alerts=told, wrong=())):
                self.rounds(poller, 1, every_s=120)
        self.assertEqual(
            [(each.headline, each.is_signed) for each in poller.gathered(self.place).alerts], [(signed.headline, True)]
        )

    def test_sources_that_are_taken_away_are_asked_no_more(self):
        poller = self.poller()
        self.rounds(poller, 1)
        self.sources.put(self.place, Sources().model_dump(mode="json"))
        poller.wake()
        self.rounds(poller, 5)
        self.assertEqual(poller.gathered(self.place).devices, ())
        self.assertEqual(self.kept()["charge", ""], 1)

    def test_its_thread_begins_and_ends(self):
        self.clock.now = datetime.now(UTC)
        poller = self.poller()
        poller.start()
        deadline = time.monotonic() + 15
        while not self.kept() and time.monotonic() < deadline:
            time.sleep(0.1)
        poller.stop()
        self.assertEqual(self.kept()["charge", ""], 1)
        self.assertEqual(poller.gathered(self.place).devices[0].kind, InstrumentKind.MONITOR)
