"""Opinions: the storm as referee is the strip's own model, blame is what it says, and a kit put in is the kit shown."""

import unittest
from dataclasses import fields
from unittest import mock

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from hearthkeep.core.errors import InputError
from hearthkeep.core.opinions import Fit, KitName, Method, Verdict, kit_design, kit_share, opinions_of
from hearthkeep.core.opinions.referee import least_strings, life_figure
from hearthkeep.core.outage import prepare
from hearthkeep.core.prove import prove
from hearthkeep.core.sizing import units_price
from tests.core.made import WELL_MADE
from tests.support.designs import CART, ROOT, array, birchrow, changed, load, simple

HILL = ROOT / "examples" / "hill-house.json"
ROOFS = ROOT / "examples" / "birchrow-16.json"


def demos():
    return (birchrow(), *(read_design(path.read_bytes()) for path in (CART, HILL, ROOFS)))


class Referee(unittest.TestCase):
    def test_hours_of_a_kit_are_those_of_the_strip_with_it_to_the_last_bit(self):
        for design in demos():
            report = opinions_of(design)
            columns = [report.designed, *(one.column for one in report.opinions)]
            if report.model is not None:
                columns.append(report.model)
            for column in columns:
                with self.subTest(f"{design.name}: {column.title}"):
                    kitted = kit_design(design, column.kit)
                    # What the page takes in is a document like any other.
                    again = read_design(kitted.model_dump_json().encode())
                    self.assertEqual(assess(again).outage.hours_carried_h, column.hours_carried_h)
                    self.assertAlmostEqual(units_price(again).total, column.bought.price)

    def test_a_current_that_no_controller_is_sold_for_is_bought_as_several(self):
        for design in demos():
            for one in opinions_of(design).opinions:
                bought = one.column.bought
                with self.subTest(f"{design.name}: {one.column.title}"):
                    # None is sold for more than a hundred amperes, and none more is bought than it takes.
                    self.assertLessEqual(max(lot.output_a for lot in bought.controllers), 100.0)
                    self.assertAlmostEqual(
                        sum(lot.count * lot.output_a for lot in bought.controllers), bought.controller_a
                    )
        cart = opinions_of(read_design(CART.read_bytes())).opinions
        self.assertEqual([len(one.column.bought.controllers) for one in cart], [1] * 6)
        worksheet = next(one for one in cart if one.column.kit == KitName.WORKSHEET)
        (lot,) = worksheet.column.bought.controllers
        asked_a = worksheet.answer.controller_a
        self.assertGreater(lot.count, 1)
        self.assertGreaterEqual(lot.count * lot.output_a, asked_a)
        self.assertLess((lot.count - 1) * 100.0, asked_a)

    def test_off_the_grid_a_charger_of_it_counts_for_nothing_in_any_kit(self):
        values = read_design(HILL.read_bytes()).model_dump(mode="json")
        values["bank"]["start_soc_frac"] = 0.4
        values["outage"]["warning_h"] = 48.0
        without = opinions_of(read_design(values))
        values["charging"]["grid_charger"] = {"output_w": 3000.0, "top_up_soc_frac": 1.0}
        self.assertEqual(opinions_of(read_design(values)), without)

    def test_shares_are_those_of_the_trials(self):
        design = birchrow()
        share = kit_share(design, KitName.LEDGER)
        found = prove(kit_design(design, KitName.LEDGER)).trials
        self.assertEqual((share.keep_frac, share.life_frac), (found.keep_frac, found.life_frac))

    def test_the_least_bank_is_the_first_that_carries(self):
        for name, make in WELL_MADE.items():
            with self.subTest(name):
                prepared = prepare(make())
                bank = prepared.design.bank
                first = next(
                    (
                        strings
                        for strings in range(1, 65)
                        if prepared.with_parts({"bank": bank.model_copy(update={"parallel": strings})}).outcome().dark_h
                        < 0
                    ),
                    None,
                )
                self.assertEqual(least_strings(prepared), first)

    def test_the_least_is_found_where_more_does_not_always_carry(self):
        class Tried:
            """A house that so many strings carry, and no others."""

            def __init__(self, carrying, strings=1):
                self.carrying, self.strings = carrying, strings
                self.design = birchrow()

            def with_parts(self, parts):
                return Tried(self.carrying, parts["bank"].parallel)

            def outcome(self):
                return mock.Mock(dark_h=-1.0 if self.strings in self.carrying else 5.0)

        for carrying, least in (({3, 7, 8, 9}, 3), ({1, 5}, 1), ({40, 64}, 40), ({64}, 64), (set(), None)):
            with self.subTest(carrying):
                self.assertEqual(least_strings(Tried(carrying)), least)

    def test_the_model_s_kit_carries_and_one_string_fewer_does_not(self):
        design = birchrow()
        fitted = kit_design(design, KitName.MODEL)
        self.assertTrue(assess(fitted).outage.carried_to_the_end)
        fewer = fitted.model_copy(
            update={"bank": fitted.bank.model_copy(update={"parallel": fitted.bank.parallel - 1})}
        )
        self.assertFalse(assess(fewer).outage.carried_to_the_end)

    def test_where_no_bank_carries_it_there_is_no_such_kit(self):
        # In the dark for a month a bank's board of 1 A lets nothing through.
        design = simple(load("a", 500), bank={"unit_max_discharge_a": 0.1})
        report = opinions_of(design)
        self.assertIsNone(report.model)
        with self.assertRaises(InputError) as caught:
            kit_design(design, KitName.MODEL)
        self.assertIn("no bank of these units", str(caught.exception))
        never = next(part for part in report.have.parts if part.key == "bank").needs[-1]
        self.assertEqual((never.by, never.fit, never.asked), ("model", Fit.NEVER, None))


class Blamed(unittest.TestCase):
    def test_a_night_s_energy_is_to_blame_where_the_storm_lasts_days(self):
        dark = {"duration_h": 72.0}
        design = simple(load("a", 30), outage=dark, bank={"unit_ah": 20.0}, sky=("covered",) * 4)
        found = next(one for one in opinions_of(design).opinions if one.info.method is Method.OVERNIGHT)
        # 30 W over the 12 hours of the night: 360 Wh, two blocks of 200 Wh, dark after 400 / 30 h.
        self.assertEqual(found.answer.bank_wh, 360)
        self.assertAlmostEqual(found.column.hours_carried_h, 400 / 30, places=6)
        self.assertEqual(found.blame.verdict, Verdict.SHORT)
        # Three nights alone are half of it; with the whole day's loads it is carried.
        self.assertEqual(set(found.blame.lines), {"days", "loads"})
        self.assertEqual(found.blame.lines[0], "days")
        self.assertAlmostEqual(found.blame.set_right_h, 72)
        self.assertTrue(found.blame.sentence.startswith("Dark after 13 h of 72: 59 h short."), found.blame.sentence)

    def test_too_much_is_said_with_what_it_costs(self):
        design = simple(
            load("a", 10), bank={"unit_ah": 20.0, "unit": {"name": "Block", "price": 100.0}}, sky=("covered",) * 2,
            opinions={"buffer": {"most_days": 20.0}},
        )  # fmt: skip
        found = next(one for one in opinions_of(design).opinions if one.info.method is Method.BUFFER)
        self.assertEqual(found.blame.verdict, Verdict.OVER)
        self.assertEqual(found.blame.lines, ("days",))
        # 4,800 Wh are 24 blocks; with the method's own generator one of them carries the day.
        self.assertAlmostEqual(found.blame.over_price, 2300)
        self.assertIn("24 strings where 1 would do", found.blame.sentence)

    def test_an_inverter_that_cannot_start_the_pump_is_named_and_what_it_would_carry_shown(self):
        design = simple(
            load("pump", 500, start_w=5000.0),
            inverter={"rated_w": 6000.0, "surge_w": 12_000.0},
            bank={"unit_ah": 1400.0},
        )
        found = next(one for one in opinions_of(design).opinions if one.info.method is Method.OVERNIGHT)
        self.assertEqual(found.column.hours_carried_h, 0)
        self.assertGreater(found.column.with_inverter_h, 10)
        self.assertIn("inverter", found.blame.lines)


class Habits(unittest.TestCase):
    def test_loads_ticked_off_leave_the_dark_day_alone(self):
        design = simple(load("lamp", 10), load("ring", 100), bank={"unit_v": 12.0})

        def dark_ah(left_out):
            opinions = {"ledger": {"left_out": left_out}}
            found = opinions_of(changed(design, opinions=opinions)).opinions
            ledger = next(one for one in found if one.info.method is Method.LEDGER)
            return {line.key: line.value for line in ledger.lines}

        both, one = dark_ah(None), dark_ah(["ring"])
        self.assertAlmostEqual(both["dark_day"], 220)
        self.assertAlmostEqual(one["dark_day"], 20)
        self.assertAlmostEqual(one["day"], both["day"])
        self.assertAlmostEqual(one["array"], both["array"])

    def test_every_habit_moves_its_method_s_answer(self):
        base = simple(
            load("a", 100, start_w=300.0), arrays=(array("p", 400),), bank={"chemistry": "agm", "depth_frac": 0.5}
        )
        other = {
            "night_hours": [[0, 2]], "sun_hours_h": 3.3, "panel_v": 21.0, "safety_frac": 0.7, "mppt": "times",
            "charge_efficiency_frac": 0.5, "dark_days": 9.0, "left_out": ["a"], "depth_frac": 0.33, "sizes_up": 4,
            "growth_frac": 0.4, "most_days": 7.0, "refill_days": 2.0, "generator_h": 3.0, "headroom_frac": 0.9,
            "inverter_w_per_100_ah": 333.0, "panel_w_per_100_ah": 77.0, "autonomy_days": 11.0, "daily_depth_frac": 0.05,
            "end_of_life_frac": 0.3, "design_margin_frac": 0.9, "system_loss_frac": 0.6, "array_to_load_ratio": 2.0,
        }  # fmt: skip
        #: Shown beside the answer, which is for the careful.
        beside = {"least_days"}
        answers = {one.info.method.value: one for one in opinions_of(base).opinions}
        for method, habits in base.opinions:
            for name in type(habits).model_fields:
                if name in beside:
                    continue
                with self.subTest(f"{method}.{name}"):
                    design = changed(base, opinions={method: {name: other[name]}})
                    found = next(one for one in opinions_of(design).opinions if one.info.method.value == method)
                    self.assertNotEqual(
                        [getattr(found.answer, field.name) for field in fields(found.answer)],
                        [getattr(answers[method].answer, field.name) for field in fields(found.answer)],
                    )


class Life(unittest.TestCase):
    def test_the_design_s_own_bank_lives_as_its_page_says(self):
        for design in demos():
            with self.subTest(design.name):
                own = assess(design).arrangement.life
                self.assertAlmostEqual(life_figure(design.bank, design.bank).value, own.years)

    def test_a_larger_bank_is_drawn_less_deep_and_lives_longer(self):
        bank = changed(birchrow(), bank={**birchrow().bank.model_dump(mode="json"), "chemistry": "agm"}).bank
        need = bank.need.model_copy(update={"cycles_per_year": 300.0})
        own = bank.model_copy(update={"need": need, "depth_frac": 0.5})
        years = [life_figure(own.model_copy(update={"parallel": count}), own).value for count in (1, 2, 3)]
        self.assertEqual(years, sorted(years))
        self.assertLess(years[0], years[1])


class Nothing(unittest.TestCase):
    def test_without_loads_nothing_is_asked(self):
        report = opinions_of(simple())
        self.assertFalse(report.is_asked)
        self.assertEqual(len(report.opinions), 6)
