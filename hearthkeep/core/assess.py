"""The one door: a design in, its assessment out. Pure; the same design always gives the same answer."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import evening_of, heater_w, life_of, rate, sharing_of, ventilation_of
from hearthkeep.core.charging import WeatherYear, distance_km, rate_generator
from hearthkeep.core.checks import REGISTRY, Evidence, Finding
from hearthkeep.core.design import Design
from hearthkeep.core.failures import OneFailed, one_failed
from hearthkeep.core.figure import Figure
from hearthkeep.core.figures import figures_of
from hearthkeep.core.loads import LoadSums, rows_from, sums_from, table_from
from hearthkeep.core.outage import (
    OutageReport,
    drop_levels_frac,
    hours_back_to_full,
    house_of,
    plant_of,
    report_from,
    rows_for,
    run_direct,
    run_scene,
    scene_of,
    usual_day,
    whole,
)
from hearthkeep.core.prices import Prices, prices_of
from hearthkeep.core.sizing import (
    BankDetail,
    BankSums,
    ChargingSums,
    InverterSums,
    Lived,
    bank_sums,
    charging_sums,
    compare_chemistries,
    compare_voltages,
    inverter_sums,
    need_sheet,
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Levels:
    """States of charge at which tiers are dropped."""

    life_frac: float
    keep_frac: float
    ease_frac: float


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
    levels: Levels
    prices: Prices
    findings: tuple[Finding, ...]
    #: How each figure comes about, by key.
    figures: dict[str, Figure]


def assess(design: Design, year: WeatherYear | None = None) -> Assessment:
    """Assess a design: sums, the outage lived through, prices in hours, findings.

    `year` is the weather year the site names; without it the made-up one stands in where a year is asked for.
    """
    entered, design = design, whole(design, year)
    rating = rate(design.bank)
    scene = scene_of(design, rating, year)
    rows = rows_for(design, scene)
    house, plant = house_of(design, rating, rows), plant_of(design, rating)
    run = run_scene(scene, house, plant)
    usual = usual_day(design)
    usual_rows = rows_from(design.loads, (usual,))
    table = table_from(usual_rows)
    loads = sums_from(design.loads, usual_rows, table, usual)
    direct = run_direct(design, scene)
    outage = report_from(
        run,
        scene,
        house,
        direct=direct,
        capacity_wh=rating.capacity_wh,
        start=design.outage.start.isoformat(),
        hours_back_to_full=hours_back_to_full(design, rating, scene, plant, stored_wh=float(run.stored_wh[-1])),
    )
    usual_house = house_of(design, rating, usual_rows)
    bank = bank_sums(design, rating, loads, usual_house)
    inverter = inverter_sums(design, loads, table, usual_house, bank)
    charging = charging_sums(
        design, rating, scene, Lived(house=house, plant=plant, run=run), direct, mean_draw_w=bank.daily_drawn_wh / 24
    )
    need = need_sheet(design, rating)
    arrangement = BankDetail(
        sharing=sharing_of(design.bank),
        evening=evening_of(
            design.bank, current_a=bank.daily_drawn_wh / 24 / rating.nominal_v, depth_frac=rating.depth_frac
        ),
        ventilation=ventilation_of(design.bank),
        life=life_of(design.bank, rating, charger_w=design.charging.grid_charger.output_w),
        heater_w=heater_w(design.bank),
        heater_wh=24 * heater_w(design.bank),
        heater_ah=24 * heater_w(design.bank) / rating.nominal_v,
        temp_c=rating.temp_c,
        need=need,
        chemistries=compare_chemistries(design, terminal_wh=need.terminal_wh),
        voltages=compare_voltages(design, peak_w=loads.peak_w, peak_dc_w=loads.peak_dc_w),
    )
    evidence = Evidence(
        # Findings speak of what was entered; sums and outage are those of the whole.
        design=design.model_copy(update={"inverter": entered.inverter, "outage": entered.outage}),
        whole_inverter=design.inverter,
        rating=rating,
        loads=loads,
        bank=bank,
        inverter=inverter,
        charging=charging,
        outage=outage,
        arrangement=arrangement,
        one_failed=one_failed(entered, scene, rows, year),
        generator=rate_generator(design),
        year=year,
        year_distance_km=distance_km(design.site, year) if year else 0.0,
    )
    life, keep, ease = drop_levels_frac(design, rating)
    return Assessment(
        outage=outage,
        loads=loads,
        bank=bank,
        inverter=inverter,
        charging=charging,
        arrangement=arrangement,
        one_failed=evidence.one_failed,
        levels=Levels(life_frac=life, keep_frac=keep, ease_frac=ease),
        prices=prices_of(design, scene, rows, run),
        findings=tuple(finding for check in REGISTRY for finding in check(evidence)),
        figures=figures_of(evidence),
    )
