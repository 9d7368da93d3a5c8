"""What the processes do: from a document's bytes to the bytes of an answer, so that the server itself need not read either.

Each task raises InputError for a document that cannot be used, as the reader of documents does.
"""

from __future__ import annotations

import gc
from datetime import datetime
from typing import Any

from sqlalchemy import URL, Engine, make_url

from hearthkeep.core.alternatives import (
    PartKey,
    VariantColumn,
    VariantYear,
    Worth,
    lived_hours_h,
    variant_column,
    variant_year,
    with_part,
    worth_of,
)
from hearthkeep.core.assess import assess
from hearthkeep.core.bank import RestState, rest_state
from hearthkeep.core.checks import Severity
from hearthkeep.core.design import Design, LibraryInverter, Load, Practice, read_design
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.growth import GrowthReport, growth_of
from hearthkeep.core.kits import (
    KitAnswer,
)
from hearthkeep.core.numbers import commas_of
from hearthkeep.core.opinions import KitName, KitShare, OpinionsReport, kit_design, kit_share, opinions_of
from hearthkeep.core.outage import prepare
from hearthkeep.core.prove import Proof
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.transfer import Balance, balance
from hearthkeep.core.trials import (
    Failures,
    OneMoreOfEach,
    Reliability,
    reliability,
)
from hearthkeep.core.whatif import (
    Advice,
    GeneratorChoice,
    LoadPrices,
    PriceInHours,
    RankedInverter,
    RationPlan,
    advise,
    circuit_price,
    generator_choices,
    load_prices,
    rank_inverters,
    ration,
)
from hearthkeep.core.wiring import WiringSheet, wiring_sheet
from hearthkeep.core.yearly import SunYear, sun_year
from hearthkeep.exchange import (
    OutagePreview,
    PanelPreview,
    SheetPreview,
    UnitSheet,
    WiringTable,
    one_line_svg,
    panel_now,
    read_outages,
    read_schedule,
    read_sheet,
    read_text,
    read_units,
    read_weather,
    read_workbook,
    schedule_rows,
    sheet_rows,
    wiring_tables,
    write_csv,
    write_workbook,
    write_xlsx,
)
from hearthkeep.store import MODELS, SHEETS, Checked, Summary, UnitKind, WeatherYears, engine_for
from hearthkeep.workers.writer import Writer

_RATION = Writer(RationPlan)
_FAILURES = Writer(Failures)
_ONE_MORE = Writer(OneMoreOfEach)
_RELIABILITY = Writer(Reliability)
_PROOF = Writer(Proof)
_KIT_ANSWER = Writer(KitAnswer)
_KIT_ANSWERS = Writer(tuple[KitAnswer, ...])
_SUN_YEAR = Writer(SunYear)
_CHOICES = Writer(tuple[GeneratorChoice, ...])
_RANKED = Writer(tuple[RankedInverter, ...])
_PRICES = Writer(LoadPrices)
_REST = Writer(RestState)
_ADVICE = Writer(tuple[Advice, ...])
_BALANCE = Writer(Balance)
_PRICE = Writer(PriceInHours)
_COLUMN = Writer(VariantColumn)
_VARIANT_YEAR = Writer(VariantYear)
_WORTH = Writer(Worth)
_GROWTH = Writer(GrowthReport)
_OPINIONS = Writer(OpinionsReport)
_SHARE = Writer(KitShare)
_WIRING = Writer(WiringSheet)

_engine: Engine | None = None
_years: WeatherYears | None = None


def begin(url: str) -> None:
    """Called once in each process: where weather years and readings are found."""
    global _engine, _years
    address: URL = make_url(url)
    _engine = engine_for(address, most=1)
    _years = WeatherYears(_engine)
    # What was loaded before the fork stays; looking through it again and again would cost an edit several milliseconds.
    gc.freeze()


def stored_year_of(document: Design) -> WeatherYear | None:
    """The weather year a design names; none where it names none or it is not stored."""
    return None if _years is None else _years.find(document.site.weather_year)


def store_engine() -> Engine:
    """The process's own way to the database."""
    assert _engine is not None
    return _engine


# --- documents


def check_document(body: bytes) -> Checked:
    """Read a document of any version."""
    return Checked.of(read_design(body))


def summarise(values: dict[str, Any], weather_year: str | None) -> tuple[Summary | None, str]:
    """What the list shows of a stored document, or why it cannot: one bad document must not hide the others."""
    try:
        document = read_design(values)
    except InputError as error:
        return None, f"It cannot be read here: {'; '.join(str(problem) for problem in error.problems[:2])}."
    try:
        assessment = assess(document, None if _years is None else _years.find(weather_year))
    except Exception as error:
        kind = type(error).__name__
        return None, f"It cannot be assessed ({kind}): a figure in it is beyond what can be worked with."
    severities = [finding.severity for finding in assessment.findings]
    summary = Summary(
        kind=document.kind.value,
        place=document.site.place,
        hours_carried_h=assessment.outage.hours_carried_h,
        duration_h=assessment.outage.duration_h,
        daily_wh=assessment.loads.daily_wh,
        bank_wh=assessment.bank.rated_wh,
        stops=severities.count(Severity.STOP),
        mends=severities.count(Severity.MEND),
    )
    return summary, ""


# --- files out


def ledger_as_csv(body: bytes) -> bytes:
    """The loads as CSV."""
    return write_csv(sheet_rows(read_design(body).loads))


def ledger_as_xlsx(body: bytes) -> bytes:
    """The loads as a workbook."""
    return write_xlsx(sheet_rows(read_design(body).loads), "Loads")


# --- what if


def generators(body: bytes) -> bytes:
    """The generator as it is, sized to charge, and sized to carry the house."""
    document = read_design(body)
    return _CHOICES.dump_json(tuple(generator_choices(document, stored_year_of(document))))


def year_on_arrays(body: bytes) -> bytes:
    """The design's arrays and house in its weather year."""
    document = read_design(body)
    return _SUN_YEAR.dump_json(sun_year(document, stored_year_of(document)))


def recorded(body: bytes) -> bytes:
    """The past outages with this design."""
    document = read_design(body)
    return _RELIABILITY.dump_json(reliability(document, stored_year_of(document)))


def rationed(body: bytes) -> bytes:
    """The schedule of the loads that makes it last."""
    document = read_design(body)
    return _RATION.dump_json(ration(prepare(document, stored_year_of(document))))


def ranked(body: bytes, units: list[LibraryInverter], most: int) -> bytes:
    """Inverters in the place of the design's, best first."""
    document = read_design(body)
    return _RANKED.dump_json(tuple(rank_inverters(document, units, stored_year_of(document))[:most]))


def rest(body: bytes, rest_v: float) -> bytes:
    """State of charge of the design's bank from its rest voltage [V]."""
    return _REST.dump_json(rest_state(read_design(body).bank, rest_v))


def priced(design: Design, load_id: str, replacement: Load | None) -> bytes:
    """What one load costs in hours, and what another in its place would."""
    ids = [load.id for load in design.loads]
    if load_id not in ids:
        raise InputError((FieldProblem(field="load_id", value=repr(load_id), accepted="must be the id of a load"),))
    return _PRICES.dump_json(load_prices(design, ids.index(load_id), replacement, stored_year_of(design)))


def advice(body: bytes) -> bytes:
    """Every arrangement in the place of the design's, best first."""
    document = read_design(body)
    return _ADVICE.dump_json(advise(document, stored_year_of(document)))


def circuit_priced(design: Design, circuit_id: str) -> bytes:
    """What backing a circuit up, or keeping it on the grid, does in hours."""
    ids = [circuit.id for circuit in design.transfer.circuits]
    if circuit_id not in ids:
        accepted = "must be the id of a circuit"
        raise InputError((FieldProblem(field="circuit_id", value=repr(circuit_id), accepted=accepted),))
    return _PRICE.dump_json(circuit_price(design, ids.index(circuit_id), stored_year_of(design)))


def balanced(body: bytes) -> bytes:
    """The best assignment of the backed-up circuits to the legs."""
    return _BALANCE.dump_json(balance(read_design(body)))


def schedule_as_csv(body: bytes) -> bytes:
    """The panel's circuits as CSV."""
    return write_csv(schedule_rows(read_design(body)))


def schedule_as_xlsx(body: bytes) -> bytes:
    """The panel's circuits as a workbook."""
    return write_xlsx(schedule_rows(read_design(body)), "Panel")


def opinions(body: bytes) -> bytes:
    """Each rule of thumb's answer, and what the planned outage says of it."""
    document = read_design(body)
    return _OPINIONS.dump_json(opinions_of(document, stored_year_of(document)))


def opinion_share(body: bytes, kit: KitName) -> bytes:
    """Share of the year's outages that a kit carries."""
    document = read_design(body)
    return _SHARE.dump_json(kit_share(document, kit, stored_year_of(document)))


def opinion_design(body: bytes, kit: KitName) -> bytes:
    """The design with a kit."""
    document = read_design(body)
    return kit_design(document, kit, stored_year_of(document)).model_dump_json().encode()


def stages_ahead(body: bytes) -> bytes:
    """The design now and at each stage ahead."""
    document = read_design(body)
    return _GROWTH.dump_json(growth_of(document, stored_year_of(document)))


# --- alternatives, by their stored values


def alternative_column(values: dict[str, Any]) -> bytes:
    """What one alternative comes to."""
    document = read_design(values)
    return _COLUMN.dump_json(variant_column(document, stored_year_of(document)))


def alternative_year(values: dict[str, Any]) -> bytes:
    """One alternative in its weather year."""
    document = read_design(values)
    return _VARIANT_YEAR.dump_json(variant_year(document, stored_year_of(document)))


def alternative_worth(base: dict[str, Any], other: dict[str, Any]) -> bytes:
    """What each difference between two of them is worth."""
    return _WORTH.dump_json(worth_of(read_design(base), read_design(other), lived_hours_h(stored_year_of)))


def swapped(values: dict[str, Any], source: dict[str, Any], part: PartKey) -> bytes:
    """One of them with a part of another, read again so that parts that do not go together are refused."""
    found = with_part(read_design(values), read_design(source), part)
    return read_design(found.model_dump_json().encode()).model_dump_json().encode()


# --- wiring


def _wiring_of(design: Design) -> WiringSheet:
    year = stored_year_of(design)
    return wiring_sheet(design, year_low_c=None if year is None else float(year.air_c.min()))


def wired(body: bytes) -> bytes:
    """Every run sized, with one-line, board, lists and checks."""
    return _WIRING.dump_json(_wiring_of(read_design(body)))


def wiring_as_csv(body: bytes, which: str) -> bytes:
    """One of the wiring's lists as CSV."""
    design = read_design(body)
    return write_csv(wiring_tables(design, _wiring_of(design))[WiringTable(which)])


def wiring_as_xlsx(body: bytes) -> bytes:
    """The wiring's lists as a workbook."""
    design = read_design(body)
    return write_workbook(
        {table.value.title(): rows for table, rows in wiring_tables(design, _wiring_of(design)).items()}
    )


def one_line_drawn(body: bytes) -> bytes:
    """The one-line diagram as SVG."""
    design = read_design(body)
    return one_line_svg(
        _wiring_of(design).one_line,
        title=f"{design.name}: one-line diagram",
        note="A plan, not a permit: wiring to a house is for a licensed electrician, by the code in force.",
    )


# --- foreign files, each in a process with limits


def preview_of(text: str | None, workbook: bytes | None, loads: list[Load], practice: Practice) -> SheetPreview:
    """What taking a sheet of loads would change."""
    rows = read_text(text or "") if workbook is None else read_workbook(workbook)
    return read_sheet(rows, loads, commas_of(practice))


def schedule_of(text: str | None, workbook: bytes | None, design: Design) -> PanelPreview:
    """What taking a panel schedule would change."""
    rows = read_text(text or "") if workbook is None else read_workbook(workbook)
    return read_schedule(rows, panel_now(design))


def outages_of(text: str | None, workbook: bytes | None, today: datetime) -> OutagePreview:
    """What taking a record of past outages would put in."""
    return read_outages(read_text(text or "") if workbook is None else read_workbook(workbook), today)


def units_of(kind: UnitKind, text: str) -> UnitSheet:
    """Units of the library from CSV."""
    return read_units(SHEETS[kind], MODELS[kind], text)


def year_of(content: bytes, name: str) -> WeatherYear:
    """A weather year from an EPW or TMY3 file."""
    return read_weather(content, name)
