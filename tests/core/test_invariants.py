"""What must hold for any design: energy closes, more never carries less, order does not matter."""

import unittest
from typing import ClassVar

from hypothesis import assume, given
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.design import Design
from tests.runner.profile import examples
from tests.strategies import designs
from tests.support.designs import changed

quick = examples(40)
TINY_H = 1e-6
ALL_TIERS = ("life", "keep", "ease", "spare")


def hours(design: Design) -> float:
    return assess(design).outage.hours_carried_h


class Energy(unittest.TestCase):
    @quick
    @given(designs(tiers=ALL_TIERS))
    def test_the_books_close(self, design):
        ledger = assess(design).outage.ledger_wh
        put_in = ledger.sun + ledger.generator + ledger.grid + ledger.other + ledger.bank_drawn
        went = ledger.served + ledger.inverter_loss + ledger.charge_loss + ledger.wiring_loss + ledger.spilled
        turned_over = ledger.sun + ledger.served + abs(ledger.bank_drawn) + 1e-6
        self.assertLess(abs(put_in - went) / turned_over, 1e-4)
        for part in (ledger.sun, ledger.served, ledger.inverter_loss, ledger.charge_loss, ledger.wiring_loss):
            self.assertGreaterEqual(part, -1e-9)
        self.assertGreaterEqual(ledger.spilled, -1e-6)

    @quick
    @given(designs(tiers=ALL_TIERS))
    def test_the_bank_stays_between_cut_off_and_full_and_all_that_asks_is_served_or_not(self, design):
        found = assess(design)
        lowest, highest = min(found.outage.series.stored_wh), max(found.outage.series.stored_wh)
        self.assertGreaterEqual(lowest, design.bank.cutoff_soc_frac * found.bank.capacity_wh - 0.1)
        self.assertLessEqual(highest, found.bank.capacity_wh + 0.1)
        tiers = found.outage.per_tier.values()
        served = sum(tier.served_wh for tier in tiers)
        self.assertAlmostEqual(served, found.outage.ledger_wh.served, delta=1e-6 * served + 1e-6)


class MoreNeverCarriesLess(unittest.TestCase):
    @quick
    @given(designs(), st.integers(1, 3))
    def test_bank(self, design, more):
        larger = changed(design, bank={"parallel": design.bank.parallel + more})
        self.assertGreaterEqual(hours(larger), hours(design) - TINY_H)

    @quick
    @given(designs(with_sun=True), st.floats(1.05, 3))
    def test_array_and_controller(self, design, factor):
        values = design.model_dump(mode="json")["charging"]
        values["controllers"][0]["arrays"][0]["stc_w"] *= factor
        self.assertGreaterEqual(hours(changed(design, charging=values)), hours(design) - TINY_H)
        values["controllers"][0]["output_a"] *= factor
        self.assertGreaterEqual(hours(changed(design, charging=values)), hours(design) - TINY_H)

    @quick
    @given(designs(), st.data())
    def test_removing_a_load(self, design, data):
        assume(len(design.loads) > 1)
        # The first load keeps the inverter on all day, as the rule demands.
        gone = data.draw(st.integers(1, len(design.loads) - 1))
        kept = [load for index, load in enumerate(design.model_dump(mode="json")["loads"]) if index != gone]
        price = assess(design).prices.without_load[design.loads[gone].id].gain_h
        self.assertGreaterEqual(price, -TINY_H)
        self.assertAlmostEqual(hours(changed(design, loads=kept)) - hours(design), price, places=6)

    @quick
    @given(designs(with_sun=True, dark_rules=False))
    def test_a_clear_sky(self, design):
        values = design.model_dump(mode="json")["outage"]
        for worse, better in (("covered", "overcast"), ("overcast", "broken"), ("broken", "clear")):
            dim = changed(design, outage={"days": [{**day, "sky": worse} for day in values["days"]]})
            bright = changed(design, outage={"days": [{**day, "sky": better} for day in values["days"]]})
            self.assertGreaterEqual(hours(bright), hours(dim) - TINY_H)


class NothingHangsOn(unittest.TestCase):
    FINER: ClassVar = {60: 30, 30: 15, 15: 5}

    @quick
    @given(designs(tiers=ALL_TIERS), st.randoms(use_true_random=False))
    def test_the_order_of_loads(self, design, random):
        loads = design.model_dump(mode="json")["loads"]
        random.shuffle(loads)
        self.assertAlmostEqual(hours(changed(design, loads=loads)), hours(design), places=9)

    @quick
    @given(designs(tiers=ALL_TIERS, with_sun=False), st.sampled_from([60, 30, 15]))
    def test_the_step_without_sun(self, design, step):
        coarse = assess(changed(design, simulation={"time_step_min": step})).outage
        fine = assess(changed(design, simulation={"time_step_min": self.FINER[step]})).outage
        self.assertAlmostEqual(fine.hours_carried_h, coarse.hours_carried_h, places=6)
        self.assertAlmostEqual(
            fine.ledger_wh.served, coarse.ledger_wh.served, delta=1e-6 * coarse.ledger_wh.served + 1e-4
        )

    @quick
    @given(designs(tiers=ALL_TIERS))
    def test_the_call(self, design):
        self.assertEqual(assess(design), assess(design))
