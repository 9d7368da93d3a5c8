"""From need to bank: one sheet that reads from top to bottom, each line with its formula and, where it is a choice, the
field that holds it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from hearthkeep.core.bank import BankRating, strings_for
from hearthkeep.core.design import Design, TakeOff, Tier
from hearthkeep.core.inverter import Cables, house_watts, limits_of, lost_in_runs_w, marginal_efficiency
from hearthkeep.core.loads import DayKind, LoadTable, rows_from, table_from
from hearthkeep.core.sizing.drawn import drawn_by_hour
from hearthkeep.core.sources import source_currents


@dataclass(frozen=True, kw_only=True, slots=True)
class SheetLine:
    """One line of the sheet."""

    key: str
    label: str
    value: float
    unit: str
    #: How the line follows from those above it.
    formula: str
    #: Field of the design that holds the choice; none for a line that only follows.
    path: str | None
    #: Whether the line is a sum that the next ones go on from.
    is_sum: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class StringsNeed:
    """How many parallel strings one demand asks for."""

    key: str
    label: str
    #: Demand and what one string gives towards it, both in the unit.
    asked: float
    per_string: float
    unit: str
    strings: int
    #: How the strings have to be joined for it.
    takeoff: TakeOff


@dataclass(frozen=True, kw_only=True, slots=True)
class NeedSheet:
    """The sheet and what it comes to."""

    lines: tuple[SheetLine, ...]
    #: Energy to be given at the terminals, growth counted [Wh].
    terminal_wh: float
    #: Stored energy to be given at the bank, before depth, cold and age [Wh].
    stored_wh: float
    #: Rated energy needed [Wh].
    nominal_wh: float
    #: By energy, by discharge current, by charge current.
    strings: tuple[StringsNeed, ...]
    #: The demand that asks for most.
    binding: str
    strings_needed: int
    strings_there: int
    #: What the next whole number of strings comes to [Wh].
    next_size_wh: float


def counted_tiers(lowest: Tier) -> int:
    """How many tiers count, from Life down to the lowest one; Spare never draws on the bank."""
    return min(list(Tier).index(lowest), list(Tier).index(Tier.EASE)) + 1


def need_sheet(design: Design, rating: BankRating, cables: Cables) -> NeedSheet:
    """Work the bank's size out from the audit."""
    need, bank, inverter = design.bank.need, design.bank, design.inverter
    kind = DayKind(month=design.outage.start.month, is_dark=need.dark_day)
    rows = rows_from(design.loads, (kind,))
    limits = limits_of(inverter, discharge_limit_w=math.inf, cables=cables)
    house = house_watts(rows, inverter, limits)
    count = counted_tiers(need.lowest_tier)
    drawn = drawn_by_hour(design, rating, house, count)
    ac_wh = float(drawn.ac_w.sum())
    dc_wh = float(house.dc_w[:, :count].sum())
    idle_wh = float(house.standing_w[:, count - 1].sum())
    conversion_wh = ac_wh * (1 / marginal_efficiency(inverter) - 1) + float(house.converter_w[:, :count].sum())
    wiring_wh = float(drawn.wiring_w.sum())
    at_bank_wh = ac_wh + dc_wh + idle_wh + conversion_wh + wiring_wh
    over_wh = at_bank_wh * need.autonomy_h / 24
    grown_wh = over_wh * (1 + need.growth_frac)
    rate_factor = float(drawn.stored_w.sum()) * rating.discharge_efficiency_frac / at_bank_wh if at_bank_wh > 0 else 1.0
    stored_wh = grown_wh / rating.discharge_efficiency_frac * rate_factor
    nominal_wh = stored_wh / (rating.depth_frac * rating.temperature_frac * need.end_of_life_frac)
    tiers = " and ".join(tier.value.title() for tier in list(Tier)[:count])
    day = "a dark day" if need.dark_day else "a usual day"
    lines = (
        _line("loads", f"{tiers} on {day}", ac_wh + dc_wh, "Wh", "sum of the audit", "bank.need.lowest_tier"),
        _line("idle", "Inverter standing ready", idle_wh, "Wh", "standing W by the hour", "inverter.idle_w"),
        _line("conversion", "Lost in inverter and converters", conversion_wh, "Wh",
              "AC Wh × (1 ÷ marginal efficiency − 1) + converters"),
        _line("wiring", "Lost in cable", wiring_wh, "Wh",
              "sum so far × wiring loss" if design.wiring.loss_frac is not None else "R × (W ÷ V)² of leads and branches, hour by hour",
              "wiring.loss_frac"),
        _line("day", "Taken from the bank a day", at_bank_wh, "Wh", "sum of the lines above", is_sum=True),
        _line("autonomy", "Autonomy without sun", need.autonomy_h, "h", "the time to be bridged", "bank.need.autonomy_h"),
        _line("growth", "Margin for growth", need.growth_frac, "", "room for loads to come", "bank.need.growth_frac"),
        _line("discharge", "Discharge efficiency", rating.discharge_efficiency_frac, "", "at the bank's terminals",
              "bank.discharge_efficiency_frac"),
        _line("rate", "Rate factor", rate_factor, "", "(current ÷ rated current)^(k − 1) of each hour, weighed by its energy; Peukert, lead-acid only"),
        _line("stored", "To be stored", stored_wh, "Wh",
              "a day × autonomy ÷ 24 × (1 + growth) ÷ discharge efficiency × rate factor", is_sum=True),
        _line("depth", "Depth of discharge", rating.depth_frac, "", "the lesser of the depth chosen and 1 − cut-off",
              "bank.depth_frac"),
        _line("cold", "Capacity in the cold", rating.temperature_frac, "", "at the temperature of the place", "bank.temp_c"),
        _line("age", "Capacity at the end of life", need.end_of_life_frac, "", "the need is met until then",
              "bank.need.end_of_life_frac"),
        _line("nominal", "Rated energy needed", nominal_wh, "Wh", "stored ÷ (depth × cold × age)", is_sum=True),
        _line("nominal_ah", f"the same at {rating.nominal_v:g} V", nominal_wh / rating.nominal_v, "Ah",
              "Wh ÷ bank volts", is_sum=True),
    )  # fmt: skip
    strings = _strings(design, rating, rows_table=table_from(rows), cables=cables, count=count, nominal_wh=nominal_wh)
    binding = max(strings, key=lambda entry: entry.strings)
    string_wh = bank.nominal_v * bank.unit_ah
    return NeedSheet(
        lines=lines,
        terminal_wh=grown_wh * rate_factor,
        stored_wh=stored_wh,
        nominal_wh=nominal_wh,
        strings=strings,
        binding=binding.key,
        strings_needed=binding.strings,
        strings_there=bank.parallel,
        next_size_wh=binding.strings * string_wh,
    )


def _line(
    key: str, label: str, value: float, unit: str, formula: str, path: str | None = None, *, is_sum: bool = False
) -> SheetLine:
    return SheetLine(key=key, label=label, value=value, unit=unit, formula=formula, path=path, is_sum=is_sum)


def _strings(
    design: Design, rating: BankRating, *, rows_table: LoadTable, cables: Cables, count: int, nominal_wh: float
) -> tuple[StringsNeed, ...]:
    bank, inverter = design.bank, design.inverter
    string_wh = bank.nominal_v * bank.unit_ah
    house_w = rows_table.coincident_ac_w[:, :count].sum(axis=1)
    idle_w = inverter.idle_w if inverter.rated_w > 0 and rows_table.owns_ac[:count].any() else 0.0
    direct_w, input_w = (
        rows_table.coincident_dc_w[:, :count].sum(axis=1),
        idle_w + house_w / marginal_efficiency(inverter),
    )
    peak_w = float(((direct_w + input_w) * (1 + cables.flat_frac) + lost_in_runs_w(direct_w, input_w, cables)).max())
    lowest_v = inverter.low_cutoff_v if idle_w > 0 or house_w.any() else rating.nominal_v
    peak_a = peak_w / lowest_v
    charge_a = max((source.current_a for source in source_currents(design, rating.volts)), default=0.0)

    def currents(key: str, label: str, asked_a: float, string_a: float) -> StringsNeed:
        found = strings_for(bank, asked_a=asked_a, string_a=string_a)
        share = string_a / found.per_string_a if found.per_string_a > 0 else 1.0
        return StringsNeed(
            key=key,
            label=f"{label}, share {share:.2f}",
            asked=asked_a,
            per_string=found.per_string_a,
            unit="A",
            strings=found.strings,
            takeoff=found.takeoff,
        )

    return (
        StringsNeed(
            key="energy",
            label="Energy",
            asked=nominal_wh,
            per_string=string_wh,
            unit="Wh",
            strings=max(1, math.ceil(nominal_wh / string_wh - 1e-9)),
            takeoff=bank.takeoff,
        ),
        currents("discharge", "Discharge current at the peak and the low cut-off", peak_a, rating.string_discharge_a),
        currents("charge", "Charge current of the strongest source", charge_a, rating.string_charge_a),
    )
