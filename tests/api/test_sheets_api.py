"""Sheets over the interface: looked at before they are taken, given out in both forms, nonsense refused with a reason."""

import base64
import json

from hearthkeep.exchange import read_sheet, read_text, read_workbook
from tests.support.api import JSON, ApiTest
from tests.support.designs import birchrow


class Sheets(ApiTest):
    def preview(self, **sheet):
        return self.client.post("/api/loads/preview-sheet", json=sheet)

    def test_a_text_is_looked_at_and_nothing_is_stored(self):
        before = len(self.client.get("/api/designs").json()["designs"])
        found = self.preview(text="name,running_w\nfridge,120\nlamp,nine\n").json()
        self.assertEqual([row["fate"] for row in found["rows"]], ["new", "faulty"])
        self.assertEqual(found["rows"][0]["load"]["running_w"], 120.0)
        self.assertEqual(found["rows"][1]["problems"][0]["read"], "nine")
        self.assertEqual(len(self.client.get("/api/designs").json()["designs"]), before)

    def test_the_ledger_goes_out_in_both_forms_and_comes_back_the_same(self):
        loads = birchrow().loads
        for kind, read in (("csv", lambda content: read_text(content.decode("utf-8-sig"))), ("xlsx", read_workbook)):
            with self.subTest(kind):
                answer = self.client.post(f"/api/loads/export-{kind}", content=self.document(), headers=JSON)
                self.assertIn(f'filename="loads.{kind}"', answer.headers["content-disposition"])
                self.assertEqual(tuple(row.load for row in read_sheet(read(answer.content), ()).rows), loads)
        # And through the interface, as a workbook.
        given = [load.model_dump(mode="json") for load in loads]
        again = self.preview(workbook_base64=base64.b64encode(answer.content).decode(), loads=given).json()
        self.assertEqual({row["fate"] for row in again["rows"]}, {"same"})

    def test_what_is_no_workbook_is_refused_in_words(self):
        for text in ("éè", "####", "abc", base64.b64encode(b"not a workbook").decode()):
            with self.subTest(text):
                answer = self.preview(workbook_base64=text)
                self.assertEqual((answer.status_code, answer.json()["type"]), (422, "urn:hearthkeep:problem:sheet"))
                self.assertTrue(answer.json()["detail"])

    def test_more_than_a_sheet_may_hold_is_refused(self):
        self.assertEqual(self.preview(text="x" * 900_001).status_code, 422)
        self.assertEqual(self.preview(loads=[{}] * 1001).status_code, 422)


class EveryAddress(ApiTest):
    """What holds for each operation the interface describes."""

    def operations(self):
        paths = self.client.get("/api/openapi.json").json()["paths"]
        return [(path, method, operation) for path, item in paths.items() for method, operation in item.items()]

    def test_nonsense_is_answered_with_a_problem_document_as_described(self):
        refused = 0
        for path, method, operation in self.operations():
            address = path.replace("{kind}", "battery").replace("{number}", "x")
            for name in ("design_id", "unit_id", "key"):
                address = address.replace(f"{{{name}}}", "nope")
            for body in (b"", b"\xff\xfe", b"[1, 2", b'{"a": 1}', json.dumps([None] * 50).encode()):
                with self.subTest(f"{method} {address}", body=body[:8]):
                    answer = self.client.request(method, address, content=body, headers=JSON)
                    self.assertLess(answer.status_code, 500, answer.text)
                    if answer.status_code < 400:
                        self.assertIn(str(answer.status_code), operation["responses"])
                        continue
                    refused += 1
                    self.assertEqual(answer.headers["content-type"], "application/problem+json")
                    problem = answer.json()
                    self.assertEqual(problem["status"], answer.status_code)
                    self.assertTrue(problem["title"] and problem["detail"])
                    self.assertIn("application/problem+json", operation["responses"]["4XX"]["content"])
        self.assertGreater(refused, 100)

    def test_the_problem_document_is_described(self):
        schemas = self.client.get("/api/openapi.json").json()["components"]["schemas"]
        self.assertEqual(
            set(schemas["Problem"]["properties"]),
            {"type", "title", "status", "detail", "code", "fix", "problems", "newest_revision"},
        )
        self.assertIn("ProblemField", schemas)
        self.assertNotIn("HTTPValidationError", schemas)
