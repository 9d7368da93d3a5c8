"""Loads that run straight from a panel, without controller or bank: they run while the sun alone carries them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Design, Load, Supply
from hearthkeep.core.loads import TIERS, day_of
from hearthkeep.core.outage.scene import Scene

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, slots=True)
class PanelRun:
    """What the panels that feed loads straight gave during the outage."""

    #: Power of those panels, and what the loads took, by step and tier [W], (n,) and (n, 4).
    offered_w: Floats
    served_w: Floats
    #: By load id: energy taken and asked during the outage [Wh].
    served_wh: dict[str, float]
    asked_wh: dict[str, float]


def run_panel_loads(design: Design, scene: Scene) -> PanelRun:
    """Serve the loads on the panels step by step, the highest tiers first, each whole or not at all.

    A load runs while the panels give its running watts beside those already served; what it takes on the average is its
    duty's part of that.
    """
    steps, tiers = scene.clock.length_h.shape[0], len(TIERS)
    left_w = scene.panel_fed_w.copy()
    served_w = np.zeros((steps, tiers))
    served_wh: dict[str, float] = {}
    asked_wh: dict[str, float] = {}
    on_panel = [load for load in design.loads if load.supply is Supply.PANEL]
    for load in sorted(on_panel, key=lambda load: TIERS.index(load.tier)):
        running_w, average_w = _asked(load, scene)
        runs = (running_w > 0) & (left_w >= running_w - 1e-9)
        left_w -= np.where(runs, running_w, 0.0)
        taken = np.where(runs, average_w, 0.0)
        served_w[:, TIERS.index(load.tier)] += taken
        served_wh[load.id] = float((taken * scene.clock.length_h).sum())
        asked_wh[load.id] = float((average_w * scene.clock.length_h).sum())
    return PanelRun(
        offered_w=scene.panel_fed_w,
        served_w=served_w,
        served_wh=served_wh,
        asked_wh=asked_wh,
    )


def _asked(load: Load, scene: Scene) -> tuple[Floats, Floats]:
    """Running and average watts the load asks for in each step; it does not stand by without a bank."""
    days = [day_of(load, kind) for kind in scene.kinds]
    on = np.array([day.on for day in days])[scene.kind_of_step, scene.clock.hour]
    running = np.array([load.quantity * day.running_w for day in days])[scene.kind_of_step]
    duty = np.array([day.duty_frac for day in days])[scene.kind_of_step]
    running_w: Floats = np.where(on, running, 0.0)
    return running_w, running_w * duty
