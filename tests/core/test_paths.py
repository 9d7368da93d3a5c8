"""What guards each run, against a search over a graph of the same parts that is written apart."""

import unittest
from collections import Counter

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design
from hearthkeep.core.wiring import wiring_plan
from tests.core.as_built import ILL_MADE, WELL_MADE
from tests.core.made_wiring import wired_homes
from tests.core.wiring_network import graph_of, opens_before
from tests.runner.profile import examples
from tests.support.designs import moved

PLANS = 200
DIRECT = ("bank", "inverter", "branch", "feed")


@st.composite
def plans(draw: st.DrawFn) -> Design:
    """Any wired home, its strings linked or on leads, with breakers of their own or without, with a bar or on the bank's posts."""
    design = moved(
        draw(wired_homes()),
        {
            "bank.takeoff": draw(st.sampled_from(["one_end", "equal_leads"])),
            "bank.unit_breaker_a": draw(st.sampled_from([None, None, 60.0, 125.0, 250.0])),
            "wiring.bus": draw(st.sampled_from(["bar", "posts"])),
        },
    )
    thick, thin = (["2/0 AWG", "4/0 AWG"], ["10 AWG", "6 AWG"])
    if design.practice.value == "metric_230":
        thick, thin = ["70 mm²", "95 mm²"], ["4 mm²", "10 mm²"]
    keys = [
        run.run.key for run in wiring_plan(design, rate(design.bank)).runs if run.run.kind.value in (*DIRECT, "lead")
    ]
    entered = [
        {
            "run": key,
            "size": draw(st.sampled_from([*thick, *thin])),
            "device": draw(st.sampled_from(["none", "none", "class_t"])),
            "device_a": draw(st.sampled_from([40.0, 80.0, 125.0, 300.0])),
        }
        for key in draw(st.lists(st.sampled_from(keys), unique=True) if keys else st.just([]))
    ]
    return moved(design, {"wiring.runs": entered})


class AgainstASearch(unittest.TestCase):
    def check(self, design: Design, seen: Counter) -> None:
        plan = wiring_plan(design, rate(design.bank))
        graph = graph_of(design, plan.runs)
        for guarded in plan.guarded:
            sized = guarded.sized
            if sized.run.kind.value not in DIRECT or sized.run.fed_from.value != "bus" or sized.next_size_a is None:
                continue
            if sized.device is not None and sized.device.kind.value != "none" and sized.device.rating_a is None:
                continue
            least_a = opens_before(design, graph, sized.run.key)
            is_guarded = least_a is not None and least_a <= sized.next_size_a + 1e-9
            feed = next(each for each in guarded.feeds if each.source == "the bank")
            self.assertEqual(feed.guard(sized) is not None, is_guarded, (sized.run.key, least_a, feed))
            seen["guarded" if is_guarded else "bare"] += 1

    def test_any_plan(self):
        seen: Counter[str] = Counter()

        @examples(PLANS)
        @given(plans())
        def agree(design):
            self.check(design, seen)

        agree()
        self.assertGreater(seen["guarded"], PLANS)
        self.assertGreater(seen["bare"], PLANS / 10)

    def test_installations_as_they_stand(self):
        seen: Counter[str] = Counter()
        for design in [*WELL_MADE.values(), *(each[2] for each in ILL_MADE.values())]:
            self.check(design, seen)
        self.assertGreater(seen["guarded"], 20)
