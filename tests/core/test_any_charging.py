"""Whatever charging a design may hold, it is assessed: books closed, every number finite, every finding with its words."""

import json
import unittest

from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from hearthkeep.core.assess import Assessment, assess
from hearthkeep.core.design import Design
from hearthkeep.core.yearly import SunYear, sun_year
from tests.runner.profile import examples
from tests.strategies import SKIES, SPANS, designs, sources
from tests.support.designs import load

ASSESSMENT, SUN_YEAR = TypeAdapter(Assessment), TypeAdapter(SunYear)
#: Few planes, so that their sun is worked out once.
PLANES = st.sampled_from([(0.0, 0.0), (40.0, 180.0), (85.0, 95.0)])
PARTS = st.floats(0, 1).map(lambda value: round(value, 3))
MODULE = {"name": "m", "stc_w": 400.0, "voc_v": 37.1, "vmp_v": 31.2, "isc_a": 13.8, "imp_a": 12.9}


@st.composite
def arrays(draw: st.DrawFn, key: str) -> dict:
    tilt_deg, azimuth_deg = draw(PLANES)
    stands = draw(st.lists(st.integers(0, 23), max_size=3, unique=True))
    moved = [draw(PLANES) for _ in stands]
    return {
        "id": key,
        "name": f"roof {key}.",
        "stc_w": draw(st.sampled_from([0.0, 100.0, 2500.0])),
        "tilt_deg": tilt_deg,
        "azimuth_deg": azimuth_deg,
        "module": draw(st.none() | st.just(MODULE)),
        "series": draw(st.integers(1, 8)),
        "strings": draw(st.integers(1, 4)),
        "shade_frac": draw(st.just([]) | st.lists(PARTS, min_size=24, max_size=24)),
        "snow": draw(st.sampled_from(["lies", "slides", "swept"])),
        "stands": [
            {"from_hour": hour, "tilt_deg": tilt, "azimuth_deg": azimuth}
            for hour, (tilt, azimuth) in zip(stands, moved, strict=True)
        ],
        "out_hours": draw(st.none() | SPANS),
    }


@st.composite
def chargings(draw: st.DrawFn) -> dict:
    controllers = [
        {
            "id": f"c{number}",
            "name": f"c{number}",
            "kind": draw(st.sampled_from(["mppt", "pwm", "panel_fed"])),
            "output_a": draw(st.sampled_from([0.0, 20.0, 300.0])),
            "max_input_v": draw(st.none() | st.just(150.0)),
            "max_input_a": draw(st.none() | st.just(20.0)),
            "battery_max_v": draw(st.none() | st.just(24.0)),
            "built_in": draw(st.booleans()),
            "arrays": [draw(arrays(f"a{number}-{at}")) for at in range(draw(st.integers(0, 2)))],
        }
        for number in range(draw(st.integers(0, 2)))
    ]
    volts = st.none() | st.sampled_from([9.0, 11.0, 58.0])
    return {
        **draw(sources()),
        "controllers": controllers,
        "grid_charger": {
            "output_w": draw(st.sampled_from([0.0, 150.0, 5000.0])),
            "top_up_soc_frac": draw(st.none() | PARTS),
        },
        "stages": {
            "absorb_v": draw(volts),
            "float_v": draw(volts),
            "equalise_v": draw(volts),
            "over_voltage_v": draw(volts),
            "compensation_mv_per_c": draw(st.none() | st.sampled_from([0.0, -4.0])),
        },
    }


def whole_of(design: Design, charging: dict, sky: tuple[str, ...], by_year: bool, warning_h: float) -> Design:
    values = design.model_dump(mode="json")
    values["charging"] = charging
    values["loads"].append(load("on-panel", 20, tier="ease", supply="panel"))
    values["outage"] |= {
        "days": [{"sky": entry, "air_temp_c": 3.0, "away": at == 1} for at, entry in enumerate(sky)],
        "sky_from": "year" if by_year else "by_hand",
        "warning_h": warning_h,
    }
    values["inverter"]["build"] = "all_in_one"
    return Design.model_validate_json(json.dumps(values))


class AnyCharging(unittest.TestCase):
    @examples(40)
    @given(
        designs(tiers=("life", "keep", "ease", "spare"), with_sun=False),
        chargings(),
        SKIES,
        st.booleans(),
        st.sampled_from([0.0, 5.0, 100.0]),
    )
    def test_it_is_assessed(self, design, charging, sky, by_year, warning_h):
        whole = whole_of(design, charging, sky, by_year, warning_h)
        found = assess(whole)
        ledger = found.outage.ledger_wh
        put_in = ledger.sun + ledger.generator + ledger.other + ledger.bank_drawn
        went = ledger.served + ledger.inverter_loss + ledger.charge_loss + ledger.wiring_loss + ledger.spilled
        self.assertLess(abs(put_in - went) / (ledger.sun + ledger.generator + ledger.other + ledger.served + 1), 1e-4)
        # A NaN or an infinity has no place in JSON: strict reading would fail on it.
        text = ASSESSMENT.dump_json(found)
        json.loads(text, parse_constant=lambda word: self.fail(word))
        fill = found.charging.fill
        self.assertTrue(0 <= fill.from_frac <= fill.reached_frac <= 1 + 1e-9)
        for finding in found.findings:
            self.assertNotRegex(finding.title + finding.message, r"\{|nan|inf\b|-0 ")
        self.assertEqual(assess(whole), found)

    @examples(8)
    @given(designs(tiers=("life", "keep"), with_sun=False), chargings())
    def test_its_year_is_worked_out(self, design, charging):
        found = sun_year(whole_of(design, charging, ("clear",), False, 0.0))
        json.loads(SUN_YEAR.dump_json(found), parse_constant=lambda word: self.fail(word))
        self.assertTrue(all(0 <= month.dark_h <= 24 + 1e-9 for month in found.months))
        self.assertTrue(0 <= found.spilled_frac <= 1 + 1e-9)
