"""What has to be bought large at the first stage, since a later one would outgrow it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from hearthkeep.core.alternatives import floor_m2, mass_kg
from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design, Supply
from hearthkeep.core.loads import DayKind, audit_of
from hearthkeep.core.sold import SIZES_W, controllers_sold, next_size
from hearthkeep.core.wiring import RunKind, RunRow, wiring_sheet
from hearthkeep.core.words import counted

#: Of a controller's output: less than this above it only spills a little at noon. Our assumption.
SPILL_FRAC = 0.1


@dataclass(frozen=True, kw_only=True, slots=True)
class LargeNow:
    """One thing that is bought once and has to serve the last stage."""

    #: controller, inverter, run, device, enclosure or circuits, and which of them.
    key: str
    label: str
    now: str
    then: str
    #: The stage from which it is asked for.
    stage: str
    why: str


def large_now(
    designs: Sequence[Design], titles: Sequence[str], year_low_c: float | None = None
) -> tuple[LargeNow, ...]:
    """
    What the stages outgrow, in the order in which the current flows.

    :param designs: the design now, then with each stage.
    :param titles: what the stages are called, now first.
    :param year_low_c: coldest hour of the site's weather year [°C].
    """
    if len(designs) < 2:
        return ()
    return (
        *_controllers(designs, titles),
        *_inverter(designs, titles),
        *_runs(designs, titles, year_low_c),
        *_enclosure(designs, titles),
        *_circuits(designs, titles),
    )


def _controllers(designs: Sequence[Design], titles: Sequence[str]) -> Iterator[LargeNow]:
    for controller in designs[0].charging.controllers:
        if not controller.charges:
            continue
        for design, title in zip(designs[1:], titles[1:], strict=True):
            later = next(entry for entry in design.charging.controllers if entry.id == controller.id)
            volts = rate(design.bank).charging_v
            asked_a = sum(array.stc_w for array in later.arrays) / volts
            before_a = sum(array.stc_w for array in controller.arrays) / volts
            if asked_a > before_a and asked_a > controller.output_a * (1 + SPILL_FRAC):
                count, size_a = controllers_sold(asked_a)
                sold = f"{size_a:g} A is sold" if count == 1 else f"{count} of {size_a:g} A are sold"
                yield LargeNow(
                    key=f"controller/{controller.id}",
                    label=controller.name,
                    now=f"{controller.output_a:g} A",
                    then=f"{asked_a:.0f} A, {sold}",
                    stage=title,
                    why="its panels then give more than it passes; the rest is spilled, or a second controller is bought",
                )
                break


def _inverter(designs: Sequence[Design], titles: Sequence[str]) -> Iterator[LargeNow]:
    if designs[0].inverter.rated_w == 0:
        return
    for design, title in zip(designs[1:], titles[1:], strict=True):
        sums = audit_of(design.loads, DayKind(month=design.outage.start.month)).sums
        unit = design.inverter.together
        if sums.peak_w > unit.rated_w or sums.start_surge_w > unit.surge_w:
            ratio = unit.surge_w / unit.rated_w
            asked_w = max(sums.peak_w, sums.start_surge_w / ratio)
            yield LargeNow(
                key="inverter",
                label="Inverter",
                now=f"{designs[0].inverter.together.rated_w:,.0f} W",
                then=f"{asked_w:,.0f} W, {next_size(asked_w, SIZES_W):,.0f} W is sold",
                stage=title,
                why=f"{sums.peak_w:,.0f} W then run together, and the worst start asks for {sums.start_surge_w:,.0f} W",
            )
            return


def _runs(designs: Sequence[Design], titles: Sequence[str], year_low_c: float | None) -> Iterator[LargeNow]:
    """Cable and its protection: sized for the last stage they are laid once."""
    rows = [{row.key: row for row in wiring_sheet(design, year_low_c=year_low_c).runs} for design in designs]
    for key, now in rows[0].items():
        for later, title in zip(rows[1:], titles[1:], strict=True):
            then = later.get(key)
            if then is not None and _size(then) != _size(now) and then.current_a > now.current_a:
                yield LargeNow(
                    key=f"run/{key}",
                    label=now.label,
                    now=_said(now),
                    then=_said(then),
                    stage=title,
                    why=_reason(now, then),
                )
                break


def _size(row: RunRow) -> str:
    if row.size is None:
        return "no single conductor"
    return row.conductor if row.per_pole == 1 else f"{row.per_pole} × {row.conductor}"


def _said(row: RunRow) -> str:
    return f"{_size(row)}, {row.device}" if row.device else _size(row)


def _reason(now: RunRow, then: RunRow) -> str:
    if now.kind is RunKind.GROUND:
        return f"grounds follow the largest device upstream, {then.current_a:.0f} A instead of {now.current_a:.0f} A"
    return f"{then.current_a:.0f} A instead of {now.current_a:.0f} A; lugs and bus bars go with it"


def _enclosure(designs: Sequence[Design], titles: Sequence[str]) -> Iterator[LargeNow]:
    first, last = designs[0], designs[-1]
    before, after = (design.bank.series * design.bank.parallel for design in (first, last))
    if after <= before:
        return
    stage = next(
        title
        for design, title in zip(designs[1:], titles[1:], strict=True)
        if design.bank.series * design.bank.parallel > before
    )
    yield LargeNow(
        key="enclosure",
        label="Room for the bank",
        now=f"{counted(before, 'unit')}, {floor_m2(first):.2f} m² of floor",
        then=f"{counted(after, 'unit')}, {floor_m2(last):.2f} m² of floor",
        stage=stage,
        why=f"rack or box, bus bars and floor for {mass_kg(last)[0] - mass_kg(first)[0]:,.0f} kg more of units",
    )


def _circuits(designs: Sequence[Design], titles: Sequence[str]) -> Iterator[LargeNow]:
    """Positions of the transfer device, where they are known."""
    transfer = designs[0].transfer
    positions = transfer.device.positions
    if positions is None:
        return
    used = sum(circuit.poles for circuit in transfer.circuits if circuit.backed_up)
    known = {load.id for load in designs[0].loads}
    for design, title in zip(designs[1:], titles[1:], strict=True):
        # A wired-in load, or one across both legs, wants a circuit of its own.
        new = [
            load
            for load in design.loads
            if load.id not in known and load.circuit is None and (load.hard_wired or load.supply is Supply.AC_240)
        ]
        asked = used + sum(2 if load.supply is Supply.AC_240 else 1 for load in new)
        if new and asked > positions:
            yield LargeNow(
                key="circuits",
                label="Positions of the transfer device",
                now=f"{used} of {positions} used",
                then=f"{asked} asked for",
                stage=title,
                why=f"{counted(len(new), 'load')} then want a circuit of their own",
            )
            return
