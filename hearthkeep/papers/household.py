"""What the people in the house are told, in sentences: for the family's sheet, its card and the switching steps on the wall."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.design import Design, Kind, Load, Tier
from hearthkeep.core.outage import usual_audit
from hearthkeep.core.practice import distance_short, volume_text
from hearthkeep.core.switching import Way, WayKind
from hearthkeep.core.transfer import CORDS, Fate, fates_of, is_coupled, live_on_generator
from hearthkeep.core.words import Sentence, counted_sentence, hours, percent, sentence
from hearthkeep.papers.source import PaperSource
from hearthkeep.papers.words import hour_spans

#: What takes a supply of this size down, or empties it, by the word that names it in an audit. Common practice, no source.
GREEDY = {
    "heater": sentence("heaters"),
    "kettle": sentence("kettles"),
    "hair dryer": sentence("hair dryers"),
    "iron": sentence("irons"),
}
ALL_DAY = ((0, 24),)
#: Ways of switching that stand on the family's sheet, where the design has them.
FAMILY_WAYS = (WayKind.TO_BACKUP, WayKind.TO_GRID, WayKind.DANGER)
#: And on its back, or at its end.
BACK_WAYS = (WayKind.SERVICE, WayKind.START)


@dataclass(frozen=True, kw_only=True, slots=True)
class Group:
    """Loads of one tier, as somebody in the house knows them."""

    title: Sentence
    meaning: Sentence
    #: Each by its name, how many, and its hours.
    names: tuple[Sentence, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Household:
    """All that the household is told."""

    title: Sentence
    how_long: Sentence
    stays_on: tuple[Group, ...]
    #: Not to be plugged in or switched on: by name, and what nobody audited but many have.
    stays_off: tuple[str, ...]
    anything_else: Sentence
    ways: tuple[Way, ...]
    #: Everything off and on again.
    back: tuple[Way, ...]
    #: The three that matter, in the fewest words; each of one or more sentences.
    steps: tuple[tuple[Sentence, ...], ...]
    #: Empty without a generator.
    generator: tuple[Sentence, ...]
    cautions: tuple[Sentence, ...]


def household_of(source: PaperSource) -> Household:
    """What the household is told of a design."""
    off = stays_off(source)
    return Household(
        title=title_of(source.design),
        how_long=_how_long(source),
        stays_on=_stays_on(source),
        stays_off=off,
        anything_else=sentence("and anything else that is not named here.")
        if off
        else sentence("Anything that is not named here."),
        ways=_ways(source, FAMILY_WAYS),
        back=_ways(source, BACK_WAYS),
        steps=_steps(source),
        generator=tuple(_generator(source.design)),
        cautions=tuple(cautions(source.design)),
    )


def title_of(design: Design) -> Sentence:
    """What the sheet is for."""
    if not design.site.off_grid:
        return sentence("When the power goes out")
    if design.kind is Kind.PORTABLE:
        return sentence("Living on what the unit makes")
    return sentence("Living on what the house makes")


def _how_long(source: PaperSource) -> Sentence:
    outage, alone = source.assessment.outage, source.design.site.off_grid
    lasts, carried = hours(outage.duration_h), hours(outage.hours_carried_h)
    if not outage.is_asked:
        return sentence("Nothing to be kept on has been entered yet.")
    if outage.carried_to_the_end:
        if alone:
            return sentence(
                "What is always on, and what is on, lasts through the planned dark spell of {hours}.", hours=lasts
            )
        return sentence("What is always on, and what is on, lasts through the planned storm of {hours}.", hours=lasts)
    if alone:
        return sentence(
            "What is always on, and what is on, lasts about {carried} of the planned dark spell of {hours}. Save from the first hour.",
            carried=carried, hours=lasts,
        )  # fmt: skip
    return sentence(
        "What is always on, and what is on, lasts about {carried} of the planned storm of {hours}. Save from the first hour.",
        carried=carried, hours=lasts,
    )  # fmt: skip


# --- what may be plugged in: one list


def _carried(source: PaperSource) -> dict[str, Tier]:
    """Loads that are carried and fit, by id, with the tier in which they run."""
    fates = {fate.id: fate.fate for fate in source.assessment.transfer.loads}
    tiers = {row.id: Tier(row.lived_tier) for row in source.assessment.loads.rows}
    too_much = overloads(source.design)
    found = {
        load.id: tiers.get(load.id, load.tier)
        for load in source.design.loads
        if fates.get(load.id, Fate.CARRIED) is Fate.CARRIED and load.id not in too_much
    }
    # Where nothing gives more than is needed, what waits for that stays off.
    has_sun = any(each.arrays for each in source.design.charging.controllers) or is_coupled(source.design)
    return found if has_sun else {key: tier for key, tier in found.items() if tier is not Tier.SPARE}


def overloads(design: Design) -> frozenset[str]:
    """Loads that take the inverter down at their use: alone, or with what every tier above theirs draws in that hour on the mean."""
    inverter = design.inverter.together
    if inverter.rated_w <= 0:
        return frozenset()
    left_out = fates_of(design).left_out
    carried = design.model_copy(update={"loads": tuple(each for each in design.loads if each.id not in left_out)})
    table, order = usual_audit(carried).table, list(Tier)
    found = set()
    for load in design.loads:
        if not load.supply.is_ac:
            continue
        above_w = table.ac_w[:, : order.index(load.tier)].sum(axis=1)
        beside_w = max((above_w[hour] for hour, is_on in enumerate(load.on_by_hour) if is_on), default=0.0)
        running_w = load.quantity * load.running_w + beside_w
        start_w = max(load.start_w or 0.0, load.running_w) + beside_w
        if running_w > inverter.rated_w + 1e-6 or start_w > inverter.surge_w + 1e-6:
            found.add(load.id)
    return frozenset(found)


def _stays_on(source: PaperSource) -> tuple[Group, ...]:
    """What is carried, in the order in which it is given up."""
    carried, levels = _carried(source), source.assessment.levels
    meanings = {
        Tier.LIFE: (sentence("Always on"), sentence("as long as anything is left")),
        Tier.KEEP: (
            sentence("On"),
            sentence("until the battery is down to {level}", level=percent(levels.keep_frac)),
        ),
        Tier.EASE: (
            sentence("On while there is plenty"),
            sentence("off below {level}", level=percent(levels.ease_frac)),
        ),
        Tier.SPARE: (sentence("Only when the sun gives more than is needed"), sentence("else leave it off")),
    }
    found = []
    for tier in Tier:
        loads = [load for load in source.design.loads if carried.get(load.id) is tier]
        if loads:
            title, meaning = meanings[tier]
            found.append(Group(title=title, meaning=meaning, names=tuple(map(_named, loads))))
    return tuple(found)


def _named(load: Load) -> Sentence:
    """A load by its name, how many there are, and its hours where it is not on all day."""
    when = "" if load.hours == ALL_DAY else hour_spans(load.hours)
    if load.quantity > 1 and when:
        return counted_sentence(
            "{name}, {number} of it ({when} h)",
            "{name}, {number} of them ({when} h)",
            load.quantity,
            name=load.name,
            when=when,
        )
    if load.quantity > 1:
        return counted_sentence("{name}, {number} of it", "{name}, {number} of them", load.quantity, name=load.name)
    return sentence("{name} ({when} h)", name=load.name, when=when) if when else sentence("{name}", name=load.name)


def stays_off(source: PaperSource) -> tuple[str, ...]:
    """What gets nothing or would take the supply down, by name; and what many a house has besides."""
    design, found, carried = source.design, source.assessment.transfer, _carried(source)
    on = {load.name for load in design.loads if load.id in carried}
    loads = [load.name for load in design.loads if load.id not in carried]
    names = {circuit.id: circuit.name for circuit in design.transfer.circuits}
    circuits = [names[state.id] for state in found.circuits if state.fate is not Fate.CARRIED]
    if design.transfer.arrangement in CORDS:
        circuits = []
    # Of direct current alone nothing of the kind can be plugged in.
    greedy = [said for word, said in GREEDY.items() if not _is_named(word, on)] if design.inverter.rated_w > 0 else []
    more = live_on_generator(design)
    by_generator = (
        set() if more is None else {load.name for load in more.loads} | {names[each.id] for each in more.circuits}
    )
    return tuple(
        sentence("{name} (only while the generator runs)", name=name) if name in by_generator else name
        for name in dict.fromkeys((*loads, *circuits, *greedy))
        if name not in on
    )


def _is_named(word: str, names: set[str]) -> bool:
    return any(re.search(rf"\b{word}s?\b", name, re.IGNORECASE) for name in names)


# --- what to do


def _ways(source: PaperSource, kinds: tuple[WayKind, ...]) -> tuple[Way, ...]:
    card = source.assessment.switching
    return tuple(found for kind in kinds if (found := card.find(kind)) is not None)


def _steps(source: PaperSource) -> tuple[tuple[Sentence, ...], ...]:
    """The three that matter: the supply, what draws on it, and what to look at."""
    design, levels = source.design, source.assessment.levels
    first = [sentence("Look at the charge in the morning and in the evening, and write it down.")]
    over = source.assessment.switching.find(WayKind.TO_BACKUP)
    if over is not None:
        begin, rest = over.steps[0].do, len(over.steps) - 1
        first = [begin if isinstance(begin, Sentence) else Sentence(begin)]
        if rest:
            first.append(
                counted_sentence(
                    "Then the other step on the sheet by the switch.",
                    "Then the other {number} steps on the sheet by the switch.",
                    rest,
                )
            )
    elif not design.site.off_grid:
        first = [sentence("Switch nothing over: the supply is there by itself.")]
    generator = design.charging.generator
    if generator is not None and generator.by_hand:
        last = sentence(
            "At {start} start the generator, outdoors, and stop it at {stop}.",
            start=percent(generator.start_soc_frac), stop=percent(generator.stop_soc_frac),
        )  # fmt: skip
    else:
        last = sentence(
            "Below {ease} turn off what is on only while there is plenty; below {keep} everything but what is always on.",
            ease=percent(levels.ease_frac), keep=percent(levels.keep_frac),
        )  # fmt: skip
    return tuple(first), (sentence("Turn off everything that is not named here."),), (last,)


def _generator(design: Design) -> Iterator[Sentence]:
    generator = design.charging.generator
    if generator is None:
        return
    start, stop = percent(generator.start_soc_frac), percent(generator.stop_soc_frac)
    if generator.by_hand:
        yield sentence("Start it when the battery is down to {start}; stop it at {stop}.", start=start, stop=stop)
    else:
        yield sentence("It starts by itself at {start} and stops at {stop}.", start=start, stop=stop)
    if generator.quiet_hours:
        yield sentence("Quiet from {when} h.", when=hour_spans(generator.quiet_hours))
    yield sentence(
        "Fuel on hand: {fuel} of {kind}.", fuel=volume_text(design, generator.stock_l), kind=FUELS[generator.fuel.value]
    )
    yield sentence("Outdoors only. Never refuel it hot or running.")


FUELS = {"gasoline": sentence("gasoline"), "diesel": sentence("diesel"), "propane": sentence("propane")}


def cautions(design: Design) -> Iterator[Sentence]:
    """The dangers of this design for whoever lives with it."""
    if not design.site.off_grid and (design.inverter.rated_w > 0 or design.charging.generator is not None):
        yield sentence(
            "Never a cord from this supply into an outlet of the house: it can kill somebody working on the line."
        )
    if design.charging.generator is not None:
        far = distance_short(design, 6.0)
        yield sentence("A generator outdoors only, {far} from doors and windows: its exhaust kills.", far=far)
    if design.site.off_grid:
        yield sentence("Not a medical device: whoever depends on a machine needs its supplier's own plan.")
    else:
        yield sentence(
            "Not a medical device: whoever depends on a machine needs the supplier's and the utility's own plan."
        )
