"""Every kind of source, and what is asked of all of them together."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.design import Charging, Design
from hearthkeep.core.sources.alternator import ALTERNATOR
from hearthkeep.core.sources.bench_charger import BENCH_CHARGER
from hearthkeep.core.sources.generator import GENERATOR
from hearthkeep.core.sources.grid_charger import GRID_CHARGER
from hearthkeep.core.sources.kind import Floats, SourceKind, SourceSteps, SteadySource
from hearthkeep.core.sources.panels import PANELS
from hearthkeep.core.sources.wind import WIND

#: Those whose power follows from clock, weather and people alone, in the order of their page.
STEADY: tuple[SteadySource, ...] = (ALTERNATOR, WIND, BENCH_CHARGER)
KINDS: tuple[SourceKind, ...] = (PANELS, GENERATOR, GRID_CHARGER, WIND, BENCH_CHARGER, ALTERNATOR)


@dataclass(frozen=True, kw_only=True, slots=True)
class SteadyPower:
    """The steady sources at the direct-current bus, step by step."""

    #: By kind, those that the design has [W], (n,).
    by_kind: dict[str, Floats]
    #: All of them together, and the strongest of them alone [W], (n,).
    total_w: Floats
    strongest_w: Floats

    def without(self, key: str) -> SteadyPower:
        """The others alone."""
        rest = {kind: power for kind, power in self.by_kind.items() if kind != key}
        return _together(rest, self.total_w.shape[0])


def steady_power(charging: Charging, steps: SourceSteps) -> SteadyPower:
    """What the design's steady sources give along the steps."""
    by_kind = {kind.key: kind.power_w(charging, steps) for kind in STEADY if kind.is_in(charging)}
    return _together(by_kind, steps.hour.shape[0])


def _together(by_kind: dict[str, Floats], count: int) -> SteadyPower:
    total_w, strongest_w = np.zeros(count), np.zeros(count)
    for power_w in by_kind.values():
        total_w, strongest_w = total_w + power_w, np.maximum(strongest_w, power_w)
    return SteadyPower(by_kind=by_kind, total_w=total_w, strongest_w=strongest_w)


@dataclass(frozen=True, kw_only=True, slots=True)
class SourceCurrent:
    """Most current a source may give."""

    #: Of the kind; of several that never charge at once, the strongest.
    key: str
    #: For a sentence.
    name: str
    current_a: float


def source_currents(design: Design, volts: BankVolts) -> tuple[SourceCurrent, ...]:
    """Most current each source may give at the volts of a bank that is charged, those that give any.

    Of sources that never charge at once, a generator and the grid, the stronger counts.
    """
    found: dict[str, SourceCurrent] = {}
    for kind in KINDS:
        current_a = kind.most_current_a(design, volts)
        before = found.get(kind.name)
        if current_a > 0 and (before is None or current_a > before.current_a):
            found[kind.name] = SourceCurrent(key=kind.key, name=kind.name, current_a=current_a)
    return tuple(found.values())
