"""The Logbook at the API: logs of any columns taken once, plots, corrections, alarms, upkeep, replay and files."""

import io
import json
import uuid
import zipfile
from datetime import UTC, datetime, timedelta

from icalendar import Calendar

from tests.api.test_building_api import BuildTest
from tests.core.logbook.made_log import Truth, csv_of, made_log
from tests.support.api import BINARY
from tests.support.designs import birchrow


class LogTest(BuildTest):
    def preview(self, content):
        answer = self.client.post(f"/api/log-preview?installation_id={self.place}", content=content, headers=BINARY)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def take(self, content, uses):
        params = {"installation_id": self.place, "uses": json.dumps(uses), "name": "monitor.csv"}
        return self.client.post("/api/log-import", params=params, content=content, headers=BINARY)

    def taken(self, content):
        uses = [column["use"] for column in self.preview(content)["columns"]]
        for use in uses:
            if use["column"].startswith("load_w "):
                use.update(quantity="load_w", part=use["column"].removeprefix("load_w "))
        answer = self.take(content, uses)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def ask(self, path, **fields):
        answer = self.client.post(f"/api/{path}", json={"design": self.home, "installation_id": self.place, **fields})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def series(self):
        return self.client.get(f"/api/installations/{self.place}/series").json()

    def plot(self, quantity, **params):
        return self.client.get(f"/api/installations/{self.place}/plot", params={"quantity": quantity, **params}).json()


class InAndOut(LogTest):
    def test_a_log_taken_twice_is_there_once_and_its_columns_are_remembered(self):
        content = csv_of(made_log(1, Truth(), stc_w=2400, days=3))
        first = self.taken(content)
        self.assertEqual((first["added"], first["known"]), (9 * first["rows"], 0))
        again = self.taken(content)
        self.assertEqual((again["added"], again["known"]), (0, first["added"]))
        self.assertTrue(self.preview(content)["is_remembered"])
        self.assertEqual(sum(each["count"] for each in self.series()), first["added"])

    def test_a_plot_keeps_the_height_of_every_reading(self):
        log = made_log(2, Truth(), stc_w=2400, days=5)
        self.taken(csv_of(log))
        drawn = self.plot("bank_v", points=50)
        volts = next(trace.values for key, trace in log.traces.items() if key[0].value == "bank_v")
        self.assertLessEqual(len(drawn["at"]), 50)
        self.assertEqual(drawn["count"], volts.size)
        self.assertAlmostEqual(max(drawn["high"]), float(volts.max()), places=3)
        self.assertAlmostEqual(min(drawn["low"]), float(volts.min()), places=3)
        self.assertEqual(self.plot("generator_w")["at"], [])
        day = self.plot("bank_v", since="2026-03-02T00:00:00Z", until="2026-03-03T00:00:00Z")
        self.assertLess(day["count"], drawn["count"])

    def test_a_reading_by_hand_joins_the_others_once_and_goes_when_it_is_struck_out(self):
        reading = self.entry(body={"kind": "reading", "values": {"bank_v": 52.6, "charge": 71.0}})
        for _ in range(3):
            self.send(reading)
        self.assertEqual([each["count"] for each in self.series()], [1, 1])
        self.send(self.entry(strikes=reading["id"], body={"kind": "event", "what": "note", "note": "misread"}))
        self.assertEqual(self.series(), [])
        self.assertEqual([each["is_struck"] for each in self.kept("reading")], [True])

    def test_everything_comes_out_again(self):
        self.send(
            self.entry(body={"kind": "reading", "values": {"bank_v": 52.6}}),
            self.entry(body={"kind": "event", "what": "fuel_bought", "amount": 20.0}),
        )
        answer = self.client.get(f"/api/installations/{self.place}/log.zip")
        with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
            entries = json.loads(archive.read("entries.json"))["entries"]
            rows = archive.read("readings.csv").decode().splitlines()
        self.assertEqual(sorted(each["kind"] for each in entries), ["event", "reading"])
        self.assertTrue(rows[1].endswith(",bank_v,V,,52.6"), rows)

    def test_a_name_that_a_spreadsheet_would_run_comes_out_as_text(self):
        body = {"kind": "reading", "values": {"bank_v": 52.6}, "part": "=HYPERLINK(1)"}
        self.send(self.entry(body=body))
        content = self.client.get(f"/api/installations/{self.place}/log.zip").content
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            self.assertIn(",'=HYPERLINK(1),", archive.read("readings.csv").decode())

    def test_what_is_no_log_and_no_use_is_refused(self):
        answer = self.client.post(
            f"/api/log-preview?installation_id={self.place}", content=b"PK\x03\x04\x00", headers=BINARY
        )
        self.assertEqual(answer.status_code, 422)
        for uses in ("no", [{"column": "a", "quantity": "magic"}], [{"column": "Gone", "is_time": True}], []):
            self.assertEqual(self.take(b"time,volts\n2026-03-01,52\n", uses).status_code, 422, uses)
        missing = self.client.post(
            f"/api/log-import?installation_id={uuid.uuid4()}&uses=[]", content=b"a,b\n1,2\n", headers=BINARY
        )
        self.assertEqual(missing.status_code, 404)
        for values in ({"bank_v": 5e6}, {"magic": 1.0}, {}):
            self.assertEqual(self.send(self.entry(body={"kind": "reading", "values": values})).status_code, 422)


class Said(LogTest):
    def test_corrections_are_offered_with_their_hours_and_applied_nowhere(self):
        before = self.client.get(f"/api/designs/{self.design}").json()["revision"]
        self.taken(csv_of(made_log(4, Truth(), stc_w=birchrow().charging.stc_w)))
        found = self.ask("log-corrections")
        keys = {each["key"] for each in found["corrections"]}
        self.assertLessEqual({"capacity", "charge_efficiency", "yield", "use.keep", "use.ease"}, keys)
        self.assertTrue(all(each["changes"] and each["figure"]["basis"] for each in found["corrections"]))
        self.assertEqual(self.client.get(f"/api/designs/{self.design}").json()["revision"], before)

    def test_alarms_of_a_creeping_controller_a_silent_fan_and_instruments_apart(self):
        now = datetime.now(UTC).replace(microsecond=0)
        entries = []
        for day in range(14):
            at = (now - timedelta(days=14 - day)).isoformat()
            entries.append(
                self.entry(
                    told_at=datetime.fromisoformat(at),
                    body={"kind": "reading", "values": {"highest_v": 57.2 + 0.45 * day}},
                )
            )
        entries.append(self.entry(body={"kind": "event", "what": "fan_check", "is_well": False, "part": "inverter"}))
        entries.append(
            self.entry(
                body={
                    "kind": "cross",
                    "shown": "volts",
                    "values": {"Hand meter": 52.4, "Monitor": 52.3, "Inverter": 54.1},
                }
            )
        )
        self.assertEqual(self.send(*entries).status_code, 200)
        found = {alarm["key"]: alarm for alarm in self.ask("log-outlook")["alarms"]}
        self.assertEqual(list(found), ["over_volts", "fan", "instruments.volts"])
        self.assertIn("creeps", found["over_volts"]["message"])

    def test_a_quiet_log_warns_of_nothing_and_upkeep_is_due_in_order(self):
        found = self.ask("log-outlook")
        self.assertEqual(found["alarms"], [])
        due = [task["due_on"] for task in found["due"]]
        self.assertEqual(due, sorted(due))
        self.send(self.entry(body={"kind": "event", "what": "upkeep", "part": "alarms"}))
        task = next(each for each in self.ask("log-outlook")["due"] if each["key"] == "alarms")
        self.assertEqual((task["days_left"], task["state"]), (30, "later"))
        calendar = Calendar.from_ical(self.client.get(f"/api/installations/{self.place}/upkeep.ics").content)
        first = {
            str(event["uid"]).split("@")[0][len(self.place) + 1 :]: event["dtstart"].dt
            for event in calendar.walk("VEVENT")
        }
        self.assertEqual(first["alarms"].isoformat(), task["due_on"])

    def test_an_outage_lived_is_replayed_beside_the_model(self):
        self.taken(csv_of(made_log(5, Truth(), stc_w=birchrow().charging.stc_w)))
        found = self.ask("log-replay", outage={"kind": "outage", "start": "2026-03-05T18:00:00", "hours_h": 48.0})
        self.assertEqual(len(found["time_h"]), len(found["read_soc_frac"]))
        self.assertAlmostEqual(found["model_soc_frac"][0], found["read_soc_frac"][1], delta=0.03)
        self.assertAlmostEqual(sum(part["points"] for part in found["parts"]), found["apart_points"], places=6)
        self.assertTrue(found["skies_are_read"])
        blind = self.ask("log-replay", outage={"kind": "outage", "start": "2020-03-05T18:00:00", "hours_h": 48.0})
        self.assertIsNone(blind["apart_points"])
