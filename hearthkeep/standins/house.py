"""The house behind the simulated devices: a design lived through its outage by the one model, moment by moment."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

import numpy as np

from hearthkeep.core.bank import charged_frac, rest_state
from hearthkeep.core.design import Design, Tier
from hearthkeep.core.foresight import Choices, Course, GeneratorWish, Stretch, course_of, run_ended
from hearthkeep.core.inverter import input_w
from hearthkeep.core.outage import Run, prepare
from hearthkeep.core.sources import WeatherYear, stage_points
from hearthkeep.core.wiring import cold_resistance_mohm

#: It is gone along in pieces of this length at the most [s].
PIECE_S = 60.0
#: The house's watts and the sun flicker by so much about their mean, and forget it in so long [s].
HOUSE_FLICKER, SUN_FLICKER, FORGETS_S = 0.08, 0.04, 120.0
#: Cabinet of an inverter at its rating: above the air by so much with its fan, so many times that without; time constant [K, s].
CABINET_K, FANLESS_TIMES, CABINET_S, CABINET_IDLE_K = 14.0, 4.0, 400.0, 3.0
#: A controller that does not hold lets the volts climb by so much a minute for each 12 V, as far as this [V].
CREEP_V_PER_MIN, CREEP_MOST_V = 0.08, 3.6
#: Leads between posts and inverter for each volt of the bank [ohm]: 1 mohm at 12 V.
LEAD_OHM_PER_V = 0.001 / 12.0
#: The devices were in service before: what their counters of energy began with [Wh].
COUNTED_WH = 100_000.0
#: Volts of an array beside the bank's where the design says nothing better.
ARRAY_TIMES = 1.4


@dataclass(frozen=True, kw_only=True, slots=True)
class Truth:
    """How things really are at a moment; amps and watts into the bank count as plus."""

    charge_frac: float
    ah_from_full: float
    bank_v: float
    bank_a: float
    bank_c: float
    #: From the controllers into the bank, and the array's volts.
    sun_w: float
    sun_v: float
    #: Given to the house by the inverter, and what it draws from the bank or leads into it [W].
    house_w: float
    house_wh: float
    inverter_dc_w: float
    inverter_v: float
    cabinet_c: float
    generator_runs: bool
    generator_w: float
    generator_wh: float
    fuel_l: float
    generator_h: float
    grid_is_there: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class _Flows:
    """What flows in a piece [W]; into the bank counts as plus."""

    stored_wh: float
    house_w: float
    direct_w: float
    sun_w: float
    inverter_dc_w: float
    generator_w: float
    #: The sun has more than the bank takes.
    is_full: bool
    grid: bool


class House:
    """A design in its outage, gone along from moment to moment; never back."""

    def __init__(
        self, design: Design, begun: datetime, *, since: datetime | None = None, year: WeatherYear | None = None,
        charge_frac: float | None = None, seed: int = 0,
    ) -> None:  # fmt: skip
        """
        Put a design into an outage.

        :param begun: the outage begins then, local standard time.
        :param since: looked at from then on, where that is earlier: the grid is still there.
        :param charge_frac: charge as it begins; the design's own where none is given.
        """
        outage = design.outage.model_copy(update={"start": begun})
        bank = design.bank if charge_frac is None else design.bank.model_copy(update={"start_soc_frac": charge_frac})
        self._prepared = prepare(design.model_copy(update={"outage": outage, "bank": bank}), year)
        self._course: Course = course_of(self._prepared)
        self.design = self._prepared.design
        self.begun = begun
        self._state = self._course.first()
        self._at_s = 0.0 if since is None else min((since - begun).total_seconds(), 0.0)
        self._stretches: list[Stretch] = [Stretch(0.0, Choices())]
        self._dice = np.random.default_rng(seed)
        self._house_noise = self._sun_noise = 0.0
        self._cabinet_c = 0.0
        self._creep_v = 0.0
        self._generator_s = 0.0
        self._house_wh = self._generator_wh = COUNTED_WH
        #: Switched by faults: the controller does not hold, the fan stands still.
        self.creeps = False
        self.fan_is_still = False
        self._rating = self._prepared.rating
        self._table = rest_state(self.design.bank, self.design.bank.nominal_v).table
        self._ohm = cold_resistance_mohm(self.design.bank, self._rating.temp_c) / 1000.0
        self._points = stage_points(self.design, temp_c=self._rating.temp_c)
        ac = np.array([load.supply.is_ac for load in self.design.loads], dtype=bool)
        tiers = np.array([list(Tier).index(load.tier) for load in self.design.loads], dtype=int)
        watts = self._prepared.rows.average_w
        #: Part of each tier's watts that the inverter carries, by row and tier.
        self._ac_part = np.ones((watts.shape[1], 4))
        for tier in range(4):
            own = tiers == tier
            total, carried = watts[own].sum(axis=0), watts[own & ac].sum(axis=0)
            self._ac_part[:, tier] = np.divide(carried, total, out=np.ones_like(total), where=total > 0)
        self.now = self._step(0.0)

    @property
    def has_sun(self) -> bool:
        """An array, or another source, leads into the bank through a controller."""
        return bool((self._course.steps.sun_w + self._course.steps.other_w).max(initial=0.0) > 0)

    @property
    def top_v(self) -> float:
        """What its chargers are set to at the most [V]."""
        return self._points.absorb_at_temp_v

    @property
    def choices(self) -> Choices:
        """What is left off, and what becomes of the generator."""
        return self._stretches[-1].choices

    def decide(self, choices: Choices) -> None:
        """Leave off loads, or start and stop the generator, from now on."""
        self._stretches.append(Stretch(self._at_s / 3600.0, choices))
        self._state = run_ended(self._state, self._stretches, self._at_s / 3600.0)
        if choices.generator is GeneratorWish.OFF:
            self._state = self._state._replace(genset=self._state.genset._replace(runs=False, run_h=0.0))

    def at(self, moment: datetime) -> Truth:
        """Go on to a moment, local standard time; one that is over stays the last."""
        to_s = (moment - self.begun).total_seconds()
        while self._at_s < to_s - 1e-6:
            edges_s = (edge_s for edge_s in (0.0, 3600.0 * self._course.end_h) if edge_s > self._at_s + 1e-6)
            self.now = self._step(min(to_s - self._at_s, PIECE_S, next(edges_s, to_s) - self._at_s))
        return self.now

    def _step(self, seconds: float) -> Truth:
        """Go on for so long and look."""
        self._flicker(seconds)
        at_h, length_h = self._at_s / 3600.0, max(seconds, 1.0) / 3600.0
        is_on = at_h >= 0.0 and at_h + length_h <= self._course.end_h + 1e-9
        run = self._course.run(self._state, at_h, at_h + length_h, self.choices) if is_on else None
        edges_h = self._course.edges_h
        step = int(np.clip(np.searchsorted(edges_h, at_h + 1e-9, side="right") - 1, 0, self._course.quiet.size - 1))
        flows = self._with_grid(length_h, step) if run is None else self._flows(run, step, length_h)
        if seconds > 0:
            self._at_s += seconds
            self._state = self._state._replace(stored_wh=flows.stored_wh) if run is None else run.last
        if flows.generator_w > 0:
            self._generator_s += seconds
        self._house_wh += flows.house_w * seconds / 3600.0
        self._generator_wh += flows.generator_w * seconds / 3600.0
        return self._seen(flows, seconds)

    def _flicker(self, seconds: float) -> None:
        keeps = float(np.exp(-seconds / FORGETS_S))
        spread = (1.0 - keeps**2) ** 0.5
        self._house_noise = keeps * self._house_noise + spread * float(self._dice.normal())
        self._sun_noise = keeps * self._sun_noise + spread * float(self._dice.normal())

    def _flows(self, run: Run, step: int, length_h: float) -> _Flows:
        steps, plant = self._course.steps, self._prepared.plant
        house = max(1.0 + HOUSE_FLICKER * self._house_noise, 0.2)
        served_w = run.served_w[0] * house
        row = int(steps.row[step])
        ac_w = float((served_w * self._ac_part[row]).sum())
        dc_w = float(served_w.sum()) - ac_w
        unused_w = max(float(run.spilled_w[0]) - float(steps.clipped_w[step]), 0.0)
        sun_w = max(float(steps.sun_w[step] + steps.other_w[step]) - unused_w, 0.0) * max(
            1.0 + SUN_FLICKER * self._sun_noise, 0.0
        )
        generator_w = float(run.generator_w[0]) if run.last.genset.runs else 0.0
        # What an array behind the inverter gives beyond the house's use goes into the bank as far as that takes it.
        coupled_w = min(float(steps.coupled_w[step]), ac_w)
        gained_w = float(run.last.stored_wh - run.stored_wh[0]) / length_h
        is_dark = float(run.served_w[0].sum()) <= 0 and self._state.stored_wh <= plant.drop_wh[0] + 1e-6
        if generator_w > 0 and not plant.generator.charges_only:
            into_w = max(generator_w - ac_w, 0.0) * plant.generator.charger_efficiency
        else:
            into_w = generator_w * plant.generator.charger_efficiency
            into_w -= 0.0 if is_dark else input_w(self.design.inverter, ac_w - coupled_w)
            if float(steps.coupled_w[step]) > ac_w and gained_w > 0:
                into_w = gained_w + dc_w - sun_w
        return _Flows(
            stored_wh=float(run.last.stored_wh), house_w=ac_w, direct_w=dc_w, sun_w=sun_w, inverter_dc_w=into_w,
            generator_w=generator_w, is_full=unused_w > 1.0, grid=False,
        )  # fmt: skip

    def _with_grid(self, length_h: float, step: int) -> _Flows:
        """The grid is there: the house hangs on it, its charger fills the bank."""
        capacity_wh = self._prepared.plant.acceptance.capacity_wh
        charger_w = self.design.charging.grid_charger.output_w
        from_frac = self._state.stored_wh / capacity_wh
        to_frac = charged_frac(self._rating, charger_w=charger_w, from_frac=from_frac, hours_h=length_h)
        into_w = (to_frac - from_frac) * capacity_wh / length_h
        watts = self._prepared.rows.average_w
        return _Flows(
            stored_wh=to_frac * capacity_wh, house_w=float(watts[:, int(self._course.steps.row[step])].sum()), direct_w=0.0, sun_w=0.0, inverter_dc_w=into_w,
            generator_w=0.0, is_full=to_frac >= 1.0 - 1e-9, grid=True,
        )  # fmt: skip

    def _seen(self, flows: _Flows, seconds: float) -> Truth:
        capacity_wh = self._prepared.plant.acceptance.capacity_wh
        charge = min(max(flows.stored_wh / capacity_wh, 0.0), 1.0)
        into_w = flows.sun_w + flows.inverter_dc_w - flows.direct_w
        rest_v = float(np.interp(charge, [part for part, _ in self._table], [volts for _, volts in self._table]))
        bank_v = rest_v + into_w / rest_v * self._ohm
        top_v = self.top_v
        if flows.is_full and flows.sun_w + max(flows.inverter_dc_w, 0.0) > 0:
            bank_v = top_v
        bank_v = min(bank_v, top_v)
        charges = flows.sun_w > 1.0
        minutes = seconds / 60.0
        if self.creeps and charges:
            # The array is led straight through: volts climb from where they are, past the set point.
            self._creep_v = min(self._creep_v + CREEP_V_PER_MIN * self._blocks * minutes, CREEP_MOST_V * self._blocks)
            bank_v = max(bank_v, top_v) + self._creep_v
        else:
            self._creep_v = 0.0
        bank_a = into_w / bank_v
        self._warm(flows, seconds)
        return Truth(
            charge_frac=charge,
            ah_from_full=-(1.0 - charge) * self.design.bank.rated_ah,
            bank_v=bank_v,
            bank_a=bank_a,
            bank_c=self._rating.temp_c,
            sun_w=flows.sun_w,
            sun_v=bank_v * ARRAY_TIMES if charges else 0.0,
            house_w=flows.house_w,
            house_wh=self._house_wh,
            inverter_dc_w=flows.inverter_dc_w,
            inverter_v=bank_v + flows.inverter_dc_w / bank_v * LEAD_OHM_PER_V * self.design.bank.nominal_v,
            cabinet_c=self._cabinet_c,
            generator_runs=flows.generator_w > 0,
            generator_w=flows.generator_w,
            generator_wh=self._generator_wh,
            fuel_l=float(self._state.genset.fuel_l),
            generator_h=self._generator_s / 3600.0,
            grid_is_there=flows.grid,
        )

    @property
    def _blocks(self) -> float:
        return self.design.bank.nominal_v / 12.0

    def _warm(self, flows: _Flows, seconds: float) -> None:
        """The cabinet stands where the bank stands, and grows warm with what it carries."""
        part = abs(flows.inverter_dc_w) / max(self.design.inverter.rated_w, 1.0)
        rise_k = (CABINET_IDLE_K + CABINET_K * part) * (FANLESS_TIMES if self.fan_is_still else 1.0)
        wanted_c = self._rating.temp_c + rise_k
        if seconds <= 0:
            self._cabinet_c = wanted_c
        self._cabinet_c += (wanted_c - self._cabinet_c) * (1.0 - float(np.exp(-seconds / CABINET_S)))
