"""Drill over HTTP: a storm drawn, looked at, accounted for; nonsense refused by name."""

from tests.support.api import ApiTest
from tests.support.designs import birchrow


class Drilling(ApiTest):
    def setUp(self):
        self.home = birchrow().model_dump(mode="json")
        self.scenario = self.asked("scenario", {"seed": 7})

    def asked(self, what, more, status=200):
        answer = self.client.post(f"/api/drill/{what}", json={"design": self.home, **more})
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def test_a_storm_from_its_drawing_to_its_account(self):
        decision = {"at_h": 2.0, "kind": "leave_off", "loads": ["tv"]}
        drill = {"scenario": self.scenario, "decisions": [decision]}
        stand = self.asked("stand", {**drill, "at_h": 12.0})
        self.assertEqual([each["id"] for each in stand["loads"] if each["is_off"]], ["tv"])
        self.assertFalse(stand["is_over"])
        self.assertTrue(self.asked("stand", {**drill, "at_h": 100.0})["is_over"])
        account = self.asked("account", drill)
        self.assertEqual(len(account["decisions"]), 1)
        self.assertEqual(account, self.asked("account", drill))

    def test_nonsense_is_refused_by_name(self):
        drill = {"scenario": self.scenario, "at_h": 5.0}
        for more, field in (
            ({"at_h": -1}, "at_h"),
            ({"decisions": [{"at_h": 1.0, "kind": "dance"}]}, "kind"),
            ({"decisions": [{"at_h": 1.0, "kind": "leave_off", "loads": ["piano"]}]}, "decisions.0.loads"),
            ({"decisions": [{"at_h": 1.0, "kind": "cross_read"}] * 301}, "decisions"),
            ({"scenario": {**self.scenario, "duration_h": 5_000}}, "duration_h"),
        ):
            with self.subTest(field=field):
                answer = self.client.post("/api/drill/stand", json={"design": self.home, **drill, **more})
                self.assertEqual(answer.status_code, 422)
                self.assertIn(field, answer.text)
