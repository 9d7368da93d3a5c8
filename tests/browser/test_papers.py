"""Papers on the real page: ticked, followed, looked at, taken; Ctrl+P from anywhere; the formats beside them."""

import io
import tempfile
import urllib.request
import zipfile
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from hearthkeep.papers import page_texts
from tests.support.live import BrowserTest

#: What printing, or reading a foreign file, may take on a busy machine [s].
LONG_S = 120.0


class Papers(BrowserTest):
    def setUp(self):
        super().setUp()
        self.design_id = self.fresh("storm")
        self.driver.execute_script("localStorage.setItem('hearthkeep.papers', JSON.stringify(['family']))")
        self.driver.refresh()
        self.the("[data-test=rail-papers]")

    def opened(self):
        self.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "p")
        self.until(lambda: self.driver.current_url.split("?")[0].endswith("/papers"))
        # One sheet of paper, both its sides where one does not hold it.
        self.until(lambda: self.state("family") == "2 pages", within_s=LONG_S)

    def state(self, audience):
        return self.the(f"[data-test=state-{audience}]").text

    def pages(self):
        return self.driver.find_elements(By.CSS_SELECTOR, "[data-test=printed-page]")

    def sources(self):
        return self.driver.execute_script(
            "return [...document.querySelectorAll('[data-test=printed-page]')].map((page) => page.getAttribute('src'))"
        )

    def fetched(self, test_id):
        address = self.the(f"[data-test={test_id}]").get_attribute("href")
        with urllib.request.urlopen(address) as answer:
            return answer.read()

    def test_ctrl_p_prints_the_family_s_and_ticking_adds_the_shop_s(self):
        self.opened()
        page, back = self.pages()
        self.assertIn("page 1 of 2", page.get_attribute("alt"))
        self.assertIn("page 2 of 2", back.get_attribute("alt"))
        self.until(lambda: page.get_property("complete") and page.get_property("naturalWidth") > 800)
        self.the("[data-test=paper-shop]").send_keys(" ")
        self.until(lambda: self.state("shop").endswith("pages"), within_s=LONG_S)
        count = 2 + int(self.state("shop").split()[0])
        self.until(lambda: len(self.pages()) == count)
        texts = page_texts(self.fetched("as-pdf"))
        self.assertEqual(len(texts), count)
        # In the order in which papers are named, whatever was ticked first.
        self.assertIn("Parts list", texts[0])
        self.assertIn("When the power goes out", texts[-2])
        with zipfile.ZipFile(io.BytesIO(self.fetched("as-zip"))) as archive:
            self.assertEqual(archive.namelist(), ["shop.pdf", "family.pdf"])
        self.assertIn(f"{count} pages", self.the("[data-test=rail-papers]").text)

    def test_an_edit_is_printed_anew(self):
        self.opened()
        before = self.sources()
        self.the("[data-test=contacts] summary").click()
        self.the("[data-test=add-contact]").click()
        self.until(lambda: self.sources() not in ([], before), within_s=LONG_S)
        text = page_texts(self.fetched("as-pdf"))[0]
        document = self.app.ask("GET", f"api/designs/{self.design_id}")["document"]
        self.assertIn(document["papers"]["contacts"][-1]["role"], text)
        self.assertIn("Revision 2", text)

    def test_a_paper_under_way_is_cancelled(self):
        self.opened()
        self.the("[data-test=paper-electrician]").click()
        self.the("[data-test=cancel-papers]").click()
        self.until(lambda: self.state("electrician") == "cancelled")
        self.the("[data-test=print-papers]").click()
        self.until(lambda: self.state("electrician").endswith("pages"), within_s=LONG_S)

    def test_the_formats_beside_them_are_files(self):
        self.opened()
        starts = {
            "bundle": b"PK", "workbook": b"PK", "calendar": b"BEGIN:VCALENDAR", "outage-hours": "\ufeffLocal".encode(),
            "year-hours": "\ufeffHour".encode(), "design": b"{", "schema": b"{",
        }  # fmt: skip
        for key, start in starts.items():
            self.assertTrue(self.fetched(f"take-{key}").startswith(start), key)

    def test_tables_and_pictures_are_saved_as_they_stand(self):
        # The browser is asked for the file instead of writing it.
        self.driver.execute_script(
            "window.saved = []; const made = URL.createObjectURL; URL.createObjectURL = (blob) => { saved.push(blob); "
            "return made(blob) }; HTMLAnchorElement.prototype.click = function () { saved.push(this.download) }"
        )
        self.the("[data-test=rail-bank]").click()
        self.the("[data-part=sheet]").click()
        self.the("[data-test=table-csv]").click()
        text = self.driver.execute_async_script(
            "const done = arguments[0]; saved.find((x) => x.text).text().then(done)"
        )
        lines = text.splitlines()
        found = self.app.ask(
            "POST", "api/assessments", self.app.ask("GET", f"api/designs/{self.design_id}")["document"]
        )
        need = {line["label"]: line["value"] for line in found["arrangement"]["need"]["lines"]}
        self.assertTrue(
            any(line.startswith("To be stored") and f",{round(need['To be stored'])}" in line for line in lines), text
        )
        self.driver.execute_script("saved.length = 0")
        self.the(".carried [data-test=picture-png]").click()
        self.until(lambda: self.driver.execute_script("return saved.length") == 2)
        kind, size, name = self.driver.execute_script("return [saved[0].type, saved[0].size, saved[1]]")
        self.assertEqual((kind, name), ("image/png", "A-copy-of-Birchrow-Endurance.png"))
        self.assertGreater(size, 10_000)


class Bundles(BrowserTest):
    #: A spoilt bundle is refused.
    expected_in_log = ("422",)

    def test_a_bundle_opens_as_a_new_design_and_a_spoilt_one_says_why(self):
        design_id = self.fresh("loads")
        with urllib.request.urlopen(f"{self.app.address}api/designs/{design_id}/bundle.zip") as answer:
            bundle = answer.read()
        with tempfile.TemporaryDirectory() as folder:
            good, spoilt = Path(folder) / "good.zip", Path(folder) / "spoilt.zip"
            good.write_bytes(bundle)
            spoilt.write_bytes(bundle[:-300])
            self.driver.get(self.app.address)
            picker = self.named("Design file")
            picker.send_keys(str(spoilt))
            self.until(
                lambda: "This is not a bundle" in self.driver.find_element(By.TAG_NAME, "main").text, within_s=LONG_S
            )
            self.named("Design file").send_keys(str(good))
            self.until(
                lambda: "/designs/" in self.driver.current_url and self.driver.current_url.endswith("/loads"),
                within_s=LONG_S,
            )
        opened = self.driver.current_url.split("/")[-2]
        self.assertNotEqual(opened, design_id)
        here, there = (self.app.ask("GET", f"api/designs/{one}")["document"] for one in (design_id, opened))
        self.assertEqual(here, there)
