"""Sizing sums: what the loads ask of bank and inverter, before any hour is simulated."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import TYPICAL, BankLife, BankRating, Evening, Sharing, Ventilation
from hearthkeep.core.design import Design, Load, Supply, Tier
from hearthkeep.core.inverter import HouseWatts, low_battery_current_a, marginal_efficiency
from hearthkeep.core.loads import LoadSums, LoadTable, converter_efficiency
from hearthkeep.core.sizing.compare import ChemistryRow
from hearthkeep.core.sizing.drawn import drawn_by_hour
from hearthkeep.core.sizing.need import NeedSheet
from hearthkeep.core.sizing.voltage import VoltageRow


@dataclass(frozen=True, kw_only=True, slots=True)
class LedgerLine:
    """One line of the daily ledger, in both schools' units."""

    key: str
    label: str
    #: Energy a day [Wh].
    wh: float
    #: The same as amp-hours at nominal bank volts [Ah].
    ah: float


@dataclass(frozen=True, kw_only=True, slots=True)
class BankSums:
    """The bank against the daily need of Life, Keep and Ease."""

    nominal_v: float
    rated_ah: float
    rated_wh: float
    temperature_frac: float
    capacity_wh: float
    #: From full to the design floor [Wh].
    usable_wh: float
    #: AC loads of a day, what search mode leaves dead left out [Wh].
    ac_wh: float
    #: Drawn from the bank a day without any sun: loads, inverter and wiring, at the stored energy [Wh].
    daily_drawn_wh: float
    #: The same in amp-hours at nominal volts [Ah].
    daily_drawn_ah: float
    #: Usable energy over the daily draw, without any sun [h].
    autonomy_h: float | None
    charge_limit_a: float
    discharge_limit_a: float
    #: From the loads to the bank, line by line; the last is the sum of those before it.
    daily_ledger: tuple[LedgerLine, ...]
    #: By load id: what it takes from the bank a day, conversion included, at nominal volts [Ah].
    row_ah: dict[str, float]
    #: The same by the tier the loads live in, and of all loads [Ah].
    tier_ah: dict[str, float]
    all_ah: float
    #: Standby of all loads outside their hours, at nominal volts [Ah].
    standby_ah: float


@dataclass(frozen=True, kw_only=True, slots=True)
class BankDetail:
    """The bank looked at from all sides."""

    sharing: Sharing
    #: How far unequal shares even out while the bank is drawn down; none for a single string or equal shares.
    evening: Evening | None
    #: None for chemistries that give off no gas in normal use.
    ventilation: Ventilation | None
    life: BankLife
    #: Average draw of the bank's heater [W], and the cells' temperature with it [°C].
    heater_w: float
    #: The heater's energy [Wh a day], and the same at nominal volts [Ah].
    heater_wh: float
    heater_ah: float
    temp_c: float
    need: NeedSheet
    chemistries: tuple[ChemistryRow, ...]
    voltages: tuple[VoltageRow, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class InverterSums:
    """The inverter against what runs at once."""

    #: Direct current at the peak, at the low cut-off voltage [A].
    peak_current_a: float
    #: Direct current at the worst start, at the low cut-off voltage [A].
    surge_current_a: float
    #: All that the bank may be asked for at once, DC loads included, at the low cut-off: at the peak and at the worst start [A].
    bank_peak_a: float
    bank_surge_a: float
    #: What the inverter draws at its own rated output, at the low cut-off [A].
    rated_current_a: float
    marginal_efficiency_frac: float
    #: Idle draw of a whole day [Wh].
    idle_daily_wh: float
    #: Idle's part of what is drawn from the bank a day.
    idle_share_frac: float
    #: Loads that search mode leaves dead while nothing larger runs, and what they miss [Wh a day].
    search_dead: tuple[str, ...]
    search_dead_wh: float


#: Tiers that may draw on the bank.
ON_BANK = (Tier.LIFE, Tier.KEEP, Tier.EASE)


def bank_sums(design: Design, rating: BankRating, loads: LoadSums, house: HouseWatts) -> BankSums:
    """Daily draw and autonomy of the bank on a usual day; Spare is left out, since it never draws on the bank."""
    count = len(ON_BANK)
    drawn = drawn_by_hour(design, rating, house, count)
    ac_wh, dc_wh = drawn.ac_w.sum(axis=0), house.dc_w[:, :count].sum(axis=0)
    converter_wh = float(house.converter_w[:, :count].sum())
    idle_wh = float(house.standing_w[:, count - 1].sum())
    conversion_wh = float(ac_wh.sum()) * (1 / marginal_efficiency(design.inverter) - 1)
    at_bus_wh = float(drawn.at_bus_w.sum())
    daily_wh = float(drawn.stored_w.sum())
    wiring_wh = float(drawn.wiring_w.sum())
    parts = (
        *((tier.value, f"{tier.value.title()} loads", float(ac_wh[i] + dc_wh[i])) for i, tier in enumerate(ON_BANK)),
        ("idle", "Inverter standing ready", idle_wh),
        ("conversion", "Lost in the inverter", conversion_wh),
        ("converters", "Lost in DC converters", converter_wh),
        ("wiring", "Lost in wiring", wiring_wh),
        ("discharge", "Lost in discharge", at_bus_wh * (1 / rating.discharge_efficiency_frac - 1)),
        ("rate", "Lost to Peukert's law", daily_wh - at_bus_wh / rating.discharge_efficiency_frac),
        ("drawn", "Drawn from the bank a day", daily_wh),
    )
    if not TYPICAL[design.bank.chemistry].is_lead_acid:
        parts = tuple(part for part in parts if part[0] != "rate")
    row_ah = {
        row.id: row.daily_wh / _efficiency(design, load) / rating.nominal_v if load.supply is not Supply.PANEL else 0.0
        for load, row in zip(design.loads, loads.rows, strict=True)
    }
    return BankSums(
        nominal_v=rating.nominal_v,
        rated_ah=design.bank.rated_ah,
        rated_wh=rating.rated_wh,
        temperature_frac=rating.temperature_frac,
        capacity_wh=rating.capacity_wh,
        usable_wh=rating.usable_wh,
        ac_wh=float(ac_wh.sum()),
        daily_drawn_wh=daily_wh,
        daily_drawn_ah=daily_wh / rating.nominal_v,
        autonomy_h=rating.usable_wh / daily_wh * 24 if daily_wh > 0 else None,
        charge_limit_a=rating.charge_limit_a,
        discharge_limit_a=rating.discharge_limit_a,
        daily_ledger=tuple(
            LedgerLine(key=key, label=label, wh=wh, ah=wh / rating.nominal_v) for key, label, wh in parts
        ),
        row_ah=row_ah,
        tier_ah={
            tier.value: sum(row_ah[row.id] for row in loads.rows if row.lived_tier == tier.value) for tier in Tier
        },
        all_ah=sum(row_ah.values()),
        standby_ah=loads.standby_wh / rating.nominal_v,
    )


def _efficiency(design: Design, load: Load) -> float:
    """Of all between the bank's terminals and the load."""
    if load.supply.is_ac:
        return marginal_efficiency(design.inverter)
    return converter_efficiency(load) if load.supply is Supply.DC_CONVERTED else 1.0


def inverter_sums(design: Design, loads: LoadSums, table: LoadTable, house: HouseWatts, bank: BankSums) -> InverterSums:
    """Currents and idle share of the inverter."""
    inverter = design.inverter
    works = inverter.rated_w > 0 and bool(table.owns_ac.any())
    direct_a = loads.peak_dc_w / (inverter.low_cutoff_v if works else bank.nominal_v)
    idle_wh = next(line.wh for line in bank.daily_ledger if line.key == "idle")
    return InverterSums(
        peak_current_a=low_battery_current_a(inverter, loads.peak_w) if works else 0.0,
        surge_current_a=low_battery_current_a(inverter, loads.start_surge_w) if works else 0.0,
        bank_peak_a=(low_battery_current_a(inverter, loads.peak_w) if works else 0.0) + direct_a,
        bank_surge_a=low_battery_current_a(inverter, loads.start_surge_w) + direct_a if works else 0.0,
        rated_current_a=low_battery_current_a(inverter, inverter.rated_w) if works else 0.0,
        marginal_efficiency_frac=marginal_efficiency(inverter),
        idle_daily_wh=idle_wh,
        search_dead=tuple(
            load.id
            for load in design.loads
            if works and load.supply.is_ac and 0 < load.quantity * load.running_w < inverter.search_threshold_w
        ),
        search_dead_wh=float(house.dead_w[:, len(ON_BANK) - 1].sum()),
        idle_share_frac=min(1.0, idle_wh / bank.daily_drawn_wh) if bank.daily_drawn_wh > 0 else 0.0,
    )
