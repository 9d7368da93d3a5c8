"""Typical values of each chemistry, used where the design leaves a field empty, each with its reason."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Chemistry


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
    #: Depth commonly lived with.
    usual_depth_frac: float
    #: No charging below this temperature [°C].
    charge_min_c: float
    #: No discharging below this temperature [°C].
    discharge_min_c: float
    reason: str


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
    ),
}
