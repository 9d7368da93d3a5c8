"""Papers through the interface: begun, followed, looked at, taken, cancelled."""

import io
import time
import unittest
import uuid
import zipfile

from PIL import Image

from hearthkeep.papers import AUDIENCES, page_texts
from tests.papers.made import strained
from tests.support.api import JSON, ApiTest


class Papers(ApiTest):
    def begun(self, design_id, audience):
        answer = self.client.post(f"/api/designs/{design_id}/papers", params={"audience": audience})
        self.assertEqual(answer.status_code, 202, answer.text)
        return answer.json()

    def followed(self, run, within_s=120):
        until = time.monotonic() + within_s
        seen = [run]
        while seen[-1]["state"] in ("waiting", "fetching", "printing"):
            self.assertLess(time.monotonic(), until, seen[-1])
            time.sleep(0.1)
            seen.append(self.client.get(f"/api/papers/{run['id']}").json())
        self.seen = [*getattr(self, "seen", []), *seen]
        return seen

    def test_every_kind_is_named(self):
        kinds = self.client.get("/api/papers/kinds").json()
        self.assertEqual([kind["audience"] for kind in kinds], [audience.value for audience in AUDIENCES])
        self.assertTrue(all(kind["title"] and kind["meaning"] for kind in kinds))

    def test_printed_looked_at_and_taken_as_one_and_as_one_each(self):
        made = self.made()
        runs = [self.begun(made["id"], audience) for audience in ("family", "shop")]
        done = [self.followed(run)[-1] for run in runs]
        self.assertEqual([run["state"] for run in done], ["done", "done"], done)
        self.assertEqual([run["revision"] for run in done], [1, 1])
        self.assertEqual(len(done[0]["pages"]), 2)
        # No page is named before it can be looked at.
        self.assertEqual(
            [state["pages"] for state in self.seen if state["state"] != "done"], [[]] * (len(self.seen) - 2)
        )
        page = self.client.get(f"/api/papers/{done[0]['id']}/pages/1.png", params={"width_px": 400})
        image = Image.open(io.BytesIO(page.content))
        self.assertEqual((image.width, page.headers["content-type"]), (400, "image/png"))
        self.assertAlmostEqual(image.height / image.width, done[0]["pages"][0]["height_pt"] / done[0]["pages"][0]["width_pt"], delta=0.01)  # fmt: skip
        ids = [("run", run["id"]) for run in done]
        whole = self.client.get("/api/papers-as-pdf", params=ids)
        texts = page_texts(whole.content)
        self.assertEqual(len(texts), sum(len(run["pages"]) for run in done))
        self.assertIn("When the power goes out", texts[0])
        with zipfile.ZipFile(io.BytesIO(self.client.get("/api/papers-as-zip", params=ids).content)) as archive:
            self.assertEqual(archive.namelist(), ["family.pdf", "shop.pdf"])

    def test_the_same_revision_is_printed_once_and_a_new_one_anew(self):
        made = self.made()
        first = self.begun(made["id"], "owner")
        self.assertEqual(self.begun(made["id"], "owner")["id"], first["id"])
        self.followed(first)
        self.assertEqual(self.begun(made["id"], "owner")["id"], first["id"])
        saved = self.client.put(
            f"/api/designs/{made['id']}",
            params={"expected_revision": 1},
            content=self.document(name="Another"),
            headers=JSON,
        )
        self.assertEqual(saved.status_code, 200)
        second = self.begun(made["id"], "owner")
        self.assertNotEqual(second["id"], first["id"])
        self.assertEqual(self.followed(second)[-1]["revision"], 2)

    def test_alternatives_of_the_design_are_named_to_the_client(self):
        made = self.made()
        self.client.post(f"/api/designs/{made['id']}/alternatives", json={"label": "Kept before the roof"})
        done = self.followed(self.begun(made["id"], "client"))[-1]
        pdf = self.client.get("/api/papers-as-pdf", params={"run": done["id"]}).content
        self.assertIn("Kept before the roof", " ".join("".join(page_texts(pdf)).split()))

    def test_a_long_one_tells_its_pages_and_can_be_cancelled(self):
        answer = self.client.post("/api/designs/import", content=strained().model_dump_json(), headers=JSON)
        run = self.begun(answer.json()["id"], "electrician")
        until = time.monotonic() + 60
        while self.client.get(f"/api/papers/{run['id']}").json()["laid_out"] < 2:
            self.assertLess(time.monotonic(), until)
            time.sleep(0.05)
        at = time.monotonic()
        self.assertEqual(self.client.delete(f"/api/papers/{run['id']}").status_code, 204)
        self.assertEqual(self.client.get(f"/api/papers/{run['id']}").json()["state"], "cancelled")
        self.assertLess(time.monotonic() - at, 2.0)
        self.assertEqual(self.client.get("/api/papers-as-pdf", params={"run": run["id"]}).status_code, 409)
        # What has been cancelled can be asked for again.
        again = self.begun(answer.json()["id"], "electrician")
        self.assertNotEqual(again["id"], run["id"])
        self.client.delete(f"/api/papers/{again['id']}")

    def test_what_is_not_there_is_said_so(self):
        made = self.made()
        nobody = uuid.uuid4()
        self.assertEqual(
            self.client.post(f"/api/designs/{nobody}/papers", params={"audience": "shop"}).status_code, 404
        )
        self.assertEqual(
            self.client.post(f"/api/designs/{made['id']}/papers", params={"audience": "cat"}).status_code, 422
        )
        self.assertEqual(self.client.get(f"/api/papers/{nobody}").status_code, 404)
        self.assertEqual(self.client.get("/api/papers-as-pdf").status_code, 422)
        done = self.followed(self.begun(made["id"], "family"))[-1]
        for number, width in ((0, 400), (3, 400), (1, 10), (1, 99_999)):
            page = self.client.get(f"/api/papers/{done['id']}/pages/{number}.png", params={"width_px": width})
            self.assertIn(page.status_code, (404, 422), (number, width))


if __name__ == "__main__":
    unittest.main()
