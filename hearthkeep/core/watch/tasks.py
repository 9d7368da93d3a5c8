"""Lists with times: what to do before a storm that is foretold, and after one that is over."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta

from hearthkeep.core.bank import charged_frac, hours_to_full
from hearthkeep.core.figure import COMMON_PRACTICE
from hearthkeep.core.foresight import (
    SAME_H,
    Choices,
    Stretch,
    worth_of,
)
from hearthkeep.core.outage import hours_back_to_full
from hearthkeep.core.practice import volume_text
from hearthkeep.core.watch.live import Phase
from hearthkeep.core.watch.stand import Stand
from hearthkeep.core.words import hours, percent

#: Ice in bottles needs about so long to freeze through [h]. Common practice, no source.
FREEZE_H = 24.0
#: So long before it is expected the small things are charged, and the generator has been tried [h]. Our assumption.
SMALL_THINGS_H, TRIED_H = 2.0, 4.0
#: Less fuel than this is not worth the words [L].
LEAST_SAVED_L = 0.05
#: From this charge on it counts as full.
FULL_FRAC = 0.99


@dataclass(frozen=True, kw_only=True, slots=True)
class WatchTask:
    """One task of a list; moments are local standard time."""

    #: As a decision about it is written into the log.
    key: str
    title: str
    detail: str
    by: datetime
    is_done: bool
    is_late: bool
    basis: str


def tasks_of(stand: Stand, read_frac: float | None) -> tuple[WatchTask, ...]:
    """
    What to do before or after, the first due first.

    :param read_frac: charge as it was read now; none where nothing was read.
    """
    if stand.live.phase is Phase.BEFORE:
        return tuple(sorted(_before(stand, read_frac), key=lambda task: task.by))
    if stand.live.phase is Phase.AFTER:
        return tuple(sorted(_after(stand), key=lambda task: task.by))
    return ()


def _task(stand: Stand, key: str, title: str, detail: str, by: datetime, basis: str = COMMON_PRACTICE) -> WatchTask:
    done = any(decision.key == key and decision.is_done for _, decision in stand.live.decisions)
    by = by.replace(second=0, microsecond=0)
    return WatchTask(
        key=key, title=title, detail=detail, by=by, is_done=done, is_late=not done and by < stand.now, basis=basis
    )


def _before(stand: Stand, read_frac: float | None) -> Iterator[WatchTask]:
    design, rating, start = stand.prepared.design, stand.prepared.rating, stand.start
    left_h = (start - stand.now).total_seconds() / 3600
    charger_w = design.charging.grid_charger.output_w
    now_frac = stand.state.stored_wh / rating.capacity_wh if read_frac is None else read_frac
    needed_h = hours_to_full(rating, charger_w=charger_w, from_frac=now_frac)
    if now_frac < FULL_FRAC and needed_h is not None:
        reached = charged_frac(rating, charger_w=charger_w, from_frac=now_frac, hours_h=left_h)
        gets_there = (
            f"Full takes {hours(needed_h)}, and {hours(left_h)} are left: it gets there."
            if needed_h <= left_h
            else f"Full would take {hours(needed_h)}, and {hours(left_h)} are left: it gets to {percent(reached)}."
        )
        yield _task(
            stand, "before:fill", f"Fill the bank from the grid, now, from {percent(now_frac)}",
            f"{gets_there} {_worth_of_filling(stand, now_frac, reached)}".rstrip(),
            max(start - timedelta(hours=needed_h), stand.now) if needed_h <= left_h else stand.now,
            basis="The law of acceptance, and the outage's model run from both charges",
        )  # fmt: skip
    elif needed_h is None and now_frac < FULL_FRAC:
        yield _task(
            stand, "before:fill", "Fill the bank as far as the sun does",
            "The design has no charger from the grid: leave off what can wait until it is full.", stand.now,
        )  # fmt: skip
    generator = design.charging.generator
    if generator is not None:
        yield _task(
            stand, "before:generator", "Run the generator for a quarter of an hour under load",
            "Outdoors, well away from doors and windows; try the alarm for carbon monoxide as well. What will not start is mended "
            "now or not at all.", start - timedelta(hours=TRIED_H),
        )  # fmt: skip
        burn_l_per_h = stand.prepared.plant.generator.idle_l_per_h + stand.prepared.plant.generator.l_per_kwh * (
            generator.charger_w / generator.charger_efficiency_frac / 1000
        )
        lasts_h = stand.state.genset.fuel_l / burn_l_per_h if burn_l_per_h > 0 else 0.0
        yield _task(
            stand, "before:fuel", f"Count the fuel: {volume_text(design, stand.state.genset.fuel_l)} by the design",
            f"Charging without a pause that is {hours(lasts_h)}. Write down what there is, and fetch what is missing while shops "
            "and roads are open.", start - timedelta(hours=TRIED_H),
        )  # fmt: skip
    yield _task(
        stand, "before:ice", "Freeze water in bottles and set fridge and freezer to their coldest",
        "Frozen through they keep both cold for hours without a watt; it takes about a day.",
        max(start - timedelta(hours=FREEZE_H), stand.now),
    )  # fmt: skip
    yield _task(
        stand, "before:small", "Charge telephones, lamps and everything else with a battery of its own",
        "From the grid, while it is there: later each of them draws on the bank.", start - timedelta(hours=SMALL_THINGS_H),
    )  # fmt: skip
    yield _task(
        stand, "before:family", "Hang up the family's sheet and go through it together",
        "What stays on, what stays off, and whom to call; it is among the papers.", start - timedelta(hours=SMALL_THINGS_H),
    )  # fmt: skip


def _worth_of_filling(stand: Stand, from_frac: float, to_frac: float) -> str:
    """What the charge between two states at the beginning is worth, in hours or in fuel."""
    course, capacity_wh = stand.course, stand.prepared.rating.capacity_wh
    low, high = (
        worth_of(
            course,
            course.first()._replace(stored_wh=part * capacity_wh),
            0.0,
            (Stretch(0.0, Choices()),),
            course.end_h,
        )
        for part in (from_frac, to_frac)
    )
    if high.keep_h - low.keep_h > SAME_H:
        return f"That is worth {hours(high.keep_h - low.keep_h)} of Life and Keep."
    saved_l = high.fuel_left_l - low.fuel_left_l
    return f"That saves {volume_text(stand.prepared.design, saved_l)} of fuel." if saved_l > LEAST_SAVED_L else ""


def _after(stand: Stand) -> Iterator[WatchTask]:
    ended = stand.live.ended or stand.now
    back_h = hours_back_to_full(stand.prepared, stored_wh=stand.state.stored_wh)
    if back_h is None or back_h > 0:
        told = "longer than three days: look at charger and sun" if back_h is None else f"about {hours(back_h)}"
        yield _task(
            stand, "after:full", "Let the bank come back to full and look at it there",
            f"By charger and sun that takes {told}. Cross-read the instruments once it is full.",
            stand.now + timedelta(hours=back_h or 72.0), basis="The outage's model after the grid's return",
        )  # fmt: skip
    yield _task(
        stand, "after:back", "Bring the transfer back as its order says, and turn on again what was off",
        "One circuit after the other; the order of switching is among the papers.", ended + timedelta(hours=1),
    )  # fmt: skip
    if stand.prepared.design.charging.generator is not None:
        yield _task(
            stand, "after:generator", "Let the generator cool, look at its oil, and fill the stock again",
            "The next storm does not wait for the shop.", ended + timedelta(hours=48),
        )  # fmt: skip
    yield _task(
        stand, "after:learned", "Write the outage into the log and live it again beside the plan",
        "Logbook, Outages: where the plan and the house differed is what the next storm is planned with.",
        ended + timedelta(hours=48),
    )  # fmt: skip
