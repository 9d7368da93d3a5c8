"""What must hold for any design: energy closes, more never carries less, order does not matter."""

import unittest
from typing import ClassVar

from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.design import Design
from tests.core.slow_outage import live_through
from tests.strategies import designs, sources, with_sources
from tests.support.designs import changed

quick = settings(
    max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow], derandomize=True, database=None
)
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
        coarse = assess(changed(design, rules={"time_step_min": step})).outage
        fine = assess(changed(design, rules={"time_step_min": self.FINER[step]})).outage
        self.assertAlmostEqual(fine.hours_carried_h, coarse.hours_carried_h, places=6)
        self.assertAlmostEqual(
            fine.ledger_wh.served, coarse.ledger_wh.served, delta=1e-6 * coarse.ledger_wh.served + 1e-4
        )

    @quick
    @given(designs(tiers=ALL_TIERS))
    def test_the_call(self, design):
        self.assertEqual(assess(design), assess(design))


class AgainstASecondImplementation(unittest.TestCase):
    """The compiled model against the naive one: solved levels against slices of seconds."""

    SLICE_H = 0.004

    def slow(self, design):
        """The naive answer; where a heavy load is dropped a slice late, a thirtieth of that slice for the light ones left."""
        slow, hours_h = live_through(design, slice_h=self.SLICE_H), hours(design)
        slow_h = design.outage.duration_h if slow.dark_h is None else slow.dark_h
        return slow if abs(slow_h - hours_h) < 0.1 else live_through(design, slice_h=self.SLICE_H / 30)

    @settings(quick, max_examples=30)
    @given(designs(tiers=ALL_TIERS, ample=True))
    def test_they_agree(self, design):
        fast, slow = assess(design), self.slow(design)
        outage, capacity = fast.outage, fast.bank.capacity_wh
        # The naive one may overshoot a level by what is drawn in a slice or two.
        slack_wh = 3 * self.SLICE_H * (fast.loads.peak_w + fast.loads.peak_dc_w + 50)
        slow_hours = outage.duration_h if slow.dark_h is None else slow.dark_h
        self.assertAlmostEqual(outage.hours_carried_h, slow_hours, delta=max(0.1, 0.004 * outage.duration_h))
        # A bank that falls dark and returns over and over drifts in phase by one slice a turn: only its first dark
        # moment can be compared. With few turns everything must agree.
        if sum(event.kind == "returned" for event in outage.events) > 2:
            return
        self.assertAlmostEqual(outage.end_soc_frac * capacity, slow.stored_end_wh, delta=0.03 * capacity + slack_wh)
        self.assertAlmostEqual(outage.ledger_wh.served, slow.served_wh, delta=0.02 * slow.served_wh + 0.02 * capacity)
        self.assertAlmostEqual(outage.min_soc_frac * capacity, slow.lowest_wh, delta=0.02 * capacity + slack_wh)

    @settings(quick, max_examples=30)
    @given(designs(tiers=ALL_TIERS, ample=True, dark_rules=False), sources(ample=True), st.booleans())
    def test_they_agree_with_every_other_source(self, design, more, away):
        design = with_sources(design, more, away=away)
        fast, slow = assess(design), self.slow(design)
        outage, capacity = fast.outage, fast.bank.capacity_wh
        slack_wh = 3 * self.SLICE_H * (fast.loads.peak_w + fast.loads.peak_dc_w + 1000)
        slow_hours = outage.duration_h if slow.dark_h is None else slow.dark_h
        self.assertAlmostEqual(outage.hours_carried_h, slow_hours, delta=max(0.1, 0.006 * outage.duration_h))
        # Runs that follow one another drift in phase by a slice each.
        if outage.generator_starts + sum(event.kind == "returned" for event in outage.events) > 3:
            return
        self.assertAlmostEqual(outage.end_soc_frac * capacity, slow.stored_end_wh, delta=0.03 * capacity + slack_wh)
        self.assertAlmostEqual(outage.fuel_l, slow.fuel_l, delta=0.03 * slow.fuel_l + 0.05)
        ledger, turned_over = (
            outage.ledger_wh,
            outage.ledger_wh.other + outage.ledger_wh.sun + outage.ledger_wh.generator,
        )
        self.assertAlmostEqual(ledger.generator, slow.generator_wh, delta=0.03 * slow.generator_wh + slack_wh)
        self.assertAlmostEqual(ledger.spilled, slow.spilled_wh, delta=0.03 * turned_over + slack_wh)
