"""The rules of thumb against their own check values (common practice, no source), and the worksheet by a second hand.

The worksheet follows IEEE Std 1013 (sizing lead-acid batteries for stand-alone photovoltaic systems) and IEEE Std 1562 (array
and battery sizing); the order of the steps and the usual factors are from memory.
"""

import json
import math
import unittest

import numpy as np
from hypothesis import given

from hearthkeep.core.design import read_design
from hearthkeep.core.opinions import Method, Verdict, kit_design, opinions_of
from hearthkeep.core.sources import plane_of_array, sky_at, year_for
from tests.runner.profile import examples
from tests.strategies import rough_designs
from tests.support.designs import array, birchrow, changed, load, simple

#: A 12 V bank, whatever its cells.
TWELVE = {"unit_v": 12.0, "unit_ah": 120.0, "depth_frac": 0.5, "cutoff_soc_frac": 0.1}
#: One row of the ledger in amps at 12 V and hours: AC, since amps on the AC side are counted from them.
LEDGER = ((1, 4), (13, 8), (3, 8), (100, 0.5), (1, 24))


def opinion(design, method):
    return next(one for one in opinions_of(design).opinions if one.info.method is method)


def line(found, key):
    return next(entry.value for entry in found.lines if entry.key == key)


def ledger_home(chemistry, **opinions):
    """206 Ah a day: two of the loads run at once on the AC side, 113 A, and the big one, cooking, not on dark days."""
    rows = []
    for number, (amps, hours) in enumerate(LEDGER):
        on_ac = amps in (13, 100)
        span = {4: [[0, 4]], 8: [[8, 16]], 0.5: [[12, 13]], 24: [[0, 24]]}[hours]
        fields = {"duty_frac": 0.5} if hours == 0.5 else {}
        if amps == 100:
            fields["dark_day"] = "drop"
        rows.append(load(f"l{number}", 12 * amps, supply="ac" if on_ac else "dc", hours=span, **fields))
    return simple(
        *rows,
        arrays=(array("roof", 100),),
        controller={"kind": "mppt"},
        bank={**TWELVE, "chemistry": chemistry, "depth_frac": 0.5 if chemistry == "agm" else 0.8},
        opinions=opinions,
    )


class CommonPracticeRows(unittest.TestCase):
    def test_lamp_and_fan_by_overnight_watt_hours(self):
        night = [[0, 6], [22, 24]]
        design = simple(
            load("lamp", 10, supply="dc", hours=night), load("fan", 35, supply="dc", hours=night), bank=TWELVE
        )
        found = opinion(design, Method.OVERNIGHT)
        self.assertEqual(found.answer.bank_wh, 360)
        self.assertEqual(found.answer.array_w, 72)
        self.assertEqual(found.answer.controller_a, 6)
        self.assertEqual((found.column.bought.array_w, found.column.bought.controller_a), (100, 10))

    def test_four_loads_by_the_depth_formula(self):
        design = simple(
            load("lamps", 6, quantity=2, hours=[[0, 5]]),
            load("tv", 65, hours=[[0, 3]]),
            load("laptop", 80, hours=[[0, 4]]),
            load("router", 6),
            bank=TWELVE,
            opinions={"depth": {"depth_frac": 0.5}},
        )
        found = opinion(design, Method.DEPTH)
        self.assertAlmostEqual(line(found, "loads"), 719)
        self.assertEqual(round(line(found, "bank"), 1), 119.8)
        self.assertEqual(found.column.bought.bank_ah, 120)

    def test_the_amp_hour_ledger(self):
        for chemistry, charge, bank_ah in (("agm", 0.85, 936), ("lfp", 1.0, 585)):
            with self.subTest(chemistry):
                found = opinion(ledger_home(chemistry), Method.LEDGER)
                self.assertAlmostEqual(line(found, "day"), 206)
                self.assertEqual(round(line(found, "array_a"), 1), 29.4)
                self.assertEqual(round(line(found, "bare_w")), 530)
                self.assertEqual(round(line(found, "safe_w")), 689)
                self.assertEqual(round(found.answer.array_w * charge), 530)
                self.assertAlmostEqual(line(found, "dark_ah"), 468)
                self.assertAlmostEqual(line(found, "bank"), bank_ah)
                self.assertAlmostEqual(line(found, "ac_a"), 113)
                self.assertAlmostEqual(line(found, "inverter"), 1356)
                self.assertEqual(found.column.bought.inverter_w, 2000)

    def test_both_habits_of_counting_a_converting_controller(self):
        watts = {
            habit: opinion(ledger_home("lfp", ledger={"mppt": habit}), Method.LEDGER).answer.array_w
            for habit in ("none", "divided", "times")
        }
        self.assertAlmostEqual(watts["divided"], watts["none"] / 1.3)
        self.assertAlmostEqual(watts["times"], watts["none"] * 0.7)
        note = next(one.note for one in opinion(ledger_home("lfp"), Method.LEDGER).lines if one.key == "mppt")
        self.assertIn(f"{watts['divided']:,.0f} W", note)
        self.assertIn(f"{watts['times']:,.0f} W", note)
        self.assertIn("10 % apart", note)

    def test_ten_kilowatt_hours_a_day_for_two_to_three_days(self):
        found = opinion(simple(load("house", 10_000 / 24), bank={"unit_v": 48.0, "unit_ah": 100.0}), Method.BUFFER)
        self.assertAlmostEqual(line(found, "least"), 20_000)
        self.assertAlmostEqual(found.answer.bank_wh, 30_000)
        self.assertGreater(found.column.bought.generator_w, found.answer.generator_w)

    def test_ratios_to_each_hundred_amp_hours(self):
        # 1,000 W of inverter, 100 Ah at 12 V and 200 W of panels go together; 200 Ah want 400 W, and 40 A take them with ease.
        found = opinion(simple(load("a", 2000 / 1.2), bank=TWELVE), Method.RATIOS)
        self.assertAlmostEqual(found.answer.inverter_w, 2000)
        self.assertAlmostEqual(found.answer.bank_wh / 12, 200)
        self.assertAlmostEqual(found.answer.array_w, 400)
        self.assertEqual(found.column.bought.controller_a, 40)


def worksheet_by_hand(document, year):
    """The worksheet again, from the document's plain values and the weather year alone: Life and Keep, AC and DC, no links."""
    month = int(document["outage"]["start"][5:7])

    def energy_wh(entry, of_month):
        hours = sum(to - since for since, to in entry["hours"])
        factor = (entry["month_factors"] or [1.0] * 12)[of_month - 1]
        if factor == 0:
            return 0.0
        run = entry["running_w"] * entry["duty_frac"] * factor * hours
        return entry["quantity"] * (run + entry["standby_w"] * (24 - hours))

    counted = [entry for entry in document["loads"] if entry["tier"] in ("life", "keep")]
    inverter, bank = document["inverter"], document["bank"]
    volts = bank["unit_v"] * bank["series"]
    marginal = inverter["rated_w"] / (inverter["rated_w"] / inverter["efficiency_frac"] - inverter["idle_w"])
    ac_wh = sum(energy_wh(entry, month) for entry in counted if entry["supply"] in ("ac", "ac240"))
    dc_wh = sum(energy_wh(entry, month) for entry in counted) - ac_wh
    day_ah = (ac_wh / marginal + dc_wh + 24 * inverter["idle_w"]) / volts
    # The bank: three days, to its depth, at the end of its life, in the cold, with a margin of a tenth.
    depth = min(bank["depth_frac"], 1 - bank["cutoff_soc_frac"])
    # LFP keeps 100 % at 25 °C and about 0.8 % less for each degree below, as the Bank page has it.
    cold = opinion_cold(document)
    bank_ah = max(3 * day_ah / depth, day_ah / depth, 3 * day_ah / 0.8) / cold * 1.1
    # The array: each month's load over its sun, the worst of them.
    days = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
    month_of_hour = np.repeat(np.arange(12), np.array(days) * 24)
    arrays = [one for controller in document["charging"]["controllers"] for one in controller["arrays"]]
    total_w = sum(one["stc_w"] for one in arrays)
    sky = sky_at(year, year.moments)
    plane = sum(
        one["stc_w"] / total_w * plane_of_array(sky, tilt_deg=one["tilt_deg"], azimuth_deg=one["azimuth_deg"])
        for one in arrays
    )
    sun_h = [plane[month_of_hour == index].sum() / 1000 / days[index] for index in range(12)]
    ratio = [sum(energy_wh(entry, index + 1) for entry in counted) / sun_h[index] for index in range(12)]
    worst = ratio.index(max(ratio))
    array_a = day_ah * 1.3 / (1 - 0.1) / sun_h[worst]
    return {
        "bank_wh": bank_ah * volts,
        "array_w": array_a * volts,
        "controller_a": array_a * 1.25,
    }


def opinion_cold(document):
    from hearthkeep.core.bank import rate

    return rate(read_design(document).bank).temperature_frac


class Worksheet(unittest.TestCase):
    def test_the_demo_home_by_a_second_hand(self):
        for name, values in (("as it is", {}), ("colder", {"bank": {"temp_c": 2.0}})):
            with self.subTest(name):
                design = birchrow()
                if values:
                    design = changed(design, bank={**design.bank.model_dump(mode="json"), **values["bank"]})
                document = json.loads(design.model_dump_json())
                expected = worksheet_by_hand(document, year_for(design.site, None))
                answer = opinion(design, Method.WORKSHEET).answer
                for key, value in expected.items():
                    self.assertTrue(math.isclose(getattr(answer, key), value, rel_tol=1e-9), (key, value, answer))

    def test_lead_acid_is_sized_by_its_daily_depth_where_that_asks_for_more(self):
        bank = {**TWELVE, "chemistry": "agm"}
        design = simple(load("a", 100), bank=bank, opinions={"worksheet": {"autonomy_days": 1.0, "depth_frac": 0.8}})
        found = opinion(design, Method.WORKSHEET)
        day_ah = 2400 / 12
        self.assertAlmostEqual(line(found, "greatest"), day_ah / 0.25)
        self.assertAlmostEqual(line(found, "bank"), day_ah / 0.25 / line(found, "cold") * 1.1)


class AnyDesign(unittest.TestCase):
    @examples(25)
    @given(rough_designs())
    def test_every_design_is_answered_with_finite_figures_that_follow_from_each_other(self, design):
        report = opinions_of(design)
        columns = [report.designed, *(one.column for one in report.opinions), *([report.model] if report.model else [])]
        for column in columns:
            self.assertTrue(0 <= column.hours_carried_h <= report.duration_h + 1e-9)
            self.assertGreaterEqual(column.with_inverter_h, column.hours_carried_h - 1e-6)
            self.assertTrue(math.isfinite(column.bought.price) and column.life_years > 0)
        for one in report.opinions:
            blame = one.blame
            self.assertEqual(blame.verdict is Verdict.SHORT, not one.column.is_carried)
            self.assertTrue(set(blame.lines) <= {entry.key for entry in one.lines})
            if blame.verdict is Verdict.SHORT:
                self.assertAlmostEqual(blame.short_h, report.duration_h - one.column.hours_carried_h)
                if blame.lines:
                    self.assertGreater(blame.set_right_h, one.column.hours_carried_h)
            # What is bought covers what is asked for, and is a document like any other.
            self.assertGreaterEqual(one.column.bought.inverter_w, one.answer.inverter_w - 1e-6)
            if one.column.bought.strings < 64:
                self.assertGreaterEqual(one.column.bought.bank_wh, one.answer.bank_wh - 1e-6)
            read_design(kit_design(design, one.column.kit).model_dump_json().encode())
        if report.model is not None:
            self.assertTrue(report.model.is_carried)
