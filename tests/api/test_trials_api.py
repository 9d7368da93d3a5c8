"""Trials over the interface."""

from hearthkeep.core.prove import prove
from hearthkeep.core.trials import Reach, one_more_of_each, single_failures
from tests.support.api import ApiTest
from tests.support.designs import birchrow


class OverTheYear(ApiTest):
    def ask(self, document, **query):
        return self.client.post("/api/trials", json=document, params=query)

    def test_the_answer_is_the_cores(self):
        answer = self.ask(birchrow().model_dump(mode="json"), reach="month").json()
        expected = prove(birchrow(), reach=Reach.MONTH)
        self.assertEqual(answer["trials"]["keep_frac"], expected.trials.keep_frac)
        self.assertEqual(answer["trials"]["lengths_h"], list(expected.trials.lengths_h))
        self.assertEqual([found["code"] for found in answer["findings"]], [found.code for found in expected.findings])

    def test_an_unknown_reach_and_a_document_that_cannot_be_used_are_refused_by_their_field(self):
        document = birchrow().model_dump(mode="json")
        answer = self.ask(document, reach="decade")
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["field"]), (422, "query.reach"))
        document["outage"]["duration_h"] = 1e9
        answer = self.ask(document)
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["field"]), (422, "outage.duration_h"))

    def test_failures_and_one_more_are_the_cores(self):
        document = birchrow().model_dump(mode="json")
        answer = self.client.post("/api/trials/failures", json=document).json()
        self.assertEqual(
            [failure["key"] for failure in answer["failures"]],
            [failure.key for failure in single_failures(birchrow()).failures],
        )
        answer = self.client.post("/api/trials/one-more", json=document).json()
        self.assertEqual(
            [part["gained_h"] for part in answer["parts"]],
            [part.gained_h for part in one_more_of_each(birchrow()).parts],
        )
