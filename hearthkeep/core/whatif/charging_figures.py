"""How the figures of charging come about."""

from __future__ import annotations

from hearthkeep.core.design import ControllerKind
from hearthkeep.core.figure import COMMON_PRACTICE, PHYSICS, Figure, Term, terms_of_rows
from hearthkeep.core.outage import STEP_BY_STEP, OutageReport, PreparedOutage
from hearthkeep.core.sources import STEADY
from hearthkeep.core.whatif.charging import ChargingSums, live_arrays
from hearthkeep.core.whatif.generator_figures import generator_figures


def charging_figures(prepared: PreparedOutage, outage: OutageReport, sums: ChargingSums) -> dict[str, Figure]:
    """Sun, generator, grid and the other sources of this outage."""
    return {
        **_sun_figures(prepared, sums),
        **_use_figures(outage, sums),
        **generator_figures(prepared, outage, sums),
        **_grid_figures(prepared, outage, sums),
        **_steady_figures(prepared, outage, sums),
        **_value_figures(prepared, outage, sums),
    }


def _sun_figures(prepared: PreparedOutage, sums: ChargingSums) -> dict[str, Figure]:
    """Panels, and the sun they offer."""
    controllers = prepared.design.charging.controllers
    arrays = [(array.name, array.stc_w) for array in live_arrays(prepared.design)]
    return {
        "charging.stc_w": Figure(
            label="Panels",
            value=sums.stc_w,
            unit="W",
            formula="sum of all arrays under standard test conditions, those that feed loads straight and a coupled one included",
            terms=terms_of_rows(arrays, "W"),
            basis="Data sheets: 1,000 W/m², cells at 25 °C",
        ),
        "charging.offered_wh": Figure(
            label="Sun offered in this outage",
            value=sums.offered_wh,
            unit="Wh",
            formula="sum over steps of each array's STC W × sun on its plane ÷ 1,000 × heat × (1 - losses) × controller efficiency; "
            "a coupled array at its own terminals",
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
                Term(name="bank volts while it is charged", value=prepared.rating.charging_v, unit="V"),
                *(
                    Term(name=entry.name, value=entry.output_a, unit="A")
                    for entry in controllers
                    if entry.kind is not ControllerKind.PANEL_FED
                ),
            ),
            basis=PHYSICS,
        ),
    }


def _use_figures(outage: OutageReport, sums: ChargingSums) -> dict[str, Figure]:
    """What became of the sun."""
    curve, ledger = sums.curve, outage.ledger_wh
    return {
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
            basis=f"{STEP_BY_STEP}: a full bank, its charge limit, or one source at a time",
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


def _grid_figures(prepared: PreparedOutage, outage: OutageReport, sums: ChargingSums) -> dict[str, Figure]:
    fill, rating, charger = sums.fill, prepared.rating, prepared.design.charging.grid_charger
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
    if outage.hours_back_to_full_h is not None:
        found["charging.back_to_full_h"] = Figure(
            label="Back to full after the outage",
            value=outage.hours_back_to_full_h,
            unit="h",
            formula="charger and sun together within the charge limit, hour by hour, until the bank is full; the grid "
            "carries the house",
            terms=(
                Term(name="charge as the outage ends", value=100 * outage.end_soc_frac, unit="%"),
                *most,
                capacity,
                efficiency,
            ),
            basis=f"{STEP_BY_STEP}, followed for three days",
        )
    return found


def _steady_figures(prepared: PreparedOutage, outage: OutageReport, sums: ChargingSums) -> dict[str, Figure]:
    """The steady sources together and each that is there."""
    given = {entry.key: entry.given_wh for entry in sums.steady}
    together = Figure(
        label="Other sources in this outage",
        value=outage.ledger_wh.other,
        unit="Wh",
        formula=f"{' + '.join(kind.name for kind in STEADY)}, at the direct-current bus",
        terms=tuple(Term(name=kind.name, value=given[kind.key], unit="Wh") for kind in STEADY),
        basis=PHYSICS,
    )
    each = {
        f"charging.source.{kind.key}": kind.figure(
            prepared.design, prepared.rating, given_wh=given[kind.key], duration_h=outage.duration_h
        )
        for kind in STEADY
        if kind.is_in(prepared.design.charging)
    }
    return {"charging.other_wh": together, **each}


def _value_figures(prepared: PreparedOutage, outage: OutageReport, sums: ChargingSums) -> dict[str, Figure]:
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
                Term(name="dark days", value=sums.dark_days, unit=""),
            ),
            basis=COMMON_PRACTICE,
        )
        for value in sums.values
        if value.price is not None and value.price_per_dark_kwh is not None
    }
