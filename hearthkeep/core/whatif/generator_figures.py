"""How the figures of the generator come about."""

from __future__ import annotations

from hearthkeep.core.design import Design, Generator
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.outage import STEP_BY_STEP, OutageReport, PreparedOutage
from hearthkeep.core.practice import degrees, height_text, volume
from hearthkeep.core.sources import LEAST_LEFT_FRAC, GeneratorRating, fuel_line
from hearthkeep.core.whatif.charging import ChargingSums


def generator_figures(prepared: PreparedOutage, outage: OutageReport, sums: ChargingSums) -> dict[str, Figure]:
    """Rating, fuel, energy and hours; nothing without a generator."""
    generator, rating = prepared.design.charging.generator, prepared.generator
    if generator is None or rating is None:
        return {}
    return {
        **_rating_figure(prepared.design, generator, rating),
        **_fuel_figures(prepared.design, generator, outage, sums),
        **_running_figures(generator, rating, outage),
    }


def _rating_figure(design: Design, generator: Generator, rating: GeneratorRating) -> dict[str, Figure]:
    height, warmest = (
        height_text(design, design.site.elevation_m),
        degrees(design, rating.warmest_c),
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
    }


def _fuel_figures(design: Design, generator: Generator, outage: OutageReport, sums: ChargingSums) -> dict[str, Figure]:
    fuel, unit = volume(design, outage.fuel_l)
    idle, slope = (volume(design, part)[0] for part in fuel_line(generator))
    return {
        "charging.fuel": Figure(
            label="Fuel burnt",
            value=fuel,
            unit=unit,
            formula="fuel an hour at no load × hours run + fuel a kWh × energy given",
            terms=(
                Term(name="no load", value=idle, unit=f"{unit}/h"),
                _hours_run(outage),
                Term(name="slope", value=slope, unit=f"{unit}/kWh"),
                Term(name="energy given", value=outage.ledger_wh.generator / 1000, unit="kWh"),
            ),
            basis="Linear fuel law; lines without a data sheet are typical, ±25 %",
        ),
        "charging.fuel_asked": Figure(
            label="Fuel asked for",
            value=volume(design, sums.fuel_asked_l)[0],
            unit=unit,
            formula="fuel burnt if the stock never ended",
            terms=(
                Term(name="on hand", value=volume(design, generator.stock_l)[0], unit=unit),
                Term(name="burnt", value=fuel, unit=unit),
            ),
            basis=f"{STEP_BY_STEP}, simulated again with unlimited fuel where the stock was burnt",
        ),
    }


def _running_figures(generator: Generator, rating: GeneratorRating, outage: OutageReport) -> dict[str, Figure]:
    return {
        "charging.generator_wh": Figure(
            label="Given by the generator",
            value=outage.ledger_wh.generator,
            unit="Wh",
            formula="at its terminals: what its charger gives ÷ charger efficiency; the house stays on the inverter"
            if generator.charges_only
            else "at its terminals: what the house takes through the relay + what its charger gives ÷ charger efficiency",
            terms=(
                _hours_run(outage),
                Term(name="rating left by height and heat", value=rating.rated_w, unit="W"),
                Term(name="its charger", value=generator.charger_w, unit="W"),
                Term(name="charger efficiency", value=generator.charger_efficiency_frac, unit=""),
            ),
            basis=f"{STEP_BY_STEP}; sun charges first, the charger gives what is left of the bank's limit",
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
            basis=STEP_BY_STEP,
        ),
    }


def _hours_run(outage: OutageReport) -> Term:
    return Term(name="hours run", value=outage.generator_h, unit="h")
