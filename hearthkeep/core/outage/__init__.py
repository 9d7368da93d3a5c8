"""The outage: prepared once, run by the compiled model, and its results by name."""

from hearthkeep.core.outage.clock import Clock
from hearthkeep.core.outage.completed import HEATER_ID, completed
from hearthkeep.core.outage.events import Event, EventKind, out_of_fuel_h
from hearthkeep.core.outage.figures import STEP_BY_STEP, outage_figures
from hearthkeep.core.outage.kernel import (
    OUTCOME_NUMBERS,
    Outcome,
    Plant,
    Run,
    Starts,
    Steps,
    Timeline,
    outcome_of,
    outcomes_of,
    run,
)
from hearthkeep.core.outage.panel_loads import PanelRun, run_panel_loads
from hearthkeep.core.outage.plant import drop_levels_frac, limits_for, plant_of
from hearthkeep.core.outage.prepared import PreparedOutage, prepare
from hearthkeep.core.outage.refill import hours_back_to_full
from hearthkeep.core.outage.report import Ledger, OutageReport, Series, TierReport, report_from
from hearthkeep.core.outage.scene import (
    Given,
    Scene,
    by_day,
    clock_of,
    fetching_steps,
    given_along,
    grid_steps,
    hourly_mean_w,
    quiet_steps,
    scene_of,
    spilled_wh,
    started_by_hand,
    steady_along,
    usual_audit,
    usual_day,
    with_grid,
    with_other_watts,
)
from hearthkeep.core.outage.usual_storms import UsualStorm, usual_storms
from hearthkeep.core.outage.warning_fill import FULL_ENOUGH_FRAC, WarningFill

__all__ = [
    "FULL_ENOUGH_FRAC",
    "HEATER_ID",
    "OUTCOME_NUMBERS",
    "STEP_BY_STEP",
    "Clock",
    "Event",
    "EventKind",
    "Given",
    "Ledger",
    "OutageReport",
    "Outcome",
    "PanelRun",
    "Plant",
    "PreparedOutage",
    "Run",
    "Scene",
    "Series",
    "Starts",
    "Steps",
    "TierReport",
    "Timeline",
    "UsualStorm",
    "WarningFill",
    "by_day",
    "clock_of",
    "completed",
    "drop_levels_frac",
    "fetching_steps",
    "given_along",
    "grid_steps",
    "hourly_mean_w",
    "hours_back_to_full",
    "limits_for",
    "out_of_fuel_h",
    "outage_figures",
    "outcome_of",
    "outcomes_of",
    "plant_of",
    "prepare",
    "quiet_steps",
    "report_from",
    "run",
    "run_panel_loads",
    "scene_of",
    "spilled_wh",
    "started_by_hand",
    "steady_along",
    "usual_audit",
    "usual_day",
    "usual_storms",
    "with_grid",
    "with_other_watts",
]
