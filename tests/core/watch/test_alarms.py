"""Alarms while the outage is on: each raised by what is wrong and by nothing else, once, and none that cries wolf."""

import unittest
from datetime import datetime, timedelta

import numpy as np

from hearthkeep.core.design import Design, read_design
from hearthkeep.core.foresight import Choices, course_of
from hearthkeep.core.logbook import DecisionEntry, Log, Quantity, Trace, WatchEntry, WatchWhat, Written
from hearthkeep.core.outage import prepare
from hearthkeep.core.watch import watch_view
from hearthkeep.core.watch.alarms import Spell, spells, spells_of
from hearthkeep.core.watch.live import live_design, live_of
from hearthkeep.core.watch.stand import stand_of
from tests.support.designs import ROOT, load, simple

EPOCH = datetime(1970, 1, 1)
BEGUN = datetime(2026, 1, 12, 17, 0)
MINUTE_S = 60.0


def began():
    return [Written(at=BEGUN, entry=WatchEntry(what=WatchWhat.BEGAN))]


def made_readings(design, hours, seed, *, every_min=5):
    """
    What the devices of a house say in an outage that goes as planned, with flicker and noise: the charge, volts on three displays,
    amps, what the house takes, and the sun.
    """
    dice = np.random.default_rng(seed)
    now = BEGUN + timedelta(hours=hours)
    live = live_of(design, began(), now)
    course = course_of(prepare(live_design(design, live, now)))
    run = course.run(course.first(), 0.0, course.end_h, Choices())
    edges_h = course.edges_h
    at_h = np.arange(0.0, hours + 1e-9, every_min / 60)
    count, step = at_h.size, np.minimum(np.searchsorted(edges_h, at_h, side="right") - 1, course.quiet.size - 1)
    soc = np.interp(at_h, edges_h, run.stored_wh) / course.prepared.plant.acceptance.capacity_wh
    ac = np.array([each.supply.is_ac and each.tier.value != "spare" for each in course.design.loads])
    planned_w = course.prepared.rows.average_w[ac].sum(axis=0)[course.prepared.scene.row][step]
    # Flicker from reading to reading, and days that are not all alike.
    house_w = (
        planned_w
        * dice.normal(1.0, 0.25, count).clip(0.2)
        * np.repeat(dice.normal(1.0, 0.08, count // 200 + 1), 200)[:count]
    )
    sun_w = course.steps.sun_w[step] * dice.normal(1.0, 0.1, count).clip(0)
    bank_w = sun_w - house_w * 1.1
    nominal_v = course.design.bank.nominal_v
    volts = nominal_v * (0.98 + 0.08 * soc) + 0.004 * bank_w / nominal_v
    at_s = (BEGUN - EPOCH).total_seconds() + at_h * 3600
    noise = {part: dice.normal(0, 0.02 * nominal_v / 12, count) for part in ("monitor", "inverter", "controller")}
    values = {
        (Quantity.CHARGE, ""): 100 * soc,
        **{(Quantity.BANK_V, part): volts + each for part, each in noise.items()},
        (Quantity.BANK_A, ""): bank_w / volts,
        (Quantity.BANK_C, ""): np.full(count, 8.0) + dice.normal(0, 0.3, count),
        (Quantity.INVERTER_W, ""): house_w,
        (Quantity.SUN_W, ""): sun_w,
    }
    return {key: Trace(at_s=at_s, values=each) for key, each in values.items()}


def with_trace(traces, key, change):
    """The same with one series changed: its hours from the start and its values go in, its values come out."""
    trace = traces[key]
    at_h = (trace.at_s - (BEGUN - EPOCH).total_seconds()) / 3600
    return {**traces, key: Trace(at_s=trace.at_s, values=change(at_h, trace.values))}


def alarms(design, traces, hours, written=None):
    view = watch_view(design, written or began(), Log(traces=traces), BEGUN + timedelta(hours=hours))
    return {alarm.key: alarm for alarm in view.alarms}


def demo(name="birchrow-16"):
    return read_design((ROOT / "examples" / f"{name}.json").read_bytes())


class Levels(unittest.TestCase):
    def test_up_at_one_level_down_at_another_and_only_where_it_stays(self):
        at_s = np.arange(10.0) * 60
        values = np.array([0, 5, 5, 3, 5, 1, 1, 1, 5, 0.0])
        self.assertEqual(spells(at_s, values, raises=4, clears=2, hold_s=60), (Spell(60.0, 300.0),))
        self.assertEqual(spells(at_s, values, raises=4, clears=2, hold_s=600), ())
        self.assertEqual(spells(at_s[:5], values[:5], raises=4, clears=2, hold_s=60), (Spell(60.0, None),))

    def test_a_value_that_trembles_about_its_level_is_one_spell(self):
        at_s = np.arange(600.0) * 60
        values = 4.0 + 0.5 * np.sin(np.arange(600.0))
        self.assertEqual(len(spells(at_s, values, raises=4.2, clears=3.0, hold_s=60)), 1)

    def test_nothing_read_is_nothing_wrong(self):
        self.assertEqual(spells(np.zeros(0), np.zeros(0), raises=1, clears=0, hold_s=0), ())


class NoneThatCriesWolf(unittest.TestCase):
    def test_three_days_that_go_as_planned_raise_at_most_six(self):
        for name in ("birchrow-14", "birchrow-16", "terrace-flat"):
            for seed in range(3):
                with self.subTest(name=name, seed=seed):
                    design, traces = demo(name), made_readings(demo(name), 72, seed)
                    stand = stand_of(design, began(), Log(traces=traces), BEGUN + timedelta(hours=72))
                    raised = {key: each for key, each in spells_of(stand, Log(traces=traces)).items() if each}
                    self.assertLessEqual(sum(len(each) for each in raised.values()), 6, raised)
                    # And none of those that can hurt somebody.
                    self.assertNotIn("over_volts", raised)
                    self.assertNotIn("cold", raised)


class WhatIsWrong(unittest.TestCase):
    def setUp(self):
        self.design = demo()
        self.traces = made_readings(self.design, 30, 1)

    def test_volts_that_creep_above_every_set_point(self):
        creeping = with_trace(
            self.traces,
            (Quantity.BANK_V, "controller"),
            lambda at_h, volts: volts + np.where(at_h > 28, 8.0 * (at_h - 28), 0),
        )
        alarm = alarms(self.design, creeping, 30)["over_volts"]
        self.assertEqual(alarm.severity.value, "stop")
        self.assertGreater(alarm.since, BEGUN + timedelta(hours=28))

    def test_a_display_that_leaves_the_others(self):
        off = with_trace(
            self.traces, (Quantity.BANK_V, "inverter"), lambda at_h, volts: volts - np.where(at_h > 29, 2.5, 0.0)
        )
        self.assertIn("inverter", alarms(self.design, off, 30)["apart"].message)

    def test_a_device_that_fell_silent_and_that_alone(self):
        trace = self.traces[Quantity.SUN_W, ""]
        traces = {**self.traces, (Quantity.SUN_W, ""): Trace(at_s=trace.at_s[:-12], values=trace.values[:-12])}
        found = alarms(self.design, traces, 30)
        self.assertIn("Sun into the bank", found["silent"].message)
        self.assertNotIn("Volts", found["silent"].message)
        self.assertNotIn("silent", alarms(self.design, self.traces, 30))

    def test_cells_charged_below_freezing(self):
        cold = with_trace(self.traces, (Quantity.BANK_C, ""), lambda at_h, temp: np.where(at_h > 28, -4.0, temp))
        charged = with_trace(cold, (Quantity.BANK_A, ""), lambda at_h, amps: np.where(at_h > 29, 20.0, amps))
        self.assertEqual(alarms(self.design, charged, 30)["cold"].severity.value, "stop")
        self.assertNotIn("cold", alarms(self.design, cold, 28.5))

    def test_a_house_that_takes_more_names_the_group(self):
        more = with_trace(
            self.traces, (Quantity.INVERTER_W, ""), lambda at_h, power: power + np.where(at_h > 26, 400.0, 0.0)
        )
        whole = more[Quantity.INVERTER_W, ""]
        group = {(Quantity.LOAD_W, "keep"): Trace(at_s=whole.at_s, values=np.full(whole.at_s.size, 600.0))}
        found = alarms(self.design, {**more, **group}, 30)
        self.assertIn("keep", found["draw"].message)
        self.assertNotIn("draw", alarms(self.design, self.traces, 30))

    def test_it_clears_when_it_is_over(self):
        for_a_while = with_trace(
            self.traces,
            (Quantity.INVERTER_W, ""),
            lambda at_h, power: power + np.where((at_h > 18) & (at_h < 23), 500.0, 0.0),
        )
        self.assertIn("draw", alarms(self.design, {key: Trace(at_s=each.at_s[each.at_s <= each.at_s[0] + 22 * 3600], values=each.values[each.at_s <= each.at_s[0] + 22 * 3600]) for key, each in for_a_while.items()}, 22))  # fmt: skip
        self.assertNotIn("draw", alarms(self.design, for_a_while, 30))

    def test_what_somebody_has_seen_is_marked_until_it_comes_anew(self):
        off = with_trace(
            self.traces, (Quantity.BANK_V, "inverter"), lambda at_h, volts: volts - np.where(at_h > 28, 2.5, 0.0)
        )
        seen = [*began(), Written(at=BEGUN + timedelta(hours=29.5), entry=DecisionEntry(key="alarm:apart"))]
        self.assertTrue(alarms(self.design, off, 30, seen)["apart"].is_acknowledged)
        before = [*began(), Written(at=BEGUN + timedelta(hours=20), entry=DecisionEntry(key="alarm:apart"))]
        self.assertFalse(alarms(self.design, off, 30, before)["apart"].is_acknowledged)


class ByTheModel(unittest.TestCase):
    def house(self, **parts):
        return simple(load("heart", 20, tier="life"), load("fridge", 30), outage={"duration_h": 40.0}, **parts)

    def test_life_that_does_not_last_until_help_is_there(self):
        # 1 kWh at 50 W: 20 h, and help in 40 h.
        found = alarms(self.house(), {}, 0.0)
        self.assertEqual(found["life"].severity.value, "stop")
        soon = [*began(), Written(at=BEGUN, entry=WatchEntry(what=WatchWhat.HELP, moment=BEGUN + timedelta(hours=10)))]
        self.assertEqual(alarms(self.house(), {}, 0.0, soon), {})
        # In the worst of nine futures in ten it lasts 17 h.
        near = [*began(), Written(at=BEGUN, entry=WatchEntry(what=WatchWhat.HELP, moment=BEGUN + timedelta(hours=19)))]
        self.assertEqual(set(alarms(self.house(), {}, 0.0, near)), {"life_poor"})

    def test_each_run_of_the_generator_says_what_kills_and_when_to_refuel(self):
        generator = {"rated_w": 2000.0, "stock_l": 10.0, "tank_l": 4.0, "charger_w": 500.0, "charger_efficiency_frac": 1.0,
                     "by_hand": True, "charges_only": True, "start_soc_frac": 0.05, "fuel_idle_l_per_h": 0.5,
                     "fuel_l_per_kwh": 0.5}  # fmt: skip
        design = self.house(charging={"generator": generator}, bank={"start_soc_frac": 0.3})
        run = Written(at=BEGUN + timedelta(hours=1), entry=DecisionEntry(key="own", generator="on"))
        alarm = alarms(design, {}, 1.5, [*began(), run])["generator"]
        self.assertIn("carbon monoxide", alarm.next)
        # 0.75 L/h at full charge, half an hour gone of 4 L: 4 h 50 more.
        self.assertIn("4 h 50", alarm.message)
        self.assertEqual(alarm.since, BEGUN + timedelta(hours=1))
        self.assertNotIn("generator", alarms(design, {}, 0.5))

    def test_a_log_taken_as_a_file_is_no_silent_device(self):
        design = Design.model_validate(self.house().model_dump())
        at_s = (BEGUN - EPOCH).total_seconds() - 36_000 + np.arange(100) * MINUTE_S
        view = watch_view(
            design, [], Log(traces={(Quantity.CHARGE, ""): Trace(at_s=at_s, values=np.full(100, 80.0))}), BEGUN
        )
        self.assertEqual(view.alarms, ())
