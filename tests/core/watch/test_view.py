"""Watch at a moment: from the entries of a log and its readings to what is said."""

import re
import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta

import numpy as np

from hearthkeep.core.design import Sky, read_design
from hearthkeep.core.foresight import GeneratorWish
from hearthkeep.core.logbook import (
    DecisionEntry,
    EventEntry,
    EventKind,
    ForecastDay,
    ForecastEntry,
    Log,
    Quantity,
    ReadingEntry,
    Trace,
    WatchEntry,
    WatchWhat,
    Written,
    read_entry,
)
from hearthkeep.core.watch import watch_view
from hearthkeep.core.watch.live import Phase, live_design, live_of
from tests.support.designs import ROOT, birchrow, load, simple

NOW = datetime(2026, 1, 14, 20, 0)
BEGUN = NOW - timedelta(hours=10)
EPOCH = datetime(1970, 1, 1)


def said(what, at=NOW, **fields):
    return Written(at=at, entry=WatchEntry(what=what, **fields))


def decided(key, at, **fields):
    return Written(at=at, entry=DecisionEntry(key=key, **fields))


def trace(values, *, until=NOW, every_min=5.0):
    at_s = (until - EPOCH).total_seconds() - 60 * every_min * np.arange(len(values))[::-1]
    return Trace(at_s=at_s, values=np.array(values, dtype=float))


def log(**traces):
    return Log(traces={(Quantity(key.split("__")[0]), key.partition("__")[2]): each for key, each in traces.items()})


NO_LOG = Log(traces={})


def steady(**parts):
    """1 kWh, 50 W of Keep and 50 W of Ease, dropped by nobody before the end."""
    return simple(
        load("fridge", 50), load("tv", 50, tier="ease"), policy={"ease_level_frac": 0.0}, outage={"duration_h": 72.0}, **parts
    )  # fmt: skip


class TheLogTellsOfIt(unittest.TestCase):
    def phase(self, *written, now=NOW):
        return live_of(birchrow(), written, now)

    def test_quiet_before_on_and_after(self):
        self.assertIs(self.phase().phase, Phase.QUIET)
        expected = NOW + timedelta(hours=9)
        live = self.phase(said(WatchWhat.WARNING, moment=expected))
        self.assertEqual((live.phase, live.begun), (Phase.BEFORE, expected))
        live = self.phase(said(WatchWhat.BEGAN, BEGUN))
        self.assertEqual((live.phase, live.begun), (Phase.ON, BEGUN))
        live = self.phase(said(WatchWhat.BEGAN, BEGUN), said(WatchWhat.ENDED, NOW - timedelta(hours=1)))
        self.assertEqual((live.phase, live.ended), (Phase.AFTER, NOW - timedelta(hours=1)))
        live = self.phase(said(WatchWhat.BEGAN, BEGUN), said(WatchWhat.ENDED), now=NOW + timedelta(hours=73))
        self.assertIs(live.phase, Phase.QUIET)

    def test_a_warning_passes_and_a_new_one_counts_after_an_outage(self):
        old = said(WatchWhat.WARNING, NOW - timedelta(hours=40), moment=NOW - timedelta(hours=30))
        self.assertIs(self.phase(old).phase, Phase.QUIET)
        over = (said(WatchWhat.BEGAN, BEGUN), said(WatchWhat.ENDED, NOW - timedelta(hours=2)))
        new = said(WatchWhat.WARNING, NOW - timedelta(hours=1), moment=NOW + timedelta(hours=5))
        self.assertIs(self.phase(*over, new).phase, Phase.BEFORE)

    def test_the_moment_told_counts_before_the_moment_of_telling(self):
        live = self.phase(said(WatchWhat.BEGAN, NOW, moment=BEGUN))
        self.assertEqual(live.begun, BEGUN)

    def test_help_is_the_newest_word_or_the_plans_length(self):
        design = birchrow()
        live = self.phase(said(WatchWhat.BEGAN, BEGUN))
        self.assertEqual((live.help, live.help_is_told), (BEGUN + timedelta(hours=design.outage.duration_h), False))
        first = said(WatchWhat.HELP, BEGUN, moment=NOW + timedelta(hours=4))
        then = said(WatchWhat.HELP, NOW, moment=NOW + timedelta(hours=30))
        live = self.phase(said(WatchWhat.BEGAN, BEGUN), first, then)
        self.assertEqual((live.help, live.help_is_told), (NOW + timedelta(hours=30), True))
        live = self.phase(said(WatchWhat.BEGAN, BEGUN), first, said(WatchWhat.HELP))
        self.assertFalse(live.help_is_told)

    def test_an_entry_from_next_year_does_not_begin_an_outage(self):
        self.assertIs(self.phase(said(WatchWhat.BEGAN, NOW + timedelta(days=365))).phase, Phase.QUIET)

    def test_what_is_said_to_begin_later_is_expected(self):
        later = NOW + timedelta(hours=6)
        live = self.phase(said(WatchWhat.BEGAN, moment=later))
        self.assertEqual((live.phase, live.begun), (Phase.BEFORE, later))

    def test_an_outage_of_two_months_is_still_told(self):
        begun = NOW - timedelta(days=60)
        view = watch_view(steady(), [said(WatchWhat.BEGAN, begun)], log(charge=trace([60.0])), NOW)
        self.assertEqual((view.phase, view.begun), (Phase.ON, begun))
        self.assertAlmostEqual(view.charge.value, 0.6, places=6)
        self.assertGreater(view.ahead_h, 100)

    def test_readings_of_another_year_change_nothing(self):
        future = trace([5.0] * 30, until=NOW + timedelta(days=400))
        past = trace([5.0] * 30, until=NOW - timedelta(days=4000))
        begun = said(WatchWhat.BEGAN, NOW - timedelta(hours=3))
        plain = watch_view(steady(), [begun], NO_LOG, NOW)
        for wrong in (future, past):
            view = watch_view(steady(), [begun], log(charge=wrong, inverter_w=wrong), NOW)
            self.assertAlmostEqual(view.charge.value, plain.charge.value)
            self.assertEqual(view.use_factor, 1.0)

    def test_a_gauge_that_jumps_is_not_believed_until_it_stays_there(self):
        begun = said(WatchWhat.BEGAN, NOW - timedelta(hours=6))
        hours = [100.0, 90.0, 80.0, 70.0, 60.0, 50.0, 5.0]
        design = steady(bank={"unit_max_charge_a": 20.0, "unit_max_discharge_a": 20.0})
        view = watch_view(design, [begun], log(charge=trace(hours, every_min=60.0)), NOW)
        # 200 W at most: 20 points an hour and 15 for a gauge that is set; 45 it cannot be.
        self.assertAlmostEqual(view.charge.value, 0.4, places=6)
        self.assertFalse(view.charge.is_fresh)
        self.assertEqual([alarm.key for alarm in view.alarms if alarm.key == "doubt"], ["doubt"])
        stays = trace([*hours, 5.0, 4.0], until=NOW + timedelta(hours=2), every_min=60.0)
        later = watch_view(design, [begun], log(charge=stays), NOW + timedelta(hours=2))
        self.assertAlmostEqual(later.charge.value, 0.04, places=6)

    def test_what_somebody_read_and_told_is_believed_at_once(self):
        begun = said(WatchWhat.BEGAN, NOW - timedelta(hours=6))
        design = steady(bank={"unit_max_charge_a": 20.0, "unit_max_discharge_a": 20.0})
        readings = log(charge=trace([100.0, 90.0, 80.0, 70.0, 60.0, 50.0, 5.0], every_min=60.0))
        told = Written(at=NOW, entry=ReadingEntry(values={Quantity.CHARGE: 5.0}))
        view = watch_view(design, [begun, told], readings, NOW)
        self.assertAlmostEqual(view.charge.value, 0.05, places=6)
        self.assertNotIn("doubt", [alarm.key for alarm in view.alarms])

    def test_days_foretold_replace_the_plans(self):
        told = Written(
            at=NOW,
            entry=ForecastEntry(first=date(2026, 1, 15), days=(ForecastDay(sky=Sky.CLEAR, air_temp_c=-3.0),)),
        )
        live = self.phase(said(WatchWhat.BEGAN, BEGUN), told)
        days = live_design(birchrow(), live, NOW).outage.days
        plan = birchrow().outage.days
        self.assertEqual((days[1].sky, days[1].air_temp_c), (Sky.CLEAR, -3.0))
        self.assertEqual((days[0].sky, days[2].sky), (plan[0].sky, plan[2].sky))

    def test_a_month_of_outage_still_fits_the_document(self):
        begun = NOW - timedelta(days=29)
        live = self.phase(said(WatchWhat.BEGAN, begun))
        outage = live_design(birchrow(), live, NOW).outage
        self.assertLessEqual(outage.duration_h, 720)
        self.assertEqual(len(outage.days), 31)

    def test_bad_facts_are_refused_by_name(self):
        for values, field in (
            ({"kind": "watch", "what": "fuel"}, "stock_l"),
            ({"kind": "watch", "what": "warning"}, "moment"),
            ({"kind": "watch", "what": "fuel", "stock_l": -1.0}, "stock_l"),
            ({"kind": "decision", "key": "a b"}, "key"),
            ({"kind": "forecast", "first": "2026-01-15", "days": []}, "days"),
        ):
            with self.subTest(values=values), self.assertRaises(Exception) as caught:
                read_entry(values)
            self.assertIn(field, str(caught.exception))


class WhereThingsStand(unittest.TestCase):
    def test_the_charge_that_was_read_counts_and_the_hours_since(self):
        # Read 60 % at 18:00, two hours of 100 W since: 40 % of 1 kWh, 4 h of both.
        design = steady()
        view = watch_view(
            design, [said(WatchWhat.BEGAN, BEGUN)], log(charge=trace([60.0], until=NOW - timedelta(hours=2))), NOW
        )
        self.assertAlmostEqual(view.charge.value, 0.4, places=6)
        self.assertFalse(view.charge.is_fresh)
        self.assertEqual(view.charge.read_at, NOW - timedelta(hours=2))
        self.assertAlmostEqual(view.left[1].hours, 4.0, places=4)

    def test_without_readings_the_plan_stands_in_and_says_so(self):
        view = watch_view(steady(), [said(WatchWhat.BEGAN, NOW - timedelta(hours=3))], NO_LOG, NOW)
        self.assertFalse(view.charge_is_read)
        self.assertIsNone(view.charge.read_at)
        self.assertAlmostEqual(view.charge.value, 0.7, places=6)

    def test_at_this_draw_and_at_the_plans(self):
        # The plan has 100 W; read were 150 W over two hours: half as long again, by the plan ten hours.
        design = steady()
        readings = log(charge=trace([100.0] * 25), inverter_w=trace([150.0] * 25))
        view = watch_view(design, [said(WatchWhat.BEGAN, BEGUN)], readings, NOW)
        self.assertAlmostEqual(view.use_factor, 1.5, places=6)
        self.assertAlmostEqual(view.left[1].hours, 1000 / 150, places=3)
        self.assertAlmostEqual(view.left_by_plan_h[1], 10.0, places=3)

    def test_the_group_that_takes_more_is_named_and_the_rest_follows_the_plan(self):
        readings = log(charge=trace([100.0] * 25), inverter_w=trace([200.0] * 25), load_w__tv=trace([150.0] * 25))
        view = watch_view(steady(), [said(WatchWhat.BEGAN, BEGUN)], readings, NOW)
        groups = {group.name: (round(group.read_w), round(group.plan_w)) for group in view.groups}
        self.assertEqual(groups, {"tv": (150, 50), "": (50, 50)})

    def test_the_band_says_what_it_covers_and_widens_by_what_the_log_shows(self):
        """100 W from 1 kWh: a house of which nothing is read, one that is read, and one whose days differ by half."""
        read = log(charge=trace([100.0] * 25), inverter_w=trace([100.0] * 25))
        hours = trace(
            np.repeat([50.0, 100.0, 150.0] * 4, 24), every_min=60.0, until=NOW.replace(hour=23) - timedelta(days=1)
        )
        even = replace(hours, values=np.full(hours.values.size, 80.0))
        begun = said(WatchWhat.BEGAN, BEGUN)

        def band(readings, by_hour):
            view = watch_view(steady(), [begun], readings, NOW, use_by_hour=by_hour)
            (days,) = re.findall(r"up to (\d+)\s?% more or less", view.figure.basis)
            return view.left[1].high_h - view.left[1].low_h, int(days)

        full = log(charge=trace([100.0] * 25))
        unread, known, known_even = band(full, None), band(read, None), band(read, even)
        self.assertEqual((unread[1], known[1], known_even[1]), (33, 16, 16))
        self.assertEqual(known, known_even)
        self.assertGreater(unread[0], 1.5 * known[0])
        wide = band(read, hours)
        # Standard deviation of ln(50), ln(100), ln(150), four times each: 0.475, and not more than 0.45 is reckoned with.
        self.assertEqual(wide[1], 74)
        self.assertGreater(wide[0], 4 * known[0])
        few = replace(hours, at_s=hours.at_s[-5 * 24 :], values=hours.values[-5 * 24 :])
        self.assertEqual(band(read, few), known)

    def test_old_readings_of_the_draw_say_nothing_of_now(self):
        readings = log(inverter_w=trace([300.0] * 25, until=NOW - timedelta(hours=3)))
        view = watch_view(steady(), [said(WatchWhat.BEGAN, BEGUN)], readings, NOW)
        self.assertEqual(view.use_factor, 1.0)

    def test_what_was_turned_off_stays_off_until_it_is_on_again(self):
        begun = said(WatchWhat.BEGAN, NOW - timedelta(hours=6))
        off = decided("leave_off", NOW - timedelta(hours=4), off=("tv",))
        # 2 h of 100 W and 4 h of 50 W.
        view = watch_view(steady(), [begun, off], NO_LOG, NOW)
        self.assertAlmostEqual(view.charge.value, 0.6, places=6)
        self.assertEqual(view.off, ("tv",))
        self.assertAlmostEqual(view.left[1].hours, 12.0, places=4)
        on = decided("own", NOW - timedelta(hours=1), on=("tv",))
        view = watch_view(steady(), [begun, off, on], NO_LOG, NOW)
        self.assertEqual(view.off, ())
        self.assertAlmostEqual(view.charge.value, 0.55, places=6)

    def test_what_was_turned_off_is_not_counted_for_the_others(self):
        # The house as it was until now, with a group of its own for Ease; then that is turned off, hour by hour of a day.
        home = birchrow()
        for hour in range(24):
            now = datetime(2026, 1, 14, hour, 30)
            began = now - timedelta(hours=19)
            at_s = (began - EPOCH).total_seconds() + 600.0 * np.arange(19 * 6 + 1)
            house_w = 210.0 + 90.0 * ((np.arange(at_s.size) // 18) % 3)
            log = Log(
                traces={
                    (Quantity.CHARGE, ""): Trace(at_s=at_s, values=np.linspace(97.0, 71.0, at_s.size)),
                    (Quantity.INVERTER_W, ""): Trace(at_s=at_s, values=house_w),
                    (Quantity.LOAD_W, "ease"): Trace(at_s=at_s, values=0.45 * house_w),
                }
            )
            written = [said(WatchWhat.BEGAN, now, moment=began)]
            before = watch_view(home, written, log, now)
            off = next(each.off for each in before.instructions if each.off)
            after = watch_view(home, [*written, decided("leave_off", now, off=off)], log, now + timedelta(seconds=5))
            with self.subTest(hour=hour):
                self.assertGreater(after.left[1].hours, before.left[1].hours - 0.05)

    def test_without_an_outage_there_is_no_plan_to_compare_with(self):
        at_s = (BEGUN - EPOCH).total_seconds() + 300.0 * np.arange(121)
        log = Log(traces={(Quantity.INVERTER_W, ""): Trace(at_s=at_s, values=np.full(121, 300.0))})
        view = watch_view(birchrow(), [], log, NOW)
        self.assertEqual((view.phase, view.groups, view.use_factor), (Phase.QUIET, (), 1.0))

    def test_since_it_was_turned_off_only_what_is_read_then_counts(self):
        home = birchrow()
        at_s = (BEGUN - EPOCH).total_seconds() + 300.0 * np.arange(121)
        off = tuple(each.id for each in home.loads if each.tier.value == "ease")
        turned = NOW - timedelta(hours=1)
        watts = np.where(at_s < (turned - EPOCH).total_seconds(), 900.0, 150.0)
        log = Log(traces={(Quantity.INVERTER_W, ""): Trace(at_s=at_s, values=watts)})
        (rest,) = watch_view(home, [said(WatchWhat.BEGAN, BEGUN), decided("own", turned, off=off)], log, NOW).groups
        self.assertAlmostEqual(rest.read_w, 150.0, delta=1.0)

    def test_a_generator_that_was_started_charges_until_its_time(self):
        generator = {"rated_w": 2000.0, "stock_l": 10.0, "charger_w": 200.0, "charger_efficiency_frac": 1.0, "by_hand": True,
                     "charges_only": True, "start_soc_frac": 0.05, "stop_soc_frac": 0.99, "fuel_idle_l_per_h": 0.0, "fuel_l_per_kwh": 1.0}  # fmt: skip
        design = steady(charging={"generator": generator})
        begun = said(WatchWhat.BEGAN, NOW - timedelta(hours=6))
        run = decided("generator", NOW - timedelta(hours=3), generator="on", until=NOW - timedelta(hours=1))
        view = watch_view(design, [begun, run], NO_LOG, NOW)
        # 1000 - 600 + 2 h x 200 W; 0.4 kWh burn 0.4 L. Its stop level is not reached, and it stops all the same.
        self.assertAlmostEqual(view.charge.value, 0.8, places=6)
        self.assertAlmostEqual(view.fuel_l, 9.6, places=6)
        self.assertFalse(view.generator_runs)
        self.assertIs(view.generator, GeneratorWish.BY_RULE)
        in_its_run = watch_view(design, [begun, run], NO_LOG, NOW - timedelta(hours=2))
        self.assertIs(in_its_run.generator, GeneratorWish.ON)
        counted = said(WatchWhat.FUEL, NOW - timedelta(minutes=30), stock_l=4.0)
        self.assertAlmostEqual(watch_view(design, [begun, run, counted], NO_LOG, NOW).fuel_l, 4.0)

    def test_before_a_storm_the_charge_is_what_the_charger_reaches(self):
        # 200 W for two hours into 1 kWh from 50 %: 90 % as it begins.
        design = steady(charging={"grid_charger": {"output_w": 200.0, "efficiency_frac": 1.0, "top_up_soc_frac": 0.5}})
        warned = said(WatchWhat.WARNING, moment=NOW + timedelta(hours=2))
        view = watch_view(design, [warned], log(charge=trace([50.0])), NOW)
        self.assertIs(view.phase, Phase.BEFORE)
        self.assertAlmostEqual(view.left[1].hours, 9.0, places=3)
        fill = next(task for task in view.tasks if task.key == "before:fill")
        self.assertIn("gets to 90 %", fill.detail)
        self.assertIn("4 h", fill.detail)

    def test_every_figure_is_finite_and_every_demo_is_told(self):
        begun = said(WatchWhat.BEGAN, NOW - timedelta(hours=30))
        for path in sorted(ROOT.glob("examples/*.json")):
            for written in ([], [begun], [said(WatchWhat.WARNING, moment=NOW + timedelta(hours=5))],
                            [begun, said(WatchWhat.ENDED)]):  # fmt: skip
                with self.subTest(path=path.name, entries=len(written)):
                    view = watch_view(read_design(path.read_bytes()), written, NO_LOG, NOW)
                    for tier in view.left:
                        self.assertTrue(0 <= tier.low_h <= tier.hours <= tier.high_h <= view.ahead_h + 1e-6)
                    numbers = np.array(
                        [view.ahead.charge_frac, view.ahead.low_frac, view.ahead.high_frac, view.ahead.nothing_frac]
                    )
                    self.assertTrue(np.isfinite(numbers).all() and (numbers >= 0).all() and (numbers <= 1).all())
                    for task in view.instructions:
                        self.assertNotIn("nan", task.title + task.why + task.otherwise)


class Instructions(unittest.TestCase):
    def house(self):
        return simple(load("fridge", 50), load("tv", 50, tier="ease"), outage={"duration_h": 20.0})

    def test_one_thing_with_its_reason_its_gain_and_what_comes_of_nothing(self):
        view = watch_view(self.house(), [said(WatchWhat.BEGAN, NOW)], NO_LOG, NOW)
        step = view.instructions[0]
        self.assertEqual((step.key, step.title, step.off), ("leave_off", "Turn off tv", ("tv",)))
        # 10 h with it, 20 h without.
        self.assertAlmostEqual(step.gains_keep_h, 10.0, places=4)
        nobody = "If nothing is done and nothing turned off,"
        self.assertEqual(step.otherwise, f"{nobody} Keep goes dark at Thursday 06:00; Life is carried.")
        self.assertAlmostEqual(view.nothing_keep_h, 10.0, places=4)

    def test_where_all_go_dark_at_once_it_is_said_so(self):
        house = simple(
            load("aid", 25, tier="life"), load("fridge", 25), load("tv", 50, tier="ease"), outage={"duration_h": 20.0}
        )
        step = watch_view(house, [said(WatchWhat.BEGAN, NOW)], NO_LOG, NOW).instructions[0]
        self.assertIn("nothing turned off, Life and Keep go dark together at Thursday 06:00.", step.otherwise)

    def test_what_was_refused_is_not_said_again_for_six_hours(self):
        refused = decided("leave_off", NOW - timedelta(hours=1), is_done=False)
        begun = said(WatchWhat.BEGAN, NOW - timedelta(hours=1))
        self.assertEqual(watch_view(self.house(), [begun, refused], NO_LOG, NOW).instructions, ())
        later = NOW + timedelta(hours=5.1)
        self.assertTrue(watch_view(self.house(), [begun, refused], NO_LOG, later).instructions)

    def test_snow_that_was_cleared_is_not_told_again(self):
        design = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
        swept = Written(at=NOW, entry=EventEntry(what=EventKind.SNOW_CLEARED))
        live = live_of(design, [said(WatchWhat.BEGAN, BEGUN), swept], NOW)
        self.assertEqual(live.swept, frozenset({NOW.date()}))

    def test_sun_to_spare_is_told_where_nothing_is_needed(self):
        design = simple(
            load("fridge", 20), load("wash", 300, tier="spare", hours=[[9, 16]]), sky=("clear", "clear", "clear", "clear"),
            arrays=({"id": "roof", "name": "roof", "stc_w": 900.0, "tilt_deg": 40.0, "azimuth_deg": 180.0},),
            controller={"output_a": 200.0},
        )  # fmt: skip
        now = datetime(2026, 6, 21, 7, 0)
        view = watch_view(design, [said(WatchWhat.BEGAN, now)], NO_LOG, now)
        self.assertEqual(view.instructions[0].key, "use_sun")
        self.assertIn("wash", view.instructions[0].title)
        self.assertGreater(view.instructions[0].figure.value, 200)

    def test_sun_that_was_used_is_not_told_again_today(self):
        design = simple(
            load("fridge", 20), load("wash", 300, tier="spare", hours=[[9, 16]]), sky=("clear",) * 4,
            arrays=({"id": "roof", "name": "roof", "stc_w": 900.0, "tilt_deg": 40.0, "azimuth_deg": 180.0},),
            controller={"output_a": 200.0},
        )  # fmt: skip
        now = datetime(2026, 6, 21, 7, 0)
        begun, used = said(WatchWhat.BEGAN, now), decided("use_sun", now + timedelta(hours=1))
        self.assertEqual(watch_view(design, [begun, used], NO_LOG, now + timedelta(hours=2)).instructions, ())

    def test_tasks_after_it_and_those_that_are_done(self):
        over = [said(WatchWhat.BEGAN, BEGUN), said(WatchWhat.ENDED, NOW - timedelta(hours=1))]
        view = watch_view(birchrow(), over, log(charge=trace([40.0])), NOW)
        self.assertEqual({task.key for task in view.tasks}, {"after:full", "after:back", "after:learned"})
        self.assertEqual((view.lived.start, view.lived.hours_h), (BEGUN, 9.0))
        done = decided("after:back", NOW)
        view = watch_view(birchrow(), [*over, done], log(charge=trace([40.0])), NOW)
        self.assertEqual([task.key for task in view.tasks if task.is_done], ["after:back"])
