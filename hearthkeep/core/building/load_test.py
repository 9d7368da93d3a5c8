"""The load test: a plain heater in steps, each held against the model; together they give resistance, idle and efficiency."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np
from pydantic import Field

from hearthkeep.core.bank import sharing_of
from hearthkeep.core.building.correction import Correction, corrected
from hearthkeep.core.building.fitting import Line, fitted_line
from hearthkeep.core.building.gate import MOST_TEST_W, Window
from hearthkeep.core.building.last_gates import HOT_C
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import Celsius, Change, DesignPart
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.sources import WeatherYear

MOST_STEPS = 24
#: Volts under load may be off by this for each 12 V, and by this part of the fall; amps by this part. Common practice, no source.
VOLTS_PLAY_PER_12, FALL_PLAY_FRAC, AMPS_PLAY_FRAC = 0.06, 0.5, 0.08
#: A lug this much warmer than the air is loose or too small [°C]. Common practice, no source.
WARM_RISE_C = 35.0
#: Steps used for a fit have to span so many times the smallest.
LEAST_SPAN = 2.0

Reading = Annotated[float, Field(strict=True, ge=-2_000, le=2_000)]


#: Of a part that carries current [°C].
PartCelsius = Annotated[float, Field(strict=True, ge=-50, le=500)]


class LoadStep(DesignPart):
    """One step of the load test."""

    #: At the inverter's output, by a plug-in meter or the heater's plate [W]; 0 is the rest before or after.
    load_w: Annotated[float, Field(strict=True, ge=0, le=MOST_TEST_W)]
    bank_v: Reading
    #: From the bank [A].
    bank_a: Reading | None = None
    inverter_v: Reading | None = None
    #: The warmest lug, fuse or terminal, and the air around [°C].
    warmest_c: PartCelsius | None = None
    air_c: Celsius | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class StepResult:
    """One step against the model."""

    load_w: float
    bank_v: float
    expected_v: Window
    v_inside: bool
    bank_a: float | None
    expected_a: Window
    a_inside: bool | None
    #: Lost between posts and inverter [V], and what the runs should lose.
    leads_drop_v: float | None
    expected_drop_v: float
    drop_inside: bool | None
    rise_c: float | None
    is_warm: bool
    is_hot: bool
    #: What to do about it; empty where all is well.
    remark: str


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadTest:
    """A load test worked out."""

    steps: tuple[StepResult, ...]
    #: Bank's own resistance, measured and by the design, with its doubt [mΩ]; none with fewer than three steps.
    bank_mohm: float | None
    bank_doubt_mohm: float | None
    design_bank_mohm: float
    idle_w: float | None
    efficiency_frac: float | None
    corrections: tuple[Correction, ...]
    passed: bool
    #: So warm nothing may get.
    hot_c: float
    sentence: str


def load_test(expected: Expected, steps: Sequence[LoadStep], year: WeatherYear | None = None) -> LoadTest:
    """Hold each step against Ohm's law and the inverter's two losses, and fit what the steps say together."""
    results = tuple(_result(expected, step) for step in steps)
    with_amps = [step for step in steps if step.bank_a is not None]
    amps = np.array([step.bank_a for step in with_amps], dtype=float)
    volts = np.array([step.bank_v for step in with_amps])
    fall = fitted_line(amps, volts)
    line = _power_line(with_amps)
    corrections = tuple(_corrections(expected, fall, line, year))
    passed = all(
        each.v_inside and each.a_inside is not False and each.drop_inside is not False and not each.is_warm
        for each in results
    )
    return LoadTest(
        steps=results,
        bank_mohm=None if fall is None else -1000 * fall.slope,
        bank_doubt_mohm=None if fall is None else 1000 * fall.slope_doubt,
        design_bank_mohm=1000 * expected.bank_ohm,
        idle_w=None if line is None else line.intercept,
        efficiency_frac=None if line is None else _rated_efficiency(expected, line),
        corrections=corrections,
        passed=passed,
        hot_c=HOT_C,
        sentence=_sentence(results, passed),
    )  # fmt: skip


def _result(expected: Expected, step: LoadStep) -> StepResult:
    (rest, rest_low, rest_high), _ = expected.bank_volts
    leads_ohm = expected.leads_ohm

    def amps(rest_v: float) -> float:
        return expected.amps_at(step.load_w, rest_v)

    current = amps(rest)
    fall_v = current * expected.bank_ohm
    play_v = VOLTS_PLAY_PER_12 * expected.blocks
    volts = Window(
        rest - fall_v,
        rest_low - fall_v * (1 + FALL_PLAY_FRAC) - play_v,
        rest_high - fall_v * (1 - FALL_PLAY_FRAC) + play_v,
    )
    play_a = max(AMPS_PLAY_FRAC * current, 0.5)
    window_a = Window(current, amps(rest_high) - play_a, amps(rest_low) + play_a)
    drop_v = step.bank_v - step.inverter_v if step.inverter_v is not None else None
    expected_drop_v = (step.bank_a if step.bank_a is not None else current) * leads_ohm
    # Lugs and fuse add their own, and two meters differ a little.
    drop_inside = None if drop_v is None else drop_v <= 1.5 * expected_drop_v + 0.02 * expected.blocks
    rise_c = (
        None
        if step.warmest_c is None
        else step.warmest_c - (step.air_c if step.air_c is not None else expected.moment.air_c)
    )
    hot = step.warmest_c is not None and step.warmest_c >= HOT_C
    warm = hot or (rise_c is not None and rise_c > WARM_RISE_C)
    a_inside = None if step.bank_a is None else window_a.holds(step.bank_a)
    v_inside = volts.holds(step.bank_v)
    remarks = []
    if hot:
        remarks.append("stop: too hot to touch, find the joint")
    elif warm:
        remarks.append("a joint warms: torque and crimp")
    if not v_inside:
        remarks.append(
            "the bank sinks more than it should: block by block"
            if step.bank_v < volts.low
            else "volts too high: meter or charger on"
        )
    if a_inside is False:
        remarks.append("amps differ: shunt's setting, another load, or the plate's watts")
    if drop_inside is False:
        remarks.append("lost in the leads: lugs and fuse, part by part")
    return StepResult(
        load_w=step.load_w,
        bank_v=step.bank_v,
        expected_v=volts,
        v_inside=v_inside,
        bank_a=step.bank_a,
        expected_a=window_a,
        a_inside=a_inside,
        leads_drop_v=drop_v,
        expected_drop_v=expected_drop_v,
        drop_inside=drop_inside,
        rise_c=rise_c,
        is_warm=warm,
        is_hot=hot,
        remark="; ".join(remarks),
    )  # fmt: skip


def _power_line(steps: Sequence[LoadStep]) -> Line | None:
    """Watts taken against watts given, the inverter's terminals where they were read; none where the steps lie too close."""
    loads = np.array([step.load_w for step in steps])
    if loads.size < 3 or loads.max() <= 0 or (loads.min() > 0 and loads.max() < LEAST_SPAN * loads.min()):
        return None
    taken = np.array(
        [(step.bank_a or 0.0) * (step.bank_v if step.inverter_v is None else step.inverter_v) for step in steps]
    )
    return fitted_line(loads, taken)


def _rated_efficiency(expected: Expected, line: Line) -> float:
    rated_w = expected.design.inverter.together.rated_w
    return rated_w / max(line.intercept + line.slope * rated_w, 1e-9)


def _corrections(
    expected: Expected, fall: Line | None, line: Line | None, year: WeatherYear | None
) -> Iterator[Correction]:
    design = expected.design
    inverter, units = design.inverter, design.inverter.units
    if line is not None and line.intercept > 0 and line.slope >= 1.0:
        idle_w, efficiency = line.intercept / units, _rated_efficiency(expected, line)
        # The efficiency at the rating follows from both: they are taken together or not at all.
        yield corrected(
            design, year, key="inverter_losses", title="Idle draw and efficiency of the inverter",
            changes=(
                Change(path="inverter.idle_w", value=round(idle_w, 2)),
                Change(path="inverter.efficiency_frac", value=round(min(efficiency, 1.0), 5)),
            ),
            before=inverter.idle_w, after=idle_w, doubt=line.intercept_doubt / units, unit="W",
            figure=Figure(
                label="Idle draw, one unit", value=idle_w, unit="W", formula="watts taken = idle + slope × watts given, least squares",
                terms=(
                    Term(name="idle of all units", value=line.intercept, unit="W"),
                    Term(name="each watt given takes", value=line.slope, unit="W"),
                    Term(name="efficiency at the rating, measured", value=100 * efficiency, unit="%"),
                    Term(name="by the design", value=100 * inverter.efficiency_frac, unit="%"),
                ), basis="Least squares with Student's t, textbook; our model of a constant and a proportional loss",
            ),
        )  # fmt: skip
    sheet = design.bank.unit
    if fall is not None and fall.slope < 0 and sheet is not None:
        # Of the whole bank at its temperature, to one unit at 25 °C: the parts that join them are the design's.
        before = sheet.internal_resistance_mohm
        factor = -fall.slope / expected.bank_ohm
        typical = before if before is not None else _unit_mohm(expected)
        after = typical * factor
        yield corrected(
            design, year, key="bank_resistance", title="Internal resistance of one battery unit",
            changes=(Change(path="bank.unit.internal_resistance_mohm", value=round(after, 3)),),
            before=typical, after=after, doubt=typical * fall.slope_doubt / expected.bank_ohm, unit="mΩ",
            figure=Figure(
                label="Resistance of one unit", value=after, unit="mΩ", formula="as the design has it × measured fall per ampere ÷ the design's",
                terms=(
                    Term(name="measured, whole bank", value=-1000 * fall.slope, unit="mΩ"),
                    Term(name="by the design, whole bank", value=1000 * expected.bank_ohm, unit="mΩ"),
                ), basis="Ohm's law, least squares: textbook",
            ),
        )  # fmt: skip


def _unit_mohm(expected: Expected) -> float:
    return sharing_of(expected.design.bank).string_mohm / expected.design.bank.series


def _sentence(results: Sequence[StepResult], passed: bool) -> str:
    if not results:
        return "No step yet: read the bank at rest, then with the heater on."
    most_w = max(each.load_w for each in results)
    if any(each.is_hot for each in results):
        return "Stop: something is too hot. Everything off, find the joint before anything else."
    if passed:
        return f"Carried {most_w:,.0f} W as the design says: volts, amps and temperatures inside."
    return f"Tried up to {most_w:,.0f} W; {sum(bool(each.remark) for each in results)} of {len(results)} steps are not as the design says."
