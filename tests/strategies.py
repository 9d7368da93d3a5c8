"""Hypothesis strategies for designs on which the invariants must hold."""

from __future__ import annotations

import json
from typing import Any

from hypothesis import strategies as st

from hearthkeep.core.design import Design, Load
from tests.support.designs import array, load, simple

WATTS = st.floats(5, 800).map(lambda value: round(value, 1))
HOURS = st.lists(st.tuples(st.integers(0, 23), st.integers(1, 24)).filter(lambda span: span[0] < span[1]), max_size=3)
SKIES = st.lists(st.sampled_from(["clear", "broken", "overcast", "covered"]), min_size=1, max_size=4).map(tuple)


@st.composite
def load_rows(draw: st.DrawFn, tiers: tuple[str, ...], dark_rules: bool) -> list[dict[str, Any]]:
    """Some loads of the tiers; the first is Life on AC all day, so that the inverter never stops."""
    rows = [load("first", draw(WATTS), tier="life")]
    for number in range(draw(st.integers(0, 5))):
        running_w = draw(WATTS)
        rows.append(
            load(
                f"l{number}",
                running_w,
                tier=draw(st.sampled_from(tiers)),
                quantity=draw(st.integers(1, 3)),
                duty_frac=draw(st.sampled_from([0.0, 0.2, 0.7, 1.0])),
                start_w=draw(st.none() | st.just(round(running_w * 3, 1))),
                hours=[list(span) for span in draw(HOURS)] or [[0, 24]],
                supply=draw(st.sampled_from(["ac", "dc", "dc_converted"])),
                dark_day=draw(st.sampled_from(["keep", "keep", "drop", "substitute"] if dark_rules else ["keep"])),
                substitute_w=draw(st.sampled_from([0.0, 8.0])),
                standby_w=draw(st.sampled_from([0.0, 2.5])),
            )
        )
    return rows


@st.composite
def designs(
    draw: st.DrawFn,
    *,
    tiers: tuple[str, ...] = ("life", "keep"),
    with_sun: bool | None = None,
    ample: bool = False,
    dark_rules: bool = True,
) -> Design:
    """Any working design. `ample` makes the inverter and the bank's limits large enough never to matter; `dark_rules`
    lets loads behave otherwise on dark days.
    """
    lead_acid = draw(st.booleans())
    depth = draw(st.sampled_from([0.5, 0.8, 0.9, 1.0]))
    sunny = draw(st.booleans()) if with_sun is None else with_sun
    arrays = (array("a", draw(st.floats(50, 4000))),) if sunny else ()
    return simple(
        *draw(load_rows(tiers, dark_rules)),
        arrays=arrays,
        sky=draw(SKIES),
        controller={"output_a": draw(st.floats(1, 300)), "kind": draw(st.sampled_from(["mppt", "pwm"]))},
        outage={
            # Few moments, so that their sun is worked out once.
            "start": draw(st.sampled_from(["2026-01-15T17:00:00", "2026-06-21T05:20:00", "2026-10-03T12:00:00"])),
            "duration_h": draw(st.sampled_from([6.0, 72.0])),
        },
        bank={
            "chemistry": "agm" if lead_acid else "lfp",
            "unit_ah": draw(st.floats(20, 400)),
            "parallel": draw(st.integers(1, 3)),
            "depth_frac": depth,
            "cutoff_soc_frac": draw(st.sampled_from([0.0, 0.1])),
            "start_soc_frac": 1.0,
            "temp_c": draw(st.sampled_from([2.0, 25.0])),
            "unit_max_charge_a": draw(st.floats(5, 100)),
            "unit_max_discharge_a": 5000.0 if ample else draw(st.floats(10, 300)),
            "charge_efficiency_frac": draw(st.sampled_from([0.85, 0.97])),
            "discharge_efficiency_frac": draw(st.sampled_from([0.98, 1.0])),
        },
        inverter={
            "rated_w": 50_000.0 if ample else draw(st.sampled_from([800.0, 3000.0])),
            "surge_w": 100_000.0 if ample else 6000.0,
            "idle_w": draw(st.sampled_from([0.0, 25.0])),
            "efficiency_frac": 0.9,
        },
        wiring={"loss_frac": draw(st.sampled_from([0.0, 0.02]))},
    )


SPANS = st.sampled_from([[], [[0, 24]], [[7, 9], [17, 18]], [[0, 7], [22, 24]]])


@st.composite
def sources(draw: st.DrawFn, *, ample: bool = False) -> dict[str, Any]:
    """Everything else that charges, together or one at a time; `ample` is a generator that carries any house."""
    rated_w = 90_000.0 if ample else draw(st.sampled_from([300.0, 1500.0, 6000.0]))
    start = draw(st.floats(0.2, 0.9))
    return {
        "generator": {
            "rated_w": rated_w,
            "stock_l": draw(st.sampled_from([0.05, 2.0, 100.0])),
            "tank_l": draw(st.sampled_from([0.5, 15.0])),
            "charger_w": draw(st.sampled_from([200.0, 900.0])),
            "min_run_h": draw(st.sampled_from([0.0, 2.0])),
            "start_soc_frac": start,
            "stop_soc_frac": min(1.0, start + 0.2),
            "quiet_hours": draw(SPANS.filter(lambda spans: spans != [[0, 24]])),
            "charges_only": draw(st.booleans()),
            "fuel_idle_l_per_h": 0.2,
            "fuel_l_per_kwh": 0.4,
        },
        "alternator": draw(st.none() | st.fixed_dictionaries({"current_a": st.floats(1, 80), "driven_hours": SPANS})),
        "bench_charger": draw(
            st.none() | st.fixed_dictionaries({"output_w": st.floats(10, 900), "plugged_hours": SPANS})
        ),
        "wind": draw(
            st.none()
            | st.fixed_dictionaries({"rated_w": st.floats(50, 2000), "mean_m_s": st.sampled_from([0.0, 3.5, 8.0])})
        ),
        "one_source": draw(st.booleans()),
    }


def with_sources(design: Design, more: dict[str, Any], *, away: bool = False) -> Design:
    """The design with further sources beside its sun; `away` leaves its first day without anybody at home."""
    values = design.model_dump(mode="json")
    values["charging"] |= more
    values["outage"]["days"][0]["away"] = away
    return Design.model_validate_json(json.dumps(values))


def coupled(draw: st.DrawFn, values: dict[str, Any]) -> dict[str, Any]:
    """The design with a grid-tied array on the inverter's own panel, throttled or switched off in parts."""
    values["transfer"] = {"arrangement": "ac_coupled"}
    values["charging"]["grid_tied"] = {
        "rated_w": draw(st.sampled_from([400.0, 2500.0])),
        "arrays": [array("tied", draw(st.floats(100, 5000)), tilt_deg=30.0)],
        "throttle": draw(st.sampled_from(["frequency", "blocks", "none"])),
        "blocks": draw(st.integers(1, 4)),
        "back_soc_frac": draw(st.sampled_from([0.5, 0.9])),
        "charge_w": draw(st.none() | st.sampled_from([150.0, 900.0])),
        "on_backup_panel": draw(st.sampled_from([True, True, True, False])),
    }
    return values


def leads(draw: st.DrawFn, values: dict[str, Any]) -> dict[str, Any]:
    """Runs of known size between bank and inverters, whose drop counts; branches too short to matter."""
    keys = ["bank", *(f"inverter-{number + 1}" for number in range(values["inverter"]["units"]))]
    runs = [
        {
            "run": key,
            "size": draw(st.sampled_from(["16 mm²", "35 mm²", "95 mm²"])),
            "length_m": draw(st.sampled_from([0.5, 4.0, 12.0])),
        }
        for key in keys
    ]
    branches = [{"run": f"branch-{row['id']}", "size": "120 mm²", "length_m": 0.001} for row in values["loads"]]
    return {"runs": [*runs, *branches]}


@st.composite
def rough_designs(draw: st.DrawFn) -> Design:
    """Any design the outage model knows, overloads, links, search mode, waiting loads and every source among them."""
    design = draw(designs(tiers=("life", "keep", "ease", "spare")))
    values = with_sources(design, draw(sources()), away=draw(st.booleans())).model_dump(mode="json")
    if draw(st.booleans()):
        values["charging"]["generator"] = None
    for at, row in enumerate(values["loads"]):
        row["link"] = draw(st.sampled_from([None, None, None, "one", "other"]))
        row["flexible_h"] = draw(st.sampled_from([None, None, None, 2])) if at else None
        row["stops_when_away"] = draw(st.booleans())
        if row["tier"] == "spare":
            # Small enough to run on what is left over now and then.
            row |= {"running_w": min(row["running_w"], 40.0), "start_w": None, "quantity": 1}
    rated_w = draw(st.sampled_from([300.0, 800.0, 3000.0, 20_000.0]))
    values["inverter"] |= {
        "rated_w": rated_w,
        "surge_w": rated_w * draw(st.sampled_from([1.0, 2.0])),
        "idle_w": draw(st.sampled_from([0.0, 15.0, 60.0])) if rated_w >= 800 else 10.0,
        "efficiency_frac": 0.9,
        "search_threshold_w": draw(st.sampled_from([0.0, 0.0, 60.0])),
        "off_hours": draw(st.sampled_from([[], [], [[1, 5]]])),
        "units": draw(st.sampled_from([1, 1, 2])),
    }
    values["bank"] |= {
        "chemistry": draw(st.sampled_from(["lfp", "lfp", "agm", "gel", "flooded", "starter"])),
        "start_soc_frac": draw(st.sampled_from([1.0, 0.7, 0.2])),
        "temp_c": draw(st.sampled_from([-3.0, 2.0, 25.0])),
        "takeoff": draw(st.sampled_from(["one_end", "opposite_ends", "equal_leads"])),
    }
    if draw(st.integers(0, 2)) == 0:
        values = coupled(draw, values)
    elif draw(st.booleans()):
        values["wiring"] = leads(draw, values)
    values["simulation"]["time_step_min"] = draw(st.sampled_from([15, 30, 60]))
    values["policy"] |= {
        "keep_level_frac": draw(st.sampled_from([None, None, 0.0, 0.6])),
        "return_margin_frac": draw(st.sampled_from([0.1, 0.1, 0.02, 0.3])),
    }
    if values["charging"]["generator"]:
        values["charging"]["generator"]["by_hand"] = draw(st.booleans())
    values["outage"]["grid_back"] = draw(st.sampled_from([[], [], [[2, 4]], [[0, 1], [5, 6], [20, 26], [70, 90]]]))
    values["charging"]["grid_charger"] = {"output_w": draw(st.sampled_from([0.0, 150.0, 2500.0]))}
    values["outage"]["days"][-1] |= {"fuel": draw(st.booleans()), "car": draw(st.booleans())}
    return Design.model_validate_json(json.dumps(values))


# As many digits as a figure is ever kept with.
POSITIVE = st.floats(0.01, 900).map(lambda value: round(value, 6))
PARTS = st.floats(0, 1).map(lambda value: round(value, 9))
NAMES = st.text(
    st.characters(codec="utf-8", exclude_categories=("C", "Z"), exclude_characters=",=*"), min_size=1, max_size=9
)


@st.composite
def speed_tables(draw: st.DrawFn) -> dict[str, Any]:
    """A table of settings, one of them chosen."""
    names = draw(st.lists(NAMES, min_size=1, max_size=4, unique=True))
    settings = [{"name": name, "power_w": draw(POSITIVE)} for name in names]
    return {"kind": "speeds", "settings": settings, "chosen": draw(st.sampled_from(names)), "quality": "measured"}


def readings() -> st.SearchStrategy[dict[str, Any] | None]:
    """Any way a load's watts may be known."""
    return st.one_of(
        st.none(),
        st.fixed_dictionaries({"kind": st.just("typed"), "quality": st.sampled_from(["measured", "guess"])}),
        st.just({"kind": "typical"}),
        st.fixed_dictionaries({"kind": st.just("nameplate"), "volts_v": POSITIVE, "current_a": POSITIVE}),
        st.fixed_dictionaries({"kind": st.just("spot"), "reading_w": POSITIVE, "step_w": st.sampled_from([0.0, 5.0])}),
        st.fixed_dictionaries(
            {"kind": st.just("meter"), "energy_kwh": POSITIVE, "over_h": POSITIVE, "running_w": POSITIVE}
        ),
        st.fixed_dictionaries({"kind": st.just("label"), "energy_kwh_per_year": POSITIVE, "running_w": POSITIVE}),
        st.fixed_dictionaries({"kind": st.just("dc_amps"), "current_a": POSITIVE, "at_v": POSITIVE}),
        speed_tables(),
    )


@st.composite
def audited_loads(draw: st.DrawFn) -> Load:
    """A load with every field of the audit in use."""
    load_id = draw(st.sampled_from(["a", "b", "pump-2", "x_1"]))
    fields = {
        **load(load_id, draw(WATTS)),
        "tier": draw(st.sampled_from(["life", "keep", "ease", "spare"])),
        "duty_frac": draw(PARTS),
        "hours": [list(span) for span in draw(HOURS)],
        "supply": draw(st.sampled_from(["ac", "ac240", "dc", "dc_converted"])),
        "converter_efficiency_frac": draw(st.none() | PARTS.filter(lambda part: part >= 0.3)),
        "flexible_h": draw(st.none() | st.integers(1, 24)),
        "known": draw(readings()),
        "start_known": draw(
            st.none()
            | st.just({"kind": "code", "code_letter": "K", "horsepower_hp": 0.333333})
            | st.just({"kind": "multiple", "multiple": 2.5})
            | st.just({"kind": "typed", "quality": "measured"})
        ),
        "stops_when_away": draw(st.booleans()),
        "dark_day": draw(st.sampled_from(["keep", "drop", "substitute"])),
        "substitute_name": draw(st.none() | NAMES),
        "substitute_w": draw(POSITIVE),
        "month_factors": draw(st.none() | st.lists(PARTS, min_size=12, max_size=12)),
    }
    return Load.model_validate(fields)
