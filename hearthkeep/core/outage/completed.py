"""The design completed for the outage: several inverters as one, the plant's own loads, and the air of a weather year."""

from __future__ import annotations

from datetime import timedelta

from hearthkeep.core.bank import heater_w
from hearthkeep.core.design import Design, GridCharger, Load, OutageDay, Quality, SkySource, Supply, Tier, Typed
from hearthkeep.core.loads import HOURS
from hearthkeep.core.sources import WeatherYear, day_of_year, year_for
from hearthkeep.core.transfer import fates_of

_NO_CHARGER = GridCharger()
HEATER_ID = "bank-heater"


def without_grid(design: Design) -> Design:
    """A design off the grid with nothing of the grid's in it: no charger, no hours in which it is back; any other as it is."""
    charging, outage = design.charging, design.outage
    if not design.site.off_grid or (charging.grid_charger == _NO_CHARGER and not outage.grid_back):
        return design
    return design.model_copy(
        update={
            "charging": charging.model_copy(update={"grid_charger": _NO_CHARGER}),
            "outage": outage.model_copy(update={"grid_back": ()}),
        }
    )


def completed(design: Design, year: WeatherYear | None) -> Design:
    """Inverters added up, the bank's heater among the loads, and on each day the air of the year where that rules.

    Loads that the change-over does not carry are left out. A design that is complete already stays as it is.
    """
    changes: dict[str, object] = {}
    left_out = fates_of(design).left_out
    if left_out:
        design = design.model_copy(update={"loads": tuple(load for load in design.loads if load.id not in left_out)})
    if design.inverter.units > 1:
        changes["inverter"] = design.inverter.together
    warms_w = heater_w(design.bank)
    if warms_w > 0 and all(load.id != HEATER_ID for load in design.loads):
        heater = Load(
            id=HEATER_ID,
            name="Heater of the bank",
            tier=Tier.LIFE,
            running_w=warms_w,
            supply=Supply.DC,
            known=Typed(quality=Quality.MEASURED),
        )
        changes["loads"] = (*design.loads, heater)
    if design.outage.sky_from is SkySource.YEAR:
        days = _days_of_year(design, year_for(design.site, year))
        changes["outage"] = design.outage.model_copy(update={"days": days})
    return design.model_copy(update=changes) if changes else design


def _days_of_year(design: Design, year: WeatherYear) -> tuple[OutageDay, ...]:
    """The calendar days of the outage, each with the year's warmest hour [°C]."""
    outage = design.outage
    warmest_c = year.air_c.reshape(-1, HOURS).max(axis=1)
    dates = [outage.start + timedelta(days=day) for day in range((outage.end.date() - outage.start.date()).days + 1)]
    return tuple(
        outage.days[min(number, len(outage.days) - 1)].model_copy(
            update={"air_temp_c": float(warmest_c[day_of_year(date.month, date.day)])}
        )
        for number, date in enumerate(dates)
    )
