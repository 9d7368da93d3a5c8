"""How the audit's figures come about."""

from __future__ import annotations

from hearthkeep.core.design import Load, Supply, Tier
from hearthkeep.core.figure import PHYSICS, Figure, Term, terms_of_rows
from hearthkeep.core.loads.audit import LoadSums
from hearthkeep.core.loads.measure import quality_of


def load_figures(rows: tuple[Load, ...], loads: LoadSums) -> dict[str, Figure]:
    """Energy a day, peak and worst start of the audit."""
    tiers = tuple(Term(name=tier.value.title(), value=loads.daily_by_tier_wh[tier.value], unit="Wh") for tier in Tier)
    return {
        **_tier_figures(rows, loads),
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
            formula="largest of start W of one unit + running W of everything else that may run in the hour; after a change-over by "
            "itself all that do not ride through it start together",
            terms=(
                Term(name="hour of the day", value=loads.start_surge_hour, unit=":00"),
                Term(name="running at that hour at most", value=loads.peak_w, unit="W"),
            ),
            basis="Start figures from charts may be two to four times too low; measured inrush is better",
        ),
    }


def _tier_figures(loads: tuple[Load, ...], sums: LoadSums) -> dict[str, Figure]:
    """The rows that make up each tier, the largest by name."""
    names = {load.id: load.name for load in loads if load.supply is not Supply.PANEL}
    figures = {}
    for tier in Tier:
        rows = sorted(
            (row for row in sums.rows if row.id in names and row.lived_tier == tier.value),
            key=lambda row: -row.daily_wh,
        )
        figures[f"loads.tier.{tier.value}"] = Figure(
            label=f"{tier.value.title()} a day",
            value=sums.daily_by_tier_wh[tier.value],
            unit="Wh",
            formula="sum of its loads; a linked load counts in the tier it lives in",
            terms=terms_of_rows([(names[row.id], row.daily_wh) for row in rows], "Wh"),
            basis=PHYSICS,
        )
    return figures


def load_energy_figure(load: Load, energy_wh: float) -> Figure:
    """How the daily energy of a load comes about, for a usual day."""
    hours_on = load.flexible_h or sum(load.on_by_hour)
    return Figure(
        label=f"{load.name}: energy a day",
        value=energy_wh,
        unit="Wh",
        formula="quantity × (running W × duty × hours + standby W × other hours)",
        terms=(
            Term(name="quantity", value=load.quantity, unit=""),
            Term(name="running", value=load.running_w, unit="W"),
            Term(name="duty", value=100 * load.duty_frac, unit="%"),
            Term(name="hours", value=hours_on, unit="h"),
            Term(name="standby", value=load.standby_w, unit="W"),
        ),
        basis=f"{PHYSICS}. Running watts known by: {quality_of(load).value}",
    )
