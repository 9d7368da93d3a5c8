"""Typical values of each chemistry, used where the design leaves a field empty, each with its reason."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Chemistry, CyclePoint


@dataclass(frozen=True, kw_only=True, slots=True)
class ChemistryTypical:
    """Typical values; common practice, no source, unless said otherwise."""

    label: str
    is_lead_acid: bool
    charge_efficiency_frac: float
    discharge_efficiency_frac: float
    #: Most charge current as a multiple of the rated Ah [1/h].
    charge_limit_per_h: float
    #: Most discharge current as a multiple of the rated Ah [1/h].
    discharge_limit_per_h: float
    #: Peukert exponent; middle of the published range (exponents from memory, medium-low confidence).
    peukert_exponent: float
    #: Depth to which it is commonly cycled.
    usual_depth_frac: float
    #: No charging below this temperature [°C].
    charge_min_c: float
    #: No discharging below this temperature [°C].
    discharge_min_c: float
    reason: str
    #: Specific energy, energy density, and price of the rated energy.
    wh_per_kg: float
    wh_per_l: float
    price_per_kwh: float
    #: Cycles to 80 % by depth, and life by the calendar [years].
    cycle_points: tuple[CyclePoint, ...]
    calendar_years: float
    #: Part of the charge lost in a month of rest.
    self_discharge_month_frac: float
    #: The depths people live with, in the order of caution.
    schools_depth_frac: tuple[float, ...]
    upkeep: str
    may_stand: str
    #: Most a protection board gives for a few seconds, over its continuous limit; none where there is no board.
    short_discharge_ratio: float | None = None
    #: Whether it is offered beside the others for a bank.
    is_for_storage: bool = True


def _points(*pairs: tuple[float, float]) -> tuple[CyclePoint, ...]:
    return tuple(CyclePoint(depth_frac=depth, cycles=cycles) for depth, cycles in pairs)


TYPICAL: dict[Chemistry, ChemistryTypical] = {
    Chemistry.LFP: ChemistryTypical(
        label="lithium iron phosphate",
        is_lead_acid=False,
        charge_efficiency_frac=0.97,
        discharge_efficiency_frac=0.98,
        charge_limit_per_h=0.5,
        discharge_limit_per_h=1.0,
        peukert_exponent=1.0,
        usual_depth_frac=0.9,
        charge_min_c=0.0,
        discharge_min_c=-20.0,
        reason="charge at half the rated Ah, discharge at the rated Ah; plating forbids charging below freezing",
        wh_per_kg=105.0,
        wh_per_l=190.0,
        price_per_kwh=320.0,
        cycle_points=_points((0.8, 6000.0), (0.9, 4000.0), (1.0, 3000.0)),
        calendar_years=15.0,
        self_discharge_month_frac=0.03,
        schools_depth_frac=(0.8, 0.9, 1.0),
        upkeep="none; a look at the cell gauge once a year",
        short_discharge_ratio=2.0,
        may_stand="indoors with clearances the maker and local code ask for; not where it freezes while charging",
    ),
    Chemistry.AGM: ChemistryTypical(
        label="AGM lead-acid",
        is_lead_acid=True,
        charge_efficiency_frac=0.85,
        discharge_efficiency_frac=1.0,
        charge_limit_per_h=0.25,
        discharge_limit_per_h=1.0,
        peukert_exponent=1.10,
        usual_depth_frac=0.5,
        charge_min_c=-20.0,
        discharge_min_c=-40.0,
        reason="sealed; takes a quarter of its Ah while charging",
        wh_per_kg=34.0,
        wh_per_l=85.0,
        price_per_kwh=240.0,
        cycle_points=_points((0.3, 1600.0), (0.5, 700.0), (0.8, 400.0)),
        calendar_years=7.0,
        self_discharge_month_frac=0.03,
        schools_depth_frac=(0.4, 0.5),
        upkeep="terminals and volts twice a year",
        may_stand="indoors with some moving air",
    ),
    Chemistry.GEL: ChemistryTypical(
        label="gel lead-acid",
        is_lead_acid=True,
        charge_efficiency_frac=0.85,
        discharge_efficiency_frac=1.0,
        charge_limit_per_h=0.15,
        discharge_limit_per_h=0.8,
        peukert_exponent=1.15,
        usual_depth_frac=0.5,
        charge_min_c=-20.0,
        discharge_min_c=-40.0,
        reason="sealed; charges slower than AGM or its gel is harmed",
        wh_per_kg=33.0,
        wh_per_l=80.0,
        price_per_kwh=280.0,
        cycle_points=_points((0.3, 2000.0), (0.5, 900.0), (0.8, 500.0)),
        calendar_years=9.0,
        self_discharge_month_frac=0.02,
        schools_depth_frac=(0.4, 0.5),
        upkeep="terminals and volts twice a year; slow charge",
        may_stand="indoors with some moving air; good where rarely visited",
    ),
    Chemistry.FLOODED: ChemistryTypical(
        label="flooded lead-acid",
        is_lead_acid=True,
        charge_efficiency_frac=0.85,
        discharge_efficiency_frac=1.0,
        charge_limit_per_h=0.2,
        discharge_limit_per_h=1.0,
        peukert_exponent=1.25,
        usual_depth_frac=0.5,
        charge_min_c=-20.0,
        discharge_min_c=-40.0,
        reason="vents hydrogen while charging and needs water every one to three months",
        wh_per_kg=32.0,
        wh_per_l=75.0,
        price_per_kwh=150.0,
        cycle_points=_points((0.3, 1800.0), (0.5, 1000.0), (0.8, 550.0)),
        calendar_years=7.0,
        self_discharge_month_frac=0.06,
        schools_depth_frac=(0.4, 0.5),
        upkeep="distilled water every one to three months, an equalising charge on a calendar",
        may_stand="a ventilated shed or vented box outdoors; never where people live",
    ),
    Chemistry.STARTER: ChemistryTypical(
        label="starter battery, lead-acid",
        is_lead_acid=True,
        charge_efficiency_frac=0.85,
        discharge_efficiency_frac=1.0,
        charge_limit_per_h=0.2,
        discharge_limit_per_h=3.0,
        peukert_exponent=1.3,
        usual_depth_frac=0.2,
        charge_min_c=-20.0,
        discharge_min_c=-40.0,
        reason="thin plates made to crank an engine for seconds; a few dozen deep cycles ruin it",
        wh_per_kg=40.0,
        wh_per_l=80.0,
        price_per_kwh=130.0,
        cycle_points=_points((0.1, 500.0), (0.3, 130.0), (0.5, 60.0), (0.8, 25.0)),
        calendar_years=5.0,
        self_discharge_month_frac=0.06,
        schools_depth_frac=(0.2,),
        upkeep="distilled water where it has caps; never left part full",
        may_stand="a ventilated shed or vented box outdoors; never where people live",
        is_for_storage=False,
    ),
}
