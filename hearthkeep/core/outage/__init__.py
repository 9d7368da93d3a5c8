"""The outage: the clock, the compiled model and its results."""

from hearthkeep.core.outage.kernel import GENERATOR, Run
from hearthkeep.core.outage.report import Ledger, OutageReport, Series, TierReport, report_from
from hearthkeep.core.outage.simulate import (
    RECOVERY_H,
    RETURN_MARGIN_FRAC,
    Event,
    EventKind,
    Scene,
    drop_levels_frac,
    hours_back_to_full,
    house_of,
    plant_of,
    run_scene,
    scene_of,
    usual_day,
)
from hearthkeep.core.outage.whole import HEATER_ID, whole
from hearthkeep.core.outage.without import WithoutEach, without_each

__all__ = [
    "GENERATOR",
    "HEATER_ID",
    "RECOVERY_H",
    "RETURN_MARGIN_FRAC",
    "Event",
    "EventKind",
    "Ledger",
    "OutageReport",
    "Run",
    "Scene",
    "Series",
    "TierReport",
    "WithoutEach",
    "drop_levels_frac",
    "hours_back_to_full",
    "house_of",
    "plant_of",
    "report_from",
    "run_scene",
    "scene_of",
    "usual_day",
    "whole",
    "without_each",
]
