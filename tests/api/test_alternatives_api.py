"""Opinions and alternatives at the API: kits kept, columns laid, parts swapped, the design promoted."""

import uuid

from tests.support.api import ApiTest
from tests.support.designs import birchrow


class Alternatives(ApiTest):
    def post(self, path, body):
        return self.client.post(path, json=body)

    def setUp(self):
        self.home = birchrow().model_dump(mode="json")
        self.root = self.post("/api/designs/import", self.home).json()["id"]

    def keep(self, kit):
        made = self.post(f"/api/opinions/design?kit={kit}", self.home)
        self.assertEqual(made.status_code, 200, made.text)
        kept = self.post(f"/api/designs/{self.root}/alternatives/of-document?label={kit}", made.json())
        self.assertEqual(kept.status_code, 201, kept.text)
        return kept.json()["id"]

    def test_a_rule_s_kit_is_kept_and_comes_to_what_the_rule_was_said_to(self):
        report = self.post("/api/opinions", self.home).json()
        ledger = next(one for one in report["opinions"] if one["info"]["method"] == "ledger")
        kept = self.keep("ledger")
        column = self.client.get(f"/api/designs/{kept}/column").json()
        self.assertEqual(column["hours_carried_h"], ledger["column"]["hours_carried_h"])
        self.assertEqual(column["price"]["total"], ledger["column"]["bought"]["price"])
        share = self.post("/api/opinions/share?kit=ledger", self.home).json()
        self.assertEqual(self.client.get(f"/api/designs/{kept}/variant-year").json()["keep_frac"], share["keep_frac"])
        worth = self.client.get(f"/api/designs/{kept}/worth?base={self.root}").json()
        total_h = sum(part["worth_h"] for part in worth["parts"])
        self.assertAlmostEqual(total_h, worth["other_h"] - worth["base_h"], delta=1e-6)
        tree = self.client.get(f"/api/designs/{kept}/alternatives").json()
        self.assertEqual([entry["label"] for entry in tree], ["", "ledger"])

    def test_a_part_is_swapped_without_anything_stored(self):
        kept = self.keep("ledger")
        swapped = self.client.get(f"/api/designs/{self.root}/swapped?source={kept}&part=bank").json()
        self.assertEqual(swapped, {**self.home, "bank": {**self.home["bank"], "parallel": 4}})
        self.assertEqual(self.client.get(f"/api/designs/{self.root}").json()["revision"], 1)

    def test_promoted_renamed_and_refused(self):
        kept = self.keep("ledger")
        renamed = self.client.put(f"/api/designs/{kept}/label", json={"label": "Four batteries"})
        self.assertEqual(renamed.status_code, 204)
        stale = self.post(f"/api/designs/{kept}/promote?expected_revision=7", {"label": "x"})
        self.assertEqual((stale.status_code, stale.json()["code"]), (409, "STALE_REVISION"))
        saved = self.post(f"/api/designs/{kept}/promote?expected_revision=1", {"label": "Before"}).json()
        self.assertEqual((saved["id"], saved["revision"]), (self.root, 2))
        now = self.client.get(f"/api/designs/{self.root}").json()
        self.assertEqual((now["document"]["bank"]["parallel"], now["document"]["name"]), (4, self.home["name"]))
        labels = [entry["label"] for entry in self.client.get(f"/api/designs/{self.root}/alternatives").json()]
        self.assertEqual(labels, ["", "Four batteries", "Before"])
        self.assertEqual(self.client.get(f"/api/designs/{kept}").json()["label"], "Four batteries")

    def test_nonsense_is_refused_with_its_field(self):
        for label in ("", " ", "x" * 61, "a\tb"):
            answer = self.post(f"/api/designs/{self.root}/alternatives", {"label": label})
            self.assertEqual(answer.status_code, 422, label)
            self.assertIn("label", answer.json()["problems"][0]["field"])
        self.assertEqual(self.post("/api/opinions/design?kit=guess", self.home).status_code, 422)
        self.assertEqual(self.client.get(f"/api/designs/{uuid.uuid4()}/column").status_code, 404)
        self.assertEqual(self.client.get(f"/api/designs/{self.root}/worth?base={uuid.uuid4()}").status_code, 404)
        promoted = self.post(f"/api/designs/{self.root}/promote?expected_revision=1", {"label": "x"})
        self.assertEqual((promoted.status_code, promoted.json()["problems"][0]["field"]), (422, "design_id"))
