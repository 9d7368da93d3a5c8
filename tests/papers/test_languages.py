"""The household's languages: whole catalogues, plurals by each language's rule, and sheets of the demos with nothing cut or left in English."""

import re
import sys
import unittest
from datetime import date
from string import Formatter

from babel.messages.pofile import read_po

from hearthkeep.core.design import HouseholdLanguage
from hearthkeep.core.words import Names, Sentence, counted_sentence, sentence
from hearthkeep.demo import demo_designs
from hearthkeep.papers import Audience, family_card, gather
from hearthkeep.papers.household import household_of
from hearthkeep.papers.languages import catalogue_file, speech_of
from hearthkeep.papers.press import laid_out
from tests.runner.profile import some
from tests.support.designs import ROOT, moved
from tests.support.sheets_laid import outside, overlapping, written

sys.path.insert(0, str(ROOT / "scripts"))
from translations import template

DAY = date(2026, 11, 28)


def fields_of(pattern):
    return sorted(name for _, name, _, _ in Formatter().parse(pattern) if name)


def catalogue(language):
    with catalogue_file(language).open("rb") as file:
        return read_po(file, locale=language.value)


def in_language(design, language):
    return gather(moved(design, {"papers.household_language": language.value}), printed_on=DAY, revision=2)


class Catalogues(unittest.TestCase):
    def test_each_holds_every_sentence_and_no_dead_one(self):
        wanted = {message.id for message in template() if message.id}
        for language in HouseholdLanguage:
            with self.subTest(language.value):
                found = {message.id: message for message in catalogue(language) if message.id}
                self.assertEqual(set(found), wanted)
                for message in found.values():
                    forms = message.string if isinstance(message.string, tuple) else (message.string,)
                    self.assertTrue(all(forms), message.id)

    def test_what_stands_in_a_sentence_stands_in_its_translation(self):
        for language in HouseholdLanguage:
            for message in catalogue(language):
                ids, forms = (
                    part if isinstance(part, tuple) else (part,) for part in (message.id or "", message.string)
                )
                if not ids[0]:
                    continue
                for form in forms:
                    with self.subTest(language=language.value, text=form):
                        left_out = set(fields_of(ids[-1])) - set(fields_of(form))
                        # One thing need not be counted.
                        self.assertLessEqual(left_out, {"number"} if len(ids) > 1 else set())
                        self.assertLessEqual(set(fields_of(form)), set(fields_of(ids[-1])))


class Speaking(unittest.TestCase):
    def test_plurals_follow_each_language(self):
        def steps(language, number):
            one, many = (
                "Then the other step on the sheet by the switch.",
                "Then the other {number} steps on the sheet by the switch.",
            )
            return speech_of(language).say(counted_sentence(one, many, number))

        # Polish and Ukrainian: 2 to 4 apart from 5 and more, and from 12 to 14.
        for language, few, rest in (
            (HouseholdLanguage.PL, "kroki ", "kroków "),
            (HouseholdLanguage.UK, "кроки ", "кроків "),
        ):
            for number, wanted in ((2, few), (4, few), (5, rest), (12, rest), (22, few), (25, rest)):
                with self.subTest(language=language.value, number=number):
                    self.assertIn(f"{number} {wanted}", steps(language, number))
        self.assertIn("el otro paso", steps(HouseholdLanguage.ES, 1))
        self.assertIn("los otros 2 pasos", steps(HouseholdLanguage.ES, 2))
        self.assertIn("其余 3 步", steps(HouseholdLanguage.ZH_HANS, 3))

    def test_numbers_lists_and_days_are_written_as_the_language_does(self):
        energy = sentence("a {chemistry} battery of {energy} kWh", energy="1,210.5", chemistry=sentence("lithium"))
        told = sentence("Tell the fire service: {what}.", what=Names((energy, "12.5 V lamp", "x", "y"), 3))
        self.assertEqual(
            speech_of(HouseholdLanguage.DE).say(told),
            "Der Feuerwehr sagen: eine Batterie mit 1.210,5 kWh, Lithium, 12.5 V lamp, x und 1 weitere.",
        )
        self.assertEqual(speech_of(None).say(told), str(told))
        self.assertEqual(speech_of(HouseholdLanguage.FR).day(DAY), "28 novembre 2026")
        # Names are never translated.
        self.assertEqual(speech_of(HouseholdLanguage.ES).say("Kettle"), "Kettle")


class Sheets(unittest.TestCase):
    def test_nothing_is_cut_and_nothing_stays_in_english(self):
        every = [(design, language) for language in HouseholdLanguage for design in demo_designs()]
        for design, language in some(every, 9):
            source = in_language(design, language)
            for audience in (Audience.FAMILY, Audience.WALL):
                document = laid_out(source, audience)
                with self.subTest(design=design.name, language=language.value, audience=audience.value):
                    for page in document.pages:
                        self.assertEqual(outside(page), [])
                        self.assertEqual(overlapping(page), [])
                    text = re.sub(r"\s+", "", " ".join(each.text for page in document.pages for each in written(page)))
                    told = household_of(source)
                    ways = (*told.ways, *told.back) if audience is Audience.FAMILY else source.assessment.switching.ways
                    for said in (way.title for way in ways):
                        self.assertIn(re.sub(r"\s+", "", speech_of(language).say(said)), text)

    def test_every_sentence_of_the_card_and_the_sheet_is_translated(self):
        for design in demo_designs():
            for language in HouseholdLanguage:
                source = in_language(design, language)
                english, other = family_card(source).texts
                with self.subTest(design=design.name, language=language.value):
                    for name in ("title", "how_long", "anything_else", "off_title", "call_title", "kept"):
                        self.assertNotEqual(getattr(english, name), getattr(other, name), name)
                    for ours, theirs in zip(
                        english.steps + english.cautions, other.steps + other.cautions, strict=True
                    ):
                        self.assertNotEqual(ours, theirs)
                    told = household_of(source)
                    for step in (step for way in (*told.ways, *told.back) for step in way.steps):
                        self.assertIsInstance(step.do, Sentence)
                        self.assertNotEqual(speech_of(language).say(step.do), step.do)


if __name__ == "__main__":
    unittest.main()
