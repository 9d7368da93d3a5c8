"""The web interface on real PostgreSQL: documents, problems, and what may not reach it."""

import json
from datetime import datetime
from unittest import mock

from hearthkeep.api.problems import MAX_REQUEST_BYTES
from hearthkeep.core.design import MAX_LOADS
from hearthkeep.workers import Workers
from tests.support.api import JSON, PORT, ApiTest
from tests.support.designs import BIRCHROW, ROOT, birchrow


class DesignRoutes(ApiTest):
    def test_the_life_of_a_design(self):
        made = self.client.post("/api/designs", json={"kind": "home", "name": "Test house"}).json()
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
        row = next(entry for entry in self.client.get("/api/designs").json()["designs"] if entry["id"] == made["id"])
        assessed = self.client.post("/api/assessments", content=self.document(name="Listed"), headers=JSON).json()
        self.assertEqual(row["figures"]["hours_carried_h"], assessed["outage"]["hours_carried_h"])
        self.assertEqual((row["figures"]["stops"], row["trouble"]), (1, ""))

    def test_a_second_look_at_the_list_assesses_nothing(self):
        self.made(name="Looked at twice")
        first = self.client.get("/api/designs").json()["designs"]
        with mock.patch.object(Workers, "run", side_effect=AssertionError("assessed again")):
            self.assertEqual(self.client.get("/api/designs").json()["designs"], first)

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
            "hours": [[0, 1], [2, 3], [4, 5], [6, 7]], "standby_w": 12.345678, "link": "x" * 40, "name": "n" * 120,
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

    def test_the_health_page_asks_the_database(self):
        self.assertEqual(self.client.get("/api/health").json()["database"], "answers")


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
                    "/api/designs", json={"kind": "home", "name": "x"}, headers={"origin": origin}
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
