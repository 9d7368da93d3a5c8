"""The web interface on real PostgreSQL: documents, problems, and what may not reach it."""

import asyncio
import json
import uuid
from datetime import datetime
from unittest import mock

from hearthkeep.api.designs import LIST_WAITS_S
from hearthkeep.api.held import PartsSent
from hearthkeep.api.problems import MAX_REQUEST_BYTES
from hearthkeep.core.design import MAX_LOADS
from hearthkeep.store import Summaries
from hearthkeep.workers import Workers, tasks
from tests.support.api import JSON, PORT, ApiTest
from tests.support.designs import BIRCHROW, ROOT, birchrow


class Starting(ApiTest):
    def test_every_point_is_offered_with_what_it_comes_to_and_made(self):
        offered = self.client.get("/api/starting-points").json()
        self.assertEqual([point["is_empty"] for point in offered], [True, True, *[False] * 9])
        for point in offered:
            figures = point["figures"]
            self.assertEqual((figures["stops"], figures["mends"]), (0, 0), point["start"])
            self.assertEqual(figures["hours_carried_h"], figures["duration_h"])
            self.assertEqual(figures["daily_wh"] == 0, point["is_empty"])
        made = self.client.post("/api/designs", json={"start": "cart"})
        self.assertEqual((made.status_code, made.json()["document"]["name"]), (201, "Cart"))
        answer = self.client.post("/api/designs", json={"start": "castle"})
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["field"]), (422, "start"))


class DesignRoutes(ApiTest):
    def test_the_life_of_a_design(self):
        made = self.client.post("/api/designs", json={"start": "home", "name": "Test house"}).json()
        self.assertEqual((made["revision"], made["document"]["loads"]), (1, []))
        address = f"/api/designs/{made['id']}"
        document = {**made["document"], "name": "Other name"}
        saved = self.client.put(address, params={"expected_revision": 1}, json=document).json()
        self.assertEqual((saved["revision"], saved["can_undo"]), (2, True))
        undone = self.client.post(f"{address}/undo", params={"expected_revision": 2}).json()
        self.assertEqual((undone["document"]["name"], undone["can_redo"]), ("Test house", True))
        self.assertEqual(self.client.post(f"{address}/redo", params={"expected_revision": 3}).json()["revision"], 4)
        self.assertEqual(len(self.client.get(f"{address}/revisions").json()), 4)
        self.assertEqual(self.client.get(f"{address}/revisions/1").json()["name"], "Test house")
        copy = self.client.post(f"{address}/duplicate", json={"name": "Copy"}).json()
        self.assertNotEqual(copy["id"], made["id"])
        self.assertEqual(self.client.delete(address).status_code, 204)
        listed = [entry["id"] for entry in self.client.get("/api/designs").json()["designs"]]
        self.assertIn(copy["id"], listed)
        self.assertNotIn(made["id"], listed)
        self.assertEqual(self.client.post(f"{address}/restore").json()["revision"], 4)

    def test_the_list_carries_the_assessment(self):
        made = self.made(name="Listed")
        row = next(entry for entry in self.listed() if entry["id"] == made["id"])
        assessed = self.client.post("/api/assessments", content=self.document(name="Listed"), headers=JSON).json()
        self.assertEqual(row["figures"]["hours_carried_h"], assessed["outage"]["hours_carried_h"])
        self.assertEqual((row["figures"]["stops"], row["trouble"]), (2, ""))

    def test_a_second_look_at_the_list_assesses_nothing(self):
        self.made(name="Looked at twice")
        first = self.listed()
        with mock.patch.object(Workers, "run", side_effect=AssertionError("assessed again")):
            self.assertEqual(self.client.get("/api/designs").json()["designs"], first)

    def test_what_takes_long_is_pending_and_found_once(self):
        known = self.made(name="Known before")["id"]
        self.listed()
        slow, real, calls = self.made(name="Slow")["id"], Workers.run, []

        async def slowly(workers, task, *given):
            calls.append(task)
            await asyncio.sleep(3 * LIST_WAITS_S)
            return await real(workers, task, *given)

        with mock.patch.object(Workers, "run", slowly):
            rows = {row["id"]: row for row in self.client.get("/api/designs").json()["designs"]}
            self.assertEqual((rows[slow]["is_pending"], rows[slow]["figures"], rows[slow]["trouble"]), (True, None, ""))
            self.assertEqual((rows[known]["is_pending"], rows[known]["figures"]["stops"]), (False, 2))
            rows = {row["id"]: row for row in self.listed()}
        self.assertEqual((rows[slow]["figures"]["stops"], calls), (2, [tasks.summarise]))

    def test_a_stale_save_is_a_problem_that_names_the_newest(self):
        made = self.made()
        address = f"/api/designs/{made['id']}"
        self.client.put(address, params={"expected_revision": 1}, content=self.document(name="b"), headers=JSON)
        answer = self.client.put(
            address, params={"expected_revision": 1}, content=self.document(name="c"), headers=JSON
        )
        self.assertEqual((answer.status_code, answer.json()["newest_revision"]), (409, 2))
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        self.assertEqual(self.client.get(address).json()["document"]["name"], "b")

    def test_a_saved_file_opens_again_as_the_same_design(self):
        for name in ("birchrow-14", "birchrow-16", "relay-cart"):
            with self.subTest(name):
                document = json.loads((ROOT / "examples" / f"{name}.json").read_text())
                made = self.client.post("/api/designs/import", content=json.dumps(document), headers=JSON).json()
                file = self.client.get(f"/api/designs/{made['id']}/design.json")
                self.assertRegex(file.headers["content-disposition"], r'^attachment; filename="[a-z0-9-]+\.json"$')
                again = self.client.post("/api/designs/import", content=file.content, headers=JSON).json()
                self.assertNotEqual(again["id"], made["id"])
                self.assertEqual(again["document"], made["document"])

    def test_the_largest_design_saves_as_a_file_that_may_be_opened(self):
        full = {
            "tier": "keep", "running_w": 12345.678901, "start_w": 23456.78, "duty_frac": 0.123456789, "quantity": 500,
            "hours": [[0, 1], [2, 3], [4, 5], [6, 7]], "standby_w": 12.345678, "link": "x" * 40, "name": "n" * 200,
            "known": {"kind": "meter", "energy_kwh": 1.234567, "over_h": 48.123456, "running_w": 12345.678901},
            "month_factors": [0.123456789] * 12, "dark_day": "substitute", "substitute_name": "s" * 40,
        }  # fmt: skip
        loads = [{**full, "id": f"load-{number}"} for number in range(MAX_LOADS)]
        made = self.made(loads=loads)
        file = self.client.get(f"/api/designs/{made['id']}/design.json").content
        self.assertLess(len(file), MAX_REQUEST_BYTES)
        self.assertEqual(self.client.post("/api/designs/import", content=file, headers=JSON).status_code, 201)

    def test_a_name_of_signs_alone_still_names_a_file(self):
        made = self.made(name="«Ωμέγα»")
        file = self.client.get(f"/api/designs/{made['id']}/design.json")
        self.assertEqual(file.headers["content-disposition"], 'attachment; filename="design.json"')
        self.assertEqual(file.json()["name"], "«Ωμέγα»")
        gone = "/api/designs/00000000-0000-0000-0000-000000000000/design.json"
        self.assertEqual(self.client.get(gone).status_code, 404)

    def test_unknown_and_malformed_ids(self):
        self.assertEqual(self.client.get("/api/designs/00000000-0000-0000-0000-000000000000").status_code, 404)
        problem = self.client.get("/api/designs/../../etc/passwd%00")
        self.assertIn(problem.status_code, (404, 422))
        self.assertEqual(self.client.get("/api/designs/nonsense").json()["problems"][0]["field"], "path.design_id")


class Assessments(ApiTest):
    def test_a_design_is_assessed_without_being_stored(self):
        answer = self.client.post("/api/assessments", content=self.document(), headers=JSON)
        found = answer.json()
        self.assertLess(abs(found["outage"]["ledger_wh"]["difference"]), 1e-3)
        self.assertEqual(len(found["loads"]["rows"]), len(birchrow().loads))
        self.assertIn("outage.hours_carried_h", found["figures"])

    def test_bad_documents_are_refused_field_by_field_and_nothing_saved_is_harmed(self):
        made = self.made()
        address = f"/api/designs/{made['id']}"
        for text in (
            self.document(name=""),
            self.document(extra=1),
            self.document().replace('"running_w": 34.0', '"running_w": NaN'),
            self.document().replace('"duration_h": 72.0', '"duration_h": 1e309'),
            "[" * 200_000,
            '{"a":' * 100_000,
            "",
            "not json",
        ):
            with self.subTest(text[:30]):
                for answer in (
                    self.client.post("/api/assessments", content=text, headers=JSON),
                    self.client.put(address, params={"expected_revision": 1}, content=text, headers=JSON),
                ):
                    self.assertEqual(answer.status_code, 422)
                    problem = answer.json()["problems"][0]
                    self.assertTrue(problem["field"] and problem["accepted"])
        self.assertEqual(self.client.get(address).json()["revision"], 1)

    def test_a_line_is_read(self):
        entry = self.client.post("/api/loads/read-line", json={"line": "fan 20W 8-12", "tier": "ease"}).json()
        self.assertEqual((entry["load"]["hours"], entry["load"]["tier"]), ([[8, 12]], "ease"))
        long = self.client.post("/api/loads/read-line", json={"line": "x" * 401})
        self.assertEqual(long.status_code, 422)

    def test_the_schema_is_served_and_describes_the_demo(self):
        schema = self.client.get("/api/design-schema.json").json()
        self.assertEqual(schema["title"], "Design")
        self.assertLessEqual(set(json.loads(BIRCHROW.read_text())), set(schema["properties"]))

    def test_the_health_page_says_whether_an_assessment_begins_at_once(self):
        workers = self.client.app.state.workers
        with mock.patch.object(workers, "_ready", None):
            self.assertFalse(self.client.get("/api/health").json()["is_ready"])
        self.client.post("/api/assessments", content=self.document(), headers=JSON)
        self.assertTrue(self.client.get("/api/health").json()["is_ready"])

    def test_the_health_page_asks_the_database(self):
        self.assertEqual(self.client.get("/api/health").json()["database"], "answers")


class EditAndSave(ApiTest):
    """One sending per edit: the document goes out for its assessment, and the save names it."""

    def assessed(self, **fields):
        answer = self.client.post("/api/assessments", content=self.document(**fields), headers=JSON)
        return answer.headers["held-as"]

    def test_a_save_names_what_was_just_assessed(self):
        made = self.made()
        address, held = f"/api/designs/{made['id']}", self.assessed(name="Edited")
        saved = self.client.put(address, params={"expected_revision": 1, "held": held})
        self.assertEqual(saved.status_code, 200, saved.text)
        self.assertEqual(saved.json().keys(), {"id", "revision", "saved_at", "can_undo", "can_redo"})
        self.assertEqual(self.client.get(address).json()["document"], {**made["document"], "name": "Edited"})
        again = self.client.put(address, params={"expected_revision": 2, "held": held}).json()
        self.assertEqual(again["revision"], 2)

    def test_what_is_held_no_more_has_to_be_sent(self):
        made = self.made()
        with mock.patch("hearthkeep.api.held.MOST_DOCUMENTS", 1):
            held = self.assessed(name="First")
            self.assessed(name="Second")
        answer = self.client.put(f"/api/designs/{made['id']}", params={"expected_revision": 1, "held": held})
        self.assertEqual(answer.status_code, 410)

    def test_the_strip_comes_first_and_only_changed_parts_of_the_rest_after_it(self):
        def strip(**fields):
            answer = self.client.post("/api/assessments/endurance", content=self.document(**fields), headers=JSON)
            return answer.json(), answer.headers["held-as"]

        def rest(held, **query):
            answer = self.client.get(f"/api/assessments/{held}", params=query)
            self.assertEqual(answer.status_code, 200, answer.text)
            return answer.json(), answer.headers["parts-as"]

        whole = self.client.post("/api/assessments", content=self.document(), headers=JSON).json()
        shown, held = strip()
        found, name = rest(held)
        self.assertEqual({**found, **{key: shown[key] for key in ("outage", "levels", "missing")}}, whole)
        # Of the very same nothing is sent, under a new name all the same.
        same, other = rest(held, since=name)
        self.assertEqual(same, {})
        self.assertNotEqual(name, other)
        # A name changes nothing of the assessment, the policy only what rests on the outage.
        _, renamed = strip(name="Renamed")
        self.assertEqual(rest(renamed, since=other)[0], {})
        _, drier = strip(policy={"ease_level_frac": 0.6})
        news, _ = rest(drier, since=other)
        self.assertIn("prices", news)
        self.assertTrue({"loads", "bank", "inverter", "wiring", "transfer"}.isdisjoint(news))
        whole = self.client.post(
            "/api/assessments", content=self.document(policy={"ease_level_frac": 0.6}), headers=JSON
        ).json()
        self.assertEqual({**found, **news}, {key: whole[key] for key in found})
        # Parts that are not known any more are sent whole.
        self.assertEqual(rest(drier, since="0" * 32)[0].keys(), found.keys())

    def test_the_rest_of_a_document_that_is_held_no_more_is_asked_with_it(self):
        self.assertEqual(self.client.get(f"/api/assessments/{'0' * 32}").status_code, 410)
        self.assertEqual(self.client.get("/api/assessments/nonsense").status_code, 422)

    def test_names_of_parts_are_forgotten_one_after_the_other(self):
        sent = PartsSent()
        parts = {"loads": b"1", "bank": b"2"}
        first, name = sent.news(parts, None)
        self.assertEqual(json.loads(first), {"loads": 1, "bank": 2})
        self.assertEqual(json.loads(sent.news({**parts, "bank": b"3"}, name)[0]), {"bank": 3})
        with mock.patch("hearthkeep.api.held.MOST_ANSWERS", 1):
            sent.news(parts, None)
        self.assertEqual(json.loads(sent.news(parts, name)[0]), {"loads": 1, "bank": 2})

    def test_a_save_whose_answer_was_lost_is_the_same_save(self):
        made, key = self.made(), str(uuid.uuid4())
        address, query = f"/api/designs/{made['id']}", {"expected_revision": 1, "key": key}
        first = self.client.put(address, params=query, content=self.document(name="b"), headers=JSON)
        again = self.client.put(address, params=query, content=self.document(name="b"), headers=JSON)
        self.assertEqual((first.status_code, again.json()), (200, first.json()))
        back = {"expected_revision": 2, "key": str(uuid.uuid4())}
        steps = [self.client.post(f"{address}/undo", params=back).json()["revision"] for _ in range(2)]
        self.assertEqual(steps, [3, 3])


class ByPages(ApiTest):
    def test_pages_and_words(self):
        ids = [self.made(name=f"Paged house {number:02}")["id"] for number in range(7)]
        self.client.delete(f"/api/designs/{ids[0]}")

        def page(**query):
            found = self.client.get("/api/designs", params={"words": "paged HOUSE", "per_page": 4, **query}).json()
            return [entry["id"] for entry in found["designs"]], found["total"]

        self.assertEqual(page(), (ids[:2:-1], 6))
        self.assertEqual(page(page=2), ([ids[2], ids[1]], 6))
        self.assertEqual(page(page=3), ([], 6))
        self.assertEqual(page(deleted=True), ([ids[0]], 1))
        self.assertEqual(page(words="paged 05"), ([ids[5]], 1))
        self.assertEqual(page(words="100% _"), ([], 0))


class Answers(ApiTest):
    HEADERS = frozenset({
        "content-security-policy", "x-content-type-options", "x-frame-options", "referrer-policy", "permissions-policy",
        "cross-origin-resource-policy", "cross-origin-opener-policy", "cache-control",
    })  # fmt: skip

    def test_every_answer_carries_the_security_headers(self):
        too_long = {"content-length": str(10**9)}
        for answer in (
            self.client.get("/api/health"),
            self.client.get("/api/designs/nonsense"),
            self.client.get("/api/nowhere"),
            self.client.get("/api/health", headers={"host": "elsewhere.example"}),
            self.client.get("/api/health", headers={"origin": "http://elsewhere.example"}),
            self.client.post("/api/assessments", content=b"", headers=too_long),
            self.client.put("/api/health"),
        ):
            with self.subTest(answer.status_code):
                self.assertLessEqual(self.HEADERS, answer.headers.keys())

    def test_so_does_a_fault_of_ours_which_is_logged_and_not_shown(self):
        with (
            mock.patch.object(Summaries, "page", side_effect=ZeroDivisionError("secret detail")),
            self.assertLogs("hearthkeep.api.guard", "ERROR") as logged,
        ):
            answer = self.client.get("/api/designs")
        self.assertEqual((answer.status_code, answer.json()["code"]), (500, "UNEXPECTED"))
        self.assertLessEqual(self.HEADERS, answer.headers.keys())
        self.assertNotIn("secret detail", answer.text)
        self.assertIn("secret detail", "\n".join(logged.output))

    def test_head_is_answered_as_get_without_a_body(self):
        for path in ("/api/health", "/api/designs", "/api/nowhere"):
            head, get = self.client.head(path), self.client.get(path)
            self.assertEqual((head.status_code, head.content), (get.status_code, b""))
            self.assertEqual(head.headers["content-length"], get.headers["content-length"])

    def test_a_document_sent_as_plain_text_is_refused(self):
        # What a form of another page could send without asking.
        for kind in ("text/plain", "text/plain; charset=utf-8", "application/x-www-form-urlencoded", ""):
            for path in ("/api/designs/import", "/api/assessments"):
                answer = self.client.post(path, content=self.document(), headers={"content-type": kind})
                self.assertEqual(answer.status_code, 415, kind)
        kinds = {"content-type": "text/plain"}
        self.assertIn(
            self.client.post("/api/designs", content='{"kind":"home","name":"x"}', headers=kinds).status_code,
            (415, 422),
        )
        self.assertEqual(self.client.post("/api/weather-years", content=b"x", headers=kinds).status_code, 415)

    def test_sixty_thousand_unknown_fields_make_a_short_answer(self):
        document = {**json.loads(self.document()), **{f"f{number}": 0 for number in range(60_000)}}
        text = json.dumps(document)
        for path, content in (
            ("/api/assessments", text),
            ("/api/loads/prices", json.dumps({"design": document, "load_id": "x"})),
            ("/api/loads/preview-sheet", json.dumps({f"f{number}": 0 for number in range(60_000)})),
            ("/api/loads/measure", json.dumps({f"f{number}": 0 for number in range(3_000)})),
        ):
            with self.subTest(path):
                answer = self.client.post(path, content=content[:MAX_REQUEST_BYTES], headers=JSON)
                self.assertEqual(answer.status_code, 200 if path.endswith("sheet") else 422)
                self.assertLess(len(answer.content), 20_000)


class Guarded(ApiTest):
    def get(self, **headers):
        return self.client.get(
            "/api/designs", headers={name.replace("_", "-"): value for name, value in headers.items()}
        )

    def test_own_pages_pass(self):
        self.assertEqual(self.get().status_code, 200)
        self.assertEqual(self.get(origin=f"http://localhost:{PORT}", sec_fetch_site="same-origin").status_code, 200)

    def test_another_host_name_is_refused(self):
        for host in ("evil.example", f"evil.example:{PORT}", "127.0.0.1", f"127.0.0.1:{PORT + 1}", ""):
            with self.subTest(host):
                self.assertEqual(self.get(host=host).status_code, 421)

    def test_another_origin_can_neither_read_nor_write(self):
        for origin in ("http://evil.example", "null", f"http://127.0.0.1:{PORT + 1}", f"https://127.0.0.1:{PORT}"):
            with self.subTest(origin):
                self.assertEqual(self.get(origin=origin).status_code, 403)
                answer = self.client.post(
                    "/api/designs", json={"start": "home", "name": "x"}, headers={"origin": origin}
                )
                self.assertEqual(answer.status_code, 403)
                self.assertNotIn("access-control-allow-origin", answer.headers)
        self.assertEqual(self.get(sec_fetch_site="cross-site").status_code, 403)
        self.assertEqual(self.get(sec_fetch_site="same-site").status_code, 403)

    def test_a_large_request_is_refused_unread(self):
        answer = self.client.post("/api/assessments", content=b"x" * (MAX_REQUEST_BYTES + 1), headers=JSON)
        self.assertEqual(answer.status_code, 413)
        declared = self.client.post("/api/assessments", content=b"{}", headers={**JSON, "content-length": "200000000"})
        self.assertEqual(declared.status_code, 413)
        self.assertIn("1,000,000 bytes", declared.json()["detail"])

    def test_a_large_request_without_a_length_is_cut_off(self):
        def chunks():
            for _ in range(30):
                yield b" " * 100_000

        answer = self.client.post("/api/assessments", content=chunks(), headers=JSON)
        self.assertEqual(answer.status_code, 413)

    def test_every_answer_carries_the_policy(self):
        policy = self.get().headers["content-security-policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertNotIn("unsafe", policy)

    def test_the_summaries_dates_are_readable(self):
        self.made()
        datetime.fromisoformat(self.get().json()["designs"][0]["saved_at"])
