"""Leg balance against brute force, within positions, with shared neutrals, and fast."""

import itertools
import random
import unittest

from hearthkeep.core.design import Leg
from hearthkeep.core.transfer import balance, fates_of
from hearthkeep.core.transfer.legs import EXACT, HEURISTIC, MOST_EXACT
from tests.core.made_transfers import circuit
from tests.support.designs import load, simple

PANELS = 500


def panel(watts, *, pairs=0, doubles=0, positions=None):
    """A critical panel with circuits of so many watts; the first ones share neutrals two by two, the last have two poles."""
    singles = len(watts) - doubles
    circuits = []
    slots = iter(range(1, 200))
    for at in range(singles):
        fields = {"shares_neutral_with": f"c{at - 1}"} if at % 2 and at < 2 * pairs else {}
        circuits.append({**circuit(next(slots)), "id": f"c{at}", "breaker_a": 60.0, "wire": None, **fields})
    start = singles + 1 + (singles % 2)
    for number in range(doubles):
        at = start + number // 2 * 4 + number % 2
        circuits.append({**circuit(at), "id": f"c{singles + number}", "poles": 2, "wire": None})
    loads = [
        load(f"l{at}", value, supply="ac240" if at >= singles else "ac", circuit=f"c{at}")
        for at, value in enumerate(watts)
    ]
    return simple(
        *loads,
        site={"place": "p", "latitude_deg": 40.0, "longitude_deg": 0.0, "utc_offset_h": 0.0, "service": "120/240"},
        transfer={
            "arrangement": "critical_panel",
            "circuits": circuits,
            "main": {"slots": 84},
            "device": {"positions": positions},
        },
    )


def by_brute_force(watts, pairs, doubles, positions):
    """The smallest |A - B| over every assignment that fits; none where none does."""
    singles = watts[: len(watts) - doubles]
    most_a, most_b = (84, 84) if positions is None else ((positions + 1) // 2 - doubles, positions // 2 - doubles)
    best = None
    for on_a in itertools.product((False, True), repeat=len(singles)):
        if any(on_a[2 * at] == on_a[2 * at + 1] for at in range(pairs)):
            continue
        if sum(on_a) > most_a or len(on_a) - sum(on_a) > most_b:
            continue
        apart = abs(sum(value if side else -value for value, side in zip(singles, on_a, strict=True)))
        best = apart if best is None else min(best, apart)
    return best


class Balance(unittest.TestCase):
    def test_as_good_as_brute_force_on_random_panels(self):
        dice = random.Random(20261127)
        limited = 0
        for number in range(PANELS):
            count, doubles = dice.randint(1, 10), dice.choice([0, 0, 1, 2])
            watts = [
                float(dice.choice([0, 8, 40, 120, 165, 640, 900, 1500, dice.randint(1, 2000)])) for _ in range(count)
            ]
            pairs = dice.randint(0, count // 2)
            positions = dice.choice([None, count + 2 * doubles, count + 2 * doubles + 2])
            watts += [float(dice.randint(500, 3000)) for _ in range(doubles)]
            expected = by_brute_force(watts, pairs, doubles, positions)
            if expected is None:
                continue
            with self.subTest(number, watts=watts, pairs=pairs, positions=positions):
                design = panel(watts, pairs=pairs, doubles=doubles, positions=positions)
                found = balance(design)
                self.assertEqual(found.method, EXACT)
                self.assertAlmostEqual(found.imbalance_w, expected, places=6)
                sides = {leg: sum(watts[int(key[1:])] for key, at in found.legs.items() if at is leg) for leg in Leg}
                self.assertAlmostEqual(abs(sides[Leg.A] - sides[Leg.B]), expected, places=6)
                for at in range(pairs):
                    self.assertNotEqual(found.legs[f"c{2 * at}"], found.legs[f"c{2 * at + 1}"])
                limited += positions is not None
        self.assertGreater(limited, 200)

    def test_twenty_four_circuits_exactly(self):
        dice = random.Random(1)
        watts = [float(dice.randint(1, 3000)) for _ in range(MOST_EXACT)]
        # An assignment that leaves nothing exists by making the last one what is missing.
        signs = [dice.choice((-1, 1)) for _ in watts[:-1]]
        watts[-1] = abs(sum(sign * value for sign, value in zip(signs, watts, strict=False)))
        found = balance(panel(watts))
        self.assertEqual((found.method, found.imbalance_w), (EXACT, 0.0))

    def test_above_that_the_heuristic_says_its_name_and_stays_close(self):
        dice = random.Random(2)
        watts = [float(dice.randint(50, 2000)) for _ in range(40)]
        found = balance(panel(watts))
        self.assertEqual(found.method, HEURISTIC)
        self.assertLess(found.imbalance_w, 0.01 * sum(watts))
        self.assertLessEqual(found.imbalance_w, found.before_w)

    def test_the_balance_taken_leaves_what_it_says(self):
        design = panel([900.0, 120.0, 640.0, 300.0, 150.0, 80.0])
        found = balance(design)
        circuits = tuple(
            entry.model_copy(update={"backup_leg": found.legs[entry.id]}) for entry in design.transfer.circuits
        )
        taken = design.model_copy(update={"transfer": design.transfer.model_copy(update={"circuits": circuits})})
        self.assertAlmostEqual(balance(taken).before_w, found.imbalance_w, places=6)
        self.assertTrue(all(state.fate == "carried" for state in fates_of(taken).circuits))

    def test_one_line_has_nothing_to_balance(self):
        self.assertEqual(balance(simple(load("a", 100.0))).imbalance_w, 0.0)


if __name__ == "__main__":
    unittest.main()
