"""Storms to start from over the interface."""

from hearthkeep.core.outage import prepare
from hearthkeep.core.whatif import ration
from tests.support.api import ApiTest
from tests.support.designs import birchrow


class UsualStorms(ApiTest):
    def ask(self, **query):
        return self.client.get("/api/usual-storms", params=query)

    def test_they_come_in_the_year_and_the_season_asked_for(self):
        ice = next(storm for storm in self.ask(latitude_deg=-40, year=2031).json() if storm["key"] == "ice")
        self.assertEqual((ice["start"], ice["duration_h"]), ("2031-07-12T17:00:00", 72.0))

    def test_a_year_or_latitude_out_of_range_is_refused_by_its_field(self):
        for query, field in (
            ({"latitude_deg": 40, "year": 12}, "year"),
            ({"latitude_deg": 91, "year": 2027}, "latitude_deg"),
        ):
            answer = self.ask(**query)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(field, answer.json()["problems"][0]["field"])


class MakeItLast(ApiTest):
    def test_the_plan_is_the_cores(self):
        answer = self.client.post("/api/ration", json=birchrow().model_dump(mode="json")).json()
        plan = ration(prepare(birchrow()))
        self.assertEqual(answer["given_up_keep_wh"], plan.given_up_keep_wh)
        self.assertEqual([row["path"] for row in answer["loads"]], [row.path for row in plan.loads])
