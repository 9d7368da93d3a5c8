"""Each kind of error a person can cause has one stable code, a title and a fix, and reaches the page with them."""

import unittest

from hearthkeep.api.problems import KNOWN
from hearthkeep.core.errors import HearthKeepError
from tests.support.api import JSON, ApiTest


def kinds(base: type[HearthKeepError] = HearthKeepError) -> list[type[HearthKeepError]]:
    return [kind for below in base.__subclasses__() for kind in (below, *kinds(below))]


class Kinds(unittest.TestCase):
    def test_each_has_a_code_of_its_own_or_its_family_and_says_what_to_do(self):
        by_code: dict[str, set[str]] = {}
        for kind in kinds():
            if kind.__subclasses__() and kind not in KNOWN:
                continue
            with self.subTest(kind.__name__):
                self.assertRegex(kind.code, r"^[A-Z][A-Z_]+$")
                self.assertNotEqual(kind.code, HearthKeepError.code)
                self.assertNotEqual(kind.fix, HearthKeepError.fix)
                self.assertTrue(kind.fix.endswith("."))
                by_code.setdefault(kind.code, set()).add(kind.title)
        for code, titles in by_code.items():
            self.assertEqual(len(titles), 1, code)


class Answers(ApiTest):
    def test_a_refusal_carries_code_and_fix(self):
        answer = self.client.post("/api/assessments", content="{}", headers=JSON).json()
        self.assertEqual((answer["code"], answer["type"]), ("INPUT", "urn:hearthkeep:problem:input"))
        self.assertIn("Change the fields named", answer["fix"])
        missing = self.client.get("/api/designs/00000000-0000-0000-0000-000000000000").json()
        self.assertEqual((missing["code"], missing["status"]), ("NOT_FOUND", 404))
        foreign = self.client.get("/api/designs", headers={"origin": "http://elsewhere.example"}).json()
        self.assertEqual((foreign["code"], foreign["type"]), ("ORIGIN", "urn:hearthkeep:problem:origin"))
