"""Expected windows: what a meter shows of this design at this moment, and how far from it nothing is amiss yet."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from hearthkeep.core.bank import BankRating, rate, rest_state
from hearthkeep.core.building.gate import Moment, Window
from hearthkeep.core.design import Array, Controller, ControllerKind, Design, Practice, Sky
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.inverter import input_w
from hearthkeep.core.practice import SUPPLY_BASIS, SUPPLY_FRAC
from hearthkeep.core.sources import (
    STC_CELL_C,
    TYPICAL_CONTROLLER_FRAC,
    TYPICAL_VOC_COEFF_PER_C,
    Along,
    Moments,
    array_poa,
    array_vmp_v,
    controller_power,
    hand_parts,
)
from hearthkeep.core.wiring import (
    VOC_RATIO,
    RunKind,
    SizedRun,
    WiringPlan,
    cold_resistance_mohm,
    current_of_power_a,
    string_isc_a,
    wiring_plan,
)

#: How far the sun on a plane may be from what hour and sky say, as factors. Common practice, no source: haze and thin cloud under a
#: clear sky, edges of clouds under a broken one.
SUN_DOUBT = {Sky.CLEAR: (0.85, 1.1), Sky.BROKEN: (0.3, 1.7), Sky.OVERCAST: (0.3, 1.8), Sky.COVERED: (0.0, 1.8)}
#: The same where it was measured.
MEASURED_DOUBT = (0.95, 1.05)
#: Below this the volts of a panel say nothing [W/m²]. Our assumption.
DARK_W_M2 = 30.0
#: Open-circuit volts change by this part with each e-fold of the sun: n k T / q over a cell's volts, 1.2 × 25.7 mV ÷ 0.65 V. Textbook
#: one-diode cell, values from memory.
VOC_PER_LOG_SUN = 0.047
#: A module's volts and a hand meter together, as a part; wider where only the array's watts are known. Common practice, no source.
VOLTS_DOUBT_FRAC, GUESSED_DOUBT_FRAC = 0.02, 0.08
#: Cells may be so much warmer than by the formula, and so much cooler in wind [°C]. Common practice, no source.
WARMER_C, WIND_FRAC = 5.0, 0.5
#: A meter on a battery, for each 12 V. Common practice, no source.
BANK_METER_V_PER_12 = 0.06
#: A set point as entered on a display that rounds, for each 12 V. Common practice, no source.
SET_POINT_V_PER_12 = 0.1
#: What a test load's nameplate may be off. Common practice, no source.
NAMEPLATE_FRAC = 0.1
#: Drop of a run against Ohm's law: warm or cold copper; and what its lugs and its fuse add [Ω]. Common practice, no source.
COPPER_FRAC, JOINTS_OHM = 0.25, 0.0005
#: Idle draw against the data sheet. Common practice, no source.
IDLE_FRAC = 0.4
#: Hertz of an inverter and of a generator, as parts. Common practice, no source.
INVERTER_HZ_FRAC, GENERATOR_HZ_FRAC = 0.01, 0.05
#: Volts of an inverter at its own output, as a part. Common practice, no source.
INVERTER_V_FRAC = 0.03
#: Charging current against the design's, while the bank is hungry. Common practice, no source.
CHARGER_FRAC = 0.15
#: From this charge on a charger may hold back.
NEARLY_FULL_FRAC = 0.9
#: A full bank takes so much of its amp-hours at absorb. Common practice, no source.
FULL_TAIL_FRAC = 0.02
#: A test load is a tenth of the inverter's rating where nobody says otherwise.
TEST_LOAD_FRAC = 0.1
#: A dead conductor may show a few volts to a meter that takes no current. Common practice, no source.
GHOST_FRAC = 0.04
#: Continuity: a bond or an equipment grounding conductor. Common practice, no source.
BOND_OHM = 1.0

WindowFigure = tuple[Window, Figure]


@dataclass(frozen=True)
class Expected:
    """A design as entered and a moment, with what the windows are worked out from."""

    design: Design
    moment: Moment
    #: Coldest hour of the site's weather year, where one is stored [°C].
    year_low_c: float | None = None

    @cached_property
    def rating(self) -> BankRating:
        """The bank at the temperature of its place."""
        return rate(self.design.bank)

    @cached_property
    def plan(self) -> WiringPlan:
        """Every run, sized or as set."""
        return wiring_plan(self.design, self.rating, year_low_c=self.year_low_c)

    @property
    def blocks(self) -> float:
        """How many times 12 V the bank is, by which meters' doubts grow."""
        return self.rating.nominal_v / 12.0

    @property
    def hertz(self) -> float:
        """Of the house current [Hz]."""
        return 60.0 if self.design.practice is Practice.NORTH_AMERICAN else 50.0

    @cached_property
    def test_load_w(self) -> float:
        """The test load at the inverter's output [W]."""
        told = self.moment.test_load_w
        return TEST_LOAD_FRAC * self.design.inverter.together.rated_w if told is None else told

    # --- bank

    @cached_property
    def rest_table(self) -> tuple[tuple[float, float], ...]:
        """Rest volts of the bank by charge."""
        return rest_state(self.design.bank, 0.0).table

    def rest_v(self, soc_frac: float) -> float:
        """Rest volts of the whole bank at a charge [V]."""
        return float(
            np.interp(soc_frac, [part for part, _ in self.rest_table], [volts for _, volts in self.rest_table])
        )

    @cached_property
    def bank_volts(self) -> WindowFigure:
        """Rest volts of the bank."""
        soc, doubt = self.moment.soc_frac, rest_state(self.design.bank, 0.0).doubt_frac
        low_soc, high_soc = (0.0, 1.0) if soc is None else (max(soc - doubt, 0.0), min(soc + doubt, 1.0))
        meter_v = BANK_METER_V_PER_12 * self.blocks
        middle = self.rest_v(0.5 if soc is None else soc)
        window = Window(middle, self.rest_v(low_soc) - meter_v, self.rest_v(high_soc) + meter_v)
        return window, Figure(
            label="Bank at rest",
            value=middle,
            unit="V",
            formula="rest volts by charge, from the charge less its doubt to the charge and its doubt, and the meter's own",
            terms=(
                Term(name="charge, lowest", value=100 * low_soc, unit="%"),
                Term(name="charge, highest", value=100 * high_soc, unit="%"),
                Term(name="meter", value=meter_v, unit="V"),
            ),
            basis=f"{COMMON_PRACTICE}; the trade's rest-voltage tables",
        )

    @cached_property
    def block_volts(self) -> WindowFigure:
        """Rest volts of one block."""
        (middle, low, high), figure = self.bank_volts
        series = self.design.bank.series
        return Window(middle / series, low / series, high / series), Figure(
            label="One block at rest", value=middle / series, unit="V", formula="bank ÷ blocks in series",
            terms=(Term(name="bank", value=middle, unit="V"), Term(name="blocks in series", value=series, unit="")), basis=figure.basis,
        )  # fmt: skip

    def soc_is_high(self) -> bool:
        """Whether a charger may hold back."""
        return self.moment.soc_frac is None or self.moment.soc_frac >= NEARLY_FULL_FRAC

    def _still_takes_a(self, controller: Controller) -> float | None:
        """What a bank that is nearly full still takes from a controller, as its part of all of them [A]; none while it takes all.

        From its charge limit at nine tenths down to 2 % of its amp-hours when full. Common practice, no source.
        """
        soc = self.moment.soc_frac
        if soc is None or soc < NEARLY_FULL_FRAC:
            return None
        full_a = FULL_TAIL_FRAC * self.design.bank.rated_ah
        limit_a = max(self.rating.charge_limit_a, full_a)
        whole_a = limit_a + (full_a - limit_a) * (soc - NEARLY_FULL_FRAC) / (1.0 - NEARLY_FULL_FRAC)
        all_a = sum(each.output_a for each in self.design.charging.controllers if each.charges)
        return whole_a * controller.output_a / all_a if all_a > 0 else None

    # --- sun

    def sun(self, array: Array) -> Window:
        """Irradiance on an array [W/m²]."""
        told = self.moment.sun_w_m2
        if told is not None:
            low, high = MEASURED_DOUBT
            return Window(told, told * low, told * high)
        middle = self._poa[array.id]
        low, high = SUN_DOUBT[self.moment.sky]
        return Window(middle, middle * low, middle * high)

    @cached_property
    def _poa(self) -> dict[str, float]:
        part, covered = hand_parts([self.moment.sky])
        at = self.moment.at
        along = Along(
            site=self.design.site,
            moments=Moments(start=at, offsets_h=(0.0,), utc_offset_h=self.design.site.utc_offset_h),
            hour=np.array([at.hour]),
            air_c=np.array([self.moment.air_c]),
            covered=covered,
            attended=np.array([True]),
            part=part,
        )
        return {array.id: float(array_poa(array, along)[0]) for array in self.design.charging.arrays}

    def cell_c(self, array: Array, sun_w_m2: float, wind: float = 1.0) -> float:
        """Temperature of an array's cells, open [°C]."""
        return self.moment.air_c + wind * (array.noct_c - 20.0) * sun_w_m2 / 800.0

    def open_volts(self, array: Array) -> WindowFigure:
        """Open-circuit volts of one string at today's sun and temperature."""
        module = array.module
        stc_v = module.voc_v * array.series if module else VOC_RATIO * array_vmp_v(array, self.rating.nominal_v)
        told = module.voc_temp_coeff_per_c if module else None
        slope = TYPICAL_VOC_COEFF_PER_C if told is None else told
        doubt = VOLTS_DOUBT_FRAC if module else GUESSED_DOUBT_FRAC
        sun = self.sun(array)

        def volts(sun_w_m2: float, cell_c: float) -> float:
            return (
                stc_v
                * (1 + slope * (cell_c - STC_CELL_C))
                * (1 + VOC_PER_LOG_SUN * math.log(max(sun_w_m2, 1.0) / 1000.0))
            )

        middle = volts(sun.expected, self.cell_c(array, sun.expected))
        low = volts(sun.low, self.cell_c(array, sun.high) + WARMER_C) * (1 - doubt) if sun.low >= DARK_W_M2 else 0.0
        high = volts(max(sun.high, DARK_W_M2), self.cell_c(array, sun.low, WIND_FRAC)) * (1 + doubt)
        return Window(min(max(middle, low), high), low, high), Figure(
            label=f"{array.name}, one string open",
            value=middle,
            unit="V",
            formula="Voc × (1 + coefficient × (cells − 25 °C)) × (1 + 0.047 × ln(sun ÷ 1,000)); cells = air + (NOCT − 20) × sun ÷ 800",
            terms=(
                Term(name="Voc of the string by its sheet" if module else "Voc, guessed from the working volts", value=stc_v, unit="V"),
                Term(name="coefficient", value=100 * slope, unit="%/°C"),
                Term(name="sun on its plane", value=sun.expected, unit="W/m²"),
                Term(name="from", value=sun.low, unit="W/m²"),
                Term(name="to", value=sun.high, unit="W/m²"),
                Term(name="cells", value=self.cell_c(array, sun.expected), unit="°C"),
            ),
            basis="Textbook one-diode cell; doubt of sun and meter is common practice, no source",
        )  # fmt: skip

    def short_amps(self, array: Array) -> WindowFigure:
        """Short-circuit current of one string."""
        isc_a = string_isc_a(array, array.module, self.rating.nominal_v)
        sun = self.sun(array)
        middle, low, high = (isc_a * each / 1000.0 for each in sun)
        return Window(middle, 0.92 * low, 1.06 * high), Figure(
            label=f"{array.name}, one string shorted", value=middle, unit="A", formula="Isc × sun ÷ 1,000",
            terms=(
                Term(name="Isc", value=isc_a, unit="A"),
                Term(name="sun on its plane", value=sun.expected, unit="W/m²"),
            ), basis="Current grows with the sun: textbook; a little dirt and the clamp meter's own doubt are common practice, no source",
        )  # fmt: skip

    def input_volts(self, controller: Controller) -> WindowFigure:
        """Volts at a controller's solar input while it charges."""
        array = controller.arrays[0]
        if controller.kind is ControllerKind.PWM:
            (middle, low, high), _ = self.bank_volts
            window = Window(middle, low, max(high, self.rating.charging_v) + 1.0 * self.blocks)
            formula, stc_v = "a switching controller pulls the panel down to the bank's volts", self.rating.charging_v
        else:
            stc_v = array_vmp_v(array, self.rating.nominal_v)
            (open_v, open_low, open_high), _ = self.open_volts(array)
            ratio = stc_v / (array.module.voc_v * array.series if array.module else VOC_RATIO * stc_v)
            # Held back by a full bank or by its own limit, the controller lets the panel climb towards its open volts.
            window = Window(open_v * ratio, 0.9 * open_low * ratio, open_high)
            formula = "open volts × Vmp ÷ Voc, up to the open volts where the controller holds back"
        return window, Figure(
            label=f"{controller.name}, solar input", value=window.expected, unit="V", formula=formula,
            terms=(Term(name="at standard conditions", value=stc_v, unit="V"),), basis=COMMON_PRACTICE,
        )  # fmt: skip

    def solar_amps(self, controller: Controller) -> WindowFigure:
        """Current of a controller into the bank."""

        def into_bank_w(pick: int) -> float:
            found = controller_power(
                controller,
                poa_by_array=tuple(np.array([self.sun(array)[pick]]) for array in controller.arrays),
                air_c=np.array([self.moment.air_c]),
                volts=self.rating.volts,
            )
            return float(found.passed_w[0])

        volts_v = max(self.rest_v(0.5 if self.moment.soc_frac is None else self.moment.soc_frac), 1.0)
        middle, low, high = (min(into_bank_w(pick) / volts_v, controller.output_a) for pick in range(3))
        takes_a = self._still_takes_a(controller)
        middle = middle if takes_a is None else min(middle, takes_a)
        window = Window(
            middle, 0.0 if self.soc_is_high() else 0.8 * low, min(1.1 * high, 1.02 * controller.output_a) + 0.1
        )
        told = controller.efficiency_frac
        return window, Figure(
            label=f"{controller.name} into the bank", value=middle, unit="A",
            formula="arrays at their sun, heat and losses × efficiency ÷ bank volts, no more than its rating; less while the bank is nearly full",
            terms=(
                *(Term(name=f"sun on {array.name}", value=self.sun(array).expected, unit="W/m²") for array in controller.arrays),
                Term(name="efficiency", value=100 * (TYPICAL_CONTROLLER_FRAC[controller.kind] if told is None else told), unit="%"),
                Term(name="bank", value=volts_v, unit="V"),
                Term(name="its rating", value=controller.output_a, unit="A"),
                *(() if takes_a is None else (Term(name="the bank still takes of it", value=takes_a, unit="A"),)),
            ), basis="The outage's own model of arrays and controllers",
        )  # fmt: skip

    # --- inverter

    def test_amps(self) -> WindowFigure:
        """Current from the bank with the test load on."""
        inverter = self.design.inverter.together
        soc = self.moment.soc_frac
        low_soc, high_soc = (0.0, 1.0) if soc is None else (max(soc - 0.1, 0.0), min(soc + 0.1, 1.0))
        ohm, amps = self.bank_ohm + self.leads_ohm, self.amps_at
        load_w, rest_v = self.test_load_w, self.rest_v(0.5 if soc is None else soc)
        middle = amps(load_w, rest_v)
        window = Window(
            middle,
            0.97 * amps((1 - NAMEPLATE_FRAC) * load_w, self.rest_v(high_soc)),
            1.03 * amps((1 + NAMEPLATE_FRAC) * load_w, self.rest_v(low_soc)),
        )
        return window, Figure(
            label="From the bank, test load on", value=middle, unit="A",
            formula="I such that (idle + load ÷ efficiency) = (rest volts − I R) × I",
            terms=(
                Term(name="test load", value=load_w, unit="W"),
                Term(name="taken by the inverter", value=input_w(inverter, load_w), unit="W"),
                Term(name="rest volts", value=rest_v, unit="V"),
                Term(name="bank and leads", value=1000 * ohm, unit="mΩ"),
            ), basis="Ohm's law and the inverter's two data-sheet losses; a nameplate may be a tenth off: common practice, no source",
        )  # fmt: skip

    def amps_at(self, load_w: float, rest_v: float) -> float:
        """From the bank with so much house load on the inverters, at so many rest volts [A]."""
        inverter = self.design.inverter.together
        power_w = input_w(inverter, load_w)
        found = current_of_power_a(rest_v=rest_v, power_w=power_w, ohm=self.bank_ohm + self.leads_ohm)
        return power_w / inverter.low_cutoff_v if found is None else found

    @cached_property
    def leads_ohm(self) -> float:
        """From the bank's posts to the inverters, there and back; several share the current, each on its own leads [Ω]."""
        bank = self.plan.find("bank")
        own = [run.loop_ohm or 0.0 for run in self.plan.runs if run.run.kind is RunKind.INVERTER]
        return ((bank.loop_ohm or 0.0) if bank else 0.0) + (sum(own) / len(own) ** 2 if own else 0.0)

    @cached_property
    def bank_ohm(self) -> float:
        """The bank as warm as its place [Ω]."""
        return cold_resistance_mohm(self.design.bank, self.rating.temp_c) / 1000.0

    def drop_millivolts(self, run: SizedRun, current: Window) -> WindowFigure | None:
        """Drop along a run, there and back, at a current; none where its size is not known."""
        if run.loop_ohm is None:
            return None
        middle = 1000 * current.expected * run.loop_ohm
        window = Window(
            middle,
            1000 * (1 - COPPER_FRAC) * current.low * run.loop_ohm,
            1000 * current.high * ((1 + COPPER_FRAC) * run.loop_ohm + JOINTS_OHM),
        )
        return window, Figure(
            label=f"{run.run.label}, drop", value=middle, unit="mV", formula="I × R, there and back",
            terms=(
                Term(name="current", value=current.expected, unit="A"),
                Term(name="conductors", value=1000 * run.loop_ohm, unit="mΩ"),
                Term(name="lugs and fuse may add", value=1000 * JOINTS_OHM, unit="mΩ"),
            ), basis="Ohm's law; what lugs and fuse may add is common practice, no source",
        )  # fmt: skip

    def idle_watts(self) -> WindowFigure:
        """What the inverters take with nothing on them."""
        inverter = self.design.inverter.together
        searching = inverter.search_threshold_w > 0
        idle_w = inverter.search_w if searching else inverter.idle_w
        return around(
            idle_w, IDLE_FRAC, label="Nothing on", unit="W", formula="idle draw" if not searching else "search draw",
            terms=(Term(name="by the design", value=idle_w, unit="W"),),
            basis=f"The data sheet's figure; units differ: {COMMON_PRACTICE.lower()}", floor=2.0,
        )  # fmt: skip

    # --- chargers and supplies

    def charger_amps(self, name: str, output_w: float) -> WindowFigure:
        """Current of a charger into the bank while it is hungry."""
        soc = self.moment.soc_frac
        volts_v = self.rest_v(0.5 if soc is None else soc)
        limit_a = self.rating.charge_limit_w / self.rating.nominal_v
        middle = min(output_w / volts_v, limit_a)
        window = Window(
            middle,
            0.0 if self.soc_is_high() else (1 - CHARGER_FRAC) * output_w / self.rating.charging_v,
            (1 + CHARGER_FRAC) * middle,
        )
        return window, Figure(
            label=f"{name} into the bank", value=middle, unit="A", formula="output ÷ bank volts, within the bank's own limit",
            terms=(
                Term(name="output", value=output_w, unit="W"),
                Term(name="bank", value=volts_v, unit="V"),
                Term(name="the bank's limit", value=limit_a, unit="A"),
            ), basis=COMMON_PRACTICE,
        )  # fmt: skip

    def supply_volts(self, label: str, volts_v: float) -> WindowFigure:
        """Volts of a supply."""
        frac = SUPPLY_FRAC[self.design.practice]
        return around(
            volts_v, frac, label=label, unit="V", formula=f"nominal volts, {100 * frac:g} % either way",
            terms=(Term(name="nominal", value=volts_v, unit="V"),), basis=SUPPLY_BASIS[self.design.practice],
        )  # fmt: skip

    def own_volts(self, label: str, volts_v: float) -> WindowFigure:
        """Volts of an inverter at its own output, which it holds itself."""
        return around(
            volts_v, INVERTER_V_FRAC, label=label, unit="V", formula=f"set volts, {100 * INVERTER_V_FRAC:g} % either way",
            terms=(Term(name="set", value=volts_v, unit="V"),), basis=COMMON_PRACTICE,
        )  # fmt: skip

    def hertz_of(self, label: str, frac: float) -> WindowFigure:
        """Frequency of a supply."""
        return around(
            self.hertz, frac, label=label, unit="Hz", formula=f"nominal, {100 * frac:g} % either way",
            terms=(Term(name="nominal", value=self.hertz, unit="Hz"),), basis=COMMON_PRACTICE,
        )  # fmt: skip

    def dead_volts(self, label: str, volts_v: float) -> WindowFigure:
        """Volts of a conductor that has to be dead."""
        high = max(GHOST_FRAC * volts_v, 1.0)
        return Window(0.0, -high, high), Figure(
            label=label, value=0.0, unit="V", formula="dead; a meter that takes no current may show a few volts",
            terms=(Term(name="live it would be", value=volts_v, unit="V"),), basis=COMMON_PRACTICE,
        )  # fmt: skip

    def set_point(self, label: str, volts_v: float, low_v: float, high_v: float) -> WindowFigure:
        """A set point in volts: as the design has it, within what is usual where nobody entered it."""
        play = SET_POINT_V_PER_12 * self.blocks
        return Window(volts_v, low_v - play, high_v + play), Figure(
            label=label, value=volts_v, unit="V", formula="set points of Charging, at 25 °C",
            terms=(Term(name="for the whole bank", value=volts_v, unit="V"), Term(name="as displays round", value=play, unit="V")),
            basis=f"{COMMON_PRACTICE}; the bank's maker decides",
        )  # fmt: skip


def around(
    value: float,
    frac: float,
    *,
    label: str,
    unit: str,
    formula: str,
    terms: tuple[Term, ...],
    basis: str,
    floor: float = 0.0,
) -> WindowFigure:
    """A window of a part either way, and of no less than a floor."""
    play = max(frac * value, floor)
    figure = Figure(label=label, value=value, unit=unit, formula=formula, terms=terms, basis=basis)
    return Window(value, max(value - play, 0.0), value + play), figure
