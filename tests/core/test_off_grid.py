"""Off the grid for good: the year worked by hand, what no longer counts, what is asked instead, and how it is drawn."""

import unittest
from datetime import datetime

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from hearthkeep.core.outage import prepare
from hearthkeep.core.prove import prove
from hearthkeep.core.transfer import power_path, ranked_arrangements
from hearthkeep.core.trials import begun, whole_year
from hearthkeep.core.wiring import wiring_plan
from hearthkeep.core.wiring.oneline import one_line
from hearthkeep.demo import EXAMPLES
from tests.core.made_transfers import house, off_grid_home
from tests.core.test_proof import hand_made, year_of_one_day
from tests.support.designs import array, changed, load, moved, simple

SUN = range(10, 14)
LAMP = load("lamp", 100.0, supply="dc")


def alone(design, **fields):
    return moved(design, {"site.off_grid": True, **fields})


class YearByHand(unittest.TestCase):
    """A lamp on 910 Wh and 150 W of sun from 10 to 14 o'clock, every day the same."""

    def lived(self, running_w):
        return whole_year(alone(hand_made(), **{"loads.0.running_w": running_w}), year_of_one_day(SUN))

    def test_dark_at_night_the_whole_year(self):
        # At 50 W empty at night: from 10 o'clock the sun alone fills 91 Wh, a tenth, at 10:36:24; then the lamp is back, and
        # 100 W go into the bank to 14 o'clock: 430 1/3 Wh, which last to 22:36:24.
        year = self.lived(50.0)
        self.assertEqual((year.dark_days, year.full_by_noon_days), (365, 0))
        self.assertAlmostEqual(year.dark_h, 365 * 12.0, places=4)
        self.assertEqual([month.dark_days for month in year.months], [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
        self.assertAlmostEqual(year.months[1].dark_h, 28 * 12.0, places=4)
        day = year.days[100]
        self.assertAlmostEqual(day.noon_frac, (91 + 100 * (2 - 91 / 150)) / 910)
        self.assertAlmostEqual(day.highest_frac, (91 + 100 * (4 - 91 / 150)) / 910)
        self.assertAlmostEqual(day.lowest_frac, 0.0)
        (spell,) = year.spells
        self.assertEqual((spell.days, spell.start, spell.planned_h), (365, datetime(2026, 1, 1), 720.0))
        self.assertIsNone(year.stays_dark_from)
        self.assertIn("on 365 days of the year", year.verdict)

    def test_full_in_the_afternoon_or_by_noon(self):
        # At 20 W 510 Wh are left at 10 o'clock and 770 at noon; at 10 W it is full by then.
        late, early = self.lived(20.0), self.lived(10.0)
        self.assertEqual((late.dark_days, late.full_by_noon_days, early.full_by_noon_days), (0, 0, 365))
        self.assertAlmostEqual(late.lowest_frac, 510 / 910)
        self.assertAlmostEqual(late.days[40].noon_frac, 770 / 910)
        # 600 Wh a day offered within the controller's limit, 480 used.
        july = late.months[6]
        clipped_wh = july.spilled_wh - 31 * 120.0
        self.assertAlmostEqual(clipped_wh, early.months[6].spilled_wh - 31 * 360.0, places=3)
        self.assertIn("through every day of the year", late.verdict)

    def test_nothing_fills_it_again(self):
        year = whole_year(alone(simple(LAMP, simulation={"time_step_min": 60})))
        # 1 kWh for 100 W from the first hour of the year.
        self.assertEqual(year.stays_dark_from, datetime(2026, 1, 1, 10))
        self.assertAlmostEqual(year.dark_h, 8750.0)
        self.assertIn("From 1 January on", year.verdict)

    def test_a_generator_does_it_and_its_fuel_has_no_end(self):
        generator = {
            "rated_w": 1000.0, "charger_w": 500.0, "charger_efficiency_frac": 1.0, "stock_l": 5.0, "tank_l": 5.0, "min_run_h": 0.0,
            "start_soc_frac": 0.2, "stop_soc_frac": 0.8, "fuel_idle_l_per_h": 0.2, "fuel_l_per_kwh": 0.4, "charges_only": True,
        }  # fmt: skip
        design = alone(simple(LAMP, charging={"generator": generator}, simulation={"time_step_min": 60}))
        year = whole_year(design)
        # 876 kWh at 500 W: 1,752 h, of which each burns 0.2 + 0.5 x 0.4 L.
        self.assertEqual(year.dark_days, 0)
        self.assertAlmostEqual(year.generator_h, 1752.0, delta=3.0)
        self.assertAlmostEqual(year.fuel_l, 0.4 * year.generator_h, places=2)
        self.assertAlmostEqual(year.most_fuel_l, 30 * 1.92, delta=1.0)
        self.assertAlmostEqual(sum(day.generator_h for day in year.days), year.generator_h, places=6)
        self.assertAlmostEqual(year.lowest_frac, 0.2)
        codes = {finding.code: finding for finding in prove(design).findings}
        self.assertIn("18 changes a year", codes["YEAR_OF_GENERATOR"].message)
        self.assertIn("somebody has to fetch fuel", codes["YEAR_OF_GENERATOR"].message)
        self.assertIn("YEAR_CARRIED", codes)


class AgainstTheStrip(unittest.TestCase):
    def test_its_first_month_is_the_strips_own(self):
        first = datetime(2026, 1, 1)
        design = moved(off_grid_home(), {"charging.generator": None, "outage.start": first.isoformat()})
        year = whole_year(design)
        # The plan begins with the year, so that the charge on its date is that of 31 December.
        strip = prepare(begun(moved(design, {"bank.start_soc_frac": year.at_plan_frac}), first, 720.0)).run()
        found_h = [sum(strip.dark_by_step_h[96 * day : 96 * (day + 1)]) for day in range(30)]
        self.assertGreater(sum(found_h), 10.0)
        for day, dark_h in enumerate(found_h):
            self.assertAlmostEqual(year.days[day].dark_h, dark_h, places=6)
        self.assertAlmostEqual(sum(day.dark_h for day in year.days), year.dark_h, places=6)
        self.assertLessEqual(sum(spell.days for spell in year.spells), year.dark_days)


class NoGrid(unittest.TestCase):
    def test_its_charger_and_its_hours_count_for_nothing(self):
        charger = {"grid_charger": {"output_w": 2000.0, "top_up_soc_frac": 0.5}}
        outage = {"duration_h": 30.0, "warning_h": 24.0, "grid_back": [[2, 9]]}
        bare = simple(LAMP, outage={"duration_h": 30.0})
        with_grid = simple(LAMP, charging=charger, outage=outage)
        self.assertGreater(assess(with_grid).outage.hours_carried_h, 12.0)
        off = assess(alone(with_grid))
        self.assertEqual(off.outage, assess(alone(bare)).outage)
        self.assertAlmostEqual(off.outage.hours_carried_h, 10.0)
        self.assertEqual(off.outage.grid_back_h, 0.0)
        self.assertIsNone(off.charging.fill.needed_h)
        # What was entered stays in the document.
        self.assertEqual(alone(with_grid).charging.grid_charger.output_w, 2000.0)
        codes = {finding.code for finding in off.findings}
        self.assertFalse(codes & {"NO_GRID_CHARGER", "FILL_TOO_SLOW", "FILLED_IN_TIME"}, codes)
        self.assertEqual(next(f.severity for f in off.findings if f.code == "NO_SOURCE"), "mend")

    def test_after_the_spell_the_house_goes_on(self):
        design = alone(
            hand_made(),
            **{
                "loads.0.running_w": 20.0,
                "outage.start": "2026-05-03T14:00:00",
                "outage.duration_h": 10.0,
                "outage.sky_from": "year",
            },
        )
        outage = assess(design, year_of_one_day(SUN)).outage
        # 910 - 10 x 20 at midnight; 510 at 10 o'clock; 130 W into the bank from there.
        self.assertAlmostEqual(outage.hours_back_to_full_h, 10 + 400 / 130)

    def test_the_plan_begins_where_the_year_stands(self):
        design = alone(hand_made(), **{"outage.start": "2026-05-03T10:00:00", "loads.0.running_w": 20.0})
        found = prove(design, year_of_one_day(SUN))
        self.assertAlmostEqual(found.trials.year.at_plan_frac, 510 / 910)
        finding = next(entry for entry in found.findings if entry.code == "PLAN_BEGINS_HIGH")
        (change,) = finding.remedy.changes
        self.assertEqual((change.path, change.value), ("bank.start_soc_frac", 0.56))
        tried = prove(moved(design, {change.path: change.value}), year_of_one_day(SUN))
        self.assertNotIn("PLAN_BEGINS_HIGH", {entry.code for entry in tried.findings})
        self.assertIsNone(prove(moved(design, {"site.off_grid": False})).trials.year)

    def test_dark_days_are_called_with_their_number(self):
        design = alone(hand_made())
        found = {entry.code: entry for entry in prove(design, year_of_one_day(SUN)).findings}
        self.assertEqual(found["YEAR_GOES_DARK"].title, "Dark on 365 days of the year")
        self.assertIn("4,380 h", found["YEAR_GOES_DARK"].message)
        self.assertNotIn("YEAR_CARRIED", found)


class Demo(unittest.TestCase):
    def test_the_hill_house_is_carried_and_well_made(self):
        design = read_design((EXAMPLES / "hill-house.json").read_bytes())
        assessment, proof = assess(design), prove(design)
        heavy = {entry.code for entry in (*assessment.findings, *proof.findings) if entry.severity in ("stop", "mend")}
        self.assertEqual(heavy, set())
        self.assertTrue(assessment.outage.carried_to_the_end)
        year = proof.trials.year
        self.assertEqual(year.dark_days, 0)
        self.assertGreater(year.generator_h, 20.0)
        self.assertGreater(year.months[5].full_by_noon_days, year.months[11].full_by_noon_days)
        without = prove(moved(design, {"charging.generator": None})).trials.year
        self.assertGreater(without.dark_days, 5)


class Joined(unittest.TestCase):
    def test_the_advisor_knows_no_switch_without_a_grid(self):
        ranked = ranked_arrangements(off_grid_home())
        self.assertEqual(ranked[0].kind, "own_panel")
        self.assertEqual({suit.kind for suit in ranked if not suit.ruled_out}, {"own_panel", "cords"})
        self.assertTrue(
            next(
                suit
                for suit in ranked_arrangements(changed(off_grid_home(), site={"off_grid": False}))
                if suit.kind == "own_panel"
            ).ruled_out
        )

    def test_nothing_of_a_grid_is_wired_or_drawn(self):
        design = off_grid_home()
        path = power_path(design, design.transfer.arrangement)
        self.assertEqual({node.key for node in path.nodes}, {"source", "backup", "generator"})
        self.assertEqual([position.name for position in path.positions], ["backup", "generator"])
        # A critical panel has a run from the grid and a bypass to it; without a grid it has neither.
        for off_grid in (False, True):
            prepared = prepare(moved(house("critical_panel"), {"site.off_grid": off_grid}))
            plan = wiring_plan(prepared.entered, prepared.rating, year_low_c=None)
            self.assertEqual(
                [plan.find(key) is None for key in ("grid", "bypass", "panel")], [off_grid, off_grid, False]
            )
            symbols = {symbol.key for symbol in one_line(prepared.entered, plan).symbols}
            self.assertEqual(not symbols & {"grid", "meter", "main"}, off_grid)

    def test_an_array_at_its_panel_is_led(self):
        tied = {"rated_w": 3000.0, "arrays": [array("roof", 3000.0)]}
        design = moved(
            off_grid_home(), {"charging.grid_tied": tied, "charging.controllers": [], "charging.generator": None}
        )
        outage = assess(design).outage
        self.assertGreater(outage.coupled.to_loads_wh, 0.0)
        self.assertIn("array", {node.key for node in power_path(design, design.transfer.arrangement).nodes})

    def test_its_card_speaks_of_no_grid(self):
        found = assess(off_grid_home())
        report, card = found.transfer, found.switching
        words = " ".join(
            [*(way.title for way in card.ways), *card.throughout, *report.labels]
            + [part for way in card.ways for step in way.steps for part in (step.do, step.check, step.never)]
        )
        self.assertNotIn("grid", words.lower())
        self.assertEqual(report.gap_s, 0.0)
        self.assertEqual([use.use for use in report.order.up], ["loads", "bank"])
