"""Trials over the interface."""

import time
import uuid
from typing import ClassVar

from hearthkeep.core.prove import prove
from hearthkeep.core.trials import Reach, one_more_of_each, single_failures
from hearthkeep.jobs import OwnWorker
from tests.support.api import ApiTest
from tests.support.designs import birchrow, load


class OverTheYear(ApiTest):
    def ask(self, document, **query):
        return self.client.post("/api/trials", json=document, params=query)

    def test_the_answer_is_the_cores(self):
        answer = self.ask(birchrow().model_dump(mode="json"), reach="month", wait=True).json()
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
        answer = self.client.post("/api/trials/failures", json=document, params={"wait": True}).json()
        self.assertEqual(
            [failure["key"] for failure in answer["failures"]],
            [failure.key for failure in single_failures(birchrow()).failures],
        )
        answer = self.client.post("/api/trials/one-more", json=document, params={"wait": True}).json()
        self.assertEqual(
            [part["gained_h"] for part in answer["parts"]],
            [part.gained_h for part in one_more_of_each(birchrow()).parts],
        )


class AsJobs(ApiTest):
    """Trials that take long: said so at once, then asked in pieces, and equal to the core's."""

    #: 720 h, loads that wait for the sun and a generator whose rating falls with heat: every length is lived for itself.
    HEAVY: ClassVar = {
        "outage": {**birchrow().model_dump(mode="json")["outage"], "duration_h": 720.0},
        "simulation": {"time_step_min": 5},
        "charging": {"generator": {"rated_w": 3000.0, "charger_w": 1500.0, "stock_l": 40.0, "tank_l": 12.0}},
        "loads": [
            {**load(f"l{at}", 20.0 + at, duty_frac=0.3), "flexible_h": 2 if at < 3 else None} for at in range(60)
        ],
    }

    def made_of(self, document):
        answer = self.client.post("/api/designs/import", json=document)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def until_ended(self, job):
        give_up = time.monotonic() + 120
        while (now := self.client.get(f"/api/trial-jobs/{job['id']}").json())["is_live"]:
            self.assertLess(time.monotonic(), give_up)
            time.sleep(0.1)
        return now

    def test_what_takes_long_says_how_long(self):
        document = {**birchrow().model_dump(mode="json"), **self.HEAVY}
        for path, least in (("", 96), ("/failures", 5), ("/one-more", 3)):
            with self.subTest(path):
                answer = self.client.post(
                    f"/api/trials{path}", json=document, params={} if path else {"reach": "month"}
                )
                self.assertEqual(answer.status_code, 202, answer.text[:300])
                self.assertGreater(answer.json()["takes_s"], 3.0)
                self.assertGreaterEqual(answer.json()["pieces"], least)

    def test_in_pieces_it_is_the_cores_to_the_last_bit(self):
        design = birchrow()
        made = self.made_of(design.model_dump(mode="json"))
        worker = OwnWorker(self.engine.url, 2)
        self.addCleanup(worker.stop)
        asked = {}
        for trial, reach in (("trials", "month"), ("failures", "week"), ("one_more", "week")):
            answer = self.client.post(f"/api/designs/{made['id']}/trial-jobs", params={"trial": trial, "reach": reach})
            self.assertEqual(answer.status_code, 201, answer.text)
            asked[trial] = answer.json()
            self.assertEqual((answer.json()["done"], answer.json()["is_live"]), (0, True))
            early = self.client.get(f"/api/trial-jobs/{answer.json()['id']}/answer")
            self.assertEqual(early.status_code, 409, early.text)
        worker.wake()
        found = {}
        for trial, job in asked.items():
            ended = self.until_ended(job)
            self.assertEqual((ended["done"], ended["fault"], ended["is_stale"]), (ended["total"], "", False))
            found |= {
                name: value
                for name, value in self.client.get(f"/api/trial-jobs/{job['id']}/answer").json().items()
                if value is not None
            }
            # Asked again it is there already.
            again = self.client.post(
                f"/api/designs/{made['id']}/trial-jobs", params={"trial": trial, "reach": ended["reach"]}
            )
            self.assertEqual(again.json()["id"], job["id"])
        at_once = {
            "proof": self.client.post("/api/trials", json=made["document"], params={"reach": "month", "wait": True}),
            "failures": self.client.post("/api/trials/failures", json=made["document"], params={"wait": True}),
            "one_more": self.client.post("/api/trials/one-more", json=made["document"], params={"wait": True}),
        }
        for name, answer in at_once.items():
            with self.subTest(name):
                self.assertEqual(found[name], answer.json())
        # The design moves on, and what was found is of an earlier state.
        document = {**made["document"], "name": "Later"}
        self.client.put(f"/api/designs/{made['id']}?expected_revision=1", json=document)
        (listed,) = self.client.get(f"/api/designs/{made['id']}/trial-jobs", params={"trial": "failures"}).json()
        self.assertTrue(listed["is_stale"])

    def test_one_is_cancelled_and_what_is_no_trial_is_not_found(self):
        made = self.made_of({**birchrow().model_dump(mode="json"), **self.HEAVY})
        job = self.client.post(f"/api/designs/{made['id']}/trial-jobs", params={"trial": "failures"}).json()
        left = self.client.post(f"/api/trial-jobs/{job['id']}/cancel").json()
        self.assertEqual((left["cancelled"], left["is_live"]), (True, False))
        # One that was cancelled is asked anew.
        anew = self.client.post(f"/api/designs/{made['id']}/trial-jobs", params={"trial": "failures"}).json()
        self.assertNotEqual(anew["id"], job["id"])
        self.client.post(f"/api/trial-jobs/{anew['id']}/cancel")
        for path in ("", "/answer"):
            self.assertEqual(self.client.get(f"/api/trial-jobs/{uuid.uuid4()}{path}").status_code, 404)
        answer = self.client.post(f"/api/designs/{made['id']}/trial-jobs", params={"trial": "everything"})
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["field"]), (422, "query.trial"))
