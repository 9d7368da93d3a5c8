"""The switching card: its order, what opens what, where precharge stands, and that nothing that stays live is left unsaid."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.switching import WayKind, switching_of
from hearthkeep.core.wiring import wiring_plan
from hearthkeep.core.words import Sentence
from tests.core.as_built import cart, one_block, one_fan, two_blocks
from tests.core.test_paths import plans
from tests.runner.profile import examples
from tests.support.designs import birchrow, moved


def way_of(design, kind):
    """The steps of a way as one text each."""
    found = assess(design).switching.find(kind)
    return [" ".join([step.do, step.check, step.never]) for step in found.steps]


def at(steps, word):
    return next(number for number, text in enumerate(steps) if word in text)


class Order(unittest.TestCase):
    def test_off_the_bank_is_last_and_on_it_is_first(self):
        off, on = way_of(birchrow(), WayKind.SERVICE), way_of(birchrow(), WayKind.START)
        self.assertLess(at(off, "the inverter off"), at(off, "Open the disconnects: South roof"))
        self.assertLess(at(off, "Open the disconnects: South roof"), at(off, "Open the disconnect of the bank"))
        self.assertIn("measure before anything is touched", off[-1])
        self.assertLess(at(on, "close the disconnect of the bank"), at(on, "disconnects of the arrays"))
        self.assertLess(at(on, "disconnects of the arrays"), at(on, "Switch the inverter on"))

    def test_what_stays_live_is_what_there_is(self):
        self.assertIn("the grid's side of its breaker", way_of(birchrow(), WayKind.SERVICE)[-1])
        off_grid = moved(birchrow(), {"site.off_grid": True, "transfer.arrangement": "own_panel"})
        self.assertNotIn("grid", way_of(off_grid, WayKind.SERVICE)[-1])
        dark = moved(birchrow(), {"charging.controllers": []})
        self.assertNotIn("daylight", way_of(dark, WayKind.SERVICE)[-1])

    def test_precharge_stands_only_where_the_sum_asks_for_it(self):
        self.assertIn("Ω", way_of(cart(), WayKind.START)[at(way_of(cart(), WayKind.START), "bank")])
        self.assertNotIn("Ω", " ".join(way_of(one_fan(), WayKind.START)))

    def test_what_opens_the_bank_is_what_was_entered(self):
        self.assertIn(
            "the breakers of the blocks", " ".join(way_of(self.without_disconnect(two_blocks()), WayKind.DANGER))
        )
        bare = way_of(self.without_disconnect(one_block()), WayKind.SERVICE)
        self.assertIn("Nothing that was entered opens the bank", " ".join(bare))
        # What stays joined to the bank is never said to be dead.
        self.assertNotIn("Below 2 V", " ".join(bare))
        self.assertIn("Below 2 V", " ".join(way_of(one_block(), WayKind.SERVICE)))
        self.assertNotIn("open the", " ".join(way_of(self.without_disconnect(one_block()), WayKind.DANGER)).lower())
        plug = moved(
            one_block(), {"wiring.runs": [{"run": "bank", "opened_by": "plug", "device": "class_t", "device_a": 125.0}]}
        )
        self.assertIn("the bank's plug", " ".join(way_of(plug, WayKind.SERVICE)))  # fmt: skip

    @staticmethod
    def without_disconnect(design):
        runs = {each.run: each.model_dump(mode="json", exclude_unset=True) for each in design.wiring.runs}
        for key in ("bank", "string-leads"):
            runs[key] = {"run": key, **runs.get(key, {}), "disconnects": "none"}
        return moved(design, {"wiring.runs": list(runs.values())})


class AnyDesign(unittest.TestCase):
    @examples(40)
    @given(plans(), st.booleans())
    def test_each_way_is_whole_and_each_text_can_be_translated(self, design, off_grid):
        design = moved(design, {"site.off_grid": off_grid})
        card = switching_of(design, wiring_plan(design, rate(design.bank)))
        kinds = [way.kind for way in card.ways]
        self.assertEqual(len(set(kinds)), len(kinds))
        self.assertTrue({WayKind.DANGER, WayKind.SERVICE, WayKind.START} <= set(kinds))
        self.assertEqual(WayKind.TO_GRID in kinds, WayKind.TO_BACKUP in kinds)
        self.assertFalse(off_grid and WayKind.TO_BACKUP in kinds)
        for text in [part for way in card.ways for step in way.steps for part in (step.do, step.check, step.never)]:
            self.assertIsInstance(text, Sentence)
            self.assertEqual(text.pattern.format_map(text.values), text)


if __name__ == "__main__":
    unittest.main()
