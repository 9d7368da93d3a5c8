"""The family's card: the family's sheet in fewer words, for every demo."""

import unittest
from datetime import date

from hearthkeep.core.design import read_design
from hearthkeep.papers import family_card, gather
from tests.support.designs import ROOT, birchrow, load, simple


def whole_card(design):
    return family_card(gather(design, printed_on=date(2026, 1, 1), revision=3))


def card_of(design):
    """The card in English."""
    return whole_card(design).texts[0]


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
                self.assertEqual((whole_card(design).design_name, whole_card(design).revision), (design.name, 3))

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
        card = whole_card(type(design).model_validate(values))
        self.assertIn("boiler (6–9 h)", [name for group in card.texts[0].stays_on for name in group.names])
        self.assertEqual((card.contacts[0].role, card.contacts[0].reach), ("Neighbour", "555 0100"))
        self.assertEqual(card.house_note, "Torch by the door.")

    def test_what_takes_the_supply_down_is_not_to_be_plugged_in_and_nothing_stands_on_both_lists(self):
        house = simple(load("lamp", 5), load("kettle", 2000), inverter={"rated_w": 1000.0, "surge_w": 2000.0})
        card = card_of(house)
        on = " ".join(name for group in card.stays_on for name in group.names)
        self.assertNotIn("kettle", on)
        self.assertIn("kettle", card.stays_off)
        # One that the inverter bears is on, and kettles are not forbidden beside it.
        strong = card_of(simple(load("lamp", 5), load("kettle", 2000), inverter={"rated_w": 3000.0, "surge_w": 6000.0}))
        self.assertIn("kettle", " ".join(name for group in strong.stays_on for name in group.names))
        self.assertFalse({"kettle", "kettles"} & set(strong.stays_off))
        self.assertIn("irons", strong.stays_off)

    def test_cautions_name_what_kills(self):
        roofs = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
        words = " ".join(card_of(roofs).cautions)
        self.assertIn("outlet of the house", words)
        self.assertIn("exhaust kills", words)
        hill = read_design((ROOT / "examples" / "hill-house.json").read_bytes())
        self.assertNotIn("outlet of the house", " ".join(card_of(hill).cautions))
