"""What one request keeps is kept as one: cut off at any statement, all of it is there or nothing, and sent again it is whole."""

import contextlib
import uuid
from unittest import mock

from sqlalchemy import event, text

from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.store import Alternatives, Readings, WeatherYears, together
from hearthkeep.store.database import transaction
from tests.api.test_log_api import LogTest
from tests.support.api import BINARY


class CutError(Exception):
    """The server was ended here."""


class Cut(LogTest):
    @contextlib.contextmanager
    def cut_at(self, number):
        """End at the statement of this number; tells whether there were so many."""
        state = {"seen": 0, "was_cut": False}

        def count(*_):
            state["seen"] += 1
            if state["seen"] == number:
                state["was_cut"] = True
                raise CutError

        copied = mock.patch("hearthkeep.store.readings._copied", side_effect=self.copying(count))
        event.listen(self.client.app.state.engine, "before_cursor_execute", count)
        try:
            with copied, contextlib.suppress(CutError):
                yield state
        finally:
            event.remove(self.client.app.state.engine, "before_cursor_execute", count)

    @staticmethod
    def copying(count):
        from hearthkeep.store import readings

        real = readings._copied

        def copied(*given):
            count()
            real(*given)

        return copied

    def amounts(self):
        """Rows of everything that a request may keep."""
        tables = ("designs", "revisions", "log_entries", "series", "readings", "log_imports", "weather_years", "units")
        with transaction(self.engine) as session:
            return {table: session.scalar(text(f"select count(*) from {table}")) for table in tables}

    def test_an_entry_and_its_readings(self):
        for number in range(1, 40):
            reading = self.entry(body={"kind": "reading", "values": {"bank_v": 52.6, "charge": 71.0}})
            before = self.amounts()
            with self.cut_at(number) as state:
                self.send(reading)
            if not state["was_cut"]:
                break
            self.assertEqual(self.amounts(), before, number)
            # The phone that sends again is told the truth.
            self.assertEqual(self.send(reading).json()["added"], 1)
            after = self.amounts()
            self.assertEqual(after["log_entries"] - before["log_entries"], 1)
            self.assertEqual(after["readings"] - before["readings"], 2, number)
        self.assertGreater(number, 4)
        self.assertLess(number, 39)

    def test_a_log_and_the_uses_of_its_columns(self):
        for number in range(1, 40):
            content = f"time,volts\n2026-03-{number % 28 + 1:02} 10:00,52.{number}\n".encode()
            uses = [column["use"] for column in self.preview(content)["columns"]]
            before = self.amounts()
            with self.cut_at(number) as state:
                self.take(content, uses)
            if not state["was_cut"]:
                break
            self.assertEqual(self.amounts(), before, number)
        self.assertGreater(number, 4)
        self.assertLess(number, 39)

    def test_a_bundle_of_which_one_alternative_is_bad_leaves_nothing_behind(self):
        label = {"label": "Smaller"}
        for _ in range(2):
            self.assertEqual(self.client.post(f"/api/designs/{self.design}/alternatives", json=label).status_code, 201)
        bundle = self.client.get(f"/api/designs/{self.design}/bundle.zip").content
        before, real, kept = self.amounts(), Alternatives.keep, []

        def keep(alternatives, *given):
            kept.append(given)
            if len(kept) == 2:
                raise InputError((FieldProblem(field="alternatives", value="2", accepted="must be good"),))
            return real(alternatives, *given)

        with mock.patch.object(Alternatives, "keep", keep):
            answer = self.client.post("/api/bundles", content=bundle, headers=BINARY)
        self.assertEqual((answer.status_code, len(kept)), (422, 2))
        self.assertEqual(self.amounts(), before)
        self.assertEqual(self.client.post("/api/bundles", content=bundle, headers=BINARY).status_code, 201)
        self.assertEqual(self.amounts()["designs"], before["designs"] + 3)

    def test_what_is_kept_together_is_seen_by_others_when_it_is_whole(self):
        readings, years = Readings(self.engine), WeatherYears(self.engine)
        with self.assertRaises(CutError), together(self.engine):
            installation = self.client.app.state.logbook.begin(uuid.UUID(self.design), "Inside")
            self.assertEqual(readings.series(installation.id), ())
            years.everything()
            raise CutError
        named = [each["name"] for each in self.client.get(f"/api/designs/{self.design}/installations").json()]
        self.assertNotIn("Inside", named)


class KeptBadly(LogTest):
    """Rows of an earlier release, or another one, that no page can use."""

    def test_a_bad_row_stands_there_with_its_reason_and_hides_none_of_its_neighbours(self):
        self.send(self.entry(body={"kind": "reading", "values": {"bank_v": 52.6}}))
        self.send(self.entry(body={"kind": "watch", "what": "began"}))
        rows = {
            "year 0": ("0001-01-01T00:00:00+14:00", '{"kind": "event", "what": "note"}'),
            "year 9999": ("9999-12-31T23:59:59-14:00", '{"kind": "event", "what": "note"}'),
            "no kind": ("2026-03-01T10:00:00+00:00", '{"kind": "gone"}'),
            "no field": ("2026-03-01T10:00:00+00:00", '{"kind": "forecast", "first": "9999-12-30", "days": []}'),
        }
        with transaction(self.engine) as session:
            for at, body in rows.values():
                session.execute(
                    text(
                        "insert into log_entries (id, installation_id, kind, at, told_at, who, body) values "
                        "(:id, :place, 'event', cast(:at as timestamptz), cast(:at as timestamptz), '', cast(:body as jsonb))"
                    ),
                    {"id": uuid.uuid4(), "place": self.place, "at": at, "body": body},
                )
            session.execute(
                text("insert into log_entries (id, installation_id, kind, at, told_at, who, body) values "
                     "(:id, :place, 'gate', now(), now(), '', cast('{\"kind\": \"gate\", \"gate\": 5}' as jsonb))"),
                {"id": uuid.uuid4(), "place": self.place},
            )  # fmt: skip
        kept = self.kept()
        self.assertEqual([bool(each["trouble"]) for each in kept].count(True), 5)
        self.assertEqual(sum(not each["trouble"] for each in kept), 2)
        self.assertEqual(self.client.get(f"/api/installations/{self.place}/log.zip").status_code, 200)
        self.assertEqual(self.client.get(f"/api/installations/{self.place}/upkeep.ics").status_code, 200)
        self.ask("log-outlook")
        self.ask("watch")
        self.sheet()
        bad = next(each for each in kept if "outside the years" in each["trouble"])
        note = {"kind": "event", "what": "note", "note": "struck out"}
        self.assertEqual(self.send(self.entry(strikes=bad["id"], body=note)).json()["added"], 1)
        self.assertIn(bad["id"], [each["id"] for each in self.kept() if each["is_struck"]])


class LogsWithOddRows(LogTest):
    def taken_of(self, content):
        preview = self.preview(content)
        answer = self.take(content, [column["use"] for column in preview["columns"]])
        self.assertEqual(answer.status_code, 200, answer.text)
        return preview, answer.json()

    def test_rows_that_end_in_a_separator_are_read_by_their_columns(self):
        _, found = self.taken_of(b"time,volts,amps\n2026-03-01 10:00,52.5,-3.5,\n2026-03-01 11:00,52.4,-3.0,\n")
        self.assertEqual((found["added"], found["left_out"], found["outside"]), (4, 0, {}))
        self.assertEqual(self.plot("bank_v")["mean"], [52.5, 52.4])
        self.assertTrue(self.plot("bank_v")["at"][0].startswith("2026-03-01"))

    def test_columns_alike_after_trimming_are_two_in_the_preview_and_in_the_import(self):
        preview, found = self.taken_of(b"time,volts,volts \n2026-03-02 10:00,52.5,52.7\n")
        self.assertEqual([each["name"] for each in preview["columns"]], ["time", "volts", "volts (2)"])
        self.assertEqual(found["added"], 2)

    def test_rows_of_too_many_cells_are_counted_and_named(self):
        content = b"time,volts\n2026-03-03 10:00,52.5\n2026-03-03 11:00,52.4,7,8\n2026-03-03 12:00,52.3\n"
        content += b"2026-03-03 13:00" + b",1" * 30 + b"\n"
        preview, found = self.taken_of(content)
        self.assertEqual((preview["left_out"], found["left_out"], found["added"]), (2, 2, 2))
        self.assertEqual(found["first_left_out"][:26], "row 3: '2026-03-03 11:00,5")
        self.assertEqual(found["first_bad_time"], "")
