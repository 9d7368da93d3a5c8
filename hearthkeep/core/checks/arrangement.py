"""Findings about how the bank is put together: limits, sharing, mixing, taps, size, life."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import TYPICAL, sharing_of
from hearthkeep.core.checks.finding import (
    COMMON_PRACTICE,
    Change,
    Evidence,
    Finding,
    Remedy,
    Severity,
    Step,
    with_strings,
)
from hearthkeep.core.design import Chemistry, Kind, Place, TakeOff
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.practice import degrees
from hearthkeep.core.words import counted, percent

#: A string that carries this much more than its part is worth a word, and more than this is to be mended.
UNEVEN_MIND, UNEVEN_MEND = 1.05, 1.25
#: Shares nearer to even than this are called so.
EVEN_ENOUGH_FRAC = 0.02
#: Newer units beside older ones: how many years still pass, lead-acid and LFP. Common practice, no source.
AGE_GAP_YEARS = {True: 0.5, False: 3.0}
SHORT_LIFE_YEARS = 5.0
#: Codes of what is said about units beside the bank: alike, not to be mixed, and more than may stand side by side.
ALIKE_CODE = "ADDITION_FITS"
MIXED_CODES = frozenset({"MIXED_CHEMISTRY", "MIXED_VOLTAGE", "MIXED_SIZE", "MIXED_AGE"})
TOO_MANY_CODES = frozenset({"OVER_PARALLEL_LIMIT", "MANY_PARALLEL"})
#: Charge left after eleven months below which a waiting unit needs a charger, as a part of full.
STORAGE_LEFT_FRAC = 0.6
#: Imbalance at which a tapped string is ruined, as a part of a unit's capacity. Our assumption.
TAP_RUIN_FRAC = 0.2


def maker_limits(evidence: Evidence) -> Iterator[Finding]:
    """More in series or in parallel than the maker allows."""
    bank = evidence.design.bank
    if bank.unit is None:
        return
    for field, word, limit in (
        ("series", "in series", bank.unit.max_series),
        ("parallel", "in parallel", bank.unit.max_parallel),
    ):
        count = getattr(bank, field)
        if limit is None or count <= limit:
            continue
        yield Finding(
            code="OVER_SERIES_LIMIT" if field == "series" else "OVER_PARALLEL_LIMIT",
            # A board that opens in a longer string has the whole string's volts across it, and fails closed.
            severity=Severity.STOP if field == "series" else Severity.MEND,
            step=Step.BANK,
            title=f"{count} {word}, {limit} allowed",
            message=f"The maker of {bank.unit.name} allows {limit} {word}. "
            + (
                f"A protection board that opens in a string of {count} has the whole string's volts across it, more than its switches bear."
                if field == "series"
                else "Beyond it protection boards and balance are outside what was tested."
            ),
            basis="The unit's data sheet",
            # Fewer in series are another system voltage, with another inverter: a person decides.
            remedy=None
            if field == "series"
            else Remedy(label=f"Try {limit} {word}", changes=(Change(path=f"bank.{field}", value=limit),)),
        )


def uneven_sharing(evidence: Evidence) -> Iterator[Finding]:
    """One string works harder than the others."""
    bank, sharing = evidence.design.bank, evidence.arrangement.sharing
    if sharing.worst_ratio <= UNEVEN_MIND:
        return
    # Leads at opposite ends cost nothing; bus bars always even it out.
    crossed = sharing_of(bank.model_copy(update={"takeoff": TakeOff.OPPOSITE_ENDS})).worst_ratio
    better = TakeOff.OPPOSITE_ENDS if crossed <= UNEVEN_MIND else TakeOff.EQUAL_LEADS
    least = min(sharing.share_frac)
    yield Finding(
        code="UNEVEN_SHARING",
        severity=Severity.MEND
        if sharing.worst_ratio > UNEVEN_MEND and not _evens_out_soon(evidence)
        else Severity.MIND,
        step=Step.BANK,
        title=f"One string carries {percent(sharing.worst_ratio - 1)} more than its part",
        message=f"In the first minute shares run from {percent(max(sharing.share_frac))} to {percent(least)}; even would be "
        f"{percent(1 / bank.parallel)}.{_evens_out(evidence)} The bank's limit is that string's: "
        f"{evidence.rating.discharge_limit_a:.0f} A.",
        basis="Kirchhoff's laws on the ladder of strings and links",
        remedy=Remedy(
            label="Try leads at opposite ends" if better is TakeOff.OPPOSITE_ENDS else "Try equal leads to bus bars",
            changes=(Change(path="bank.takeoff", value=better.value),),
        ),
        figure=Figure(
            label="Largest share over an even one",
            value=sharing.worst_ratio,
            unit="",
            formula="nodal analysis: strings of equal voltage behind their resistance, links between them",
            terms=(
                Term(name="one string", value=sharing.string_mohm, unit="mΩ"),
                Term(name="one link", value=sharing.link_mohm, unit="mΩ"),
                *(
                    Term(name=f"string {number}", value=100 * share, unit="%")
                    for number, share in enumerate(sharing.share_frac[:8], start=1)
                ),
            ),
            basis="Equal strings; typical resistance is common practice where the data sheet gives none",
        ),
    )


def _evens_out_soon(evidence: Evidence) -> bool:
    """Whether no string gives noticeably more than the others over a whole discharge."""
    evening = evidence.arrangement.evening
    return evening is not None and evening.of_all_ratio <= UNEVEN_MIND


def _evens_out(evidence: Evidence) -> str:
    """How the shares come together while the harder-worked string sinks."""
    evening = evidence.arrangement.evening
    if evening is None:
        return ""
    half_way, of_all = evening.half_way_ratio - 1, evening.of_all_ratio - 1
    if max(half_way, of_all) < EVEN_ENOUGH_FRAC:
        return (
            f" As that string sinks below the others they take over: at the average draw of {evening.current_a:.0f} A the shares are "
            "even long before half way down, and it gives hardly more than the others in all."
        )
    return (
        f" As that string sinks below the others they take over: at the average draw of {evening.current_a:.0f} A it carries "
        f"{percent(half_way)} more than its part half way down, and gives {percent(of_all)} more ampere-hours in all, so that it ages first."
    )


def mixed_units(evidence: Evidence) -> Iterator[Finding]:
    """Unlike units side by side are refused, with the reason."""
    bank, added = evidence.design.bank, evidence.design.bank.addition
    if added is None:
        return
    remedy = Remedy(label="Leave the addition out", changes=(Change(path="bank.addition", value=None),))
    lead = TYPICAL[bank.chemistry].is_lead_acid
    if added.chemistry is not bank.chemistry:
        code, severity, title = "MIXED_CHEMISTRY", Severity.STOP, "Two chemistries side by side"
        message = (
            f"{_first_up(TYPICAL[added.chemistry].label)} beside {TYPICAL[bank.chemistry].label}: their voltages differ at every "
            "charge, so one charges and discharges the other without end, and no charger suits both. It can burn. Not counted."
        )
    elif abs(added.unit_v * bank.series - bank.nominal_v) > 0.01 * bank.nominal_v:
        code, severity, title = "MIXED_VOLTAGE", Severity.STOP, "Two voltages side by side"
        message = (
            f"{added.unit_v:g} V units in series of {bank.series} make {added.unit_v * bank.series:g} V beside {bank.nominal_v:g} V: "
            "the higher drives hundreds of amps into the lower. Not counted."
        )
    elif abs(added.unit_ah - bank.unit_ah) > 0.05 * bank.unit_ah:
        code, severity, title = "MIXED_SIZE", Severity.MEND, "Two sizes side by side"
        message = (
            f"{added.unit_ah:g} Ah beside {bank.unit_ah:g} Ah: their resistances differ, so the smaller takes more than its "
            "part, is emptied first and ages first. Not counted. A second bank with its own charger and switch is the usual way."
        )
    elif added.years_newer > AGE_GAP_YEARS[lead]:
        code, severity, title = "MIXED_AGE", Severity.MEND, f"{added.years_newer:g} years between them"
        message = (
            "Old units have a higher resistance and less capacity: the new ones carry the load and are pulled down to the age of the "
            f"old. {'Lead-acid is best bought in one lot' if lead else 'Up to three years pass for LFP'}. Not counted."
        )
    else:
        yield Finding(
            code=ALIKE_CODE,
            severity=Severity.GOOD,
            step=Step.BANK,
            title="The addition is alike",
            message=f"Same chemistry, volts and Ah, {added.years_newer:g} years newer: bring all to full and rest them before joining, "
            f"then count {bank.parallel + added.parallel} in parallel.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(
                label=f"Count {bank.parallel + added.parallel} in parallel",
                changes=(
                    Change(path="bank.parallel", value=min(bank.parallel + added.parallel, 64)),
                    Change(path="bank.addition", value=None),
                ),
            ),
        )
        return
    yield Finding(
        code=code, severity=severity, step=Step.BANK, title=title, message=message, basis=COMMON_PRACTICE, remedy=remedy
    )


def _first_up(label: str) -> str:
    return label[:1].upper() + label[1:]


def tapped_string(evidence: Evidence) -> Iterator[Finding]:
    """A load hung on part of a series string."""
    bank, tap = evidence.design.bank, evidence.design.bank.tap
    if tap is None or tap.units >= bank.series:
        return
    daily_ah = tap.current_a * tap.hours_per_day / bank.parallel
    days = TAP_RUIN_FRAC * bank.unit_ah / daily_ah
    yield Finding(
        code="TAPPED_STRING",
        severity=Severity.STOP,
        step=Step.BANK,
        title=f"A tap at {tap.units} of {bank.series} units",
        message=f"The tapped units give {daily_ah:.1f} Ah a day more than the others of their string. The charger sees only the sum: after "
        f"{'less than a day' if days < 1 else counted(round(days), 'day')} they are {percent(TAP_RUIN_FRAC)} behind, never full again, while the others are overcharged and gas. "
        "Feed the load through a converter from the whole string.",
        basis="All units of a string carry the same charging current; the limit of 20 % is our assumption",
        remedy=Remedy(label="Take the tap off", changes=(Change(path="bank.tap", value=None),)),
        figure=Figure(
            label="Days until the string is ruined",
            value=days,
            unit="days",
            formula="20 % of a unit's Ah ÷ (tap A × h a day ÷ strings)",
            terms=(
                Term(name="unit", value=bank.unit_ah, unit="Ah"),
                Term(name="tap", value=tap.current_a, unit="A"),
                Term(name="a day", value=tap.hours_per_day, unit="h"),
                Term(name="strings", value=bank.parallel, unit=""),
            ),
            basis=PHYSICS,
        ),
    )


def smaller_than_the_need(evidence: Evidence) -> Iterator[Finding]:
    """The sheet asks for more strings than there are."""
    need, bank = evidence.arrangement.need, evidence.design.bank
    if not evidence.design.loads or need.strings_needed == need.strings_there:
        return
    binding = next(entry for entry in need.strings if entry.key == need.binding)
    if need.strings_needed > need.strings_there:
        yield Finding(
            code="BELOW_NEED",
            severity=Severity.MIND,
            step=Step.BANK,
            title=f"The sheet asks for {need.strings_needed} in parallel, "
            f"{need.strings_there} {'is' if need.strings_there == 1 else 'are'} there",
            message=f"{binding.label} binds: {binding.asked:,.0f} {binding.unit} against {binding.per_string:,.0f} {binding.unit} a string. "
            f"The sheet bridges {bank.need.autonomy_h:g} h without sun at the end of the bank's life.",
            basis="The sheet from need to bank, line by line on this page",
            remedy=with_strings(bank, binding.strings, binding.takeoff),
        )


def short_life(evidence: Evidence) -> Iterator[Finding]:
    """Cycles eat the bank up soon."""
    life, bank = evidence.arrangement.life, evidence.design.bank
    if life.by_calendar or life.years >= SHORT_LIFE_YEARS:
        return
    yield Finding(
        code="SHORT_LIFE",
        severity=Severity.MIND,
        step=Step.BANK,
        title=f"{life.years:.1f} years at this use",
        message=f"{life.cycles:,.0f} cycles at {percent(evidence.rating.depth_frac)} depth, {life.cycles_per_year:g} a year. A shallower depth, a "
        "larger bank, or LFP lasts longer; the table of chemistries shows each.",
        basis="Cycles between the data sheet's points, straight on log-log paper; typical points are common practice",
        remedy=None
        if bank.chemistry is Chemistry.LFP
        else Remedy(
            label="Try LFP at 80 %",
            changes=(
                Change(path="bank.chemistry", value="lfp"),
                Change(path="bank.depth_frac", value=0.8),
                Change(path="bank.cutoff_soc_frac", value=min(bank.cutoff_soc_frac, 0.2)),
                Change(path="bank.unit", value=None),
            ),
        ),
    )


def heater_too_weak(evidence: Evidence) -> Iterator[Finding]:
    """A heater that does not reach the temperature at which the bank may be charged."""
    bank, heater = evidence.design.bank, evidence.design.bank.heater
    lowest_c = TYPICAL[bank.chemistry].charge_min_c
    if heater is None or evidence.rating.temp_c >= min(heater.target_c, lowest_c):
        return
    needed_w = round((heater.target_c - bank.temp_c) * heater.loss_w_per_c + 0.5)
    yield Finding(
        code="HEATER_TOO_WEAK",
        severity=Severity.MEND,
        step=Step.BANK,
        title="The heater does not reach",
        message=f"{heater.power_w:g} W hold the cells at {degrees(evidence.design, round(evidence.rating.temp_c, 1))}; "
        f"{degrees(evidence.design, heater.target_c)} needs {needed_w} W in this box. More insulation needs less.",
        basis="Heat loss of the box x temperature difference",
        remedy=Remedy(
            label=f"Try {needed_w} W", changes=(Change(path="bank.heater.power_w", value=float(min(needed_w, 2000))),)
        ),
    )


def waits_in_storage(evidence: Evidence) -> Iterator[Finding]:
    """A portable unit waits most of the year."""
    left = evidence.arrangement.life.left_after_storage_frac
    if evidence.design.kind is Kind.PORTABLE and left < STORAGE_LEFT_FRAC:
        yield Finding(
            code="EMPTY_IN_STORAGE",
            severity=Severity.MIND,
            step=Step.BANK,
            title=f"After eleven months {percent(left)} is left",
            message="A unit that waits in a cupboard loses its charge by itself, and lead-acid that stands half empty turns to sulphate. "
            "Charge it every three months, or keep a float charger on it; nothing in the design itself changes that.",
            basis="Loss of each month x what is left; typical losses are common practice",
        )


def fire_separation(evidence: Evidence) -> Iterator[Finding]:
    """Lithium where people sleep: local code has something to say."""
    bank = evidence.design.bank
    if bank.chemistry is Chemistry.LFP and bank.place is Place.LIVING_SPACE and bank.rated_wh > 1_000:
        yield Finding(
            code="FIRE_SEPARATION",
            severity=Severity.MIND,
            step=Step.BANK,
            title="Storage in living space",
            message=f"{bank.rated_wh / 1000:.1f} kWh stand where people live. Many codes forbid storage in bedrooms and limit it elsewhere, and "
            "ask for clearances, detectors and a listed unit. Keep ways out free, and ask the local authority.",
            basis="Residential storage rules in our own words, from memory; the adopted local code and the listing decide",
            remedy=Remedy(label="Try the utility room", changes=(Change(path="bank.place", value="utility_room"),)),
        )


CHECKS = (
    maker_limits,
    uneven_sharing,
    mixed_units,
    tapped_string,
    smaller_than_the_need,
    short_life,
    heater_too_weak,
    waits_in_storage,
    fire_separation,
)
