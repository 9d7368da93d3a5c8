"""The outage: the clock, the compiled model and its results."""

from hearthkeep.core.outage.direct import DirectRun, run_direct
from hearthkeep.core.outage.fill import Fill, fill_before
from hearthkeep.core.outage.report import Ledger, OutageReport, Series, TierReport, report_from
from hearthkeep.core.outage.scene import RECOVERY_H, Scene, rows_for, scene_of, usual_day, with_other_watts
from hearthkeep.core.outage.shapes import GENERATOR, Run
from hearthkeep.core.outage.simulate import (
    NO_GENERATOR,
    RETURN_MARGIN_FRAC,
    Event,
    EventKind,
    drop_levels_frac,
    hours_back_to_full,
    house_of,
    plant_of,
    run_scene,
)
from hearthkeep.core.outage.whole import HEATER_ID, whole
from hearthkeep.core.outage.without import WithoutEach, without_each

__all__ = [
    "GENERATOR",
    "HEATER_ID",
    "NO_GENERATOR",
    "RECOVERY_H",
    "RETURN_MARGIN_FRAC",
    "DirectRun",
    "Event",
    "EventKind",
    "Fill",
    "Ledger",
    "OutageReport",
    "Run",
    "Scene",
    "Series",
    "TierReport",
    "WithoutEach",
    "drop_levels_frac",
    "fill_before",
    "hours_back_to_full",
    "house_of",
    "plant_of",
    "report_from",
    "rows_for",
    "run_direct",
    "run_scene",
    "scene_of",
    "usual_day",
    "whole",
    "with_other_watts",
    "without_each",
]
