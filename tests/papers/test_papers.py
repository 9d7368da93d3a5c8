"""Papers: each figure is the assessment's, every text in its box, every page with its head, for the demos and under strain."""

import re
import sys
import unittest
from calendar import month_name
from datetime import date
from functools import cache
from unittest.mock import patch

from hearthkeep.core.checks import Severity
from hearthkeep.core.wiring import length_words
from hearthkeep.core.words import hours
from hearthkeep.demo import demo_designs
from hearthkeep.papers import (
    AUDIENCES,
    Audience,
    BuiltRecord,
    Considered,
    PrintingMissingError,
    gather,
    joined,
    page_sizes,
    page_texts,
    print_paper,
)
from hearthkeep.papers.cautions import cautions_of
from hearthkeep.papers.press import laid_out
from hearthkeep.papers.words import kilowatt_hours, number, quantity, worked
from hearthkeep.starting import Start, starting_design
from tests.core.building.moments import all_signed
from tests.papers.made import SCRIPTS, strained
from tests.runner.profile import some
from tests.support.designs import birchrow, changed, moved
from tests.support.sheets_laid import outside, overlapping, written

DAY = date(2026, 11, 28)


def plain(text):
    """Text without spaces and breaks, which a PDF does not keep."""
    return re.sub(r"[\s\u00a0\u00ad\ufffe\u2010-]+", "", text)


#: Of the demos a house off the grid, a flat and a home; in the full profile all of them.
SOURCES = {design.name: gather(design, printed_on=DAY, revision=7) for design in some(demo_designs(), 2)}


@cache
def document_of(name, audience):
    """One demo's paper, laid out once for all tests."""
    return laid_out(SOURCES[name], audience)


STRAINED = gather(strained(), printed_on=DAY)


@cache
def strained_document(audience):
    """A paper of the strained design, laid out once for all tests."""
    return laid_out(STRAINED, audience)


@cache
def texts_of(name, audience):
    """The text of each of its pages."""
    return page_texts(document_of(name, audience).write_pdf())


class EachPaperOfEachDemo(unittest.TestCase):
    def test_no_text_leaves_its_box_or_lies_over_another(self):
        for name in SOURCES:
            for audience in Audience:
                with self.subTest(name=name, audience=audience.value):
                    for page in document_of(name, audience).pages:
                        self.assertEqual(outside(page), [])
                        self.assertEqual(overlapping(page), [])

    def test_every_page_says_what_it_is_of(self):
        for name, source in SOURCES.items():
            for audience in (Audience.SHOP, Audience.FAMILY, Audience.OWNER):
                with self.subTest(name=name, audience=audience.value):
                    texts = texts_of(name, audience)
                    for at, text in enumerate(map(plain, texts), start=1):
                        for wanted in (
                            name, "Revision 7", "28 Nov 2026", f"Page {at} of {len(texts)}", AUDIENCES[audience].title,
                            cautions_of(source, audience),
                        ):  # fmt: skip
                            self.assertIn(plain(wanted), text)
                        self.assertEqual("STANDS OPEN" in text or "STANDOPEN" in text, bool(source.stops))

    def holds(self, audience, wanted_of):
        for name, source in SOURCES.items():
            text = plain("".join(texts_of(name, audience)))
            for wanted in wanted_of(source):
                with self.subTest(name=name, wanted=wanted):
                    self.assertIn(plain(wanted), text)

    def test_the_electrician_s_holds_every_run_device_figure_and_source(self):
        def wanted(source):
            for row in source.wiring.runs:
                not_known = f"Not known: {', '.join(row.unknown)}" if row.unknown else ""
                yield row.label + not_known + str(row.count) + number(row.most_v, 1) + number(row.current_a, 1)
                yield length_words(source.design, row.length_m) + row.conductor
                yield row.device
                for figure in row.figures:
                    yield worked(figure.value)
                    yield figure.basis
            for figure in source.assessment.figures.values():
                yield f"{figure.label} = {worked(figure.value)}"
                yield figure.formula
                yield figure.basis
                yield from (f"{term.name}{worked(term.value)}" for term in figure.terms)
            for line in source.assessment.arrangement.need.lines:
                yield line.label + worked(line.value)
            for finding in source.of(Severity.STOP) + source.of(Severity.MEND):
                yield finding.message
            for circuit in source.design.transfer.circuits:
                yield circuit.name
            for placard in source.wiring.lists.placards:
                yield placard.text
            for step in (step for way in source.assessment.switching.ways for step in way.steps):
                yield step.do + ("See:" + step.check if step.check else "") + step.never

        self.holds(Audience.ELECTRICIAN, wanted)

    def test_the_shop_s_holds_every_part_cut_and_device(self):
        def wanted(source):
            lists = source.wiring.lists
            yield from (part.what for part in lists.parts)
            yield number(lists.total, 2)
            for cut in lists.cuts:
                yield cut.label + cut.pole + str(cut.quantity) + length_words(source.design, cut.length_m) + cut.lug
            for (lug, conductor), count in lists.ends.items():
                yield lug + conductor + str(count)
            for line in lists.devices:
                yield line.label + line.device + str(line.quantity) + line.place + number(line.volts_v, 1)

        self.holds(Audience.SHOP, wanted)

    def test_the_wall_s_holds_every_placard_label_and_step(self):
        def wanted(source):
            yield from (placard.text for placard in source.wiring.lists.placards)
            yield from (label.partition(": ")[2] for label in source.assessment.transfer.labels)
            yield from (row.label + row.conductor for row in source.wiring.runs)
            yield from (step.do for way in source.assessment.switching.ways for step in way.steps)

        self.holds(Audience.WALL, wanted)

    def test_the_family_s_is_one_sheet_of_paper_with_what_stays_on_and_for_how_long(self):
        def wanted(source):
            outage = source.assessment.outage
            yield hours(outage.duration_h if outage.carried_to_the_end else outage.hours_carried_h)
            yield from (load.name for load in source.design.loads)
            yield from (contact.reach or contact.role for contact in source.design.papers.contacts)

        for name in SOURCES:
            self.assertLessEqual(len(texts_of(name, Audience.FAMILY)), 2, name)
        self.holds(Audience.FAMILY, wanted)

    def test_the_client_s_holds_storm_trials_failures_and_price(self):
        def wanted(source):
            outage, trials = source.assessment.outage, source.proof.trials
            yield hours(outage.hours_carried_h)
            yield kilowatt_hours(source.assessment.loads.daily_wh)
            yield quantity(source.assessment.loads.peak_w, "W")
            yield trials.verdict
            yield hours(trials.half_last_h)
            for month in trials.year.months if trials.year else ():
                yield f"{month_name[month.month][:3]}{month.dark_days}{hours(month.dark_h)}{month.full_by_noon_days}"
            for failure in source.failures.failures:
                yield failure.title + failure.assumes + hours(failure.outlook.carried_h) + hours(failure.lost_h)
            for line in source.price.lines:
                yield line.label + number(line.price)
            for value in (outage.ledger_wh.sun, outage.ledger_wh.served, outage.ledger_wh.inverter_loss):
                yield number(value)

        self.holds(Audience.CLIENT, wanted)

    def test_the_owner_s_holds_the_audit_and_a_blank_sheet(self):
        def wanted(source):
            for row in source.assessment.loads.rows:
                yield number(row.daily_wh, 1) + number(row.doubt_wh)
            yield number(source.assessment.loads.daily_wh, 1)
            yield from (load.name for load in source.design.loads)
            yield "Walk-round sheet"

        self.holds(Audience.OWNER, wanted)

    def test_the_certificate_is_blank_while_nothing_is_signed(self):
        def wanted(source):
            yield "Certificate of commissioning"
            for sheet in source.build.gates:
                yield sheet.gate.title
                yield from (ask.label for ask in sheet.gate.asks)

        self.holds(Audience.RECORD, wanted)

    def test_letter_in_north_america_and_a4_elsewhere(self):
        for name, source in SOURCES.items():
            width, height = page_sizes(document_of(name, Audience.FAMILY).write_pdf())[0]
            asked = (612, 792) if source.is_us else (595.3, 841.9)
            self.assertLess(abs(width - asked[0]) + abs(height - asked[1]), 1)


class Certified(unittest.TestCase):
    """A certificate with gates passed, one skipped, and one accepted outside its window."""

    def text(self, design, entries):
        built = BuiltRecord(name="Birchrow 14, cellar", gates=entries)
        document = laid_out(gather(design, printed_on=DAY, built=built), Audience.RECORD)
        for page in document.pages:
            self.assertEqual((outside(page), overlapping(page)), ([], []))
        return plain("".join(page_texts(document.write_pdf())))

    def test_who_when_meter_readings_and_what_was_skipped_or_accepted(self):
        design = birchrow()
        entries = all_signed(design, skip=("grid_charge",), outside=("polarity",))
        text = self.text(design, entries)
        count = len(entries)
        for words in (
            "Birchrow 14, cellar", f"{count - 1} of {count} gates passed, 1 skipped", "Mo Harker", "Meter 7", "15 Jun 2026 10:00", "Not complete.",
            "Skipped. The risk: A storm warning, and a charger that never charged.", "none at hand today", "meter read twice", "second look: Ada Rook", "outside",
        ):  # fmt: skip
            self.assertIn(plain(words), text)
        for signed in entries:
            for value in signed.entry.readings.values():
                self.assertIn(f"{value:,.0f}"[:1], text)

    def test_complete_only_when_every_gate_is_passed(self):
        self.assertNotIn(plain("Not complete"), self.text(birchrow(), all_signed(birchrow())))
        self.assertIn(plain("Not complete"), self.text(birchrow(), all_signed(birchrow(), until="transfer")))

    def test_a_gate_signed_for_another_design_says_so(self):
        entries = all_signed(birchrow())
        other = moved(birchrow(), {"wiring.runs": [{"run": "bank", "length_m": 9.0, "size": "4/0 AWG"}]})
        self.assertIn(plain("design changed since"), self.text(other, entries))


class UnderStrain(unittest.TestCase):
    """Forty loads, twenty of them on runs of their own, every name 200 characters long, in scripts from all over."""

    source = STRAINED

    def test_nothing_is_cut_and_nothing_overlaps(self):
        for audience in Audience:
            if audience is Audience.CLIENT:
                continue
            with self.subTest(audience=audience.value):
                for page in strained_document(audience).pages:
                    self.assertEqual(outside(page), [])
                    self.assertEqual(overlapping(page), [])

    def test_every_name_is_there_whole_and_in_a_font_that_has_it(self):
        text = plain("".join(page_texts(strained_document(Audience.OWNER).write_pdf())))
        for load in self.source.design.loads:
            # Right to left text comes out of a PDF in the order of the page; emoji are pictures.
            if not re.search(r"[\u0590-\u06ff\U0001f000-\U0001ffff]", load.name):
                self.assertIn(plain(load.name), text, load.name[:20])
        for letter in set("".join(SCRIPTS)):
            if letter.isalpha():
                self.assertIn(letter, text, hex(ord(letter)))

    def test_no_glyph_is_missing(self):
        for audience in (Audience.OWNER, Audience.ELECTRICIAN):
            self.assertEqual(missing_glyphs(strained_document(audience)), set())

    def test_a_tall_one_line_is_cut_into_sheets_that_can_be_read(self):
        document = strained_document(Audience.ELECTRICIAN)
        pages = [
            page for page in document.pages if any("One-line diagram, sheet" in text.text for text in written(page))
        ]
        self.assertGreater(len(pages), 1)
        drawing = self.source.wiring.one_line
        texts = [text.text for owner in (*drawing.symbols, *drawing.lines) for text in owner.texts]
        on_sheets = plain("".join(text.text for page in pages for text in written(page)))
        for text in texts:
            self.assertIn(plain(text), on_sheets)
        # 6 pt, in the pixels of the layout.
        small = [text.bottom - text.top for page in pages for text in written(page) if text.text in texts]
        self.assertGreater(min(small) / 0.76, 6 * 96 / 72 - 0.1)


class OtherDesigns(unittest.TestCase):
    def test_an_empty_design_prints_and_says_that_it_is_empty(self):
        for start in (Start.HOME, Start.PORTABLE):
            source = gather(starting_design(start), printed_on=DAY)
            for audience in Audience:
                with self.subTest(start=start.value, audience=audience.value):
                    document = laid_out(source, audience)
                    for page in document.pages:
                        self.assertEqual(outside(page), [])
                        self.assertEqual(overlapping(page), [])
            text = plain("".join(page_texts(print_paper(source, Audience.FAMILY).pdf)))
            self.assertIn(plain("Nothing to be kept on has been entered yet."), text)

    def test_a_name_that_is_markup_is_a_name(self):
        design = changed(birchrow(), name='<script>alert(1)</script>&amp;<img src="file:///etc/passwd">')
        text = plain(page_texts(print_paper(gather(design, printed_on=DAY), Audience.FAMILY).pdf)[0])
        self.assertIn(plain(design.name), text)

    def test_stops_band_every_page_and_leave_with_the_stops(self):
        stopped = gather(birchrow(), printed_on=DAY)
        self.assertTrue(stopped.stops)
        for text in page_texts(print_paper(stopped, Audience.ELECTRICIAN).pdf):
            self.assertIn(plain(f"{len(stopped.stops)} STOPS STAND OPEN: {stopped.stops[0].title}"), plain(text))

    def test_cautions_are_those_that_apply(self):
        def foot(design, audience=Audience.ELECTRICIAN):
            return cautions_of(gather(design, printed_on=DAY), audience)

        generator = {
            "rated_w": 2000.0,
            "charger_w": 800.0,
            "stock_l": 20.0,
            "start_soc_frac": 0.3,
            "stop_soc_frac": 0.8,
        }
        plain_home = birchrow()
        cases = (
            ("hydrogen", moved(plain_home, {"bank.chemistry": "flooded", "bank.depth_frac": 0.5}), plain_home),
            ("carbon-monoxide", changed(plain_home, charging={"generator": generator}), plain_home),
            ("licensed electrician", plain_home, moved(plain_home, {"transfer.arrangement": "cords"})),
            ("live whenever lit", plain_home, changed(plain_home, charging={"controllers": []})),
            ("151 V arcs", plain_home, changed(plain_home, charging={"controllers": []})),
        )
        for words, with_it, without in cases:
            self.assertIn(words, foot(with_it), words)
            self.assertNotIn(words, foot(without), words)
        self.assertIn("13,622 A", foot(plain_home))
        fed = changed(plain_home, charging={"generator": generator})
        self.assertIn("20 ft", foot(fed, Audience.FAMILY))
        self.assertIn(" 6 m ", foot(changed(fed, practice="metric_230"), Audience.FAMILY))

    def test_alternatives_considered_stand_in_the_client_s(self):
        other = changed(birchrow(), bank={"parallel": 3})
        source = gather(birchrow(), printed_on=DAY, considered=[Considered(label="One more battery", design=other)])
        text = plain("".join(page_texts(print_paper(source, Audience.CLIENT).pdf)))
        column = source.considered[0].column
        self.assertIn(plain(f"One more battery {hours(column.hours_carried_h)} of {hours(column.duration_h)}"), text)

    def test_a_machine_without_the_library_says_what_is_missing(self):
        with patch.dict(sys.modules, {"weasyprint": None}), self.assertRaises(PrintingMissingError) as caught:
            print_paper(gather(birchrow(), printed_on=DAY), Audience.FAMILY)
        self.assertIn("libpango", str(caught.exception))
        self.assertIn("./hearth setup", caught.exception.fix)

    def test_papers_joined_keep_their_pages_in_order(self):
        source = gather(birchrow(), printed_on=DAY)
        parts = [print_paper(source, audience) for audience in (Audience.FAMILY, Audience.SHOP)]
        whole = page_texts(joined([part.pdf for part in parts]))
        self.assertEqual(list(map(plain, whole)), [plain(text) for part in parts for text in page_texts(part.pdf)])

    def test_how_far_it_is_is_told_page_by_page(self):
        told = []
        paper = print_paper(gather(birchrow(), printed_on=DAY), Audience.SHOP, tell=told.append)
        self.assertEqual(max(told), paper.pages)
        self.assertEqual(told[:2], [1, 2])


def missing_glyphs(document):
    """Texts of a document for which its text engine has found no glyph in any font."""
    from weasyprint.formatting_structure import boxes
    from weasyprint.text.ffi import ffi, pango

    ffi.cdef("int pango_layout_get_unknown_glyphs_count(PangoLayout *layout);", override=True)
    found = set()
    for page in document.pages:
        for box in page._page_box.descendants():
            if isinstance(box, boxes.TextBox) and box.pango_layout is not None:
                box.pango_layout.reactivate(box.style)
                if pango.pango_layout_get_unknown_glyphs_count(box.pango_layout.layout):
                    found.add(box.text)
    return found
