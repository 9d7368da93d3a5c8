"""What a recorded run adds up as it goes, as plain numbers: energy totals, the book of a step, what goes unserved, marks.

Arrays handed to these helpers would be counted in and out each time, which costs more than the sums; so they get numbers.
"""

from __future__ import annotations

from typing import NamedTuple

from hearthkeep.core.compiled import inner
from hearthkeep.core.inverter.draws import SHORT_FROM_W
from hearthkeep.core.outage.kernel.values import KEEP

#: Having been full, the bank has to fall below this part of full before it can be full anew.
WELL_BELOW_FULL = 0.995


class Totals(NamedTuple):
    """Energy totals of a run [Wh], in the order of the rows of Run.totals_wh."""

    sun_wh: float
    clipped_wh: float
    served_wh: float
    inverter_loss_wh: float
    charge_loss_wh: float
    wiring_loss_wh: float
    unused_wh: float
    generator_wh: float
    other_wh: float
    coupled_served_wh: float
    coupled_stored_wh: float


class Tiers(NamedTuple):
    """One number a tier."""

    life: float
    keep: float
    ease: float
    spare: float


class Book(NamedTuple):
    """The book of one step: loads served by tier [W], spilled [W], generator [W], dark [h]."""

    served: Tiers
    spilled_w: float
    generator_w: float
    dark_h: float


class Unserved(NamedTuple):
    """What is asked and not served, by tier: energy [Wh] and for how long [h]."""

    energy_wh: Tiers
    time_h: Tiers


class Service(NamedTuple):
    """What a row of the table of draws says of the loads: served, lost, short, dark; powers [W]."""

    load_w: float
    conversion_w: float
    wiring_w: float
    served_w: Tiers
    #: The first tier that does not fit, counted from 1, and why not.
    blocked: int
    cause: int
    #: The one of Life and Keep that is dark, -1 for neither.
    dark_tier: int


class Marks(NamedTuple):
    """What has been noted so far; moments [h] are -1 for never."""

    overloaded: int
    is_dark: bool
    was_below_full: bool
    dark_h: float
    dark_cause: int
    darkened_h: float
    full_h: float
    lowest_wh: float
    lowest_h: float


class Tally(NamedTuple):
    """All that a recorded run adds up; the book is that of the step at hand."""

    now_h: float
    totals: Totals
    book: Book
    unserved: Unserved
    marks: Marks
    generator_h: float
    unsettled_h: float


@inner
def no_tiers():  # type: ignore[no-untyped-def]
    """Nothing on any tier."""
    return Tiers(0.0, 0.0, 0.0, 0.0)


@inner
def plus(tiers, more, factor):  # type: ignore[no-untyped-def]
    """Each tier plus the other's times a factor."""
    return Tiers(
        tiers.life + more.life * factor,
        tiers.keep + more.keep * factor,
        tiers.ease + more.ease * factor,
        tiers.spare + more.spare * factor,
    )


@inner
def short_w(asked_w, served_w):  # type: ignore[no-untyped-def]
    """What a tier asks and does not get; rounding counts as nothing [W]."""
    missing_w = asked_w - served_w
    return missing_w if missing_w > SHORT_FROM_W else 0.0


@inner
def left_short(unserved, asked, service, span_h):  # type: ignore[no-untyped-def]
    """What goes unserved, a stretch more."""
    short = Tiers(
        short_w(asked.life, service.served_w.life),
        short_w(asked.keep, service.served_w.keep),
        short_w(asked.ease, service.served_w.ease),
        short_w(asked.spare, service.served_w.spare),
    )
    is_short = Tiers(
        1.0 if short.life > 0.0 else 0.0,
        1.0 if short.keep > 0.0 else 0.0,
        1.0 if short.ease > 0.0 else 0.0,
        1.0 if short.spare > 0.0 else 0.0,
    )
    return Unserved(plus(unserved.energy_wh, short, span_h), plus(unserved.time_h, is_short, span_h))


@inner
def offered(totals, at, clipped_w, length_h):  # type: ignore[no-untyped-def]
    """The totals with what the sources of a step offer."""
    return Totals(
        totals.sun_wh + (at.sun_w + at.coupled_w + clipped_w) * length_h,
        totals.clipped_wh + clipped_w * length_h,
        totals.served_wh,
        totals.inverter_loss_wh,
        totals.charge_loss_wh,
        totals.wiring_loss_wh,
        totals.unused_wh,
        totals.generator_wh,
        totals.other_wh + at.other_w * length_h,
        totals.coupled_served_wh,
        totals.coupled_stored_wh,
    )


@inner
def given_w(stretch, plant):  # type: ignore[no-untyped-def]
    """What the generator gives at its terminals [W]."""
    if not stretch.runs:
        return 0.0
    return stretch.flow.house_w + stretch.charger_w / plant.generator.charger_efficiency


@inner
def flowed(totals, stretch, service, generator_w):  # type: ignore[no-untyped-def]
    """The totals with what flowed in a stretch."""
    span_h = stretch.reach.span_h
    charge_loss_wh = totals.charge_loss_wh
    if stretch.runs:
        charge_loss_wh += (generator_w - stretch.flow.house_w - stretch.charger_w) * span_h
    return Totals(
        totals.sun_wh,
        totals.clipped_wh,
        totals.served_wh + service.load_w * span_h,
        totals.inverter_loss_wh + service.conversion_w * span_h,
        charge_loss_wh + stretch.reach.loss_wh,
        totals.wiring_loss_wh + service.wiring_w * span_h,
        totals.unused_wh + stretch.unused_w * span_h,
        totals.generator_wh + generator_w * span_h,
        totals.other_wh,
        totals.coupled_served_wh + stretch.coupled_w * span_h,
        totals.coupled_stored_wh + stretch.coupled_in_w * span_h,
    )


@inner
def booked(book, stretch, service, generator_w, length_h):  # type: ignore[no-untyped-def]
    """The book of a step with a stretch of it."""
    span_h = stretch.reach.span_h
    served, more = book.served, service.served_w
    return Book(
        Tiers(
            served.life + more.life * span_h / length_h,
            served.keep + more.keep * span_h / length_h,
            served.ease + more.ease * span_h / length_h,
            served.spare + more.spare * span_h / length_h,
        ),
        book.spilled_w + stretch.unused_w * span_h / length_h,
        book.generator_w + generator_w * span_h / length_h,
        book.dark_h + span_h if service.dark_tier >= 0 else book.dark_h,
    )


@inner
def marked_service(marks, stretch, service, now_h):  # type: ignore[no-untyped-def]
    """The marks once a stretch begins: overload, darkness, and a generator that cannot carry Life or Keep."""
    keeps_dark = 0 < service.blocked <= KEEP + 1
    is_dark = service.dark_tier >= 0
    first = is_dark and not marks.is_dark and marks.dark_h < 0.0
    darkens = keeps_dark and stretch.runs and marks.darkened_h < 0.0
    return Marks(
        service.blocked,
        is_dark,
        marks.was_below_full,
        now_h if first else marks.dark_h,
        (service.cause if keeps_dark else 0) if first else marks.dark_cause,
        now_h if darkens else marks.darkened_h,
        marks.full_h,
        marks.lowest_wh,
        marks.lowest_h,
    )


@inner
def marked_charge(marks, stored_wh, now_h, acceptance):  # type: ignore[no-untyped-def]
    """The marks once a stretch ends: the lowest charge, and whether the bank is full or well below it."""
    is_lowest = stored_wh < marks.lowest_wh - acceptance.tiny_wh
    below = marks.was_below_full
    full_h = marks.full_h
    if stored_wh >= acceptance.capacity_wh - acceptance.tiny_wh:
        if below and full_h < 0.0:
            full_h = now_h
        below = False
    elif stored_wh < WELL_BELOW_FULL * acceptance.capacity_wh:
        below = True
    return Marks(
        marks.overloaded,
        marks.is_dark,
        below,
        marks.dark_h,
        marks.dark_cause,
        marks.darkened_h,
        full_h,
        stored_wh if is_lowest else marks.lowest_wh,
        now_h if is_lowest else marks.lowest_h,
    )


@inner
def first_tally(state, acceptance):  # type: ignore[no-untyped-def]
    """The tally as the outage begins."""
    is_below_full = state.stored_wh < acceptance.capacity_wh - acceptance.tiny_wh
    return Tally(
        0.0,
        Totals(0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0),
        Book(no_tiers(), 0.0, 0.0, 0.0),
        Unserved(no_tiers(), no_tiers()),
        Marks(0, False, is_below_full, -1.0, 0, -1.0, -1.0, state.stored_wh, 0.0),
        0.0,
        0.0,
    )


@inner
def step_begun(tally, at, clipped_w, length_h):  # type: ignore[no-untyped-def]
    """The tally as a step begins: what its sources offer, and an empty book."""
    return Tally(
        tally.now_h,
        offered(tally.totals, at, clipped_w, length_h),
        Book(no_tiers(), clipped_w, 0.0, 0.0),
        tally.unserved,
        tally.marks,
        tally.generator_h,
        tally.unsettled_h,
    )


@inner
def stretch_added(tally, stretch, service, asked, stored_wh, length_h, plant):  # type: ignore[no-untyped-def]
    """The tally after a stretch, which left so much stored."""
    span_h, generator_w = stretch.reach.span_h, given_w(stretch, plant)
    after_h = tally.now_h + span_h
    marks = marked_service(tally.marks, stretch, service, tally.now_h)
    return Tally(
        after_h,
        flowed(tally.totals, stretch, service, generator_w),
        booked(tally.book, stretch, service, generator_w, length_h),
        left_short(tally.unserved, asked, service, span_h),
        marked_charge(marks, stored_wh, after_h, plant.acceptance),
        tally.generator_h + span_h if stretch.runs else tally.generator_h,
        tally.unsettled_h,
    )


@inner
def left_off(tally, at, asked, left_h):  # type: ignore[no-untyped-def]
    """The tally after the rest of a step in which everything was left off, because no steady state was found."""
    totals = tally.totals
    return Tally(
        tally.now_h + left_h,
        Totals(
            totals.sun_wh,
            totals.clipped_wh,
            totals.served_wh,
            totals.inverter_loss_wh,
            totals.charge_loss_wh,
            totals.wiring_loss_wh,
            totals.unused_wh + (at.sun_w + at.coupled_w + at.other_w) * left_h,
            totals.generator_wh,
            totals.other_wh,
            totals.coupled_served_wh,
            totals.coupled_stored_wh,
        ),
        tally.book,
        Unserved(plus(tally.unserved.energy_wh, asked, left_h), tally.unserved.time_h),
        tally.marks,
        tally.generator_h,
        tally.unsettled_h + left_h,
    )
