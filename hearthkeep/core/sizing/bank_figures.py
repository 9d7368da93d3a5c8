"""How the bank's figures come about."""

from __future__ import annotations

from hearthkeep.core.bank import TYPICAL, BankRating
from hearthkeep.core.design import Design, Load, Supply
from hearthkeep.core.figure import MOST_ROWS_TOLD, PHYSICS, Figure, Term
from hearthkeep.core.loads import LoadSums, converter_efficiency
from hearthkeep.core.practice import degrees
from hearthkeep.core.sizing.bank_and_inverter import ON_BANK, BankSums

#: Lines of the daily ledger that the wiring carries.
ABOVE_WIRING = (*(tier.value for tier in ON_BANK), "idle", "conversion", "converters")


def bank_figures(
    design: Design, rating: BankRating, loads: LoadSums, bank: BankSums, *, marginal_efficiency_frac: float
) -> dict[str, Figure]:
    """Energy, draw and autonomy of the bank, and the ledger from the loads to it."""
    unit = design.bank
    typical = TYPICAL[unit.chemistry]
    figures = {
        "bank.rated_wh": Figure(
            label="Rated energy",
            value=bank.rated_wh,
            unit="Wh",
            formula="unit V × series × unit Ah × parallel",
            terms=(
                Term(name="unit", value=unit.unit_v, unit="V"),
                Term(name="series", value=unit.series, unit=""),
                Term(name="unit", value=unit.unit_ah, unit="Ah"),
                Term(name="parallel", value=unit.parallel, unit=""),
            ),
            basis=PHYSICS,
        ),
        "bank.usable_wh": Figure(
            label="Usable energy",
            value=bank.usable_wh,
            unit="Wh",
            formula="rated Wh × temperature factor × ageing × (1 − floor)",
            terms=(
                Term(name="rated", value=bank.rated_wh, unit="Wh"),
                Term(
                    name=f"temperature factor at {degrees(design, unit.temp_c)}", value=rating.temperature_frac, unit=""
                ),
                Term(name="ageing", value=unit.ageing_frac, unit=""),
                Term(name="floor", value=rating.floor_soc_frac, unit="of full"),
            ),
            basis="IEEE Std 485 Table 1 (from memory)"
            if typical.is_lead_acid
            else "LFP in the cold: common practice, no source",
        ),
        "bank.daily_drawn_wh": Figure(
            label="Drawn from the bank a day, without sun",
            value=bank.daily_drawn_wh,
            unit="Wh",
            formula="loads + inverter standing ready + AC Wh × (1 ÷ marginal efficiency − 1) + converters; × (1 + wiring) "
            "÷ discharge efficiency, × Peukert's factor for lead-acid; Spare left out",
            terms=(
                *(Term(name=line.label, value=line.wh, unit="Wh") for line in bank.daily_ledger[:-1]),
                Term(name="marginal efficiency", value=marginal_efficiency_frac, unit=""),
                Term(name="wiring", value=_wiring_frac(bank), unit=""),
                Term(name="discharge efficiency", value=rating.discharge_efficiency_frac, unit=""),
            ),
            basis="Inverter modelled as idle plus a proportional loss, fitted to its rated point",
        ),
    }
    if bank.autonomy_h is not None:
        figures["bank.autonomy_h"] = Figure(
            label="Autonomy without any sun",
            value=bank.autonomy_h,
            unit="h",
            formula="usable Wh ÷ daily Wh drawn × 24",
            terms=(
                Term(name="usable", value=bank.usable_wh, unit="Wh"),
                Term(name="drawn a day", value=bank.daily_drawn_wh, unit="Wh"),
            ),
            basis="Averages over the day; the strip below knows the hours and the drop rules",
        )
    return {**figures, **_ledger_figures(design, rating, loads, bank, marginal=marginal_efficiency_frac)}


def _wiring_frac(bank: BankSums) -> float:
    """Lost in the wiring a day, as a part of what is taken behind it."""
    above_wh = sum(line.wh for line in bank.daily_ledger if line.key in ABOVE_WIRING)
    lost_wh = next(line.wh for line in bank.daily_ledger if line.key == "wiring")
    return lost_wh / above_wh if above_wh > 0 else 0.0


def _ledger_figures(
    design: Design, rating: BankRating, loads: LoadSums, bank: BankSums, *, marginal: float
) -> dict[str, Figure]:
    """The lines from the loads to the bank, each from those above it."""
    lines = {line.key: line for line in bank.daily_ledger}
    above_wiring = [lines[key] for key in ABOVE_WIRING]
    at_bus_wh = sum(line.wh for line in above_wiring) + lines["wiring"].wh

    def line_figure(key: str, formula: str, *terms: tuple[str, float, str]) -> Figure:
        return Figure(
            label=f"{lines[key].label}, a day",
            value=lines[key].wh,
            unit="Wh",
            formula=formula,
            terms=tuple(Term(name=name, value=value, unit=unit) for name, value, unit in terms),
            basis=PHYSICS,
        )

    tiers = {
        tier.value: line_figure(
            tier.value,
            "the tier's rows a day, less what search mode leaves dead",
            ("its rows", loads.daily_by_tier_wh[tier.value], "Wh"),
        )
        for tier in ON_BANK
    }
    found = {
        **tiers,
        "conversion": line_figure(
            "conversion",
            "AC Wh × (1 ÷ marginal efficiency − 1); the marginal efficiency is fitted so that with idle the rated point is met",
            ("AC loads", bank.ac_wh, "Wh"),
            ("marginal efficiency", marginal, ""),
        ),
        "converters": line_figure(
            "converters",
            "load by load: Wh × (1 ÷ its converter's efficiency − 1)",
            *((load.name, 100 * converter_efficiency(load), "%") for load in _behind_converters(design)),
        ),
        "wiring": line_figure(
            "wiring",
            "all lines above × part lost in wiring"
            if design.wiring.loss_frac is not None
            else "resistance of leads and branches × (W ÷ V)², hour by hour; on the whole this part of all lines above",
            ("lines above", sum(line.wh for line in above_wiring), "Wh"),
            ("wiring", _wiring_frac(bank), ""),
        ),
        "discharge": line_figure(
            "discharge",
            "all lines above × (1 ÷ discharge efficiency − 1)",
            ("lines above", at_bus_wh, "Wh"),
            ("discharge efficiency", rating.discharge_efficiency_frac, ""),
        ),
    }
    if "rate" in lines:
        found["rate"] = line_figure(
            "rate",
            "hour by hour: what is drawn × ((current ÷ rated current)^(k − 1) − 1) where the current passes the rated one",
            ("Peukert exponent k", rating.peukert_exponent, ""),
            ("rated current", rating.rated_current_a, "A"),
        )
    return {f"bank.ledger.{key}": figure for key, figure in found.items()}


def _behind_converters(design: Design) -> list[Load]:
    return [load for load in design.loads if load.supply is Supply.DC_CONVERTED][:MOST_ROWS_TOLD]
