"""Devices and services against the outside world: published model definitions and schemas, and clients that are not ours."""

import asyncio
import json
import smtplib
import unittest
from datetime import datetime, timedelta
from email.message import EmailMessage
from pathlib import Path

import capparser
import httpx
import sunspec2.mdef
import sunspec2.modbus.client
import sunspec2.modbus.modbus
from lxml import etree

from hearthkeep.core.design import read_design
from hearthkeep.core.watch import FaultKind
from hearthkeep.devices import COMMON, layouts
from hearthkeep.exchange import read_alert
from hearthkeep.standins.alerts import WarningService
from hearthkeep.standins.running import StandIns, Wanted
from tests.support.designs import birchrow, in_the_evening
from tests.support.standing_in import Standing

HERE = Path(__file__).parent
#: The models of the SunSpec Alliance as the package pysunspec2 carries them (Apache License 2.0).
DEFINITIONS = Path(sunspec2.mdef.__file__).parent / "models" / "json"
OURS = (64_950, 64_951)


class Models(unittest.TestCase):
    def test_each_layout_is_the_published_one_point_by_point(self):
        for number, layout in layouts().items():
            if number in OURS:
                self.assertFalse((DEFINITIONS / f"model_{number}.json").exists(), "a number that is given to somebody")
                continue
            group = json.loads((DEFINITIONS / f"model_{number}.json").read_text())["group"]
            for ours, published in (
                (layout.points, group["points"]),
                (layout.repeated, group["groups"][0]["points"] if "groups" in group else []),
            ):
                with self.subTest(model=number):
                    self.assertEqual(
                        [(point.name, point.type, point.size, point.scale) for point in ours],
                        [(point["name"], point["type"], point["size"], point.get("sf")) for point in published],
                    )

    def test_states_and_types_are_those_published(self):
        from hearthkeep.standins import instruments as ours

        for model, point, names in (
            (802, "ChaSt", {"CHARGING": ours.CHARGING, "DISCHARGING": ours.DISCHARGING}),
            (802, "Typ", {"LITHIUM_ION": ours.LITHIUM, "LEAD_ACID": ours.LEAD_ACID}),
            (802, "State", {"CONNECTED": ours.CONNECTED}),
            (802, "LocRemCtl", {"REMOTE": ours.REMOTE}),
            (101, "St", {"MPPT": ours.TRACKING, "STANDBY": ours.STANDBY}),
            (714, "PrtTyp", {"PV": ours.PORT_ARRAY, "ESS": ours.PORT_BANK}),
            (714, "DCSta", {"ON": ours.PORT_ON, "OFF": ours.PORT_OFF}),
        ):
            group = json.loads((DEFINITIONS / f"model_{model}.json").read_text())["group"]
            points = [*group["points"], *(each for part in group.get("groups", []) for each in part["points"])]
            symbols = {each["name"]: each["value"] for each in next(p for p in points if p["name"] == point)["symbols"]}
            for name, value in names.items():
                self.assertEqual(symbols[name], value, (model, point, name))


class Devices(unittest.TestCase):
    """The simulated devices scanned by pysunspec2's own client over Modbus TCP."""

    @classmethod
    def setUpClass(cls):
        cls.standing = cls.enterClassContext(Standing("birchrow-16", since_h=20.0))

    def scanned(self, kind):
        device = sunspec2.modbus.client.SunSpecModbusClientDeviceTCP(
            slave_id=self.standing.unit(kind), ipaddr="127.0.0.1", ipport=self.standing.state["modbus_port"], timeout=5
        )
        self.addCleanup(device.close)
        device.scan()
        return device

    def test_it_finds_the_models_of_each_and_what_they_are_called(self):
        for kind, models in (
            ("monitor", {1, 802, 64_951}),
            ("inverter", {1, 101}),
            ("controller", {1, 714}),
            ("generator", {1, 201, 64_950}),
        ):
            device = self.scanned(kind)
            self.assertEqual({key for key in device.models if isinstance(key, int)}, models, kind)
            self.assertEqual(device.models[COMMON][0].points["Mn"].cvalue, "Stand-in")
            self.assertEqual(device.models[COMMON][0].points["DA"].cvalue, self.standing.unit(kind))

    def test_it_reads_what_the_house_has(self):
        monitor, inverter, controller = (self.scanned(kind) for kind in ("monitor", "inverter", "controller"))
        battery, output = monitor.models[802][0].points, inverter.models[101][0].points
        array, bank = controller.models[714][0].groups["Prt"]
        truth = self.standing.stand_ins.house.now
        self.assertAlmostEqual(battery["SoC"].cvalue, 100 * truth.charge_frac, delta=0.1)
        for volts in (battery["V"], output["DCV"], bank.points["DCV"]):
            self.assertAlmostEqual(volts.cvalue, truth.bank_v, delta=0.4)
        self.assertAlmostEqual(output["W"].cvalue, truth.house_w, delta=0.1 * truth.house_w)
        self.assertAlmostEqual(battery["V"].cvalue * battery["A"].cvalue, battery["W"].cvalue, delta=6.0)
        self.assertEqual((array.points["PrtTyp"].cvalue, bank.points["PrtTyp"].cvalue), (0, 1))
        # What its maker must say is said.
        for device, number in ((monitor, 802), (inverter, 101)):
            group = json.loads((DEFINITIONS / f"model_{number}.json").read_text())["group"]
            for point in group["points"]:
                if point.get("mandatory") == "M" and point["type"] != "pad":
                    self.assertIsNotNone(device.models[number][0].points[point["name"]].value, (number, point["name"]))

    def test_its_faults_reach_the_client(self):
        self.standing.switch("controller", "scale", True)
        self.addCleanup(self.standing.switch, "controller", "scale", False)
        bank = self.scanned("controller").models[714][0].groups["Prt"][1]
        self.assertAlmostEqual(bank.points["DCV"].cvalue, 10 * self.standing.stand_ins.house.now.bank_v, delta=5.0)

    def test_it_cannot_be_written(self):
        device = self.scanned("monitor")
        device.models[802][0].points["SetOp"].cvalue = 2
        # Modbus application protocol V1.1b3, 7: exception 1 is a function that is not allowed.
        with self.assertRaisesRegex(sunspec2.modbus.modbus.ModbusClientException, "exception: 1"):
            device.models[802][0].write()


class Warnings(unittest.TestCase):
    """OASIS Common Alerting Protocol 1.2 (2010): the schema that is published with the standard, and a parser that is not ours."""

    @classmethod
    def setUpClass(cls):
        cls.schema = etree.XMLSchema(etree.parse(str(HERE / "CAP-v1.2.xsd")))
        cls.standing = cls.enterClassContext(Standing("birchrow-16", since_h=70.0))

    def fetched(self):
        feed = etree.fromstring(httpx.get(f"{self.standing.base}/alerts.atom").content)
        links = feed.xpath("//a:entry/a:link/@href", namespaces={"a": "http://www.w3.org/2005/Atom"})
        return [httpx.get(link).content for link in links]

    def test_every_message_is_valid_by_the_schema(self):
        found = self.fetched()
        self.assertEqual(len(found), 4)
        for content in found:
            self.schema.assertValid(etree.fromstring(content))

    def test_the_schema_refuses_what_is_none(self):
        content = self.fetched()[0].replace(b"<status>Exercise</status>", b"<status>Perhaps</status>")
        self.assertFalse(self.schema.validate(etree.fromstring(content)))

    def test_another_parser_reads_the_same(self):
        for content in self.fetched():
            ours, root = read_alert(content), etree.fromstring(content)
            # It knows nothing of signatures.
            root.remove(root.find("{http://www.w3.org/2000/09/xmldsig#}Signature"))
            theirs = capparser.parse(stringXML=etree.tostring(root).decode())
            info = theirs.info[0][0]
            self.assertEqual(
                (ours.identifier, ours.sender, ours.message_type, ours.severity, ours.headline, ours.areas[0]),
                (theirs.identifier[0], theirs.sender[0], theirs.msgType[0], info.severity[0], info.headline[0], info.area[0][0].areaDesc[0]),
            )  # fmt: skip
            # Universal time is written -00:00 there.
            self.assertEqual(ours.sent, datetime.fromisoformat(theirs.sent[0]))

    def test_what_a_message_replaces_is_written_as_the_standard_writes_it(self):
        # CAP 1.2, 3.2.1: references are sender,identifier,sent, separated by white space.
        newest = etree.fromstring(self.fetched()[0])
        text = newest.findtext("{urn:oasis:names:tc:emergency:cap:1.2}references")
        sender, identifier, sent = text.split(",")
        self.assertEqual(
            (sender, identifier), ("warnings@upper-birchrow.example", read_alert(self.fetched()[1]).identifier)
        )
        self.assertEqual(datetime.fromisoformat(sent), read_alert(self.fetched()[1]).sent)

    def test_moments_of_every_offset_keep_the_pattern_of_the_standard(self):
        for offset_h in (-9.5, -5.0, 0.0, 5.75, 13.0):
            service = WarningService(datetime(2026, 3, 1, 12), 48.0, offset_h)
            later = datetime.fromisoformat("2026-03-10T00:00:00+00:00")
            for told in service.sent_by(later):
                self.schema.assertValid(etree.fromstring(service.message(told)))


class Others(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.standing = cls.enterClassContext(Standing("birchrow-16", since_h=20.0))

    def test_the_feed_of_outages_is_json_that_is_revised(self):
        answer = httpx.get(f"{self.standing.base}/outages.json")
        self.assertTrue(answer.headers["content-type"].startswith("application/json"))
        (outage,) = answer.json()["outages"]
        self.assertAlmostEqual(
            datetime.fromisoformat(outage["began"]).timestamp(),
            datetime.fromisoformat(self.standing.state["begun"]).timestamp(),
            delta=1.0,
        )
        self.assertGreater(
            datetime.fromisoformat(outage["estimated_restoration"]), datetime.fromisoformat(outage["revised"])
        )

    def test_mail_by_the_standard_library_is_shown_as_it_would_have_been_sent(self):
        message = EmailMessage()
        message["From"], message["To"], message["Subject"] = (
            "house@birchrow.example",
            "5550100@text.example",
            "Noch ½ Tag",
        )
        message.set_content("The bank lasts until nine.\nLeave the heater off.")
        with smtplib.SMTP("127.0.0.1", self.standing.state["smtp_port"]) as server:
            server.send_message(message)
        taken = httpx.get(f"{self.standing.base}/messages").json()[-1]
        self.assertEqual((taken["to"], taken["subject"]), (["5550100@text.example"], "Noch ½ Tag"))
        self.assertEqual(taken["text"].split("\r\n")[:2], ["The bank lasts until nine.", "Leave the heater off."])

    def test_a_message_that_is_too_long_is_refused_by_the_protocol(self):
        with (
            smtplib.SMTP("127.0.0.1", self.standing.state["smtp_port"]) as server,
            self.assertRaises(smtplib.SMTPException),
        ):
            server.sendmail("a@b.example", ["c@d.example"], "x" * 80_000)

    def test_in_fast_time_the_house_lives_faster_than_the_clock(self):
        design = read_design(in_the_evening(birchrow().model_dump(mode="json")))
        stand_ins = StandIns(Wanted(design=design, speed=360.0))
        first, began = stand_ins.clock(), datetime.now()
        asyncio.run(asyncio.sleep(0.5))
        passed = (datetime.now() - began).total_seconds()
        self.assertAlmostEqual((stand_ins.clock() - first) / timedelta(seconds=1), 360.0 * passed, delta=20.0)
        before, truth = stand_ins.house.now, stand_ins.house.at(stand_ins.clock())
        # Three minutes of a house that draws 50 W at the least.
        self.assertGreater(truth.house_wh - before.house_wh, 2.0)
        self.assertLess(truth.charge_frac, before.charge_frac)


class Running(unittest.TestCase):
    def test_a_port_that_is_taken_is_told(self):
        with Standing("birchrow-16") as standing:
            wanted = Wanted(design=birchrow(), http_port=0, modbus_port=standing.state["modbus_port"], smtp_port=0)
            with self.assertRaises(OSError):
                asyncio.run(StandIns(wanted).run(lambda _: None))

    def test_switches_that_are_not_there_are_refused(self):
        with Standing("birchrow-16") as standing:
            answer = httpx.post(
                f"{standing.base}/fault", json={"device": "monitor", "fault": FaultKind.FAN, "on": True}
            )
            self.assertEqual(answer.status_code, 422)
            self.assertIn("monitor", answer.json()["detail"])
            answer = httpx.post(f"{standing.base}/house", json={"off": ["no-such-load"]})
            self.assertEqual(answer.status_code, 422)

    def test_what_people_leave_off_is_seen_by_the_devices(self):
        with Standing("birchrow-16", since_h=3.0) as standing:
            before = standing.stand_ins.house.at(standing.stand_ins.clock()).house_w
            loads = [load.id for load in standing.stand_ins.house.design.loads]
            httpx.post(f"{standing.base}/house", json={"off": loads})
            after = standing.stand_ins.house.at(standing.stand_ins.clock() + timedelta(minutes=2)).house_w
            self.assertGreater(before, 50.0)
            self.assertLess(after, 1.0)
