"""How each figure on the screens comes about: the formula with its inputs and its basis."""

from __future__ import annotations

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.charging import fuel_line, mean_turbine_w
from hearthkeep.core.checks import Evidence
from hearthkeep.core.design import Supply, Tier
from hearthkeep.core.figure import PHYSICS, Figure, Term

#: Rows named one by one in a total's working.
MOST_ROWS_TOLD = 10


def figures_of(evidence: Evidence) -> dict[str, Figure]:
    """Every explained figure, by the key the screens ask for it with."""
    return {
        **_load_figures(evidence),
        **_bank_figures(evidence),
        **_inverter_figures(evidence),
        **_charging_figures(evidence),
        **_outage_figures(evidence),
    }


def _load_figures(evidence: Evidence) -> dict[str, Figure]:
    loads = evidence.loads
    tiers = tuple(Term(name=tier.value.title(), value=loads.daily_by_tier_wh[tier.value], unit="Wh") for tier in Tier)
    return {
        **_tier_figures(evidence),
        "loads.daily_wh": Figure(
            label="Energy of the loads a day",
            value=loads.daily_wh,
            unit="Wh",
            formula="sum over loads of quantity × (running W × duty × hours + standby W × other hours)",
            terms=tiers,
            basis=PHYSICS,
        ),
        "loads.peak_w": Figure(
            label="Coincident peak",
            value=loads.peak_w,
            unit="W",
            formula="largest sum over an hour of quantity × running W of all AC loads that may run in it, duty ignored",
            terms=(Term(name="hour of the day", value=loads.peak_hour, unit=":00"),),
            basis="Motors coincide sooner or later; common practice",
        ),
        "loads.start_surge_w": Figure(
            label="Worst start",
            value=loads.start_surge_w,
            unit="W",
            formula="largest of start W of one unit + running W of everything else that may run in the hour",
            terms=(
                Term(name="hour of the day", value=loads.start_surge_hour, unit=":00"),
                Term(name="running at that hour at most", value=loads.peak_w, unit="W"),
            ),
            basis="Start figures from charts may be two to four times too low; measured inrush is better",
        ),
    }


def _tier_figures(evidence: Evidence) -> dict[str, Figure]:
    """The rows that make up each tier, the largest by name."""
    names = {load.id: load.name for load in evidence.design.loads if load.supply is not Supply.PANEL}
    figures = {}
    for tier in Tier:
        rows = sorted(
            (row for row in evidence.loads.rows if row.id in names and row.lived_tier == tier.value),
            key=lambda row: -row.daily_wh,
        )
        rest = rows[MOST_ROWS_TOLD:]
        terms = [Term(name=names[row.id], value=row.daily_wh, unit="Wh") for row in rows[:MOST_ROWS_TOLD]]
        if rest:
            terms.append(Term(name=f"{len(rest)} more", value=sum(row.daily_wh for row in rest), unit="Wh"))
        figures[f"loads.tier.{tier.value}"] = Figure(
            label=f"{tier.value.title()} a day",
            value=evidence.loads.daily_by_tier_wh[tier.value],
            unit="Wh",
            formula="sum of its loads; a linked load counts in the tier it lives in",
            terms=tuple(terms),
            basis=PHYSICS,
        )
    return figures


def _bank_figures(evidence: Evidence) -> dict[str, Figure]:
    design, rating, bank = evidence.design, evidence.rating, evidence.bank
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
                Term(name=f"temperature factor at {unit.temp_c:g} °C", value=rating.temperature_frac, unit=""),
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
            "÷ discharge efficiency; Spare left out",
            terms=(
                *(Term(name=line.label, value=line.wh, unit="Wh") for line in bank.daily_ledger[:-1]),
                Term(name="marginal efficiency", value=evidence.inverter.marginal_efficiency_frac, unit=""),
                Term(name="wiring", value=design.wiring.loss_frac, unit=""),
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
    return figures


def _inverter_figures(evidence: Evidence) -> dict[str, Figure]:
    inverter, loads = evidence.whole_inverter, evidence.loads
    marginal = Term(name="marginal efficiency", value=evidence.inverter.marginal_efficiency_frac, unit="")
    cutoff = Term(name="low cut-off", value=inverter.low_cutoff_v, unit="V")
    idle = Term(name="idle", value=inverter.idle_w, unit="W")
    formula = "(idle W + output W ÷ marginal efficiency) ÷ low cut-off V"
    return {
        "inverter.peak_current_a": Figure(
            label="Direct current at the peak",
            value=evidence.inverter.peak_current_a,
            unit="A",
            formula=formula,
            terms=(Term(name="output", value=loads.peak_w, unit="W"), idle, marginal, cutoff),
            basis="At the lowest battery voltage under load, not the nominal one",
        ),
        "inverter.surge_current_a": Figure(
            label="Direct current at the worst start",
            value=evidence.inverter.surge_current_a,
            unit="A",
            formula=formula,
            terms=(Term(name="output", value=loads.start_surge_w, unit="W"), idle, marginal, cutoff),
            basis="At the lowest battery voltage under load, for seconds",
        ),
        "inverter.idle_daily_wh": Figure(
            label="Idle draw a day",
            value=evidence.inverter.idle_daily_wh,
            unit="Wh",
            formula="idle W × 24 h, while any tier on the bank owns an AC load",
            terms=(idle,),
            basis=PHYSICS,
        ),
    }


def _charging_figures(evidence: Evidence) -> dict[str, Figure]:
    sums, charging = evidence.charging, evidence.design.charging
    curve, ledger = sums.curve, evidence.outage.ledger_wh
    found = {
        "charging.offered_wh": Figure(
            label="Sun offered in this outage",
            value=sums.offered_wh,
            unit="Wh",
            formula="sum over steps of each array's STC W × sun on its plane ÷ 1,000 × heat × (1 - losses) × controller efficiency",
            terms=(
                Term(name="panels", value=sums.stc_w, unit="W"),
                *(
                    Term(name=f"day {day + 1}, {sky.value}", value=sums.daily_wh[day], unit="Wh")
                    for day, sky in enumerate(sums.skies)
                ),
            ),
            basis="Clear sky by Ineichen, plane by Perez, sun by NREL's algorithm; the skies' parts are common practice",
        ),
        "charging.clipped_wh": Figure(
            label="Beyond the controllers",
            value=sums.clipped_wh,
            unit="Wh",
            formula="offered above output A × nominal bank volts, controller by controller and step by step",
            terms=(
                Term(name="nominal bank volts", value=evidence.rating.nominal_v, unit="V"),
                *(Term(name=entry.name, value=entry.output_a, unit="A") for entry in charging.controllers),
            ),
            basis=PHYSICS,
        ),
        "charging.spilled": Figure(
            label="Spilled",
            value=ledger.spilled,
            unit="Wh",
            formula="offered by sun and other sources - what loads, bank and losses took of it",
            terms=(
                Term(name="sun", value=ledger.sun, unit="Wh"),
                Term(name="other sources", value=ledger.other, unit="Wh"),
                Term(name="of it beyond the controllers", value=sums.clipped_wh, unit="Wh"),
                Term(name="part spilled", value=100 * sums.spilled_frac, unit="%"),
            ),
            basis="The outage model, step by step: a full bank, its charge limit, or one source at a time",
        ),
        "charging.carries_h": Figure(
            label="A clear day's sun carries the house for",
            value=curve.carries_h,
            unit="h",
            formula="hours in which all arrays together give at least the house's average draw",
            terms=(
                Term(name="average draw", value=curve.mean_draw_w, unit="W"),
                Term(name="the day's energy", value=curve.together_wh, unit="Wh"),
                Term(name="all panels one way instead", value=curve.one_way_carries_h, unit="h"),
            ),
            basis="Clear sky on the date the outage begins, in quarter hours",
        ),
        "charging.fill": _fill_figure(evidence),
    }
    generator = charging.generator
    if generator is not None:
        idle, slope = fuel_line(generator)
        found["charging.fuel_l"] = Figure(
            label="Fuel burnt",
            value=evidence.outage.fuel_l,
            unit="L",
            formula="no-load L/h × hours run + L/kWh × energy given",
            terms=(
                Term(name="no load", value=idle, unit="L/h"),
                Term(name="hours run", value=evidence.outage.generator_h, unit="h"),
                Term(name="slope", value=slope, unit="L/kWh"),
                Term(name="energy given", value=ledger.generator / 1000, unit="kWh"),
            ),
            basis="Linear fuel law; lines without a data sheet are typical, ±25 %",
        )
    if charging.wind is not None:
        mean_w = mean_turbine_w(charging.wind, charging.wind.mean_m_s)
        found["charging.wind_wh"] = Figure(
            label="Wind in this outage",
            value=sums.wind_wh,
            unit="Wh",
            formula="mean power over Rayleigh winds of each day's mean × hours",
            terms=(
                Term(name="mean wind", value=charging.wind.mean_m_s, unit="m/s"),
                Term(name="mean power in it", value=mean_w, unit="W"),
                Term(name="rated", value=charging.wind.rated_w, unit="W"),
                Term(name="outage", value=evidence.outage.duration_h, unit="h"),
            ),
            basis="Rayleigh distribution as in IEC 61400-12-1, from memory; cubic curve, common practice",
        )
    return found


def _fill_figure(evidence: Evidence) -> Figure:
    fill, rating, charger = evidence.charging.fill, evidence.rating, evidence.design.charging.grid_charger
    return Figure(
        label="Charge as the outage begins",
        value=100 * fill.reached_frac,
        unit="%",
        formula="kept at + warning × the lesser of charger and charge limit × charge efficiency ÷ capacity, at most 100 %; "
        "lead-acid less and less above 80 %",
        terms=(
            Term(name="kept at", value=100 * fill.from_frac, unit="%"),
            Term(name="warning", value=fill.warning_h, unit="h"),
            Term(name="charger", value=charger.output_w, unit="W"),
            Term(name="charge limit", value=rating.charge_limit_w, unit="W"),
            Term(name="charge efficiency", value=rating.charge_efficiency_frac, unit=""),
            Term(name="capacity", value=rating.capacity_wh, unit="Wh"),
        ),
        basis="The outage model's own law of acceptance; the sun of these hours left out",
    )


def _outage_figures(evidence: Evidence) -> dict[str, Figure]:
    outage, ledger = evidence.outage, evidence.outage.ledger_wh
    return {
        "outage.hours_carried_h": Figure(
            label="Hours carried",
            value=outage.hours_carried_h,
            unit="h",
            formula="time from the start until Life or Keep first asks for power and is not served, or the outage's end",
            terms=(
                Term(name="outage", value=outage.duration_h, unit="h"),
                Term(name="lowest charge", value=100 * outage.min_soc_frac, unit="%"),
                Term(name="reached at hour", value=outage.min_soc_time_h, unit="h"),
            ),
            basis=f"The outage model in steps of {evidence.design.rules.time_step_min} min, levels solved inside each step",
        ),
        "outage.ledger": Figure(
            label="Energy books of the outage",
            value=ledger.sun + ledger.generator + ledger.other + ledger.bank_drawn,
            unit="Wh",
            formula="sun + generator + other sources + drawn from bank = served + inverter loss + charge loss + wiring loss + spilled",
            terms=(
                Term(name="sun", value=ledger.sun, unit="Wh"),
                Term(name="generator", value=ledger.generator, unit="Wh"),
                Term(name="other sources", value=ledger.other, unit="Wh"),
                Term(name="drawn from bank", value=ledger.bank_drawn, unit="Wh"),
                Term(name="served", value=ledger.served, unit="Wh"),
                Term(name="inverter loss", value=ledger.inverter_loss, unit="Wh"),
                Term(name="charge and discharge loss", value=ledger.charge_loss, unit="Wh"),
                Term(name="wiring loss", value=ledger.wiring_loss, unit="Wh"),
                Term(name="spilled", value=ledger.spilled, unit="Wh"),
            ),
            basis="Conservation of energy; the books close within 0.01 %",
        ),
    }
