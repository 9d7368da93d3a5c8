"""Bundles: what goes in comes out, and what could hurt is refused with its reason."""

import dataclasses
import io
import json
import unittest
import zipfile

from hearthkeep.core.assess import assess
from hearthkeep.demo import demo_designs
from hearthkeep.exchange import Alternative, Bundle, BundleError, read_bundle, read_weather, write_bundle
from hearthkeep.exchange import bundle as bundles
from tests.support.designs import birchrow, changed
from tests.support.weather import epw_lines, joined

YEAR = read_weather(joined(epw_lines()), "made.epw")


def made(**fields):
    design = changed(birchrow(), site={"weather_year": YEAR.key}, outage={"sky_from": "year"})
    values = {
        "design": design, "revision": 7, "alternatives": (Alternative(label="One more", design=changed(design, bank={"parallel": 3})),),
        "years": (YEAR,), "batteries": (), "inverters": (), "modules": (), "results": b"{}", "engine": "1",
    }  # fmt: skip
    return Bundle(**{**values, **fields})


def with_files(content, change):
    """The archive with its files changed by a function of their dictionary."""
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        files = {entry.filename: archive.read(entry) for entry in archive.infolist()}
    files = change(files) or files
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


def manifest(change):
    """A change of what the manifest says."""

    def changed_in(files):
        values = json.loads(files["bundle.json"])
        change(values)
        return {**files, "bundle.json": json.dumps(values).encode()}

    return changed_in


class ThereAndBack(unittest.TestCase):
    def test_everything_comes_back_and_comes_to_the_same_figures(self):
        bundle = made()
        back = read_bundle(write_bundle(bundle))
        self.assertEqual((back.design, back.alternatives, back.revision), (bundle.design, bundle.alternatives, 7))
        (year,) = back.years
        self.assertEqual(year, YEAR)
        self.assertEqual(year.ghi_w_m2.tobytes(), YEAR.ghi_w_m2.tobytes())
        self.assertEqual(dataclasses.asdict(assess(back.design, year)), dataclasses.asdict(assess(bundle.design, YEAR)))

    def test_the_same_content_gives_the_same_bytes(self):
        self.assertEqual(write_bundle(made()), write_bundle(made()))

    def test_each_demo(self):
        for design in demo_designs():
            self.assertEqual(read_bundle(write_bundle(made(design=design, years=()))).design, design)


class Refused(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.good = write_bundle(made())

    def refused(self, content, *words):
        with self.assertRaises(BundleError) as caught:
            read_bundle(content)
        for word in words:
            self.assertIn(word, str(caught.exception))

    def test_paths_that_climb_out(self):
        for name in ("../design.json", "/etc/passwd", "a/../../b", "c:\\x", "weather\\x.epw", "folder/"):
            self.refused(
                with_files(self.good, lambda files, name=name: {**files, name: b"x"}), "path", repr(name)[1:-1][:4]
            )

    def test_bombs(self):
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
            for number in range(9):
                archive.writestr(f"{number}.json", bytes(10_000_000))
        self.assertLess(len(out.getvalue()), 200_000)
        self.refused(out.getvalue(), "unpacks to 90,000,000 bytes", "80,000,000")

    def test_a_bomb_that_lies_about_its_size(self):
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("bundle.json", bytes(90_000_000))
        # The size in the directory, and in the entry's own head.
        lie = out.getvalue().replace((90_000_000).to_bytes(4, "little"), (1_000).to_bytes(4, "little"))
        self.refused(lie, "archive")

    def test_a_newer_version_and_another_format(self):
        self.refused(with_files(self.good, manifest(lambda values: values.update(version=2))), "version 2", "newer")
        self.refused(with_files(self.good, manifest(lambda values: values.update(version="1"))), "version 1")
        self.refused(with_files(self.good, manifest(lambda values: values.update(format="x"))), "not a bundle")
        self.refused(with_files(self.good, manifest(lambda values: values.update(extra=1))), "extra")

    def test_a_newer_design(self):
        newer = bundles.write_bundle(made())

        def change(files):
            values = {**json.loads(files["design.json"]), "schema_version": 99}
            files["design.json"] = json.dumps(values).encode()
            return redigested(files)

        self.refused(with_files(newer, change), "design.json", "99")

    def test_files_that_are_missing_extra_or_changed(self):
        self.refused(with_files(self.good, lambda files: {n: d for n, d in files.items() if n != "units.json"}), "units.json", "missing")  # fmt: skip
        self.refused(with_files(self.good, lambda files: {**files, "notes.txt": b"x"}), "notes.txt", "not listed")
        self.refused(
            with_files(self.good, lambda files: {**files, "results.json": b"[]"}), "results.json", "not as it was"
        )

    def test_weather_under_another_name(self):
        def change(files):
            name = next(name for name in files if name.startswith("weather/"))
            files["weather/other.epw"] = files.pop(name)
            values = json.loads(files["bundle.json"])
            values["weather"] = ["weather/other.epw"]
            files["bundle.json"] = json.dumps(values).encode()
            return redigested(files)

        self.refused(with_files(self.good, change), "weather/other.epw", "hours")

    def test_what_is_no_archive(self):
        for content in (b"", b"PK\x03\x04", b"x" * 1000, self.good[:-400], self.good[: len(self.good) // 2]):
            self.refused(content, "not a bundle")
        self.refused(bytes(bundles.MAX_BUNDLE_BYTES + 1), "at most")
        self.refused(
            with_files(self.good, lambda files: {n: d for n, d in files.items() if n != "bundle.json"}), "bundle.json"
        )

    def test_too_many_files(self):
        self.refused(with_files(self.good, lambda files: {**files, **{f"{n}.txt": b"" for n in range(200)}}), "files")


def redigested(files):
    """Files whose manifest holds their digests as they are now."""
    import hashlib

    values = json.loads(files["bundle.json"])
    values["files"] = {name: hashlib.sha256(data).hexdigest() for name, data in files.items() if name != "bundle.json"}
    return {**files, "bundle.json": json.dumps(values).encode()}
