"""Upkeep: what a design asks its keeper to look at, test and renew, how often and why."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.bank import TYPICAL, rate
from hearthkeep.core.design import Chemistry, Design, Fuel, Kind, Practice, SnowHabit
from hearthkeep.core.figure import COMMON_PRACTICE
from hearthkeep.core.sources import stage_points
from hearthkeep.core.transfer import changes_over

#: Days of a month, a quarter, half a year and a year, as intervals.
MONTH, QUARTER, HALF_YEAR, YEAR = 30, 91, 182, 365
_MAKER = f"{COMMON_PRACTICE}; the maker's manual decides"


@dataclass(frozen=True, kw_only=True, slots=True)
class Upkeep:
    """One thing to be done again and again."""

    key: str
    title: str
    #: What to do, and what must be so afterwards.
    do: str
    every_days: int
    basis: str
    #: In which month it is best done, 1 to 12; none where any will do.
    month: int | None = None


def upkeep_of(design: Design) -> tuple[Upkeep, ...]:
    """Everything that this design asks for, by its chemistry, place and parts."""
    return tuple(task for part in (_bank, _panels, _generator, _transfer, _wiring, _house) for task in part(design))


def _before_winter(design: Design) -> int:
    """The month before the dark ones."""
    return 10 if design.site.latitude_deg >= 0 else 4


def _bank(design: Design) -> Iterator[Upkeep]:
    bank, chemistry = design.bank, TYPICAL[design.bank.chemistry]
    if bank.chemistry.is_vented:
        yield Upkeep(
            key="water",
            title="Water the cells",
            do="Goggles and gloves, no flame. After a full charge top each cell up to its mark with distilled water only, and note how "
            "much each one took: a cell that takes more than its neighbours is failing.",
            every_days=MONTH,
            basis=_MAKER,
        )
        yield Upkeep(
            key="gravity",
            title="Read the cells with a hydrometer",
            do="After rest, each cell within 0.03 of the others, corrected for temperature. Write them down.",
            every_days=QUARTER,
            basis=_MAKER,
        )
    points = stage_points(design, temp_c=rate(bank).temp_c)
    if points.equalise_v is not None and points.equalise_every_days is not None:
        yield Upkeep(
            key="equalise",
            title="Equalising charge",
            do=f"At {points.equalise_v:.1f} V, watched, ventilated, sensitive loads off, until the cells stop rising together.",
            every_days=points.equalise_every_days,
            basis=_MAKER,
        )
    if bank.chemistry is Chemistry.LFP:
        do = "Charge to full once so that the gauge and the cells agree again; look at the cells' difference when full."
        yield Upkeep(
            key="full_charge", title="Charge to full, check the gauge", do=do, every_days=QUARTER, basis=_MAKER
        )
    else:
        do = "See that it has been full within the last days: lead-acid that stands part full sulphates. Rest volts after a night: note them."
        yield Upkeep(key="full_charge", title="See that the bank is full", do=do, every_days=MONTH, basis=_MAKER)
    if design.kind is Kind.PORTABLE:
        monthly = chemistry.self_discharge_month_frac
        yield Upkeep(
            key="stored",
            title="Charge the stored unit",
            do=f"Standing, it loses about {100 * monthly:.0f} % a month, and more where something stays switched on.",
            every_days=QUARTER if bank.chemistry is Chemistry.LFP else MONTH,
            basis=_MAKER,
        )
    yield Upkeep(
        key="capacity",
        title="Capacity test",
        do="From full, carry a known load down to the cut-off with everything off that charges, and write down Wh and temperature. "
        "Below 80 % of new, plan its replacement.",
        every_days=YEAR,
        basis="IEEE 1188 and 450 in our own words (from memory) for lead-acid; common practice for lithium",
    )
    if bank.heater is not None:
        do = "Before frost, see that the heater of the box comes on and warms it."
        yield Upkeep(
            key="heater", title="Try the bank's heater", do=do, every_days=YEAR, basis=COMMON_PRACTICE, month=_before_winter(design)
        )  # fmt: skip
    if bank.chemistry.is_vented or bank.ventilated:
        do = "Vents and fan free of dust, nests and snow; the fan turns and moves air outdoors."
        yield Upkeep(key="vent", title="Ventilation of the bank", do=do, every_days=HALF_YEAR, basis=COMMON_PRACTICE)


def _panels(design: Design) -> Iterator[Upkeep]:
    if not design.charging.arrays:
        return
    yield Upkeep(
        key="panels",
        title="Look at the panels",
        do="Dirt, leaves, bird droppings, cracked glass, loose clamps, chewed cable. Wash with water from the ground, early in the day.",
        every_days=HALF_YEAR,
        basis=COMMON_PRACTICE,
    )
    yield Upkeep(
        key="shade",
        title="Look for new shade",
        do="Trees grow. Note which hours are shaded now and put them into the design.",
        every_days=YEAR,
        basis=COMMON_PRACTICE,
        month=6 if design.site.latitude_deg >= 0 else 12,
    )
    if any(array.snow is SnowHabit.SWEPT for array in design.charging.arrays):
        yield Upkeep(
            key="snow",
            title="Snow rake ready",
            do="The rake for the panels stands where it is found in the dark, and reaches them from the ground. Never a roof in ice.",
            every_days=YEAR,
            basis=COMMON_PRACTICE,
            month=_before_winter(design),
        )


def _generator(design: Design) -> Iterator[Upkeep]:
    generator = design.charging.generator
    if generator is None:
        return
    yield Upkeep(
        key="generator_run",
        title="Run the generator under load",
        do="Outdoors, 6 m (20 ft) from openings, half an hour at half its rating or more. Note its hours, and whether it started at once.",
        every_days=MONTH,
        basis=_MAKER,
    )
    yield Upkeep(
        key="generator_oil",
        title="Oil, filters and plug of the generator",
        do="By its hours, and at least once a year.",
        every_days=YEAR,
        basis=_MAKER,
    )
    if generator.fuel is not Fuel.PROPANE:
        weeks = HALF_YEAR if generator.fuel is Fuel.GASOLINE else YEAR
        yield Upkeep(
            key="fuel",
            title="Turn the fuel over",
            do="Use the stored fuel up in a vehicle where it fits, and fill with fresh; stabiliser and date on each can. Store it away from "
            "the house and from flames, as local rules allow.",
            every_days=weeks,
            basis=COMMON_PRACTICE,
        )
    else:
        do = "Weigh or read the bottles; hoses and regulator with soapy water for leaks."
        yield Upkeep(key="fuel", title="Propane: how much is left", do=do, every_days=HALF_YEAR, basis=COMMON_PRACTICE)


def _transfer(design: Design) -> Iterator[Upkeep]:
    kind = design.transfer.arrangement
    if kind is None:
        return
    if changes_over(design):
        yield Upkeep(
            key="drill",
            title="Switch over, as in an outage",
            do="By the switching card, with everybody who lives here: to backup, an hour on it, and back. Note what was not as on the card.",
            every_days=HALF_YEAR,
            basis=COMMON_PRACTICE,
            month=_before_winter(design),
        )
    if design.practice is Practice.METRIC_230:
        yield Upkeep(
            key="residual_current",
            title="Test buttons of the residual-current devices",
            do="Each trips at its button and closes again. One that does not is replaced before the supply is used.",
            every_days=HALF_YEAR,
            basis="Makers' usual interval; national rules differ",
        )
    do = "Every placard and circuit label is there, can be read, and still says what is so."
    yield Upkeep(key="labels", title="Placards and labels", do=do, every_days=YEAR, basis=COMMON_PRACTICE)


def _wiring(design: Design) -> Iterator[Upkeep]:
    yield Upkeep(
        key="joints",
        title="Joints and lugs",
        do="All sources off and locked. Look for discolour and smell; tighten to the maker's torque. Under load, feel or photograph for heat "
        "from outside: the hot one is loose. On the house side this is an electrician's work.",
        every_days=YEAR,
        basis=_MAKER,
    )
    if design.inverter.rated_w > 0:
        do = "Dust out of inlets and fans, the fan heard under load, nothing stored against it."
        yield Upkeep(key="air", title="Air of inverter and chargers", do=do, every_days=HALF_YEAR, basis=_MAKER)
    if design.wiring.surge_ac or design.wiring.surge_dc:
        do = "The windows of the surge protectors are green; after a near strike at once."
        yield Upkeep(key="surge", title="Surge protectors", do=do, every_days=HALF_YEAR, basis=_MAKER)


def _house(design: Design) -> Iterator[Upkeep]:
    yield Upkeep(
        key="alarms",
        title="Smoke and carbon-monoxide alarms",
        do="Each sounds at its button; batteries and date.",
        every_days=MONTH,
        basis="Makers' usual interval; local rules decide",
    )
    do = "The family's sheet is still true: loads, numbers to call, who has the key. Print it anew where it is not."
    yield Upkeep(
        key="family_sheet", title="Read the family's sheet", do=do, every_days=HALF_YEAR, basis=COMMON_PRACTICE
    )
    if any(load.tier.value == "life" for load in design.loads):
        yield Upkeep(
            key="medical",
            title="Equipment somebody depends on",
            do="Supplier's backup plan"
            + ("" if design.site.off_grid else " and the utility's register of such households")
            + ": still current? Spare batteries of its own charged?",
            every_days=HALF_YEAR,
            basis="Public safety guidance (from memory); the supplier's instructions decide",
        )
