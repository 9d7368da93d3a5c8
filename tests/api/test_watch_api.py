"""Watch over HTTP: an outage written into the log of an installation, and what is said of it."""

import uuid
from datetime import UTC, datetime, timedelta

from tests.api.test_building_api import BuildTest


class Watching(BuildTest):
    def setUp(self):
        super().setUp()
        self.now = datetime.now(UTC)
        self.local = self.now + timedelta(hours=self.home["site"]["utc_offset_h"])

    def write(self, body, *, hours_ago=0.0, **more):
        entry = self.entry(self.now - timedelta(hours=hours_ago), body=body, **more)
        sent = self.send(entry, sent_at=self.now)
        self.assertEqual(sent.status_code, 200, sent.text)
        return entry["id"]

    def watch(self, **more):
        asked = {"design": self.home, "installation_id": self.place, **more}
        answer = self.client.post("/api/watch", json=asked)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def begin(self):
        began = self.local - timedelta(hours=10)
        return self.write({"kind": "watch", "what": "began", "moment": f"{began:%Y-%m-%dT%H:%M:%S}"})

    def test_without_an_installation_the_plan_speaks(self):
        view = self.watch(installation_id=None)
        self.assertEqual((view["phase"], view["charge_is_read"]), ("quiet", False))

    def test_an_outage_its_readings_and_a_decision(self):
        self.begin()
        self.write({"kind": "reading", "values": {"charge": 55.0}}, hours_ago=0.1)
        view = self.watch()
        self.assertEqual((view["phase"], view["charge"]["value"], view["charge"]["is_fresh"]), ("on", 0.55, True))
        step = view["instructions"][0]
        self.assertEqual(step["key"], "leave_off")
        self.write({"kind": "decision", "key": step["key"], "said": step["title"], "off": step["off"]})
        after = self.watch()
        self.assertEqual(sorted(after["off"]), sorted(step["off"]))
        self.assertGreater(after["left"][1]["hours"], view["left"][1]["hours"])

    def test_what_is_struck_out_was_never_said(self):
        begun = self.begin()
        self.write({"kind": "event", "what": "note", "note": "it was the main fuse"}, strikes=begun)
        self.assertEqual(self.watch()["phase"], "quiet")

    def test_bad_questions_are_named(self):
        for more, field in (({"now": "yesterday"}, "now"), ({"installation_id": "x"}, "installation_id")):
            asked = {"design": self.home, "installation_id": self.place, **more}
            answer = self.client.post("/api/watch", json=asked)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(field, answer.text)

    def test_an_installation_that_is_not_there(self):
        answer = self.client.post("/api/watch", json={"design": self.home, "installation_id": str(uuid.uuid4())})
        self.assertEqual(answer.status_code, 404)
