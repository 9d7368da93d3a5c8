"""The outage gone along piece by piece: from any moment and any state on, under what people have decided by then."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import Design
from hearthkeep.core.inverter import Draws, draws_of, house_watts
from hearthkeep.core.loads import HOURS, rows_from
from hearthkeep.core.outage import (
    Outcome,
    Plant,
    PreparedOutage,
    Run,
    State,
    Steps,
    first_state,
    outcome_from,
    quiet_steps,
    run_from,
)

Floats = NDArray[np.float64]

#: Moments nearer to each other than this are one [h].
SOON_H = 1e-9


class GeneratorWish(StrEnum):
    """What becomes of the generator."""

    #: As its own rules say: at its levels, not in its quiet hours.
    BY_RULE = "by_rule"
    ON = "on"
    OFF = "off"


@dataclass(frozen=True, kw_only=True, slots=True)
class Choices:
    """What people have decided, until they decide otherwise."""

    #: Loads left off, by id.
    off: frozenset[str] = frozenset()
    generator: GeneratorWish = GeneratorWish.BY_RULE
    #: Tiers are dropped at the policy's levels; else everything stays on until the bank's cut-off.
    by_levels: bool = True


@dataclass(frozen=True, slots=True)
class Stretch:
    """Choices that hold from a moment on [h from the start of the outage]."""

    from_h: float
    choices: Choices


def pieces(stretches: Sequence[Stretch], from_h: float, to_h: float) -> Iterator[tuple[float, float, Choices]]:
    """Pieces of time, from and to, in which one set of choices holds [h]."""
    edges = sorted({from_h, to_h} | {each.from_h for each in stretches if from_h < each.from_h < to_h})
    for start_h, end_h in pairwise(edges):
        yield start_h, end_h, choices_at(stretches, start_h)


def choices_at(stretches: Sequence[Stretch], moment_h: float) -> Choices:
    """What holds at a moment [h]."""
    holding = (each.choices for each in reversed(stretches) if each.from_h <= moment_h + SOON_H)
    return next(holding, stretches[0].choices)


def run_ended(state: State, stretches: Sequence[Stretch], at_h: float) -> State:
    """The state with the generator still, where somebody kept it running until this moment."""
    number = next((at for at, each in enumerate(stretches) if abs(each.from_h - at_h) <= SOON_H), 0)
    before, after = stretches[max(number - 1, 0)].choices.generator, stretches[number].choices.generator
    if before is GeneratorWish.ON and after is not GeneratorWish.ON:
        return state._replace(genset=state.genset._replace(runs=False, run_h=0.0))
    return state


def steps_between(steps: Steps, edges_h: Floats, from_h: float, to_h: float) -> Steps:
    """
    The steps between two moments, the first and the last of them cut short.

    :param steps: of the whole outage, (n,).
    :param edges_h: their edges from its start [h], (n + 1,).
    """
    first = max(int(np.searchsorted(edges_h, from_h + SOON_H, side="right")) - 1, 0)
    last = min(int(np.searchsorted(edges_h, to_h - SOON_H, side="left")), edges_h.shape[0] - 1)
    part = slice(first, max(last, first))
    cut = steps._replace(**{name: column[part] for name, column in steps._asdict().items()})
    if cut.length_h.shape[0] == 0:
        return cut
    starts, ends = np.maximum(edges_h[part], from_h), np.minimum(edges_h[first + 1 : max(last, first) + 1], to_h)
    refuels = cut.refuels
    if from_h > edges_h[first] + SOON_H and refuels[0]:
        # What was fetched as the step began is fetched already.
        refuels = refuels.copy()
        refuels[0] = False
    return cut._replace(length_h=ends - starts, refuels=refuels)


@dataclass(frozen=True, slots=True)
class _House:
    draws: Draws
    plant: Plant


@dataclass(frozen=True, kw_only=True)
class Course:
    """One outage under one weather."""

    prepared: PreparedOutage
    #: As the model takes them; with other weather than the prepared one where that is wanted.
    steps: Steps
    #: The generator's quiet hours, step by step, (n,).
    quiet: NDArray[np.bool_]
    #: How many times its planned watts each load takes on the average, in the order of the completed design, (loads,).
    use_factor: Floats
    #: By loads left off, and whether tiers drop at their levels: kept between calls.
    houses: dict[tuple[frozenset[str], bool], _House] = field(default_factory=dict, compare=False, repr=False)

    @property
    def edges_h(self) -> Floats:
        """Edges of the steps from the start [h], (n + 1,)."""
        return self.prepared.scene.clock.edges_h

    @property
    def end_h(self) -> float:
        """Where it ends [h]."""
        return float(self.edges_h[-1])

    @property
    def design(self) -> Design:
        """The design completed for the outage."""
        return self.prepared.design

    @property
    def into_day_h(self) -> float:
        """Hour of the day at which it begins [h]."""
        start = self.design.outage.start
        return start.hour + start.minute / 60 + start.second / 3600

    def day_of(self, moment_h: float) -> int:
        """Number of the calendar day of a moment, 0 for that of the start."""
        return int((self.into_day_h + moment_h) // HOURS)

    def clock_h(self, moment_h: float) -> float:
        """Hour of the day of a moment [h]."""
        return (self.into_day_h + moment_h) % HOURS

    def first(self) -> State:
        """As the outage begins."""
        state: State = first_state(self.prepared.plant)
        return state

    def under(self, steps: Steps) -> Course:
        """The same house under another weather."""
        return replace(self, steps=steps)

    def using(self, use_factor: Floats) -> Course:
        """The same outage with loads that take so many times what they are planned to take, (loads,)."""
        return replace(self, use_factor=use_factor, houses={})

    def run(self, state: State, from_h: float, to_h: float, choices: Choices) -> Run:
        """Carry the house from one moment to another; hours of the run count from the first."""
        house = self._house(choices)
        recorded: Run = run_from(state, self._steps(from_h, to_h, choices), house.draws, _driven(house.plant, choices))
        return recorded

    def outcome(self, state: State, from_h: float, to_h: float, choices: Choices) -> tuple[Outcome, State]:
        """The same, five numbers kept, and the state then."""
        house = self._house(choices)
        found: tuple[Outcome, State] = outcome_from(
            state, self._steps(from_h, to_h, choices), house.draws, _driven(house.plant, choices)
        )
        return found

    def along(
        self, state: State, stretches: Sequence[Stretch], from_h: float, to_h: float
    ) -> Iterator[tuple[float, Outcome, State]]:
        """Go on through what is decided: each piece's beginning [h], what comes of it, and the state after it."""
        for start_h, end_h, choices in pieces(stretches, from_h, to_h):
            state = run_ended(state, stretches, start_h)
            outcome, state = self.outcome(state, start_h, end_h, choices)
            yield start_h, outcome, state

    def is_quiet(self, at_h: float) -> bool:
        """Whether the generator has to stay off at a moment."""
        step = min(int(np.searchsorted(self.edges_h, at_h + SOON_H, side="right")) - 1, self.quiet.shape[0] - 1)
        return bool(self.quiet[step])

    def _steps(self, from_h: float, to_h: float, choices: Choices) -> Steps:
        steps = steps_between(self.steps, self.edges_h, from_h, to_h)
        if choices.generator is GeneratorWish.OFF:
            return steps._replace(quiet=np.ones_like(steps.quiet))
        if choices.generator is GeneratorWish.ON:
            return steps._replace(quiet=np.zeros_like(steps.quiet))
        return steps

    def _house(self, choices: Choices) -> _House:
        key = (choices.off, choices.by_levels)
        found = self.houses.get(key)
        if found is None:
            found = self.houses[key] = _house_of(self.prepared, choices, self.use_factor)
        return found


def course_of(prepared: PreparedOutage) -> Course:
    """A prepared outage to be gone along."""
    return Course(
        prepared=prepared,
        steps=prepared.scene.steps,
        quiet=quiet_steps(prepared.design, prepared.scene.clock),
        use_factor=np.ones(len(prepared.design.loads)),
    )


def _house_of(prepared: PreparedOutage, choices: Choices, use_factor: Floats) -> _House:
    plant = prepared.plant
    if not choices.by_levels:
        # Nobody switches anything: what is on stays on until the inverter stops.
        life_wh, back_wh = plant.drop_wh[0], plant.return_wh[0]
        plant = plant._replace(drop_wh=(life_wh,) * 3, return_wh=(back_wh,) * 3)
    is_planned = bool((use_factor == 1.0).all())
    if not choices.off and is_planned:
        return _House(prepared.draws, plant)
    left = tuple(
        load.model_copy(update={"hours": (), "standby_w": 0.0}) if load.id in choices.off else load
        for load in prepared.design.loads
    )
    rows = rows_from(left, prepared.scene.kinds)
    if not is_planned:
        average_w = rows.average_w * use_factor[:, None]
        rows = replace(rows, average_w=average_w, coincident_w=np.maximum(rows.coincident_w, average_w))
    return _House(draws_of(house_watts(rows, prepared.design.inverter, prepared.limits)), plant)


def _driven(plant: Plant, choices: Choices) -> Plant:
    """The plant with a generator that somebody keeps running: it starts at once, and stops with a full bank or no fuel."""
    if choices.generator is not GeneratorWish.ON or plant.generator.rated_w <= 0:
        return plant
    full_wh = plant.acceptance.capacity_wh
    return plant._replace(generator=plant.generator._replace(start_wh=full_wh, stop_wh=full_wh))
