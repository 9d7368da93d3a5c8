"""The audit, the sizing sheet and the wiring sums as a workbook whose formulas live: change a cell, and the rest follows."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

from xlsxwriter import Workbook

from hearthkeep.core.assess import Assessment
from hearthkeep.core.design import Design, Supply, Tier
from hearthkeep.core.inverter import marginal_efficiency
from hearthkeep.core.loads import DayKind, DayOfLoad, converter_efficiency, day_of
from hearthkeep.core.outage import usual_day
from hearthkeep.core.sizing import SheetLine, counted_tiers
from hearthkeep.core.wiring import WiringSheet
from hearthkeep.exchange.tables import guarded

#: What may be changed stands on a tint; all else follows from it.
_TINT = "#F4E3C1"


@dataclass(frozen=True, slots=True)
class Formula:
    """A cell that is worked out, without its equals sign; and what it comes to, for readers that do not work it out."""

    text: str
    value: float | str


@dataclass(frozen=True, slots=True)
class Given:
    """A number that may be changed."""

    value: float


Value = str | float | int | Formula | Given | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Shared:
    """A figure that stands in the workbook and in Hearth Keep: where, and what it is there."""

    name: str
    sheet: str
    cell: str
    value: float


class _Sheet:
    """A sheet being written; rows are counted from 1, as its cells' names count them."""

    def __init__(self, book: Workbook, title: str) -> None:
        self._sheet = book.add_worksheet(title)
        self._plain, self._bold = None, book.add_format({"bold": True, "text_wrap": True, "valign": "top"})
        self._tint = book.add_format({"bg_color": _TINT})
        self._sheet.freeze_panes(1, 1)

    def put(self, row: int, values: Sequence[Value], *, bold: bool = False) -> None:
        """One row, from its first cell on."""
        for column, value in enumerate(values):
            style = self._bold if bold else self._plain
            if isinstance(value, Formula):
                self._sheet.write_formula(row - 1, column, f"={value.text}", style, value.value)
            elif isinstance(value, Given):
                self._sheet.write_number(row - 1, column, value.value, self._tint)
            elif isinstance(value, str):
                # A name that begins like a formula stays a name.
                self._sheet.write_string(row - 1, column, guarded(value), style)
            elif value is not None:
                self._sheet.write_number(row - 1, column, value, style)

    def widths(self, *widths: float) -> None:
        """Widths of its columns [characters]."""
        for column, width in enumerate(widths):
            self._sheet.set_column(column, column, width)


def write_live_workbook(design: Design, found: Assessment, wiring: WiringSheet) -> bytes:
    """The workbook; its last sheet holds every shared figure beside Hearth Keep's own."""
    out = io.BytesIO()
    book = Workbook(out, {"in_memory": True})
    shared: list[Shared] = []
    _audit(_Sheet(book, "Audit"), design, found, shared)
    _sizing(_Sheet(book, "Sizing"), design, found, shared)
    _wiring(_Sheet(book, "Wiring"), wiring, shared)
    _parts(_Sheet(book, "Parts"), wiring, shared)
    _compared(_Sheet(book, "Beside Hearth Keep"), shared)
    book.close()
    return out.getvalue()


# --- the audit

_FIRST = 2


def _day_cells(day: DayOfLoad) -> list[Value]:
    return [Given(day.running_w), Given(day.duty_frac), Given(float(day.on.sum())), Given(day.standby_w)]


def _audit(sheet: _Sheet, design: Design, found: Assessment, shared: list[Shared]) -> None:
    need = design.bank.need
    dark = DayKind(month=design.outage.start.month, is_dark=need.dark_day)
    header = [
        "Load", "Lives in", "Fed by", "Quantity", "Running W", "Duty", "Hours a day", "Standby W", "Wh a day", "± part", "± Wh",
        "Converter efficiency", "The bank's day: running W", "Duty", "Hours", "Standby W", "Wh", "Lost in its converter Wh",
    ]  # fmt: skip
    sheet.put(1, header, bold=True)
    sums = {row.id: row for row in found.loads.rows}
    row = _FIRST
    carried = [load for load in design.loads if load.id in sums]
    for load in carried:
        own = sums[load.id]
        part = own.doubt_wh / own.daily_wh if own.daily_wh > 0 else 0.0
        converter = converter_efficiency(load) if load.supply is Supply.DC_CONVERTED else None
        dark_wh = _energy_wh(day_of(load, dark), load.quantity)
        sheet.put(row,
            [
                load.name, own.lived_tier.title(), _fed(load.supply), Given(load.quantity),
                *_day_cells(day_of(load, usual_day(design))), Formula(f"D{row}*(E{row}*F{row}*G{row}+H{row}*(24-G{row}))", own.daily_wh),
                Given(part), Formula(f"I{row}*J{row}", own.doubt_wh), None if converter is None else Given(converter),
                *_day_cells(day_of(load, dark)), Formula(f"D{row}*(M{row}*N{row}*O{row}+P{row}*(24-O{row}))", dark_wh),
                0 if converter is None else Formula(f"Q{row}*(1/L{row}-1)", dark_wh * (1 / converter - 1)),
            ],
        )  # fmt: skip
        shared.append(Shared(name=f"{load.name}: Wh a day", sheet="Audit", cell=f"I{row}", value=own.daily_wh))
        shared.append(Shared(name=f"{load.name}: ± Wh", sheet="Audit", cell=f"K{row}", value=own.doubt_wh))
        row += 1
    # Loads whose circuit gets nothing are named and do not count; and one empty row, so that a range is never none.
    for load in design.loads:
        if load.id not in sums:
            sheet.put(row, [load.name, "not carried"])
            row += 1
    last = row
    row += 1
    for tier in Tier:
        ask = f'SUMIFS(I{_FIRST}:I{last},B{_FIRST}:B{last},"{tier.value.title()}",C{_FIRST}:C{last},"<>a panel")'
        value = found.loads.daily_by_tier_wh[tier.value]
        sheet.put(row, [f"{tier.value.title()} a day", *[None] * 7, Formula(ask, value)], bold=True)
        shared.append(Shared(name=f"{tier.value.title()}: Wh a day", sheet="Audit", cell=f"I{row}", value=value))
        row += 1
    sheet.put(row, ["All a day", *[None] * 7, Formula(f"SUM(I{row - 4}:I{row - 1})", found.loads.daily_wh)], bold=True)
    shared.append(Shared(name="All loads: Wh a day", sheet="Audit", cell=f"I{row}", value=found.loads.daily_wh))
    sheet.widths(36, 9, 14, 9, 10, 8, 8, 9, 10, 8, 9, 10, 12, 8, 8, 9, 10, 12)


def _fed(supply: Supply) -> str:
    if supply.is_ac:
        return "the inverter"
    return "a panel" if supply is Supply.PANEL else "the bank"


# --- the sizing sheet


class _Column:
    """Rows of name, value, unit and remark, one under the other; a value is found again by its key."""

    def __init__(self, sheet: _Sheet) -> None:
        self.sheet, self.row = sheet, 1
        self.at: dict[str, str] = {}

    def put(self, key: str, label: str, value: Value, unit: str, remark: str, *, bold: bool = False) -> str:
        self.row += 1
        self.sheet.put(self.row, [label, value, unit, remark], bold=bold)
        self.at[key] = f"B{self.row}"
        return self.at[key]


def _sizing(sheet: _Sheet, design: Design, found: Assessment, shared: list[Shared]) -> None:
    sheet.put(1, ["Line", "Value", "Unit", "From"], bold=True)
    column = _Column(sheet)
    need = found.arrangement.need
    lines = {line.key: line for line in need.lines}
    last = _FIRST + len(design.loads)

    def share(key: str, cell: str) -> None:
        shared.append(Shared(name=f"From need to bank: {lines[key].label}", sheet="Sizing", cell=cell, value=lines[key].value))  # fmt: skip

    def put(key: str, formula: str | None = None) -> str:
        """A line of the need's sheet: worked out by a formula, or given."""
        line: SheetLine = lines[key]
        value = Given(line.value) if formula is None else Formula(formula, line.value)
        cell = column.put(key, line.label, value, line.unit, line.formula, bold=line.is_sum)
        share(key, cell)
        return cell

    tiers = [tier.value.title() for tier in list(Tier)[: counted_tiers(design.bank.need.lowest_tier)]]

    def audit(sum_of: str, fed: str) -> str:
        each = (
            f'SUMIFS(Audit!{sum_of}{_FIRST}:{sum_of}{last},Audit!B{_FIRST}:B{last},"{tier}",Audit!C{_FIRST}:C{last},"{fed}")'
            for tier in tiers
        )
        return "+".join(each)

    # What search mode leaves dead, and what the hours do to idle and cable, is found hour by hour and stands as a number.
    lives_in = {row.id: row.lived_tier.title() for row in found.loads.rows}
    counted = [load for load in design.loads if lives_in.get(load.id) in tiers and load.supply is not Supply.PANEL]
    dark = DayKind(month=design.outage.start.month, is_dark=design.bank.need.dark_day)
    by_ac, by_dc = (
        sum(_energy_wh(day_of(load, dark), load.quantity) for load in counted if load.supply.is_ac is is_ac)
        for is_ac in (True, False)
    )
    dead_wh = by_ac + by_dc - lines["loads"].value
    ac = column.put(
        "ac", "of it through the inverter", Formula(audit("Q", "the inverter"), by_ac), "Wh", "sum of the audit"
    )
    dc = column.put(
        "dc", "of it straight from the bank", Formula(audit("Q", "the bank"), by_dc), "Wh", "sum of the audit"
    )
    dead = column.put(
        "dead", "left dead by the inverter's search mode", Given(dead_wh if abs(dead_wh) > 1e-6 else 0.0), "Wh", "hour by hour"
    )  # fmt: skip
    loads = put("loads", f"{ac}+{dc}-{dead}")
    rated = column.put("rated_w", "Inverter's rating", Given(design.inverter.rated_w), "W", "data sheet")
    efficiency = column.put(
        "eff", "its efficiency at the rating", Given(design.inverter.efficiency_frac), "", "data sheet"
    )
    idle_w = column.put("idle_w", "its idle draw", Given(design.inverter.idle_w), "W", "data sheet")
    marginal = column.put(
        "marginal", "Marginal efficiency", Formula(f"IF({rated}=0,1,{rated}/({rated}/{efficiency}-{idle_w}))", marginal_efficiency(design.inverter)), "",
        "rating ÷ (rating ÷ efficiency − idle)",
    )  # fmt: skip
    shared.append(Shared(name="Marginal efficiency", sheet="Sizing", cell=marginal, value=marginal_efficiency(design.inverter)))  # fmt: skip
    idle = put("idle")
    conversion = put("conversion", f"({ac}-{dead})*(1/{marginal}-1)+{audit('R', 'the bank')}")
    flat = design.wiring.loss_frac
    if flat is None:
        wiring = put("wiring")
    else:
        loss = column.put("loss", "Flat loss in cable", Given(flat), "", "wiring.loss_frac")
        wiring = put("wiring", f"({loads}+{idle}+{conversion})*{loss}")
    day = put("day", f"{loads}+{idle}+{conversion}+{wiring}")
    autonomy, growth = put("autonomy"), put("growth")
    discharge, rate = put("discharge"), put("rate")
    stored = put("stored", f"{day}*{autonomy}/24*(1+{growth})/{discharge}*{rate}")
    depth, cold, age = map(put, ("depth", "cold", "age"))
    nominal = put("nominal", f"{stored}/({depth}*{cold}*{age})")
    bank = design.bank
    unit_v = column.put("unit_v", "Battery unit", Given(bank.unit_v), "V", "data sheet")
    unit_ah = column.put("unit_ah", "the same", Given(bank.unit_ah), "Ah", "data sheet")
    series = column.put("series", "in series", Given(bank.series), "", "bank.series")
    parallel = column.put("parallel", "side by side", Given(bank.parallel), "", "bank.parallel")
    put("nominal_ah", f"{nominal}/({unit_v}*{series})")
    energy = next(one for one in need.strings if one.key == "energy")
    strings = column.put(
        "strings", "Strings for the energy",
        Formula(f"MAX(1,ROUNDUP({nominal}/({unit_v}*{series}*{unit_ah})-0.000000001,0))", energy.strings), "", "rated energy ÷ a string, rounded up",
        bold=True,
    )  # fmt: skip
    shared.append(Shared(name="Strings for the energy", sheet="Sizing", cell=strings, value=energy.strings))
    _bank_and_inverter(column, design, found, shared, marginal=marginal, unit=(unit_v, unit_ah, series, parallel))
    sheet.widths(44, 14, 8, 70)


def _bank_and_inverter(
    column: _Column,
    design: Design,
    found: Assessment,
    shared: list[Shared],
    *,
    marginal: str,
    unit: tuple[str, str, str, str],
) -> None:
    """The bank as it is, and the inverter's currents, beside the figures of the same name."""

    def put(key: str, formula: str) -> str:
        figure = found.figures[key]
        cell = column.put(key, figure.label, Formula(formula, figure.value), figure.unit, figure.formula, bold=True)
        shared.append(Shared(name=figure.label, sheet="Sizing", cell=cell, value=figure.value))
        return cell

    volts, amp_hours, series, parallel = unit
    rated = put("bank.rated_wh", f"{volts}*{series}*{amp_hours}*{parallel}")
    terms = {term.name.partition(" at ")[0]: term.value for term in found.figures["bank.usable_wh"].terms}
    temp = column.put("temp", "Temperature factor", Given(terms["temperature factor"]), "", "at the place of the bank")
    ageing = column.put("ageing", "Ageing", Given(terms["ageing"]), "", "bank.ageing_frac")
    floor = column.put("floor", "Floor", Given(terms["floor"]), "", "of full")
    usable = put("bank.usable_wh", f"{rated}*{temp}*{ageing}*(1-{floor})")
    drawn = column.put(
        "drawn", "Drawn a day, without sun", Given(found.bank.daily_drawn_wh), "Wh", "hour by hour, Life, Keep and Ease"
    )
    if "bank.autonomy_h" in found.figures:
        put("bank.autonomy_h", f"{usable}/{drawn}*24")
    if design.inverter.rated_w == 0:
        return
    together = design.inverter.together
    cutoff = column.put("cutoff", "Low cut-off", Given(together.low_cutoff_v), "V", "inverter.low_cutoff_v")
    idle = column.put("idle_all", "Idle of all inverters", Given(together.idle_w), "W", "data sheet")
    for key, label, value in (
        ("inverter.peak_current_a", "Coincident peak", found.loads.peak_w),
        ("inverter.surge_current_a", "Worst start", found.loads.start_surge_w),
    ):
        output = column.put(f"{key} output", label, Given(value), "W", "the audit, hour by hour")
        put(key, f"IF({output}=0,0,({idle}+{output}/{marginal})/{cutoff})")


def _energy_wh(day: DayOfLoad, quantity: int) -> float:
    hours_on = int(day.on.sum())
    return quantity * (day.running_w * day.duty_frac * hours_on + day.standby_w * (24 - hours_on))


# --- the wiring


def _yes(holds: bool) -> str:
    return "yes" if holds else "NO"


def _wiring(sheet: _Sheet, wiring: WiringSheet, shared: list[Shared]) -> None:
    header = [
        "Run", "Current A", "Factor", "Has to carry A", "Conductor", "May carry A", "Holds", "Conductors there and back", "Length, one way m",
        "Hot copper Ω/km a pole", "Current of the drop A", "Of V", "Drop V", "Drop part", "Limit", "Within it", "Device", "Device A",
    ]  # fmt: skip
    sheet.put(1, header, bold=True)
    for row, run in enumerate(wiring.runs, start=_FIRST):
        drop = next((figure for figure in run.figures if figure.label == "Drop"), None)
        needs = any(figure.label == "Has to carry" for figure in run.figures)
        terms = {term.name: term.value for term in drop.terms} if drop else {}
        sheet.put(row,
            [
                run.label, Given(run.current_a), Given(run.factor), Formula(f"B{row}*C{row}", run.needed_a) if needs else None, run.conductor,
                None if run.ampacity_a is None else Given(run.ampacity_a),
                Formula(f'IF(F{row}>=D{row}-0.000001,"yes","NO")', _yes(run.ampacity_a >= run.needed_a - 1e-6)) if needs and run.ampacity_a is not None else None,
                *([Given(terms[name]) for name in ("conductors", "length, one way", "hot copper", "current", "of")] if drop else [None] * 5),
                Formula(f"H{row}*I{row}*J{row}/1000*K{row}", drop.value) if drop else None,
                Formula(f"M{row}/L{row}", drop.value / terms["of"]) if drop else None,
                Given(run.drop_limit_frac) if drop else None,
                Formula(f'IF(N{row}<=O{row}+0.000001,"yes","NO")', _yes(drop.value / terms["of"] <= run.drop_limit_frac + 1e-6)) if drop else None,
                run.device or None, run.device_a,
            ],
        )  # fmt: skip
        if needs:
            shared.append(
                Shared(name=f"{run.label}: has to carry A", sheet="Wiring", cell=f"D{row}", value=run.needed_a)
            )
        if drop and run.drop_v is not None and run.drop_frac is not None:
            shared.append(Shared(name=f"{run.label}: drop V", sheet="Wiring", cell=f"M{row}", value=run.drop_v))
            shared.append(Shared(name=f"{run.label}: drop part", sheet="Wiring", cell=f"N{row}", value=run.drop_frac))
    sheet.widths(40, 10, 8, 10, 18, 10, 8, 11, 10, 12, 12, 8, 9, 9, 8, 9, 24, 9)


def _parts(sheet: _Sheet, wiring: WiringSheet, shared: list[Shared]) -> None:
    sheet.put(1, ["Part", "Group", "Quantity", "Unit", "Price of one", "Sum"], bold=True)
    row = _FIRST
    for part in wiring.lists.parts:
        price = None if part.price is None else Given(part.price)
        sheet.put(
            row,
            [
                part.what,
                part.group,
                Given(part.quantity),
                part.unit,
                price,
                Formula(f"C{row}*E{row}", part.quantity * (part.price or 0.0)),
            ],
        )
        row += 1
    sheet.put(
        row + 1,
        ["Sum of what has a price", *[None] * 4, Formula(f"SUM(F{_FIRST}:F{row})", wiring.lists.total)],
        bold=True,
    )
    shared.append(
        Shared(name="Parts: sum of what has a price", sheet="Parts", cell=f"F{row + 1}", value=wiring.lists.total)
    )
    sheet.widths(48, 18, 10, 8, 12, 12)


def _compared(sheet: _Sheet, shared: Sequence[Shared]) -> None:
    sheet.put(1, ["Figure", "In this workbook", "In Hearth Keep when it was made", "Difference"], bold=True)
    for row, one in enumerate(shared, start=_FIRST):
        sheet.put(
            row, [one.name, Formula(f"{one.sheet}!{one.cell}", one.value), one.value, Formula(f"B{row}-C{row}", 0.0)]
        )
    sheet.widths(56, 18, 22, 14)
