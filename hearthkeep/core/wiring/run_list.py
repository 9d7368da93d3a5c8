"""Every run of a design: its sources, bank, branches and grounds, beside those of the sun and of the house."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from hearthkeep.core.bank import BankRating, sharing_of
from hearthkeep.core.design import (
    Bank,
    BusKind,
    Design,
    FedFrom,
    Kind,
    TakeOff,
)
from hearthkeep.core.inverter import low_battery_current_a
from hearthkeep.core.wiring.house_runs import house_runs
from hearthkeep.core.wiring.runs import (
    CONTINUOUS,
    STRONG_SUN,
    Run,
    RunKind,
    bank_current_a,
    branch_loads,
    branch_w,
    inverter_keys,
    is_built_in_charger,
    lowest_v,
)
from hearthkeep.core.wiring.solar_runs import solar_runs, string_isc_a


def runs_of(design: Design, rating: BankRating, *, year_low_c: float | None = None) -> tuple[Run, ...]:
    """Every run of a design as it was entered, in the order in which current flows.

    `year_low_c` is the coldest hour of the site's weather year [°C].
    """
    return (
        *solar_runs(design, rating, year_low_c),
        *_other_sources(design, rating),
        *bank_runs(design, rating),
        *branch_runs(design, rating),
        *house_runs(design),
        *_grounds(design, rating),
    )


def _other_sources(design: Design, rating: BankRating) -> Iterator[Run]:
    charging = design.charging
    found: list[tuple[str, str, float, str]] = []
    if charging.alternator is not None:
        found.append(("alternator", "Alternator charger", charging.alternator.current_a, "its output"))
    if charging.wind is not None:
        found.append(
            ("wind", "Wind turbine", charging.wind.rated_w / rating.charging_v, "rated watts ÷ charging volts")
        )
    if charging.bench_charger is not None:
        found.append(
            ("bench", "Plug-in charger", charging.bench_charger.output_w / rating.charging_v, "output ÷ charging volts")
        )
    if not is_built_in_charger(design):
        charger_w = max(charging.grid_charger.output_w, charging.generator.charger_w if charging.generator else 0.0)
        if charger_w > 0:
            found.append(("charger", "Charger", charger_w / rating.charging_v, "output ÷ charging volts"))
    for key, name, current_a, basis in found:
        if current_a > 0:
            yield Run(
                key=f"source-{key}",
                kind=RunKind.SOURCE,
                label=f"{name} to bus",
                start=key,
                end="bus",
                volts_v=rating.nominal_v,
                most_v=rating.charging_v,
                current_a=current_a,
                drop_at_a=current_a,
                basis=basis,
                from_bank=True,
            )


def bank_runs(design: Design, rating: BankRating) -> Iterator[Run]:
    """What joins the blocks of the bank, the bank to its bus, and the bus to the inverters."""
    bank, inverter = design.bank, design.inverter
    total_a = bank_current_a(design, rating)
    run_of = partial(Run, volts_v=rating.nominal_v, most_v=rating.charging_v)
    share_a = total_a / bank.parallel * sharing_of(bank).worst_ratio
    if bank.series > 1:
        yield run_of(
            key="series-links", kind=RunKind.LINK, label="Between blocks in series", start="bank", end="bank",
            count=(bank.series - 1) * bank.parallel, current_a=share_a, drop_at_a=share_a,
            basis="the string with the largest share", needs_device=False, poles=1,
        )  # fmt: skip
    if bank.parallel > 1 and bank.takeoff is TakeOff.EQUAL_LEADS:
        yield run_of(
            key="string-leads", kind=RunKind.LEAD, label="Each string to the bank's bars", start="bank", end="bank",
            count=bank.parallel, current_a=share_a, drop_at_a=share_a, basis="an even share of the bank's current",
            from_bank=True, device_a=_left_to_each_a(bank, total_a, out=bank.parallel // 2) / CONTINUOUS,
        )  # fmt: skip
    elif bank.parallel > 1:
        yield run_of(
            key="parallel-links", kind=RunKind.LINK, label="Between strings side by side", start="bank", end="bank",
            count=bank.parallel - 1, current_a=total_a, drop_at_a=total_a - total_a / bank.parallel,
            basis="as thick as the leads, whose current they nearly carry", needs_device=False,

        )  # fmt: skip
    if total_a > 0 and design.wiring.bus is BusKind.BAR:
        low_v = lowest_v(design, rating)
        yield Run(
            key="bank", kind=RunKind.BANK, label="Bank to bus", start="bank", end="bus", current_a=total_a,
            drop_at_a=total_a, from_bank=True, volts_v=low_v, most_v=rating.charging_v,
            basis="all inverters at their rated output at the low cut-off and all branches, or all that charges at once",
        )  # fmt: skip
    rated_a = low_battery_current_a(inverter, inverter.rated_w)
    for number, key in enumerate(inverter_keys(design), start=1):
        set_on = design.wiring.of_run(key)
        yield Run(
            key=key, kind=RunKind.INVERTER, start="bus", end=key, current_a=rated_a, drop_at_a=rated_a, from_bank=True,
            label="Bus to inverter" if inverter.units == 1 else f"Bus to inverter {number}",
            volts_v=inverter.low_cutoff_v, most_v=rating.charging_v,
            basis="rated output ÷ efficiency ÷ low cut-off volts",
            fed_from=set_on.fed_from if set_on else FedFrom.BUS,
        )  # fmt: skip


def _left_to_each_a(bank: Bank, total_a: float, *, out: int) -> float:
    """What the lead of each string is asked to hold when so many of them are out, × 1.25; at most what its own board lets it give, and
    never less than its even share asks [A].
    """
    left_a = CONTINUOUS * total_a / max(bank.parallel - out, 1)
    least_a = CONTINUOUS * total_a / bank.parallel * sharing_of(bank).worst_ratio
    return left_a if bank.unit_max_discharge_a is None else max(min(left_a, bank.unit_max_discharge_a), least_a)


def leads_hold_from_a(design: Design, rating: BankRating) -> float:
    """The least device in the leads of strings side by side that does not open when one of them has [A]."""
    return _left_to_each_a(design.bank, bank_current_a(design, rating), out=1)


def branch_runs(design: Design, rating: BankRating) -> Iterator[Run]:
    """Branch circuits of direct-current loads, one a load."""
    low_v = lowest_v(design, rating)
    current_of = {load.id: branch_w(load) / low_v for load in branch_loads(design)}
    block_of = {load_id: block for block in design.wiring.blocks for load_id in block.loads}
    for block in design.wiring.blocks:
        current_a = sum(current_of.get(load_id, 0.0) for load_id in block.loads)
        if current_a > 0:
            yield Run(
                key=f"feed-{block.id}", kind=RunKind.FEED, label=f"Feed of {block.name}", start="bus", end=f"block-{block.id}",
                volts_v=rating.nominal_v, most_v=rating.charging_v, current_a=current_a, drop_at_a=current_a, from_bank=True,
                basis="running watts of everything on its ways at the lowest volts",
            )  # fmt: skip
    for load in branch_loads(design):
        current_a = current_of[load.id]
        if current_a <= 0:
            continue
        key = f"branch-{load.id}"
        on_block = block_of.get(load.id)
        set_on = design.wiring.of_run(key)
        yield Run(
            key=key, kind=RunKind.BRANCH, label=f"Branch: {load.name}", end=f"load-{load.id}",
            start="bus" if on_block is None else f"block-{on_block.id}",
            volts_v=rating.nominal_v, most_v=rating.charging_v, current_a=current_a, drop_at_a=current_a, from_bank=True,
            basis="running watts of all units at the lowest volts",
            fed_from=set_on.fed_from if set_on else FedFrom.BUS,
        )  # fmt: skip


def _grounds(design: Design, rating: BankRating) -> Iterator[Run]:
    """Conductors that carry no current unless something has failed."""
    arrays = [array for controller in design.charging.controllers for array in controller.arrays]
    run_of = partial(
        Run, kind=RunKind.GROUND, drop_at_a=0.0, factor=1.0, needs_device=False, poles=1, volts_v=rating.nominal_v,
        most_v=rating.nominal_v,
    )  # fmt: skip
    if arrays:
        isc_a = max(
            STRONG_SUN * string_isc_a(array, array.module, rating.nominal_v) * array.strings for array in arrays
        )
        yield run_of(
            key="ground-array", label="Array frames to ground bar", start="frames", end="ground",
            current_a=CONTINUOUS * isc_a,
            basis="device of 156 % of the largest array's short-circuit current",
        )  # fmt: skip
    total_a = bank_current_a(design, rating)
    if total_a > 0:
        yield run_of(
            key="ground-dc", label="Equipment to ground bar", start="equipment", end="ground",
            current_a=CONTINUOUS * total_a,
            basis="device of the bank's leads",
        )  # fmt: skip
    if design.kind is Kind.HOME and (arrays or total_a > 0):
        yield run_of(
            key="ground-electrode", label="Ground bar to electrode", start="ground", end="electrode",
            current_a=CONTINUOUS * total_a,
            basis="the system's largest conductor",
        )  # fmt: skip
