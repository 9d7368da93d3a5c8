"""Designs as files by hand: saved, opened again, and what cannot be opened refused with its reason."""

import json
import tempfile
import uuid
from pathlib import Path

from selenium.webdriver.common.by import By

from tests.support.live import BrowserTest, OwnServerTest


class DesignFiles(BrowserTest):
    expected_in_log = ("422",)

    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def named_copy(self):
        """A design of its own name, seen in the list."""
        name = f"House {uuid.uuid4().hex[:8]}"
        made = self.app.ask("POST", "api/designs/import", {**self.birchrow, "name": name})
        self.driver.get(self.app.address)
        self.named(f"Save file of {name}")
        return name, made

    def opened(self, path):
        self.named("Design file").send_keys(str(path))

    def trouble(self):
        return self.the("main .trouble").text

    def test_saved_and_opened_again(self):
        name, made = self.named_copy()
        self.driver.execute_cdp_cmd(
            "Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(self.folder)}
        )
        self.named(f"Save file of {name}").click()
        path = self.until(lambda: next(iter(self.folder.glob("*.json")), None))
        self.assertEqual(path.name, f"{name.lower().replace(' ', '-')}.json")
        kept = self.until(lambda: json.loads(path.read_text() or "null"))
        self.assertEqual(kept, made["document"])
        self.opened(path)
        self.until(lambda: "/loads" in self.driver.current_url)
        self.assertNotIn(made["id"], self.driver.current_url)
        self.until(lambda: self.named("Name of this design").get_attribute("value") == name)

    def test_what_is_no_design_is_refused_with_its_reason(self):
        self.driver.get(self.app.address)
        spoilt = json.loads(json.dumps(self.birchrow))
        spoilt["bank"]["parallel"] = 900
        for file, content, words in (
            ("broken.json", b'{"name": "cut sho', "JSON"),
            ("binary.json", bytes(range(256)) * 40, "JSON"),
            ("list.json", b"[]", "object"),
            ("range.json", json.dumps(spoilt).encode(), "bank.parallel"),
            (
                "nan.json",
                json.dumps(self.birchrow).replace('"parallel": 2', '"parallel": NaN').encode(),
                "bank.parallel",
            ),
        ):
            with self.subTest(file):
                path = self.folder / file
                path.write_bytes(content)
                self.opened(path)
                self.until(lambda file=file, words=words: file in self.trouble() and words in self.trouble())
        self.assertIn("designs", self.driver.find_element(By.TAG_NAME, "h1").text.lower())

    def test_a_huge_file_is_not_even_read(self):
        self.driver.get(self.app.address)
        path = self.folder / "huge.json"
        with path.open("wb") as file:
            file.truncate(200_000_000)
        self.opened(path)
        self.until(lambda: "huge.json holds 200,000,000 bytes" in self.trouble())
        self.assertIn("at most 1,000,000", self.trouble())

    def test_a_deleted_design_is_restored_from_the_folded_list_after_a_reload(self):
        name, made = self.named_copy()
        self.named(f"Delete {name}").click()
        self.until(lambda: self.maybe("[data-test=undo-delete]"))
        self.driver.refresh()
        self.the("details.deleted summary").click()
        self.named(f"Restore {name}").click()
        self.named(f"Save file of {name}")
        self.assertEqual(self.app.ask("GET", f"api/designs/{made['id']}")["revision"], 1)


class ServerAway(OwnServerTest):
    """What fails in the list is told and stays told, and nothing is said to be done that was not."""

    def test_an_act_that_fails_is_told_and_undone_by_nothing(self):
        self.driver.get(self.app.address)
        self.named("Delete Village-hall relay cart")
        self.app.kill()
        for act in ("Delete Village-hall relay cart", "Duplicate Village-hall relay cart"):
            with self.subTest(act):
                self.named(act).click()
                self.until(lambda: "nothing was changed" in self.the("main .trouble").text)
                self.assertIsNone(self.maybe("[data-test=undo-delete]"))
        self.the("[data-test=new-home]").click()
        self.until(lambda: "nothing was changed" in self.the("main .trouble").text)
        self.app.start()
        self.named("Delete Village-hall relay cart").click()
        self.the("[data-test=undo-delete]").click()
        self.named("Delete Village-hall relay cart")
        self.assertIsNone(self.maybe("main .trouble"))
        # Nothing of this page is to speak up in the next test.
        self.driver.get("about:blank")
