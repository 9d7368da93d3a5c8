"""What a new design starts from: values to be changed, none of them advice."""

from __future__ import annotations

from datetime import datetime

from hearthkeep.core.design import (
    Bank,
    Charging,
    Chemistry,
    Design,
    GridCharger,
    Inverter,
    Kind,
    Outage,
    OutageDay,
    Place,
    Practice,
    Service,
    Site,
    Sky,
)


def starting_design(kind: Kind, name: str) -> Design:
    """An empty home or portable unit: no loads, no arrays, a modest bank, three dark winter days or one night."""
    return _home(name) if kind is Kind.HOME else _portable(name)


def _home(name: str) -> Design:
    return Design(
        name=name,
        kind=Kind.HOME,
        practice=Practice.NORTH_AMERICAN,
        site=Site(
            place="Place not set",
            latitude_deg=44.0,
            longitude_deg=-75.0,
            utc_offset_h=-5.0,
            service=Service.SPLIT_120_240,
        ),
        outage=Outage(
            start=datetime(2026, 1, 12, 17),
            duration_h=72.0,
            warning_h=12.0,
            days=(
                OutageDay(sky=Sky.OVERCAST, air_temp_c=-2.0),
                OutageDay(sky=Sky.COVERED, air_temp_c=-4.0),
                OutageDay(sky=Sky.OVERCAST, air_temp_c=-4.0),
                OutageDay(sky=Sky.CLEAR, air_temp_c=-6.0),
            ),
        ),
        bank=Bank(
            chemistry=Chemistry.LFP,
            unit_v=51.2,
            unit_ah=100.0,
            series=1,
            parallel=1,
            depth_frac=0.9,
            cutoff_soc_frac=0.1,
            place=Place.UTILITY_ROOM,
            temp_c=15.0,
        ),
        inverter=Inverter(rated_w=3000.0, surge_w=6000.0, idle_w=30.0, efficiency_frac=0.93, low_cutoff_v=44.0),
        charging=Charging(grid_charger=GridCharger(output_w=1500.0)),
    )


def _portable(name: str) -> Design:
    return Design(
        name=name,
        kind=Kind.PORTABLE,
        practice=Practice.NORTH_AMERICAN,
        site=Site(
            place="Place not set", latitude_deg=44.0, longitude_deg=-75.0, utc_offset_h=-5.0, service=Service.V120
        ),
        outage=Outage(
            start=datetime(2026, 1, 12, 17),
            duration_h=24.0,
            warning_h=6.0,
            days=(OutageDay(sky=Sky.OVERCAST, air_temp_c=-2.0), OutageDay(sky=Sky.BROKEN, air_temp_c=-2.0)),
        ),
        bank=Bank(
            chemistry=Chemistry.LFP,
            unit_v=12.8,
            unit_ah=100.0,
            series=1,
            parallel=1,
            depth_frac=0.9,
            cutoff_soc_frac=0.1,
            place=Place.LIVING_SPACE,
            temp_c=15.0,
        ),
        inverter=Inverter(rated_w=1000.0, surge_w=2000.0, idle_w=12.0, efficiency_frac=0.9, low_cutoff_v=11.0),
        charging=Charging(grid_charger=GridCharger(output_w=250.0)),
    )
