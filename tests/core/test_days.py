"""Kinds of day, waiting for the sun, search mode and switched-off hours, each in a case worked by hand."""

import unittest
from typing import ClassVar

import numpy as np

from hearthkeep.core.assess import assess
from hearthkeep.core.loads import DayKind, daily_wh, day_of
from hearthkeep.core.whatif import load_prices
from tests.support.designs import array, load, simple

DARK, BRIGHT = "covered", "clear"


def one(**fields):
    return simple(load("a", 100, **fields)).loads[0]


class KindsOfDay(unittest.TestCase):
    def test_a_dark_day_drops_or_replaces(self):
        dark = DayKind(month=1, is_dark=True)
        self.assertEqual(daily_wh(one(dark_day="drop", standby_w=3.0), dark), 0)
        gas = one(dark_day="substitute", substitute_name="gas ring", substitute_w=4.0, hours=[[7, 9]])
        self.assertEqual((daily_wh(gas, dark), daily_wh(gas)), (8, 200))

    def test_nobody_home(self):
        self.assertEqual(daily_wh(one(stops_when_away=True, standby_w=2.0), DayKind(month=1, is_away=True)), 0)
        self.assertEqual(daily_wh(one(), DayKind(month=1, is_away=True)), 2400)

    def test_seasons_scale_the_duty_and_zero_switches_off(self):
        load = one(duty_frac=0.5, hours=[[0, 10]], standby_w=1.0, month_factors=[1.0, 0.5, *[0.0] * 10])
        self.assertEqual([daily_wh(load, DayKind(month=month)) for month in (1, 2, 3)], [514, 264, 0])

    def test_the_outage_lives_through_each_kind_of_day(self):
        # 100 W except on the dark second day and on the third, when nobody is home: 24 + 0 + 0 + 24 h.
        design = simple(
            load("a", 100, dark_day="drop", stops_when_away=True),
            sky=(BRIGHT,),
            bank={"unit_ah": 1000.0},
            outage={
                "duration_h": 96.0,
                "days": [
                    {"sky": BRIGHT, "air_temp_c": 20.0},
                    {"sky": DARK, "air_temp_c": 20.0},
                    {"sky": BRIGHT, "air_temp_c": 20.0, "away": True},
                    {"sky": BRIGHT, "air_temp_c": 20.0},
                ],
            },
        )
        self.assertAlmostEqual(assess(design).outage.ledger_wh.served, 4800)

    def test_a_month_turns_during_the_outage(self):
        factors = [1.0, 0.0, *[1.0] * 10]
        design = simple(
            load("a", 10, month_factors=factors),
            outage={"start": "2026-01-31T12:00:00", "duration_h": 24.0},
        )
        self.assertAlmostEqual(assess(design).outage.ledger_wh.served, 120)


class WaitingForTheSun(unittest.TestCase):
    def test_on_a_usual_day_it_runs_around_noon(self):
        day = day_of(one(flexible_h=3), DayKind(month=6))
        self.assertEqual(np.flatnonzero(day.on).tolist(), [10, 11, 12])

    def test_it_takes_its_sunniest_painted_hours_that_carry_it(self):
        sun = tuple(float(watts) for watts in [0] * 8 + [90, 150, 300, 500, 700, 600, 400, 120] + [0] * 8)
        kind = DayKind(month=6, sun_w=sun)
        self.assertEqual(np.flatnonzero(day_of(one(flexible_h=2), kind).on).tolist(), [12, 13])
        self.assertEqual(np.flatnonzero(day_of(one(flexible_h=2, hours=[[8, 11]]), kind).on).tolist(), [9, 10])
        # 90 W of sun does not carry 100 W.
        self.assertEqual(np.flatnonzero(day_of(one(flexible_h=9), kind).on).tolist(), list(range(9, 16)))

    def test_without_sun_it_does_not_run_and_nothing_counts_as_unserved(self):
        found = assess(simple(load("a", 100, flexible_h=4), sky=(DARK,), arrays=(array("p", 1000),))).outage
        self.assertEqual((found.ledger_wh.served, found.per_tier["keep"].unserved_wh), (0, 0))

    def test_in_the_outage_it_runs_under_the_sun_and_spares_the_bank(self):
        design = simple(load("a", 100, flexible_h=4), arrays=(array("p", 1000),))
        found = assess(design).outage
        self.assertAlmostEqual(found.ledger_wh.served, 400)
        self.assertAlmostEqual(found.min_soc_frac, 1.0)


class StandingDraw(unittest.TestCase):
    UNIT: ClassVar = {"rated_w": 1000.0, "surge_w": 3000.0, "idle_w": 20.0, "efficiency_frac": 0.9}

    def test_search_mode_listens_while_nothing_large_runs(self):
        # The pump runs half of the time and wakes the unit: (20 + 2) / 2 = 11 W standing. The 5 W router is dead in
        # the other half, 60 Wh of its 120.
        found = assess(
            simple(
                load("pump", 100, duty_frac=0.5),
                load("router", 5, tier="ease"),
                inverter={**self.UNIT, "search_threshold_w": 15.0, "search_w": 2.0},
                bank={"unit_ah": 1000.0},
            )
        )
        lines = {line.key: line.wh for line in found.bank.daily_ledger}
        self.assertAlmostEqual(lines["idle"], 11 * 24)
        self.assertEqual(found.inverter.search_dead, ("router",))
        self.assertAlmostEqual(found.inverter.search_dead_wh, 60)
        self.assertAlmostEqual(found.outage.per_tier["ease"].unserved_wh, 60)
        self.assertIn("SEARCH_LEAVES_DEAD", [finding.code for finding in found.findings])

    def test_small_loads_that_run_together_wake_it(self):
        found = assess(
            simple(load("a", 9), load("b", 8), inverter={**self.UNIT, "search_threshold_w": 15.0, "search_w": 2.0})
        )
        self.assertEqual(found.inverter.search_dead_wh, 0)
        self.assertEqual(next(line.wh for line in found.bank.daily_ledger if line.key == "idle"), 480)

    def test_a_keep_load_that_cannot_wake_it_leaves_the_house_dark_at_once(self):
        found = assess(
            simple(load("router", 5), inverter={**self.UNIT, "search_threshold_w": 15.0, "search_w": 2.0})
        ).outage
        self.assertEqual(found.hours_carried_h, 0)

    def test_switched_off_at_night_only_direct_loads_run_and_nothing_stands(self):
        found = assess(
            simple(
                load("tv", 50, tier="ease"),
                load("lamp", 10, supply="dc"),
                inverter={**self.UNIT, "off_hours": [[0, 6], [22, 24]]},
                bank={"unit_ah": 1000.0},
            )
        )
        self.assertAlmostEqual(found.outage.per_tier["ease"].served_wh, 50 * 16)
        self.assertAlmostEqual(found.outage.per_tier["keep"].served_wh, 240)
        self.assertEqual(next(line.wh for line in found.bank.daily_ledger if line.key == "idle"), 20 * 16)
        self.assertIn("switched_off", [event.cause for event in found.outage.events])


class WhatIf(unittest.TestCase):
    def test_an_hour_less_and_another_in_its_place(self):
        # 1 kWh at 50 W all day: 20 h. Without the last hour of the day nothing changes in 20 h from midnight; at 40 W it
        # is carried for the whole 24 h.
        design = simple(load("a", 50))
        other = design.loads[0].model_copy(update={"running_w": 40.0})
        found = load_prices(design, 0, other)
        self.assertEqual((found.hour_left_out, found.shorter_hours), (23, ((0, 23),)))
        self.assertAlmostEqual(found.one_hour_less.gain_h, 0)
        self.assertAlmostEqual(found.replaced.gain_h, 4)
        self.assertAlmostEqual(found.without_it.gain_h, 4)
        self.assertEqual((found.daily_wh, found.replaced_daily_wh), (1200, 960))
