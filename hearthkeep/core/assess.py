"""The one door: a design in, its assessment out. Pure; the same design always gives the same answer."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import evening_of, heater_w, life_of, sharing_of, ventilation_of
from hearthkeep.core.checks import Evidence, Finding, Missing, judged
from hearthkeep.core.design import Design
from hearthkeep.core.endurance import Levels, Simulated, simulate
from hearthkeep.core.figure import Figure
from hearthkeep.core.inverter import house_watts
from hearthkeep.core.loads import LoadSums, load_figures
from hearthkeep.core.outage import (
    OutageReport,
    PreparedOutage,
    outage_figures,
    usual_audit,
)
from hearthkeep.core.sizing import (
    BankDetail,
    BankSums,
    InverterSums,
    Usual,
    bank_figures,
    bank_sums,
    compare_chemistries,
    compare_voltages,
    inverter_figures,
    inverter_sums,
    need_sheet,
    usual_of,
)
from hearthkeep.core.sources import WeatherYear, distance_km
from hearthkeep.core.switching import Switching, switching_of
from hearthkeep.core.transfer import TransferReport, transfer_figures, transfer_report
from hearthkeep.core.whatif import (
    ChargingSums,
    OneFailed,
    Prices,
    charging_figures,
    charging_sums,
    one_failed,
    prices_of,
)
from hearthkeep.core.wiring import (
    WiringSums,
    inverter_volts,
    wiring_figures,
    wiring_plan,
    wiring_sums,
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Assessment:
    """Everything Hearth Keep has to say about a design."""

    outage: OutageReport
    loads: LoadSums
    bank: BankSums
    inverter: InverterSums
    charging: ChargingSums
    arrangement: BankDetail
    one_failed: OneFailed | None
    transfer: TransferReport
    wiring: WiringSums
    switching: Switching
    levels: Levels
    prices: Prices
    #: What the pages begin new parts with, and what empty fields stand for.
    usual: Usual
    findings: tuple[Finding, ...]
    #: What has still to be entered, the next thing first.
    missing: tuple[Missing, ...]
    #: How each figure comes about, by key.
    figures: dict[str, Figure]


def assess(design: Design, year: WeatherYear | None = None) -> Assessment:
    """Assess a design: sums, the outage simulated, prices in hours, findings.

    `year` is the weather year the site names; without it the made-up one stands in where a year is asked for.
    """
    return assessment_of(simulate(design, year))


def assessment_of(simulated: Simulated) -> Assessment:
    """Everything there is to say about a design whose outage has been simulated."""
    prepared = simulated.prepared
    evidence, prices = _evidence(simulated), prices_of(prepared, simulated.run)
    return Assessment(
        outage=evidence.outage,
        loads=evidence.loads,
        bank=evidence.bank,
        inverter=evidence.inverter,
        charging=evidence.charging,
        arrangement=evidence.arrangement,
        one_failed=evidence.one_failed,
        transfer=evidence.transfer,
        wiring=wiring_sums(evidence.wiring, evidence.volts),
        switching=switching_of(evidence.entered, evidence.wiring),
        levels=simulated.levels,
        prices=prices,
        usual=usual_of(prepared.design, prepared.rating),
        findings=judged(evidence),
        missing=simulated.missing,
        figures=_figures(prepared, evidence),
    )


def _evidence(simulated: Simulated) -> Evidence:
    """The outage's report, the sums of every step, and what the checks look at besides."""
    prepared = simulated.prepared
    design, entered, rating = prepared.design, prepared.entered, prepared.rating
    audit = usual_audit(design)
    usual_house = house_watts(audit.rows, design.inverter, prepared.limits)
    bank = bank_sums(design, rating, audit.sums, usual_house)
    plan = wiring_plan(entered, rating, year_low_c=prepared.scene.year_low_c)
    return Evidence(
        # Findings speak of what was entered; sums and outage are those of the completed design.
        design=design.model_copy(update={"inverter": entered.inverter, "outage": entered.outage}),
        all_inverters=design.inverter,
        rating=rating,
        loads=audit.sums,
        bank=bank,
        inverter=inverter_sums(design, audit.sums, audit.table, usual_house, bank),
        charging=charging_sums(prepared, simulated.run, simulated.panel_loads, mean_draw_w=bank.daily_drawn_wh / 24),
        outage=simulated.outage,
        arrangement=_bank_detail(prepared, audit.sums, bank),
        one_failed=one_failed(prepared),
        generator=prepared.generator,
        year=prepared.year,
        year_low_c=prepared.scene.year_low_c,
        transfer=transfer_report(entered, rating, carried_w=audit.table.ac_w.sum(axis=1)),
        wiring=plan,
        volts=inverter_volts(
            design,
            rating,
            plan,
            peak_w=audit.sums.peak_w,
            start_w=audit.sums.start_surge_w,
            direct_w=audit.sums.peak_dc_w,
        ),
        entered=entered,
        year_distance_km=distance_km(design.site, prepared.year) if prepared.year else 0.0,
    )


def _bank_detail(prepared: PreparedOutage, loads: LoadSums, bank: BankSums) -> BankDetail:
    """The bank looked at from all sides."""
    design, rating = prepared.design, prepared.rating
    mean_current_a = bank.daily_drawn_wh / 24 / rating.nominal_v
    heater_day_wh = 24 * heater_w(design.bank)
    need = need_sheet(design, rating, prepared.limits.cables)
    return BankDetail(
        sharing=sharing_of(design.bank),
        evening=evening_of(design.bank, current_a=mean_current_a, depth_frac=rating.depth_frac),
        ventilation=ventilation_of(design.bank),
        life=life_of(design.bank, rating, charger_w=design.charging.grid_charger.output_w),
        heater_w=heater_w(design.bank),
        heater_wh=heater_day_wh,
        heater_ah=heater_day_wh / rating.nominal_v,
        temp_c=rating.temp_c,
        need=need,
        chemistries=compare_chemistries(design, terminal_wh=need.terminal_wh),
        voltages=compare_voltages(design, peak_w=loads.peak_w, peak_dc_w=loads.peak_dc_w),
    )


def _figures(prepared: PreparedOutage, evidence: Evidence) -> dict[str, Figure]:
    """Every explained figure, by the key the screens ask for it with."""
    design, loads, inverter = evidence.design, evidence.loads, evidence.inverter
    return {
        **load_figures(design.loads, loads),
        **bank_figures(
            design,
            evidence.rating,
            loads,
            evidence.bank,
            marginal_efficiency_frac=inverter.marginal_efficiency_frac,
        ),
        **inverter_figures(evidence.all_inverters, loads, inverter),
        **charging_figures(prepared, evidence.outage, evidence.charging),
        **transfer_figures(evidence.transfer),
        **wiring_figures(evidence.wiring, evidence.volts),
        **outage_figures(evidence.outage, time_step_min=design.simulation.time_step_min),
    }
