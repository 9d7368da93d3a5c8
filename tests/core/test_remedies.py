"""What a finding offers to try: it is a working design, and the finding is gone or nearer its end."""

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate, shares, strings_for
from hearthkeep.core.checks import Finding
from hearthkeep.core.design import MOST_STRINGS, Design, TakeOff, Tier
from tests.core.test_checks import GENERATOR
from tests.core.test_invariants import ALL_TIERS, quick
from tests.strategies import designs, sources, with_sources
from tests.support.designs import array, birchrow, load, moved, simple

#: These offer the next step on a way that may have several: one more string, the next load's standby.
ONE_STEP = {"GOES_DARK", "STANDBY_ABOVE_USE"}


def found(design: Design, code: str) -> list[Finding]:
    return [entry for entry in assess(design).findings if entry.code == code]


def tried(design: Design, finding: Finding) -> Design:
    assert finding.remedy is not None
    return moved(design, {change.path: change.value for change in finding.remedy.changes})


@st.composite
def homes(draw: st.DrawFn, tiers: tuple[str, ...] = ALL_TIERS) -> Design:
    """Any design with or without every source, at any height, in heat and cold, in both practices."""
    design = draw(designs(tiers=tiers))
    if draw(st.booleans()):
        design = with_sources(design, draw(sources()))
    places: dict[str, Any] = {
        "site.elevation_m": draw(st.sampled_from([0.0, 1500.0, 3000.0])),
        "outage.days.0.air_temp_c": draw(st.sampled_from([-20.0, 20.0, 40.0])),
        "bank.takeoff": draw(st.sampled_from([entry.value for entry in TakeOff])),
        "practice": draw(st.sampled_from(["metric_230", "north_american"])),
        "charging.grid_charger.output_w": draw(st.sampled_from([0.0, 500.0, 3000.0])),
        "inverter.units": draw(st.sampled_from([1, 2])),
    }
    return moved(design, places)


class AnyRemedy(unittest.TestCase):
    @quick
    @given(homes())
    def test_it_settles_its_finding_or_goes_a_step_towards_it(self, design):
        before = assess(design)
        for finding in before.findings:
            if finding.remedy is None:
                continue
            after = assess(tried(design, finding))
            left = sum(entry.code == finding.code for entry in after.findings)
            if finding.code == "ONE_FAULT":
                self.assertGreaterEqual(len(after.one_failed.tiers_carried), len(before.one_failed.tiers_carried))
            elif finding.code in ONE_STEP:
                # Ease that a larger bank can serve may take from Keep what it would have had later.
                if any(row.tier in (Tier.EASE, Tier.SPARE) for row in design.loads):
                    continue
                self.assertGreaterEqual(after.outage.hours_carried_h, before.outage.hours_carried_h - 1e-6)
            else:
                self.assertLess(left, sum(entry.code == finding.code for entry in before.findings), finding)


class StringsForACurrent(unittest.TestCase):
    """Ten volts, 100 Ah, 3 mΩ a string, one link a third of that."""

    def bank(self, takeoff="one_end", **fields):
        return simple(bank={"takeoff": takeoff, "link_mohm": 1.0, **fields}).bank

    def test_with_equal_leads_it_is_a_division(self):
        asked = strings_for(self.bank("equal_leads"), asked_a=250.0, string_a=100.0)
        self.assertEqual((asked.strings, asked.per_string_a), (3, 100.0))

    def test_from_one_end_the_first_string_sets_the_count(self):
        bank = self.bank()
        share = [
            max(shares(strings=count, string_mohm=3.0, link_mohm=1.0, takeoff=TakeOff.ONE_END)) for count in range(1, 9)
        ]
        # The first string's part falls to one number and no further; a current just below its limit takes many strings.
        for asked_a in (95.0, 150.0, 180.0):
            asked = strings_for(bank, asked_a=asked_a, string_a=100.0)
            self.assertLessEqual(asked_a * share[asked.strings - 1], 100.0)
            if asked.strings > 1:
                self.assertGreater(asked_a * share[asked.strings - 2], 100.0)
            self.assertAlmostEqual(asked.per_string_a, 100.0 / (share[asked.strings - 1] * asked.strings))

    def test_where_further_strings_hardly_help_other_leads_do(self):
        asked = strings_for(self.bank(), asked_a=900.0, string_a=100.0)
        self.assertEqual((asked.strings, asked.takeoff, asked.per_string_a), (9, TakeOff.EQUAL_LEADS, 100.0))
        bank = {"unit_max_discharge_a": 30.0, "link_mohm": 1.0, "takeoff": "one_end"}
        design = simple(load("a", 900, duty_frac=0.01), bank=bank)
        finding = found(design, "BELOW_NEED")[0]
        # 900 W at the low cut-off of 8 V are 112.5 A.
        self.assertEqual(finding.remedy.label, "Try 4 in parallel on equal leads")
        there = moved(design, {"bank.parallel": 4})
        self.assertEqual(found(there, "BELOW_NEED"), [])
        self.assertEqual(found(there, "BANK_CURRENT_LIMIT")[0].remedy.label, "Try equal leads to bus bars")

    def test_nothing_asked_is_one_and_more_than_there_can_be_is_not_offered(self):
        self.assertEqual(strings_for(self.bank(), asked_a=0.0, string_a=100.0).strings, 1)
        self.assertGreater(strings_for(self.bank(), asked_a=9000.0, string_a=100.0).strings, MOST_STRINGS)
        self.assertIsNone(found(simple(load("a", 2000, quantity=30)), "BELOW_NEED")[0].remedy)

    def test_the_sheet_asks_for_as_many_as_the_limit_then_allows(self):
        design = simple(load("a", 3000, duty_frac=0.01), bank={"takeoff": "one_end", "unit_max_discharge_a": 150.0})
        need = assess(design).arrangement.need
        self.assertEqual(need.binding, "discharge")
        enough = moved(design, {"bank.parallel": need.strings_needed})
        short = moved(design, {"bank.parallel": need.strings_needed - 1})
        # 3,000 W at the low cut-off of 8 V.
        self.assertGreaterEqual(rate(enough.bank).discharge_limit_a, 375)
        self.assertLess(rate(short.bank).discharge_limit_a, 375)
        self.assertEqual(found(enough, "BANK_CURRENT_LIMIT"), [])
        self.assertEqual(assess(enough).arrangement.need.strings_needed, need.strings_needed)

    def test_the_strongest_source_of_all_counts(self):
        design = simple(load("a", 10), charging={"bench_charger": {"output_w": 900.0, "plugged_hours": []}},
                        bank={"unit_max_charge_a": 40.0, "takeoff": "equal_leads"})  # fmt: skip
        charge = next(entry for entry in assess(design).arrangement.need.strings if entry.key == "charge")
        # 900 W into a bank that stands at 10.65 V while it is charged.
        self.assertAlmostEqual(charge.asked, 900 / 10.65)
        self.assertEqual(charge.strings, 3)


class WithinTheChargeLimit(unittest.TestCase):
    def test_a_source_little_above_it_asks_for_another_string(self):
        design = simple(load("a", 10), arrays=(array("p", 900),), bank={"unit_max_charge_a": 60.0})
        self.assertEqual(found(design, "CHARGE_LIMIT")[0].remedy.label, "Try 2 in parallel")

    def test_sources_far_above_it_are_each_set_down(self):
        design = simple(
            load("a", 10),
            arrays=(array("p", 900),),
            bank={"unit_max_charge_a": 20.0},
            charging={
                "generator": {**GENERATOR, "charger_w": 500.0},
                "grid_charger": {"output_w": 150.0},
                "alternator": {"current_a": 70.0, "driven_hours": []},
                "bench_charger": {"output_w": 214.0, "plugged_hours": []},
            },
        )
        finding = found(design, "CHARGE_LIMIT")[0]
        self.assertEqual(finding.remedy.label, "Try 20 A from each")
        after = tried(design, finding).charging
        self.assertEqual(after.controllers[0].output_a, 20.0)
        self.assertEqual((after.generator.charger_w, after.grid_charger.output_w), (213.0, 150.0))
        self.assertEqual((after.alternator.current_a, after.bench_charger.output_w), (20.0, 213.0))

    def test_a_limit_below_any_setting_is_not_offered(self):
        tiny = {"unit_max_charge_a": 0.04}
        alternator = {"alternator": {"current_a": 20.0, "driven_hours": []}}
        self.assertIsNone(found(simple(load("a", 10), bank=tiny, charging=alternator), "CHARGE_LIMIT")[0].remedy)

    def test_a_rotor_is_not_set_down(self):
        design = simple(load("a", 10), bank={"unit_max_charge_a": 20.0},
                        charging={"wind": {"rated_w": 2000.0, "mean_m_s": 5.0}})  # fmt: skip
        self.assertIsNone(found(design, "CHARGE_LIMIT")[0].remedy)


class WhyItGoesDark(unittest.TestCase):
    def dark(self, *loads, **parts):
        return found(simple(*loads, **parts), "GOES_DARK")[0]

    def test_an_empty_bank_needs_no_reason_and_offers_a_string(self):
        finding = self.dark(load("a", 100))
        self.assertIn("10 h of 24 h. Afterwards Keep goes without 1,400 Wh.", finding.message)
        self.assertEqual(finding.remedy.label, "Try 2 in parallel")

    def test_what_is_not_the_charge_is_named_and_no_string_is_offered(self):
        inverter = {"rated_w": 500.0, "surge_w": 700.0}
        for words, design in (
            ("the rating", simple(load("a", 600), inverter=inverter)),
            ("the surge", simple(load("a", 100, start_w=900.0), inverter=inverter)),
            ("what the bank may give", simple(load("a", 100), bank={"unit_max_discharge_a": 5.0})),
            ("is switched off", simple(load("a", 10), inverter={"off_hours": [[0, 6]]})),
        ):
            with self.subTest(words):
                finding = found(design, "GOES_DARK")[0]
                self.assertIn(words, finding.message)
                self.assertIsNone(finding.remedy)


class OneOfSeveralFails(unittest.TestCase):
    def test_as_many_are_tried_as_carry_life_and_keep_with_one_fewer(self):
        design = simple(
            load("a", 900, tier="life"), load("b", 5000, tier="ease"), inverter={"rated_w": 500.0, "surge_w": 600.0}
        )
        finding = found(design, "ONE_FAULT")[0]
        self.assertEqual(finding.remedy.label, "Try 3 of them")
        pair = found(moved(design, {"inverter.units": 2}), "ONE_FAULT")[0]
        self.assertIn("no tier fits whole on the rest", pair.message)
        self.assertEqual(pair.remedy.label, "Try 3 of them")
        self.assertEqual(found(tried(design, finding), "ONE_FAULT"), [])

    def test_hours_in_which_it_is_switched_off_lose_nothing(self):
        design = simple(load("a", 10), inverter={"units": 2, "off_hours": [[0, 6]]})
        self.assertEqual(assess(design).one_failed.tiers_carried, ("life", "keep", "ease", "spare"))


class Fuel(unittest.TestCase):
    def test_what_the_outage_would_burn_is_lived_not_guessed(self):
        # At 100 W of house and 1 L a kWh from the start: 24 h burn 2.4 L, and nothing charges.
        unit = {**GENERATOR, "charger_w": 0.0, "min_run_h": 24.0, "start_soc_frac": 0.999, "stop_soc_frac": 1.0,
                "fuel_idle_l_per_h": 0.0, "fuel_l_per_kwh": 1.0}  # fmt: skip
        short = simple(load("a", 100), charging={"generator": {**unit, "stock_l": 1.0}})
        ample = simple(load("a", 100), charging={"generator": {**unit, "stock_l": 9.0}})
        asked_l = assess(ample).outage.fuel_l
        self.assertAlmostEqual(assess(short).charging.fuel_asked_l, asked_l)
        self.assertAlmostEqual(assess(ample).charging.fuel_asked_l, asked_l)
        finding = found(short, "OUT_OF_FUEL")[0]
        self.assertIn("it would burn 2.4 L", finding.message)
        self.assertEqual(finding.remedy.label, "Try 2.5 L on hand")
        self.assertEqual(assess(simple(load("a", 100))).charging.fuel_asked_l, 0.0)

    def test_at_a_height_a_larger_one_is_tried(self):
        high = simple(load("a", 1900), site={"elevation_m": 3000.0}, charging={"generator": GENERATOR})
        finding = found(high, "GENERATOR_BELOW_PEAK")[0]
        # 1,900 W with a fifth to spare, of which 3.5 % each 300 m above 300 m leave 68.5 %.
        self.assertEqual(finding.remedy.label, "Try 3.5 kW")
        self.assertEqual(found(tried(high, finding), "GENERATOR_BELOW_PEAK"), [])


class SurgeProtection(unittest.TestCase):
    def test_only_what_is_lacking_is_fitted(self):
        for there, fitted in (
            ((True, False), {"wiring.surge_ac"}),
            ((False, False), {"wiring.surge_dc", "wiring.surge_ac"}),
        ):
            design = moved(birchrow(), dict(zip(("wiring.surge_dc", "wiring.surge_ac"), there, strict=True)))
            finding = found(design, "NO_SURGE_PROTECTION")[0]
            self.assertEqual({change.path for change in finding.remedy.changes}, fitted)
            self.assertEqual(found(tried(design, finding), "NO_SURGE_PROTECTION"), [])

    def test_without_an_array_its_input_is_not_asked_about(self):
        design = simple(load("a", 100), wiring={"surge_dc": False, "surge_ac": False})
        finding = found(design, "NO_SURGE_PROTECTION")[0]
        self.assertEqual({change.path for change in finding.remedy.changes}, {"wiring.surge_ac"})
