"""What the readings say of the plan: use, capacity, yield, charge efficiency and idle draw, each with its doubt.

Doubts are half-widths in which the true value lies in 99 of 100: least squares over blocks of time with Student's t, and beside that what
the instruments may be off throughout. Source: textbook.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import rate
from hearthkeep.core.building import Correction, corrected, scaled_loads
from hearthkeep.core.design import Change, Design, Quality, Tier
from hearthkeep.core.errors import InputError
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.loads import quality_of
from hearthkeep.core.logbook.estimates import BASIS, SHUNT_FRAC, WATTS_FRAC, Estimate, mean_of, through_origin
from hearthkeep.core.logbook.log import DAY_S, HOUR_S, Joint, Log, Trace, block_means, joint, lengths_h
from hearthkeep.core.logbook.quantities import Quantity
from hearthkeep.core.logbook.slips import without_slips
from hearthkeep.core.logbook.yields import yield_of
from hearthkeep.core.outage import usual_audit
from hearthkeep.core.sources import WeatherYear

Floats = NDArray[np.float64]

#: Fewest blocks from which something is said.
LEAST_DAYS, LEAST_PIECES, LEAST_HOURS = 7, 12, 24
#: A day counts with so much of it read.
COVERED_FRAC = 0.9
#: Below this a charger counts as off [W].
OFF_W = 5.0
#: Half of a day; charge is read around its ends for so long [s].
PIECE_S, AROUND_S = 12 * HOUR_S, 900.0
#: Bank is drawn on where it was away from its ends: there gauges are set anew and chargers hold back.
TOP_FRAC = 0.95


@dataclass(frozen=True, kw_only=True, slots=True)
class Calibration:
    """What the log says of the plan."""

    corrections: tuple[Correction, ...]
    #: What could not be said, and what it would take.
    missing: tuple[str, ...]


def calibrate(design: Design, log: Log, year: WeatherYear | None = None) -> Calibration:
    """Everything that the readings say of a design, as corrections; nothing is applied."""
    log, slips = without_slips(log)
    corrections: list[Correction] = []
    missing: list[str] = [slip.words for slip in slips]
    for make in (_use, _losses, _bank, _yield):
        for found in make(design, log, year):
            if isinstance(found, str):
                missing.append(found)
            else:
                corrections.append(found)
    return Calibration(corrections=tuple(corrections), missing=tuple(missing))


Said = Iterator[Correction | str]


# --- use


def daily_wh(trace: Trace) -> Floats:
    """Energy of each day that is read nearly whole, what is missing of it filled by its own mean [Wh]."""
    length_h = lengths_h(trace.at_s)
    day = np.floor(trace.at_s / DAY_S).astype(np.int64)
    _, group = np.unique(day, return_inverse=True)
    covered_h = np.bincount(group, weights=length_h)
    energy_wh = np.bincount(group, weights=length_h * trace.values)
    whole = covered_h >= COVERED_FRAC * 24.0
    return energy_wh[whole] / covered_h[whole] * 24.0


def _use(design: Design, log: Log, year: WeatherYear | None) -> Said:
    rows = {row.id: row for row in usual_audit(design).sums.rows}
    parts = log.parts(Quantity.LOAD_W)
    for part in parts:
        ids = group_ids(design, part)
        trace = log.find(Quantity.LOAD_W, part)
        if not ids:
            yield f"Readings of '{part}' name no tier and no circuit of this design: name the group so to compare it with the audit."
        elif trace is not None:
            audit_wh = sum(rows[key].daily_wh for key in ids if key in rows)
            yield from _use_of(design, year, part, ids, trace, audit_wh)
    whole = log.find(Quantity.INVERTER_W)
    if parts or whole is None:
        if not parts:
            yield "Use of the house: read what the inverter gives, or groups of loads, for a week or more."
        return
    house = {load.id for load in design.loads if load.supply.is_ac and load.tier is not Tier.SPARE}
    yield from _use_of(design, year, "the house", house, whole, sum(rows[key].daily_wh for key in house if key in rows))


def group_ids(design: Design, part: str) -> set[str]:
    """Loads of a group: those of a tier, of a circuit or of a link by its name, or the one load called so."""
    wanted = part.strip().casefold()
    circuits = {
        key for key, circuit in design.transfer.feeding.items() if wanted in (key.casefold(), circuit.name.casefold())
    }
    for panel in design.transfer.further:
        if panel.fed_by in circuits or wanted == panel.name.casefold():
            circuits |= design.transfer.behind(panel)
    return {
        load.id
        for load in design.loads
        if wanted in (load.tier.value, (load.link or "").casefold(), load.name.casefold(), load.id.casefold()) or load.circuit in circuits
    }  # fmt: skip


def _use_of(design: Design, year: WeatherYear | None, part: str, ids: set[str], trace: Trace, audit_wh: float) -> Said:
    days = daily_wh(trace)
    found = mean_of(days) if days.size >= LEAST_DAYS else None
    if found is None:
        yield f"Use of {part}: {days.size} whole days are read; {LEAST_DAYS} say something" + (
            "." if days.size < LEAST_DAYS else ", and more where each is like the one before."
        )
        return
    found = found.read_within(WATTS_FRAC)
    if audit_wh <= 0:
        yield f"Use of {part}: the audit has nothing there, the readings {found.value:.0f} Wh a day."
        return
    loose = {load.id for load in design.loads if load.id in ids and quality_of(load) is not Quality.MEASURED} or ids
    sums = {row.id: row.daily_wh for row in usual_audit(design).sums.rows}
    loose_wh = sum(sums.get(key, 0.0) for key in loose)
    factor = 1.0 + (found.value - audit_wh) / loose_wh if loose_wh > 0 else 0.0
    if factor <= 0.02:
        yield f"Use of {part}: {found.value:.0f} Wh a day are read where the audit has {audit_wh:.0f} Wh; its measured rows alone are more."
        return
    figure = Figure(
        label=f"Use of {part}", value=found.value, unit="Wh", formula="mean of the days that are read nearly whole",
        terms=(
            Term(name="days", value=found.blocks, unit=""),
            Term(name="by the audit", value=audit_wh, unit="Wh"),
            Term(name="rows that nobody has measured × ", value=factor, unit=""),
            Term(name="doubt, 99 of 100", value=found.doubt, unit="Wh"),
            Term(name="of it the meter's own", value=100 * WATTS_FRAC, unit="%"),
        ), basis="Mean of days, their likeness to one another counted, with Student's t: textbook",
    )  # fmt: skip
    yield from _offered(
        design, year, key=f"use.{part}", title=f"Use of {part} a day", changes=scaled_loads(design, factor, loose), before=audit_wh, after=found.value,
        doubt=found.doubt, unit="Wh", figure=figure,
    )  # fmt: skip


def _offered(
    design: Design, year: WeatherYear | None, *, title: str, changes: tuple[Change, ...], **fields: object
) -> Said:
    """A correction, or why the design cannot hold it."""
    try:
        yield corrected(design, year, title=title, changes=changes, **fields)  # type: ignore[arg-type]
    except InputError as error:
        yield f"{title}: measured, but outside what the design can hold ({error.problems[0]})."


# --- inverter


def _losses(design: Design, log: Log, year: WeatherYear | None) -> Said:
    volts, amps, given = (log.find(quantity) for quantity in (Quantity.BANK_V, Quantity.BANK_A, Quantity.INVERTER_W))
    if volts is None or amps is None or given is None or design.inverter.rated_w <= 0:
        yield "Idle draw and efficiency: read volts and amps of the bank and what the inverter gives, together."
        return
    quiet = _quiet(log, joint(volts, amps, given))
    bank_v, bank_a, out_w = quiet.columns
    drawn_w = -bank_v * bank_a
    if any(not load.supply.is_ac for load in design.loads if load.tier is not Tier.SPARE):
        yield "Idle draw: loads of direct current hang beside the inverter; with them off for a night it can be told."
        return
    taken, output = block_means(quiet.at_s, HOUR_S, drawn_w, out_w) if quiet.at_s.size else (np.zeros(0), np.zeros(0))
    if taken.size < LEAST_HOURS or np.ptp(output) < 0.02 * design.inverter.rated_w:
        yield f"Idle draw: {taken.size} hours without sun and chargers are read, with too little change of load to tell it."
        return
    found = through_origin([np.ones_like(output), output], taken)
    if found is None:
        return
    # The shunt and the meter of what is given may be off against each other.
    idle, each = (one.read_within(SHUNT_FRAC + WATTS_FRAC) for one in found)
    units, inverter = design.inverter.units, design.inverter
    rated_w = inverter.together.rated_w
    efficiency = rated_w / (idle.value + each.value * rated_w)
    figure = Figure(
        label="Idle draw, one unit", value=idle.value / units, unit="W", formula="watts from the bank = idle + slope × watts given, sun and chargers off",
        terms=(
            Term(name="hours", value=idle.blocks, unit=""),
            Term(name="each watt given takes", value=each.value, unit="W"),
            Term(name="its doubt", value=each.doubt, unit="W"),
            Term(name="efficiency at the rating", value=100 * efficiency, unit="%"),
            Term(name="by the design", value=100 * inverter.efficiency_frac, unit="%"),
        ), basis=BASIS,
    )  # fmt: skip
    yield from _offered(
        design, year, key="inverter_losses", title="Idle draw and efficiency of the inverter",
        changes=(
            Change(path="inverter.idle_w", value=round(max(idle.value / units, 0.0), 2)),
            Change(path="inverter.efficiency_frac", value=round(min(efficiency, 1.0), 5)),
        ),
        before=inverter.idle_w, after=idle.value / units, doubt=idle.doubt / units, unit="W", figure=figure,
    )  # fmt: skip


def _quiet(log: Log, found: Joint) -> Joint:
    """Only the moments at which nothing charges."""
    quiet = found.columns[1] <= 0.0
    for quantity in (Quantity.SUN_W, Quantity.GRID_W, Quantity.GENERATOR_W):
        trace = log.find(quantity)
        if trace is not None and trace.at_s.size:
            # What it last showed, as long as that is no older than the readings are apart.
            at = np.clip(np.searchsorted(trace.at_s, found.at_s, side="right") - 1, 0, None)
            quiet &= trace.values[at] < OFF_W
    return Joint(
        at_s=found.at_s[quiet], columns=tuple(column[quiet] for column in found.columns), length_h=found.length_h[quiet]
    )


# --- bank


@dataclass(frozen=True, kw_only=True, slots=True)
class Pieces:
    """Halves of days without a gap: energy into and out of the bank [Wh], and how its charge moved, as a part of full; (n,) each."""

    at_s: Floats
    in_wh: Floats
    out_wh: Floats
    moved_frac: Floats


def pieces_of(log: Log) -> Pieces | None:
    """The halves of days of a log in which everything is read; none without volts, amps and charge."""
    volts, amps, charge = (log.find(quantity) for quantity in (Quantity.BANK_V, Quantity.BANK_A, Quantity.CHARGE))
    if volts is None or amps is None or charge is None:
        return None
    both = joint(volts, amps)
    if both.at_s.size < 2:
        return None
    power_w = both.columns[0] * both.columns[1]
    edges = np.arange(np.ceil(both.at_s[0] / PIECE_S), np.floor(both.at_s[-1] / PIECE_S) + 1) * PIECE_S
    soc = np.array([_around(charge, edge) for edge in edges])
    rows = []
    for at in range(edges.size - 1):
        first, last = np.searchsorted(both.at_s, edges[at : at + 2])
        length_h = both.length_h[first:last]
        covered = float(length_h.sum()) * HOUR_S
        near_full = charge.values[slice(*np.searchsorted(charge.at_s, edges[at : at + 2]))]
        if (
            covered < 0.999 * PIECE_S
            or np.isnan(soc[at])
            or np.isnan(soc[at + 1])
            or (near_full.size and near_full.max() > 100 * TOP_FRAC)
        ):
            continue
        part = power_w[first:last]
        rows.append(
            (
                edges[at],
                float(np.maximum(part, 0) @ length_h),
                float(np.maximum(-part, 0) @ length_h),
                soc[at + 1] - soc[at],
            )
        )
    if not rows:
        return None
    at_s, in_wh, out_wh, moved = (np.array(column) for column in zip(*rows, strict=True))
    return Pieces(at_s=at_s, in_wh=in_wh, out_wh=out_wh, moved_frac=moved)


def _around(charge: Trace, edge_s: float) -> float:
    """Charge around a moment, a straight line through its readings there; not a number where there are none on both sides."""
    first, last = np.searchsorted(charge.at_s, (edge_s - AROUND_S, edge_s + AROUND_S))
    near_s, near = charge.at_s[first:last] - edge_s, charge.values[first:last] / 100.0
    if near.size < 2 or near_s[0] > 0 or near_s[-1] < 0:
        return float("nan")
    if near.size < 4:
        return float(np.interp(0.0, near_s, near))
    return float(np.polynomial.polynomial.polyfit(near_s, near, 1)[0])


def _bank(design: Design, log: Log, year: WeatherYear | None) -> Said:
    pieces = pieces_of(log)
    if pieces is None or pieces.in_wh.size < LEAST_PIECES:
        count = 0 if pieces is None else pieces.in_wh.size
        yield f"Capacity and charge efficiency: {count} half-days with volts, amps and charge without a gap; {LEAST_PIECES} say something."
        return
    rating = rate(design.bank)
    given = pieces.out_wh / rating.discharge_efficiency_frac
    found = through_origin([pieces.in_wh, -pieces.moved_frac], given)
    if found is None:
        yield "Capacity and charge efficiency: the half-days are too much alike to tell them apart."
        return
    # What a shunt is off by is the same on the way in and out.
    efficiency, capacity = found[0], found[1].read_within(SHUNT_FRAC)
    new_wh = rating.rated_wh * rating.temperature_frac
    left = capacity.value / new_wh
    terms = (
        Term(name="half-days", value=capacity.blocks, unit=""),
        Term(name="charge efficiency", value=100 * efficiency.value, unit="%"),
        Term(name="its doubt", value=100 * efficiency.doubt, unit="%"),
        Term(name="discharge efficiency, by the design", value=100 * rating.discharge_efficiency_frac, unit="%"),
        Term(name="as new at its temperature", value=new_wh, unit="Wh"),
    )
    formula = "Wh out ÷ discharge efficiency = charge efficiency × Wh in − capacity × change of charge, over half-days"
    yield from _offered(
        design, year, key="capacity", title="Capacity left after ageing",
        changes=(Change(path="bank.ageing_frac", value=round(min(max(left, 0.3), 1.0), 4)),), before=100 * design.bank.ageing_frac, after=100 * left,
        doubt=100 * capacity.doubt / new_wh, unit="%",
        figure=Figure(label="True capacity", value=capacity.value, unit="Wh", formula=formula, terms=terms, basis=BASIS),
    )  # fmt: skip
    before = rating.charge_efficiency_frac
    yield from _offered(
        design, year, key="charge_efficiency", title="Charge efficiency of the bank",
        changes=(Change(path="bank.charge_efficiency_frac", value=round(min(efficiency.value, 1.0), 4)),), before=100 * before,
        after=100 * efficiency.value, doubt=100 * efficiency.doubt, unit="%",
        figure=Figure(label="Charge efficiency", value=100 * efficiency.value, unit="%", formula=formula, terms=terms, basis=BASIS),
    )  # fmt: skip
    fade = fade_of(pieces, rating.discharge_efficiency_frac)
    if fade is not None:
        yield f"Capacity fades by {100 * fade.value / new_wh:.1f} ± {100 * fade.doubt / new_wh:.1f} % of the rating a year, over {fade.blocks} spans of 60 days."


def fade_of(pieces: Pieces, discharge_efficiency_frac: float) -> Estimate | None:
    """How much capacity is lost a year [Wh/a]; none with less than three spans of 60 days."""
    span = np.floor((pieces.at_s - pieces.at_s[0]) / (60 * DAY_S)).astype(np.int64)
    spots = []
    for number in np.unique(span):
        own = span == number
        found = through_origin(
            [pieces.in_wh[own], -pieces.moved_frac[own]], pieces.out_wh[own] / discharge_efficiency_frac
        )
        if found is not None and own.sum() >= LEAST_PIECES:
            spots.append((float(pieces.at_s[own].mean()) / (365.25 * DAY_S), found[1].value))
    if len(spots) < 3:
        return None
    at, wh = (np.array(column) for column in zip(*spots, strict=True))
    line = through_origin([np.ones_like(at), -(at - at.mean())], wh)
    return None if line is None else Estimate(value=line[1].value, doubt=line[1].doubt, blocks=len(spots))


# --- sun


def _yield(design: Design, log: Log, year: WeatherYear | None) -> Said:
    if not any(controller.charges for controller in design.charging.controllers):
        return
    sun = log.find(Quantity.SUN_W)
    if sun is None:
        yield "Yield of the arrays: read what the sun gives into the bank."
        return
    found = yield_of(design, log, sun)
    if isinstance(found, str):
        yield found
        return
    arrays = [
        (f"charging.controllers.{at}.arrays.{number}", array)
        for at, controller in enumerate(design.charging.controllers)
        if controller.charges
        for number, array in enumerate(controller.arrays)
    ]
    total = sum(array.stc_w for _, array in arrays)
    before = sum(array.stc_w * (1 - array.losses_frac) for _, array in arrays) / total
    after = before * found.factor
    changes = tuple(
        Change(path=f"{path}.losses_frac", value=round(min(max(1 - (1 - array.losses_frac) * found.factor, 0.0), 0.95), 4)) for path, array in arrays
    )  # fmt: skip
    figure = Figure(
        label="Yield of the arrays against their sun", value=100 * after, unit="%",
        formula="watts read ÷ watts that the model gives without losses, " + found.how,
        terms=(
            Term(name="hours or days", value=found.blocks, unit=""),
            Term(name="by the design", value=100 * before, unit="%"),
            Term(name="doubt, 99 of 100", value=100 * before * found.doubt, unit="%"),
        ), basis=BASIS if found.is_measured else "Clear sky by pvlib; the best days count as clear: our assumption",
    )  # fmt: skip
    yield from _offered(
        design, year, key="yield", title="What the arrays give of their sun", changes=changes, before=100 * before, after=100 * after,
        doubt=100 * before * found.doubt, unit="%", figure=figure,
    )  # fmt: skip
