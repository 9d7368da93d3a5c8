"""Devices over HTTP: which are asked, what they say, what Watch makes of their faults, and messages to the family."""

import os
import uuid
from datetime import UTC, datetime, timedelta
from unittest import mock

from hearthkeep.core.foresight import Choices, GeneratorWish
from hearthkeep.polling import Poller
from tests.api.test_building_api import BuildTest
from tests.support.designs import in_the_evening
from tests.support.standing_in import Standing

DEVICE = {"key": "m", "name": "Battery monitor", "kind": "monitor", "host": "127.0.0.1", "port": 5020, "unit": 1}


class Devices(BuildTest):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.standing = cls.enterClassContext(Standing("birchrow-14", since_h=5.0))
        # Rounds are gone along in fast time, up to about now.
        cls.now = datetime.now(UTC) - timedelta(minutes=12)
        cls.poller = Poller(cls.engine, clock=lambda: cls.now)
        cls.addClassCleanup(cls.poller.stop)
        cls.client.app.state.poller = cls.poller

    def document_of_home(self):
        return in_the_evening(super().document_of_home())

    def put(self, **sources):
        return self.client.put(f"/api/installations/{self.place}/sources", json=sources)

    def told(self):
        answer = self.client.get(f"/api/installations/{self.place}/devices")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def real_ones(self):
        port = self.standing.state["modbus_port"]
        return [
            {**DEVICE, "key": each["kind"], "name": each["name"], "kind": each["kind"], "port": port, "unit": each["unit"]}
            for each in self.standing.state["devices"]
        ]  # fmt: skip

    def watch(self):
        answer = self.client.post(
            "/api/watch", json={"design": self.home, "installation_id": self.place, "now": type(self).now.isoformat()}
        )
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def rounds(self, count):
        for _ in range(count):
            self.poller.look()
            type(self).now += timedelta(seconds=15)

    def test_nothing_is_asked_at_first(self):
        told = self.told()
        self.assertEqual((told["sources"]["devices"], told["sources"]["every_s"], told["gathered"]), ([], 15, None))

    def test_what_is_kept_comes_back_and_what_is_wrong_is_named(self):
        kept = self.put(devices=[DEVICE], every_s=30)
        self.assertEqual(kept.status_code, 200, kept.text)
        self.assertEqual(self.told()["sources"], kept.json())
        for bad, field in (
            ({"devices": [{**DEVICE, "host": "192.168.4.4"}]}, "devices.0.host"),
            ({"devices": [{**DEVICE, "port": 70_000}]}, "devices.0.port"),
            ({"devices": [{**DEVICE, "unit": 300}]}, "devices.0.unit"),
            ({"devices": [DEVICE] * 121}, "devices"),
            ({"devices": [DEVICE, {**DEVICE, "key": "n", "unit": 2}]}, "name"),
            ({"every_s": 1}, "every_s"),
            ({"warnings": "https://weather.example/feed"}, "warnings"),
            ({"mail": {"host": "127.0.0.1", "port": 25, "sender": "no address", "to": ["c@d.example"]}}, "mail.sender"),
        ):
            refused = self.put(**bad)
            self.assertEqual(refused.status_code, 422, bad)
            self.assertIn(field, refused.text)
        self.assertEqual(self.told()["sources"], kept.json())

    def test_a_host_that_is_no_longer_allowed_is_shown_so_that_it_can_be_changed(self):
        far = {
            "devices": [{**DEVICE, "host": "192.168.4.4"}],
            "mail": {"host": "mail.example", "port": 25, "sender": "a@b.example", "to": ["c@d.example"]},
        }
        with mock.patch.dict(os.environ, {"HEARTH_DEVICE_HOSTS": "192.168.4.4,mail.example"}):
            self.assertEqual(self.put(**far).status_code, 200)
        self.assertEqual(self.told()["sources"]["devices"][0]["host"], "192.168.4.4")
        sent = self.client.post(f"/api/installations/{self.place}/messages", json={"subject": "a", "text": "b"})
        self.assertEqual(sent.status_code, 422)
        self.assertIn("mail.host", sent.text)

    def test_readings_flow_into_watch_and_a_fault_is_an_alarm_that_can_be_seen(self):
        self.put(devices=self.real_ones())
        self.poller.wake()
        self.rounds(5)
        self.assertEqual([each["trouble"] for each in self.told()["gathered"]["devices"]], ["", "", ""])
        view = self.watch()
        self.assertTrue(view["charge"]["is_fresh"])
        self.assertAlmostEqual(view["charge"]["value"], self.standing.stand_ins.house.now.charge_frac, delta=0.02)
        self.standing.switch("monitor", "dropped", True)
        self.addCleanup(self.standing.switch, "monitor", "dropped", False)
        self.rounds(8)
        alarm = next(each for each in self.watch()["alarms"] if each["key"].startswith("fault_"))
        self.assertEqual(alarm["title"], "Battery monitor: gives no answer")
        self.assertFalse(alarm["is_acknowledged"])
        seen = self.entry(body={"kind": "decision", "key": f"alarm:{alarm['key']}", "said": alarm["title"]})
        self.assertEqual(self.send(seen).status_code, 200)
        self.rounds(2)
        later = next(each for each in self.watch()["alarms"] if each["key"].startswith("fault_"))
        self.assertEqual((later["is_acknowledged"], later["since"]), (True, alarm["since"]))

    def test_people_of_the_simulated_house_do_as_they_are_told(self):
        there = self.standing.stand_ins.house
        self.addCleanup(there.decide, Choices())
        with mock.patch.object(self.client.app.state, "stand_ins", lambda: self.standing.base):
            told = self.client.post("/api/stand-ins/house", json={"off": ["fridge"], "generator": "off"}).json()
            self.assertEqual((told["state"]["off"], told["state"]["generator"]), (["fridge"], "off"))
            self.assertIn("cpap", told["state"]["load_ids"])
            # A load that is not there is refused, and nothing becomes of it.
            self.assertEqual(self.client.post("/api/stand-ins/house", json={"off": ["moat"]}).status_code, 424)
        self.assertEqual((there.choices.off, there.choices.generator), (frozenset({"fridge"}), GeneratorWish.OFF))

    def test_a_message_reaches_the_gateway_for_everybody_named(self):
        refused = self.client.post(f"/api/installations/{self.place}/messages", json={"subject": "a", "text": "b"})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("mail", refused.text)
        mail = {
            "host": "127.0.0.1", "port": self.standing.state["smtp_port"], "sender": "house@birchrow.example",
            "to": ["5550100@text.example", "mo@birchrow.example"],
        }  # fmt: skip
        self.put(mail=mail)
        sent = self.client.post(
            f"/api/installations/{self.place}/messages",
            json={"subject": "Birchrow 14", "text": "Heater off until noon."},
        )
        self.assertEqual(sent.json(), {"to": mail["to"]})
        taken = list(self.standing.stand_ins.gateway.taken)[-2:]
        self.assertEqual([each.to for each in taken], [(each,) for each in mail["to"]])
        self.put(mail={**mail, "port": 9})
        away = self.client.post(f"/api/installations/{self.place}/messages", json={"subject": "a", "text": "b"})
        self.assertEqual(away.status_code, 424)
        self.assertIn("did not take it", away.text)

    def test_an_installation_that_is_not_there(self):
        for method, path in (("GET", "devices"), ("PUT", "sources"), ("POST", "messages")):
            body = None if method == "GET" else {"subject": "a", "text": "b"} if method == "POST" else {}
            answer = self.client.request(method, f"/api/installations/{uuid.uuid4()}/{path}", json=body)
            self.assertEqual(answer.status_code, 404, path)
