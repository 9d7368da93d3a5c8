"""The family's card: the family's sheet in fewer words, for every demo."""

import unittest
from datetime import date

from hearthkeep.core.design import read_design
from hearthkeep.papers import family_card, gather
from tests.support.designs import ROOT, birchrow, load, simple


def card_of(design):
    return family_card(gather(design, printed_on=date(2026, 1, 1), revision=3))


class TheCard(unittest.TestCase):
    def test_every_demo_has_three_steps_and_says_what_stays_off(self):
        for path in sorted(ROOT.glob("examples/*.json")):
            with self.subTest(path=path.name):
                design = read_design(path.read_bytes())
                card = card_of(design)
                self.assertEqual(len(card.steps), 3)
                self.assertTrue(all(card.steps))
                self.assertIn("heaters", card.stays_off)
                named = " ".join(name for group in card.stays_on for name in group.names)
                for each in design.loads:
                    self.assertTrue(each.name in named or each.name in card.stays_off, each.name)
                self.assertEqual((card.design_name, card.revision), (design.name, 3))

    def test_a_house_that_is_not_carried_is_told_to_save_from_the_first_hour(self):
        self.assertIn("Save from the first hour", card_of(birchrow()).how_long)
        self.assertIn("lasts through the planned storm", card_of(simple(load("lamp", 5))).how_long)

    def test_hours_and_people_stand_on_it(self):
        design = simple(load("boiler", 50, hours=[[6, 9]]), load("lamp", 5))
        values = design.model_dump()
        values["papers"] = {
            "contacts": [{"role": "Neighbour", "name": "Mo", "reach": "555 0100"}],
            "house_note": "Torch by the door.",
        }
        card = card_of(type(design).model_validate(values))
        self.assertIn("boiler (6–9 h)", [name for group in card.stays_on for name in group.names])
        self.assertEqual((card.contacts[0].role, card.contacts[0].reach), ("Neighbour", "555 0100"))
        self.assertEqual(card.house_note, "Torch by the door.")

    def test_cautions_name_what_kills(self):
        roofs = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
        words = " ".join(card_of(roofs).cautions)
        self.assertIn("outlet of the house", words)
        self.assertIn("exhaust kills", words)
        hill = read_design((ROOT / "examples" / "hill-house.json").read_bytes())
        self.assertNotIn("outlet of the house", " ".join(card_of(hill).cautions))
