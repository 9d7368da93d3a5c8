"""A storm lived on a design: surprises come as drawn, decisions do what they would, and the account is fair."""

import json
import random
import unittest

from hearthkeep.core.design import Sky, read_design
from hearthkeep.core.drill import DrillDecision, Scenario, drawn_scenario, drill_account, drill_stand
from hearthkeep.core.drill.play import DecisionKind, played
from hearthkeep.core.drill.scenario import Surprise, SurpriseKind
from hearthkeep.core.drill.stand import lived_through
from hearthkeep.core.drill.world import world_of
from hearthkeep.core.errors import InputError
from tests.core.foresight.made_outages import made_house
from tests.core.second_model import live_through
from tests.support.designs import ROOT, array, load, simple

GENERATOR = {
    "rated_w": 2000.0, "stock_l": 10.0, "tank_l": 10.0, "charger_w": 200.0, "charger_efficiency_frac": 1.0, "by_hand": True,
    "charges_only": True, "start_soc_frac": 0.2, "stop_soc_frac": 0.9, "min_run_h": 0.0, "fuel_idle_l_per_h": 0.0,
    "fuel_l_per_kwh": 0.5,
}  # fmt: skip


def storm(*surprises, hours=24):
    return Scenario(duration_h=hours, surprises=surprises)


def decide(at_h, kind, **fields):
    return DrillDecision(at_h=float(at_h), kind=DecisionKind(kind), **fields)


def house(**parts):
    """1 kWh; 50 W of Keep and 50 W of Ease."""
    return simple(load("fridge", 50), load("tv", 50, tier="ease"), **parts)


def some_decisions(design, seed, hours=48):
    """Decisions of somebody who does anything at any time."""
    dice = random.Random(seed)
    ease = [each.id for each in design.loads if each.tier.value == "ease"]
    found = []
    for _ in range(dice.randint(1, 8)):
        kind = dice.choice(list(DecisionKind))
        loads = tuple(dice.sample(ease, 1)) if kind in (DecisionKind.LEAVE_OFF, DecisionKind.TURN_ON) else ()
        for_h = dice.choice([None, 1.0, 3.0]) if kind is DecisionKind.GENERATOR_ON else None
        found.append(decide(round(dice.uniform(0, hours - 1), 2), kind.value, loads=loads, for_h=for_h))
    return found


class TheStorm(unittest.TestCase):
    def test_the_same_seed_draws_the_same_storm_and_it_goes_through_a_file(self):
        design = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
        drawn = [drawn_scenario(design, seed) for seed in range(30)]
        self.assertEqual(drawn, [drawn_scenario(design, seed) for seed in range(30)])
        self.assertGreater(len({each.surprises for each in drawn}), 25)
        for each in drawn:
            self.assertTrue(2 <= len(each.surprises) <= 4)
            self.assertEqual(Scenario.model_validate_json(each.model_dump_json()), each)

    def test_only_what_can_befall_a_design_is_drawn(self):
        kinds = {each.kind for seed in range(60) for each in drawn_scenario(house(), seed).surprises}
        self.assertEqual(kinds, {SurpriseKind.GUEST, SurpriseKind.FLICKER, SurpriseKind.GAUGE})

    def test_without_surprises_and_decisions_it_is_the_outage_that_nobody_tends(self):
        stand = drill_stand(house(), storm(), [], 6.0)
        self.assertAlmostEqual(stand.gauge_frac, 0.4)
        self.assertAlmostEqual(stand.house_w, 100.0)
        self.assertIsNone(stand.keep_dark_h)
        self.assertAlmostEqual(drill_stand(house(), storm(), [], 24.0).keep_dark_h, 10.0)

    def test_a_guest_draws_from_his_hour_on_until_he_is_turned_off(self):
        guest = Surprise(kind=SurpriseKind.GUEST, from_h=2, amount=400.0)
        stand = drill_stand(house(), storm(guest), [], 3.0)
        # 2 h of 100 W, 1 h of 500 W.
        self.assertAlmostEqual(stand.gauge_frac, 0.3)
        self.assertIn("guest", stand.news[-1].said)
        off = decide(2.5, "leave_off", loads=("drill-guest",))
        self.assertAlmostEqual(drill_stand(house(), storm(guest), [off], 3.0).gauge_frac, 0.5)
        # Before he comes nobody knows of him.
        self.assertNotIn("drill-guest", [each.id for each in drill_stand(house(), storm(guest), [], 1.0).loads])

    def test_a_gauge_lies_until_another_instrument_is_held_to_it(self):
        lie = Surprise(kind=SurpriseKind.GAUGE, from_h=1, amount=12.0)
        self.assertAlmostEqual(drill_stand(house(), storm(lie), [], 4.0).gauge_frac, 0.72)
        found = drill_stand(house(), storm(lie), [decide(3, "cross_read")], 4.0)
        self.assertAlmostEqual(found.gauge_frac, 0.6)
        self.assertEqual(found.results, ("The gauge reads 12 points too much.",))
        # Held to it too early it agrees, and nothing is known.
        early = drill_stand(house(), storm(lie), [decide(0.5, "cross_read")], 4.0)
        self.assertEqual(early.results, ("The instruments agree.",))

    def test_a_generator_that_will_not_start_does_not(self):
        design = house(charging={"generator": GENERATOR})
        broken = Surprise(kind=SurpriseKind.GENERATOR_FAILS, from_h=0, to_h=5)
        tries = [decide(2, "generator_on", for_h=2.0), decide(6, "generator_on", for_h=2.0)]
        stand = drill_stand(design, storm(broken), tries, 8.0)
        self.assertEqual(stand.results, ("It does not start.", ""))
        # 8 h of 100 W, 2 h of 200 W.
        self.assertAlmostEqual(stand.gauge_frac, 0.6)
        self.assertAlmostEqual(stand.fuel_l, 9.8)

    def test_the_grid_flickers_and_the_sky_turns(self):
        flicker = Surprise(kind=SurpriseKind.FLICKER, from_h=2, to_h=4)
        sky = Surprise(kind=SurpriseKind.OTHER_SKY, day=0, sky=Sky.OVERCAST)
        design = house(arrays=(array("roof", 500),))
        stand = drill_stand(design, storm(flicker, sky), [], 9.0)
        words = [each.said for each in stand.news if each.kind == "told"]
        self.assertEqual(
            words, ["The grid is back.", "The grid is gone again.", "The day is overcast, other than foretold."]
        )
        clear = drill_stand(design, storm(flicker), [], 9.0)
        self.assertLess(stand.sun_w, 0.4 * clear.sun_w)
        # Two hours on the grid draw nothing from the bank.
        self.assertAlmostEqual(drill_stand(house(), storm(flicker), [], 5.0).gauge_frac, 0.7)

    def test_snow_that_is_cleared_at_noon_gives_the_afternoon_alone(self):
        snow = Surprise(kind=SurpriseKind.SNOW, day=0, sky=Sky.COVERED)
        design = simple(
            load("fridge", 20), arrays=(array("roof", 3000, snow="swept", swept_hour=9),), controller={"output_a": 300.0},
            bank={"start_soc_frac": 0.2},
        )  # fmt: skip
        lying = drill_stand(design, storm(snow), [], 11.0)
        late = drill_stand(design, storm(snow), [decide(12, "sweep")], 11.0)
        self.assertAlmostEqual(late.gauge_frac, lying.gauge_frac)
        self.assertGreater(drill_stand(design, storm(snow), [decide(12, "sweep")], 16.0).gauge_frac,
                           drill_stand(design, storm(snow), [], 16.0).gauge_frac + 0.2)  # fmt: skip
        self.assertEqual(
            drill_stand(design, storm(), [decide(12, "sweep")], 13.0).results, ("No snow lies on the panels.",)
        )

    def test_a_load_that_is_not_there_is_named(self):
        with self.assertRaises(InputError) as caught:
            drill_stand(house(), storm(), [decide(1, "leave_off", loads=("piano",))], 2.0)
        self.assertEqual(caught.exception.problems[0].field, "decisions.0.loads")

    def test_what_was_seen_stays_as_it_was_when_more_is_decided(self):
        design = made_house(5, hours=48.0)
        scenario = drawn_scenario(design, 5)
        for seed in range(10):
            early = [each for each in some_decisions(design, seed) if each.at_h <= 20]
            late = [
                decide(20 + each.at_h / 2, each.kind.value, loads=each.loads, for_h=each.for_h)
                for each in some_decisions(design, seed + 50)
            ]
            before, after = (drill_stand(design, scenario, some, 20.0) for some in (early, early + late))
            self.assertEqual(before.shown_frac, after.shown_frac)


class TheAccount(unittest.TestCase):
    def test_the_same_storm_and_decisions_give_the_same_account(self):
        design = made_house(3, hours=48.0, generator=True)
        scenario = drawn_scenario(design, 9)
        decisions = some_decisions(design, 3)
        shuffled = random.Random(1).sample(decisions, len(decisions))
        self.assertEqual(drill_account(design, scenario, decisions), drill_account(design, scenario, shuffled))

    def test_each_decision_is_worth_what_it_gained(self):
        account = drill_account(house(), storm(), [decide(4, "leave_off", loads=("tv",))])
        # 400 Wh gone, 600 Wh at 50 W: 16 h instead of 10 h; Ease had 4 h of 24, without it 10 h.
        self.assertAlmostEqual(account.yours.keep_h, 16.0)
        self.assertAlmostEqual(account.nothing.keep_h, 10.0)
        self.assertAlmostEqual(account.decisions[0].keep_h, 6.0)
        self.assertAlmostEqual(account.decisions[0].ease_points, 100 * (4 - 10) / 24)
        self.assertAlmostEqual(account.best.keep_h, 20.0, places=1)
        self.assertAlmostEqual(account.score_points, 60 * 16 / account.best.keep_h + 25 + 15)

    def test_nobody_beats_the_best_and_nothing_is_never_above_it(self):
        for seed in range(25):
            design = made_house(seed, hours=48.0, step_min=60)
            scenario = drawn_scenario(design, seed)
            account = drill_account(design, scenario, some_decisions(design, seed + 100))
            with self.subTest(seed=seed):
                for other in (account.yours, account.nothing):
                    self.assertLessEqual(other.keep_h + other.life_h, account.best.keep_h + account.best.life_h + 0.05)
                self.assertTrue(0 <= account.score_points <= 100)

    def test_the_best_is_what_arithmetic_says(self):
        # 1000 Wh and 1 L at 0.5 L/kWh, 2000 Wh more, for 100 W of Keep: 30 h.
        design = simple(
            load("fridge", 100),
            charging={"generator": {**GENERATOR, "stock_l": 1.0, "stop_soc_frac": 1.0, "charger_w": 500.0}},
        )
        self.assertAlmostEqual(drill_account(design, storm(hours=48), []).best.keep_h, 30.0, delta=0.3)

    def test_the_best_is_near_the_second_models_over_every_run_tried(self):
        parts = {
            "arrays": (array("roof", 150),), "sky": ("overcast", "clear", "overcast"), "bank": {"start_soc_frac": 0.8},
            "outage": {"start": "2026-10-03T12:00:00", "duration_h": 60.0}, "simulation": {"time_step_min": 60},
        }  # fmt: skip
        unit = {**GENERATOR, "stock_l": 1.5, "charger_w": 500.0, "fuel_idle_l_per_h": 0.1}
        tv = load("tv", 40, tier="ease", hours=[[17, 23]])
        best = drill_account(
            simple(load("fridge", 70), tv, charging={"generator": unit}, **parts), storm(hours=60), []
        ).best
        tried = 0.0
        for first in range(12, 36, 2):
            for length in (2, 4):
                hours = {(first + more) % 24 for more in range(length)}
                quiet = [[hour, hour + 1] for hour in range(24) if hour not in hours]
                own = {**unit, "start_soc_frac": 0.95, "stop_soc_frac": 1.0, "quiet_hours": quiet}
                design = simple(load("fridge", 70), charging={"generator": own}, **parts)
                tried = max(tried, live_through(design, slice_s=30.0).hours_carried_h)
        self.assertGreaterEqual(best.keep_h, 0.97 * tried)

    def test_lessons_follow_from_what_was_missed(self):
        guest = Surprise(kind=SurpriseKind.GUEST, from_h=2, amount=400.0)
        lie = Surprise(kind=SurpriseKind.GAUGE, from_h=1, amount=12.0)
        missed = " ".join(drill_account(house(), storm(guest, lie), []).lessons)
        self.assertIn("nothing that heats", missed)
        self.assertIn("second instrument", missed)
        done = [decide(2.1, "leave_off", loads=("drill-guest", "tv")), decide(3, "cross_read")]
        seen = " ".join(drill_account(house(), storm(guest, lie), done).lessons)
        self.assertNotIn("nothing that heats", seen)
        self.assertNotIn("second instrument", seen)

    def test_books_close_whatever_is_decided(self):
        """Ease that was served is never more than was asked, and a drill ends where its pieces end."""
        for seed in range(20):
            design = made_house(seed, hours=48.0)
            world = world_of(design, drawn_scenario(design, seed))
            play = played(world, some_decisions(design, seed))
            lived = lived_through(world, play, world.course.end_h)
            self.assertAlmostEqual(float(lived.edges_h[-1]), world.course.end_h)
            self.assertLessEqual(
                lived.ease_wh, float(lived.served_w[:, 2] @ (lived.edges_h[1:] - lived.edges_h[:-1])) + 1e-6
            )

    def test_a_scenario_of_nonsense_is_refused(self):
        for values in ({"duration_h": 0}, {"duration_h": 999}, {"surprises": [{"kind": "meteor"}]}, {"version": 2}):
            with self.subTest(values=values), self.assertRaises(ValueError):
                Scenario.model_validate_json(json.dumps(values))
