"""How the figures of charging come about."""

from __future__ import annotations

from hearthkeep.core.charging import LEAST_LEFT_FRAC, fuel_line, mean_turbine_w
from hearthkeep.core.checks import Evidence
from hearthkeep.core.design import ControllerKind
from hearthkeep.core.figure import COMMON_PRACTICE, PHYSICS, Figure, Term, terms_of_rows
from hearthkeep.core.practice import degrees, height_text, volume, wind_speed

#: What the outage model's own figures rest on.
_STEP_BY_STEP = "The outage model, step by step"


def charging_figures(evidence: Evidence) -> dict[str, Figure]:
    """Sun, generator, grid and the other sources of this outage."""
    return {
        **_sun_figures(evidence),
        **_generator_figures(evidence),
        **_grid_figures(evidence),
        **_other_figures(evidence),
        **_value_figures(evidence),
    }


def _sun_figures(evidence: Evidence) -> dict[str, Figure]:
    sums, controllers = evidence.charging, evidence.design.charging.controllers
    curve, ledger = sums.curve, evidence.outage.ledger_wh
    arrays = [(array.name, array.stc_w) for controller in controllers for array in controller.arrays]
    return {
        "charging.stc_w": Figure(
            label="Panels",
            value=sums.stc_w,
            unit="W",
            formula="sum of all arrays under standard test conditions, those that feed loads straight included",
            terms=terms_of_rows(arrays, "W"),
            basis="Data sheets: 1,000 W/m², cells at 25 °C",
        ),
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
            formula="offered above output A × bank volts while it is charged, controller by controller and step by step",
            terms=(
                Term(name="bank volts while it is charged", value=evidence.rating.charging_v, unit="V"),
                *(
                    Term(name=entry.name, value=entry.output_a, unit="A")
                    for entry in controllers
                    if entry.kind is not ControllerKind.DIRECT
                ),
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
            basis=f"{_STEP_BY_STEP}: a full bank, its charge limit, or one source at a time",
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
    }


def _generator_figures(evidence: Evidence) -> dict[str, Figure]:
    generator, rating, outage = evidence.design.charging.generator, evidence.generator, evidence.outage
    if generator is None or rating is None:
        return {}
    fuel, unit = volume(evidence.design, outage.fuel_l)
    idle, slope = (volume(evidence.design, part)[0] for part in fuel_line(generator))
    running = Term(name="hours run", value=outage.generator_h, unit="h")
    energy = Term(name="energy given", value=outage.ledger_wh.generator / 1000, unit="kWh")
    height, warmest = (
        height_text(evidence.design, evidence.design.site.elevation_m),
        degrees(evidence.design, rating.warmest_c),
    )
    return {
        "charging.generator_rating": Figure(
            label=f"Left of the generator at {height} and {warmest}",
            value=rating.rated_w,
            unit="W",
            formula=f"rated × (1 − taken by height − taken by heat), never below {100 * LEAST_LEFT_FRAC:g} % of it",
            terms=(
                Term(name="rated", value=generator.rated_w, unit="W"),
                Term(name="taken by height", value=rating.height_frac, unit=""),
                Term(name="taken by heat", value=rating.heat_frac, unit=""),
            ),
            basis="3.5 % for each 300 m (1,000 ft) above 300 m, 1 % for each 5.5 °C (10 °F) above 25 °C (77 °F), on the "
            "outage's warmest day; common practice, no source",
        ),
        "charging.fuel": Figure(
            label="Fuel burnt",
            value=fuel,
            unit=unit,
            formula="fuel an hour at no load × hours run + fuel a kWh × energy given",
            terms=(
                Term(name="no load", value=idle, unit=f"{unit}/h"),
                running,
                Term(name="slope", value=slope, unit=f"{unit}/kWh"),
                energy,
            ),
            basis="Linear fuel law; lines without a data sheet are typical, ±25 %",
        ),
        "charging.fuel_asked": Figure(
            label="Fuel asked for",
            value=volume(evidence.design, evidence.charging.fuel_asked_l)[0],
            unit=unit,
            formula="fuel burnt if the stock never ended",
            terms=(
                Term(name="on hand", value=volume(evidence.design, generator.stock_l)[0], unit=unit),
                Term(name="burnt", value=fuel, unit=unit),
            ),
            basis=f"{_STEP_BY_STEP}, lived again with fuel without end where the stock was burnt",
        ),
        "charging.generator_wh": Figure(
            label="Given by the generator",
            value=outage.ledger_wh.generator,
            unit="Wh",
            formula="at its terminals: what its charger gives ÷ charger efficiency; the house stays on the inverter"
            if generator.charges_only
            else "at its terminals: what the house takes through the relay + what its charger gives ÷ charger efficiency",
            terms=(
                running,
                Term(name="rating left by height and heat", value=rating.rated_w, unit="W"),
                Term(name="its charger", value=generator.charger_w, unit="W"),
                Term(name="charger efficiency", value=generator.charger_efficiency_frac, unit=""),
            ),
            basis=f"{_STEP_BY_STEP}; sun charges first, the charger gives what is left of the bank's limit",
        ),
        "charging.generator_h": Figure(
            label="Hours the generator ran",
            value=outage.generator_h,
            unit="h",
            formula="from each start at or below the one charge to the other, after the minimum run; quiet hours and an "
            "empty tank end a run early",
            terms=(
                Term(name="starts", value=outage.generator_starts, unit=""),
                Term(name="starts at charge", value=100 * generator.start_soc_frac, unit="%"),
                Term(name="stops at charge", value=100 * generator.stop_soc_frac, unit="%"),
                Term(name="runs at least", value=generator.min_run_h, unit="h"),
            ),
            basis=_STEP_BY_STEP,
        ),
    }


def _grid_figures(evidence: Evidence) -> dict[str, Figure]:
    fill, rating, charger = evidence.charging.fill, evidence.rating, evidence.design.charging.grid_charger
    most = (
        Term(name="charger", value=charger.output_w, unit="W"),
        Term(name="charge limit", value=rating.charge_limit_w, unit="W"),
    )
    efficiency = Term(name="charge efficiency", value=rating.charge_efficiency_frac, unit="")
    capacity = Term(name="capacity", value=rating.capacity_wh, unit="Wh")
    kept_at = Term(name="kept at", value=100 * fill.from_frac, unit="%")
    acceptance = "The outage model's own law of acceptance"
    found = {
        "charging.fill": Figure(
            label="Charge as the outage begins",
            value=100 * fill.reached_frac,
            unit="%",
            formula="kept at + warning × the lesser of charger and charge limit × charge efficiency ÷ capacity, at most 100 %; "
            "lead-acid less and less above 80 %",
            terms=(kept_at, Term(name="warning", value=fill.warning_h, unit="h"), *most, efficiency, capacity),
            basis=f"{acceptance}; the sun of these hours left out",
        ),
        "charging.grid_wh": Figure(
            label="Taken from the grid before the outage",
            value=fill.grid_wh,
            unit="Wh",
            formula="(charge as the outage begins - kept at) × capacity ÷ charge efficiency ÷ charger efficiency",
            terms=(
                Term(name="charge as the outage begins", value=100 * fill.reached_frac, unit="%"),
                kept_at,
                capacity,
                efficiency,
                Term(name="charger efficiency", value=charger.efficiency_frac, unit=""),
            ),
            basis=PHYSICS,
        ),
    }
    if fill.needed_h is not None:
        found["charging.needed_h"] = Figure(
            label="From there to full",
            value=fill.needed_h,
            unit="h",
            formula="(100 % - kept at) × capacity ÷ charge efficiency ÷ the lesser of charger and charge limit; "
            "lead-acid longer, above 80 % the limit falls",
            terms=(kept_at, capacity, efficiency, *most),
            basis=acceptance,
        )
    if evidence.outage.hours_back_to_full_h is not None:
        found["charging.back_to_full_h"] = Figure(
            label="Back to full after the outage",
            value=evidence.outage.hours_back_to_full_h,
            unit="h",
            formula="charger and sun together within the charge limit, hour by hour, until the bank is full; the grid "
            "carries the house",
            terms=(
                Term(name="charge as the outage ends", value=100 * evidence.outage.end_soc_frac, unit="%"),
                *most,
                capacity,
                efficiency,
            ),
            basis=f"{_STEP_BY_STEP}, followed for three days",
        )
    return found


def _other_figures(evidence: Evidence) -> dict[str, Figure]:
    sums, charging = evidence.charging, evidence.design.charging
    alternator, wind, bench = charging.alternator, charging.wind, charging.bench_charger
    found = {
        "charging.other_wh": Figure(
            label="Other sources in this outage",
            value=evidence.outage.ledger_wh.other,
            unit="Wh",
            formula="alternator + wind + bench charger, at the direct-current bus",
            terms=(
                Term(name="alternator", value=sums.alternator_wh, unit="Wh"),
                Term(name="wind", value=sums.wind_wh, unit="Wh"),
                Term(name="bench charger", value=sums.bench_wh, unit="Wh"),
            ),
            basis=PHYSICS,
        )
    }
    if alternator is not None:
        power_w = alternator.current_a * evidence.rating.charging_v
        found["charging.alternator_wh"] = Figure(
            label="Given by the alternator",
            value=sums.alternator_wh,
            unit="Wh",
            formula="current × bank volts while it is charged × hours driven, while somebody is at home",
            terms=(
                Term(name="current", value=alternator.current_a, unit="A"),
                Term(name="bank volts while it is charged", value=evidence.rating.charging_v, unit="V"),
                Term(name="hours driven in this outage", value=sums.alternator_wh / power_w, unit="h"),
            ),
            basis=PHYSICS,
        )
    if bench is not None:
        found["charging.bench_wh"] = Figure(
            label="Given by the bench charger",
            value=sums.bench_wh,
            unit="Wh",
            formula="output × hours plugged in, while somebody is at home",
            terms=(
                Term(name="output", value=bench.output_w, unit="W"),
                Term(name="hours plugged in in this outage", value=sums.bench_wh / bench.output_w, unit="h"),
            ),
            basis=PHYSICS,
        )
    if wind is not None:
        speed, unit = wind_speed(evidence.design, wind.mean_m_s)
        found["charging.wind_wh"] = Figure(
            label="Wind in this outage",
            value=sums.wind_wh,
            unit="Wh",
            formula="mean power over Rayleigh winds of each day's mean × hours",
            terms=(
                Term(name="mean wind", value=speed, unit=unit),
                Term(name="mean power in it", value=mean_turbine_w(wind, wind.mean_m_s), unit="W"),
                Term(name="rated", value=wind.rated_w, unit="W"),
                Term(name="outage", value=evidence.outage.duration_h, unit="h"),
            ),
            basis="Rayleigh distribution as in IEC 61400-12-1, from memory; cubic curve, common practice",
        )
    return found


def _value_figures(evidence: Evidence) -> dict[str, Figure]:
    """What a dark-day kilowatt-hour costs from each source whose price is known."""
    return {
        f"charging.value.{value.key}": Figure(
            label=f"{value.label}: a kilowatt-hour on the dark days",
            value=value.price_per_dark_kwh,
            unit="a kWh",
            formula="price ÷ what it brings into the bank over the outage's dark days; a battery brings what it holds once",
            terms=(
                Term(name="price", value=value.price, unit=""),
                Term(name="brings", value=value.dark_wh / 1000, unit="kWh"),
                Term(name="dark days", value=evidence.charging.dark_days, unit=""),
            ),
            basis=COMMON_PRACTICE,
        )
        for value in evidence.charging.values
        if value.price is not None and value.price_per_dark_kwh is not None
    }
