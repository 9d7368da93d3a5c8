"""Alternatives: differences found both ways, shares that sum to the whole in any order, and columns that are the assessment's."""

import unittest
from itertools import permutations

from hypothesis import given

from hearthkeep.core.alternatives import PartKey, lived_hours_h, variant_column, variant_year, with_part, worth_of
from hearthkeep.core.alternatives.differences import differences_of, with_differences
from hearthkeep.core.assess import assess
from hearthkeep.core.opinions import KitName, kit_design
from hearthkeep.core.prove import prove
from tests.core.made import WELL_MADE
from tests.runner.profile import examples
from tests.strategies import rough_designs
from tests.support.designs import array, birchrow, changed, load, simple

HOURS = lived_hours_h(lambda design: None)


def by_permutations(base, other, keys):
    """Each difference's gain, averaged over the orders by going through them all: slow, and plain."""
    shares = dict.fromkeys(keys, 0.0)
    orders = list(permutations(keys))
    for order in orders:
        taken, before = [], HOURS(base)
        for key in order:
            taken.append(key)
            after = HOURS(with_differences(base, other, taken))
            shares[key] += (after - before) / len(orders)
            before = after
    return shares


class Shares(unittest.TestCase):
    def pairs(self):
        base = birchrow()
        for kit in (KitName.LEDGER, KitName.DEPTH, KitName.BUFFER, KitName.WORKSHEET):
            yield base, kit_design(base, kit)
        values = base.model_dump(mode="json")
        loads = [{**entry, "running_w": entry["running_w"] / 2, "start_w": None} for entry in values["loads"][:2]]
        yield (
            base,
            changed(base, loads=[*loads, *values["loads"][2:]], policy={"ease_level_frac": 0.6}, bank={"parallel": 3}),
        )

    def test_they_sum_to_the_whole_change_and_are_the_mean_of_all_orders(self):
        for base, other in self.pairs():
            with self.subTest(other.name):
                worth = worth_of(base, other, HOURS)
                self.assertEqual(worth.base_h, assess(base).outage.hours_carried_h)
                self.assertEqual(worth.other_h, assess(other).outage.hours_carried_h)
                total_h = sum(part.worth_h for part in worth.parts)
                self.assertAlmostEqual(total_h, worth.other_h - worth.base_h, delta=1e-6)
                keys = [part.differences[0].key for part in worth.parts]
                if len(keys) <= 4 and all(len(part.differences) == 1 for part in worth.parts):
                    expected = by_permutations(base, other, keys)
                    for part in worth.parts:
                        self.assertAlmostEqual(part.worth_h, expected[part.differences[0].key], delta=1e-6)

    def test_the_way_back_is_the_same_with_the_other_sign(self):
        for base, other in self.pairs():
            with self.subTest(other.name):
                there = {part.title: part.worth_h for part in worth_of(base, other, HOURS).parts}
                back = {part.title: part.worth_h for part in worth_of(other, base, HOURS).parts}
                self.assertEqual(there.keys(), back.keys())
                for title, worth_h in there.items():
                    self.assertAlmostEqual(worth_h, -back[title], delta=1e-6)

    def test_a_single_difference_is_worth_the_whole(self):
        base = simple(load("a", 50))
        other = changed(base, bank={"parallel": 2})
        (only,) = worth_of(base, other, HOURS).parts
        self.assertEqual((only.title, only.differences[0].key), ("Bank", "bank"))
        self.assertAlmostEqual(only.worth_h, 4)
        self.assertEqual((only.first_h, only.last_h), (only.worth_h, only.worth_h))

    def test_two_that_only_help_together_share_what_they_bring(self):
        # 600 W want both a bank that gives them and an inverter that holds them.
        base = simple(
            load("a", 600), inverter={"rated_w": 500.0, "surge_w": 500.0}, bank={"unit_max_discharge_a": 50.0}
        )
        other = changed(base, inverter={"rated_w": 1000.0, "surge_w": 1000.0}, bank={"unit_max_discharge_a": 100.0})
        worth = worth_of(base, other, HOURS)
        self.assertEqual([part.first_h for part in worth.parts], [0, 0])
        self.assertEqual(len({round(part.worth_h, 9) for part in worth.parts}), 1)
        self.assertAlmostEqual(worth.other_h, 1000 / 600)

    def test_more_than_six_are_taken_together_and_still_sum_up(self):
        base, other = WELL_MADE["home"](), WELL_MADE["cabin"]()
        worth = worth_of(base, other, HOURS)
        self.assertLessEqual(len(worth.parts), 6)
        told = [one.key for part in worth.parts for one in part.differences]
        self.assertEqual(sorted(told), sorted(one.key for one in differences_of(base, other)))
        self.assertAlmostEqual(sum(part.worth_h for part in worth.parts), worth.other_h - worth.base_h, delta=1e-6)

    @examples(15)
    @given(rough_designs(), rough_designs())
    def test_any_two_designs_can_be_compared(self, base, other):
        worth = worth_of(base, other, HOURS)
        self.assertAlmostEqual(sum(part.worth_h for part in worth.parts), worth.other_h - worth.base_h, delta=1e-6)


class Differences(unittest.TestCase):
    def test_taking_all_of_them_makes_the_other(self):
        for one in WELL_MADE.values():
            for two in WELL_MADE.values():
                base, other = one(), two()
                keys = [difference.key for difference in differences_of(base, other)]
                made = with_differences(base, other, keys)
                self.assertEqual(
                    made.model_dump(exclude={"name", "record", "opinions", "loads"}),
                    other.model_dump(exclude={"name", "record", "opinions", "loads"}),
                )
                self.assertEqual({entry.id: entry for entry in made.loads}, {entry.id: entry for entry in other.loads})

    def test_a_design_does_not_differ_from_itself_nor_by_its_name_and_the_order_of_its_loads(self):
        base = birchrow()
        values = base.model_dump(mode="json")
        same = changed(
            base, name="Another", loads=list(reversed(values["loads"])), opinions={"ledger": {"dark_days": 9.0}}
        )
        self.assertEqual(differences_of(base, same), ())

    def test_few_loads_are_told_one_by_one_and_many_together(self):
        base = simple(*(load(f"l{number}", 10) for number in range(6)))
        one = changed(base, loads=[entry for entry in base.model_dump(mode="json")["loads"] if entry["id"] != "l3"])
        (difference,) = differences_of(base, one)
        self.assertEqual(
            (difference.key, difference.base, difference.other), ("load:l3", "Keep, 10 W, 24 h", "not there")
        )
        (together,) = differences_of(base, changed(base, loads=[]))
        self.assertEqual(
            (together.key, together.base, together.other), ("loads", "6 loads, 1.4 kWh a day", "0 loads, 0.0 kWh a day")
        )

    def test_a_part_of_one_in_another(self):
        base, other = birchrow(), changed(birchrow(), bank={"parallel": 5}, policy={"ease_level_frac": 0.9})
        swapped = with_part(base, other, PartKey.BANK)
        self.assertEqual((swapped.bank, swapped.policy), (other.bank, base.policy))


class Columns(unittest.TestCase):
    def test_a_column_is_the_assessment_s(self):
        design = birchrow()
        column, found = variant_column(design), assess(design)
        self.assertEqual(column.hours_carried_h, found.outage.hours_carried_h)
        self.assertEqual(column.fuel_l, found.outage.fuel_l)
        self.assertAlmostEqual(column.life_years, found.arrangement.life.years)
        severities = [finding.severity.value for finding in found.findings]
        self.assertEqual((column.stops, column.mends), (severities.count("stop"), severities.count("mend")))
        self.assertEqual(len(column.open_checks), column.stops + column.mends)

    def test_price_mass_and_floor_by_hand(self):
        sheet = {
            "name": "Block",
            "price": 200.0,
            "mass_kg": 10.0,
            "length_mm": 400.0,
            "width_mm": 250.0,
            "height_mm": 200.0,
        }
        design = simple(
            load("a", 10),
            arrays=(array("p", 380),),
            controller={"output_a": 20.0},
            bank={"parallel": 3, "unit": sheet},
            inverter={"rated_w": 1000.0, "surge_w": 2000.0},
        )
        column = variant_column(design)
        # 3 blocks; 1,000 W, 380 W and 20 A by usual prices; 10 kg of inverter and 20 kg of panels by usual figures.
        self.assertAlmostEqual(column.price.total, 600 + 400 + 228 + 100)
        self.assertAlmostEqual(column.price.assumed, 728)
        self.assertAlmostEqual(column.mass_kg, 30 + 10 + 20)
        self.assertTrue(column.is_mass_assumed)
        # Two blocks of 20 cm stand on each other below half a metre: two stacks of 0.1 m².
        self.assertAlmostEqual(column.floor_m2, 0.2)
        # 30 cycles a year of 3 kWh, nine tenths on the mean, for 15 years.
        self.assertAlmostEqual(column.price_per_kwh_given, 600 / (0.9 * 3 * 30 * 15))

    def test_the_year_is_the_trials_own(self):
        design = birchrow()
        year, trials = variant_year(design), prove(design).trials
        self.assertEqual((year.keep_frac, year.life_frac), (trials.keep_frac, trials.life_frac))
        self.assertEqual((year.worst_start, year.worst_h), (trials.worst[0].start, trials.worst[0].carried_h))

    def test_the_strip_holds_the_charge_and_every_watt_hour_of_it(self):
        design = birchrow()
        strip, series = variant_column(design).strip, assess(design).outage.series
        charge = dict(zip(series.time_h, series.stored_wh, strict=True))
        full_wh = max(series.stored_wh) / max(strip.stored_frac)
        # The strip's own series is rounded to a tenth.
        for time_h, part in zip(strip.time_h, strip.stored_frac, strict=True):
            self.assertAlmostEqual(part * full_wh, charge[time_h], delta=0.2)
        served_wh = sum(
            watts * (to - since)
            for watts, since, to in zip(strip.served_w, strip.time_h, strip.time_h[1:], strict=False)
        )
        expected_wh = sum(
            watts * (to - since)
            for watts, since, to in zip(series.served_w, series.time_h, series.time_h[1:], strict=False)
        )
        self.assertAlmostEqual(served_wh, expected_wh, delta=1e-3 * expected_wh)
