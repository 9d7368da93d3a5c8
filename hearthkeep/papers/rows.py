"""Rows of the sheets' tables that are put together from several parts of the assessment."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from unicodedata import east_asian_width

from hearthkeep.core.building import GateStand
from hearthkeep.core.design import Circuit, Load, Quality, Tier
from hearthkeep.core.figure import Figure
from hearthkeep.core.loads import LoadSum, quality_of
from hearthkeep.core.transfer import BY_KIND, Arrangement, Fate, carried_by, failure_of
from hearthkeep.papers.source import PaperSource

TIERS = tuple(Tier)
QUALITY_WORDS = {
    Quality.MEASURED: "measured",
    Quality.LABEL: "energy label",
    Quality.NAMEPLATE: "nameplate",
    Quality.GUESS: "guess",
}
FATE_WORDS = {Fate.CARRIED: "backed up", Fate.ON_GRID: "stays on the grid", Fate.DEAD: "dead"}
#: Lines of a page's head, of small type, that hold so many narrow characters.
_HEAD_CHARACTERS, _BAND_CHARACTERS = 68, 108


def arrangement_of(source: PaperSource) -> Arrangement | None:
    """The chosen arrangement in words."""
    kind = source.design.transfer.arrangement
    return None if kind is None else BY_KIND[kind]


def arrangement_facts(source: PaperSource) -> tuple[tuple[str, str], ...]:
    """What the chosen arrangement carries, who installs it and what one failure does, each under its title."""
    arrangement = arrangement_of(source)
    if arrangement is None:
        return ()
    return (
        ("Carries", carried_by(source.design)),
        ("Installed by", arrangement.installer),
        ("If it fails", failure_of(source.design)),
    )


STAND_WORDS = {
    GateStand.WAITS: "open",
    GateStand.OPEN: "open",
    GateStand.PASSED: "passed",
    GateStand.SKIPPED: "skipped",
    GateStand.CHANGED: "design changed since",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class CertificateRow:
    """One gate on the certificate."""

    number: int
    title: str
    stand: str
    who: str
    #: Local standard time of the site.
    at: datetime | None
    instrument: str
    note: str
    #: Who looked a second time at what was accepted outside its window.
    second: str
    #: What is risked, where it was skipped.
    risk: str
    readings: tuple[CertificateReading, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class CertificateReading:
    """One reading of a gate: label, window and what was read."""

    label: str
    where: str
    unit: str
    low: float
    high: float
    decimals: int
    #: None where nothing was read.
    read: float | None
    #: inside, outside, or empty.
    verdict: str


def certificate_rows(source: PaperSource) -> tuple[CertificateRow, ...]:
    """The gates in order, with what is signed of each."""
    found = []
    for number, sheet in enumerate(source.build.gates, start=1):
        signed = sheet.progress.signed
        stand = sheet.progress.stand
        done = signed is not None and stand in (GateStand.PASSED, GateStand.SKIPPED, GateStand.CHANGED)
        entry = signed.entry if signed is not None and done else None
        readings = {} if signed is None else signed.entry.readings
        offset = timedelta(hours=source.design.site.utc_offset_h)
        found.append(
            CertificateRow(
                number=number,
                title=sheet.gate.title,
                stand=STAND_WORDS[stand],
                who=entry.who if entry else "",
                at=(signed.at.astimezone(UTC) + offset).replace(tzinfo=None) if signed and done else None,
                instrument=entry.instrument if entry else "",
                note=entry.note if entry else "",
                second=entry.second if entry else "",
                risk=sheet.gate.skipping if stand is GateStand.SKIPPED else "",
                readings=tuple(
                    CertificateReading(
                        label=ask.label,
                        where=ask.where,
                        unit=ask.unit.value,
                        low=ask.window.low,
                        high=ask.window.high,
                        decimals=ask.decimals,
                        read=readings.get(ask.key),
                        verdict="inside"
                        if ask.key in sheet.judged.inside
                        else "outside"
                        if ask.key in sheet.judged.outside
                        else "",
                    )
                    for ask in sheet.gate.asks
                    if not ask.is_optional or ask.key in readings or source.built is None
                ),
            )
        )
    return tuple(found)


@dataclass(frozen=True, kw_only=True, slots=True)
class PanelRow:
    """One circuit of the panel schedule."""

    circuit: Circuit
    slots: str
    legs: str
    #: What becomes of it in an outage, and why where it is not carried.
    fate: str
    position: str
    backup_legs: str
    loads: tuple[str, ...]
    running_w: float


def panel_rows(source: PaperSource) -> tuple[PanelRow, ...]:
    """The circuits of the main panel by slot."""
    design, states = source.design, {state.id: state for state in source.assessment.transfer.circuits}
    names = {load.id: load.name for load in design.loads}
    rows = []
    for circuit in sorted(design.transfer.circuits, key=lambda circuit: circuit.slot):
        state = states[circuit.id]
        carried = state.fate is Fate.CARRIED
        rows.append(
            PanelRow(
                circuit=circuit,
                slots=", ".join(map(str, state.slots)),
                legs=" ".join(leg.value for leg in state.legs),
                fate=state.why or FATE_WORDS[state.fate],
                position=", ".join(map(str, state.positions)) if carried else "",
                backup_legs=" ".join(leg.value for leg in state.backup_legs) if carried else "",
                loads=tuple(names[key] for key in state.loads if key in names),
                running_w=state.running_w,
            )
        )
    return tuple(rows)


@dataclass(frozen=True, kw_only=True, slots=True)
class FigureGroup:
    """Figures that belong together, each with its working."""

    title: str
    figures: tuple[Figure, ...]


_GROUPS = (
    ("loads.", "Loads"),
    ("bank.", "Bank"),
    ("inverter.", "Inverter"),
    ("charging.", "Charging"),
    ("transfer.", "Transfer"),
    ("wiring.", "Wiring as a whole"),
    ("outage.", "The planned outage"),
)


def figure_groups(source: PaperSource) -> tuple[FigureGroup, ...]:
    """The assessment's figures, page by page, and those behind its findings."""
    figures = source.assessment.figures
    groups = [
        FigureGroup(title=title, figures=tuple(figure for key, figure in figures.items() if key.startswith(start)))
        for start, title in _GROUPS
    ]
    found = [figure for finding in source.assessment.findings if (figure := finding.figure) is not None]
    groups.append(FigureGroup(title="Behind the findings", figures=tuple(found)))
    return tuple(group for group in groups if group.figures)


@dataclass(frozen=True, kw_only=True, slots=True)
class RunValues:
    """One run's inputs and result; `own` is how its input comes about where that differs from run to run."""

    run: str
    values: tuple[float | None, ...]
    result: float
    own: str


@dataclass(frozen=True, kw_only=True, slots=True)
class RunTable:
    """One figure of all runs: formula and source once, then a row each."""

    label: str
    unit: str
    formula: str
    basis: str
    #: Inputs with their units.
    columns: tuple[str, ...]
    rows: tuple[RunValues, ...]

    @property
    def has_own(self) -> bool:
        """Whether the runs say for themselves where their input comes from."""
        return any(row.own for row in self.rows)


def run_tables(source: PaperSource) -> tuple[RunTable, ...]:
    """Every figure that sizes a run, of all runs together."""
    found: dict[str, list[tuple[str, Figure]]] = {}
    for run in source.wiring.runs:
        for figure in run.figures:
            found.setdefault(figure.label, []).append((run.label, figure))
    return tuple(_run_table(label, figures) for label, figures in found.items())


def _run_table(label: str, figures: list[tuple[str, Figure]]) -> RunTable:
    # What stands before the semicolon holds for every run; what follows is the run's own.
    formula = figures[0][1].formula.partition("; ")[0]
    columns = dict.fromkeys((term.name, term.unit) for _, figure in figures for term in figure.terms)
    rows = []
    for run, figure in figures:
        values = {(term.name, term.unit): term.value for term in figure.terms}
        own = figure.formula.partition("; ")[2].removeprefix("the current: ")
        rows.append(
            RunValues(run=run, values=tuple(values.get(column) for column in columns), result=figure.value, own=own)
        )
    return RunTable(
        label=label,
        unit=figures[0][1].unit,
        formula=formula,
        basis="; ".join(dict.fromkeys(figure.basis for _, figure in figures)),
        columns=tuple(f"{name} {unit}".rstrip() for name, unit in columns),
        rows=tuple(rows),
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class AuditRow:
    """One load with its sums."""

    load: Load
    sums: LoadSum
    known: str


def audit_rows(source: PaperSource, tier: Tier) -> tuple[AuditRow, ...]:
    """The loads of a tier, as they live, with their energy."""
    sums = {row.id: row for row in source.assessment.loads.rows}
    return tuple(
        AuditRow(load=load, sums=sums[load.id], known=QUALITY_WORDS[quality_of(load)])
        for load in source.design.loads
        if load.id in sums and sums[load.id].lived_tier == tier.value
    )


def not_carried(source: PaperSource) -> tuple[Load, ...]:
    """Loads that are not in the audit's sums, because their circuit gets nothing."""
    counted = {row.id for row in source.assessment.loads.rows}
    return tuple(load for load in source.design.loads if load.id not in counted)


def worth_measuring(source: PaperSource) -> tuple[Load, ...]:
    """The loads that nobody has measured, the largest doubt first."""
    doubt = {row.id: row.doubt_wh for row in source.assessment.loads.rows if row.quality is not Quality.MEASURED}
    loads = [load for load in source.design.loads if load.id in doubt]
    return tuple(sorted(loads, key=lambda load: -doubt[load.id]))


def _wide(text: str) -> int:
    """Width of a text in narrow characters."""
    return sum(2 if east_asian_width(character) in "WF" or ord(character) > 0x1F000 else 1 for character in text)


def head_lines(source: PaperSource) -> tuple[int, int]:
    """Lines that the design's name and the band of Stops take in a page's head, at most."""
    name = 1 + _wide(source.design.name) // _HEAD_CHARACTERS
    band = 0 if not source.stops else 1 + _wide(stop_band(source)) // _BAND_CHARACTERS
    return name, band


def stop_band(source: PaperSource) -> str:
    """What the band on every page says while Stops stand open."""
    titles = [finding.title for finding in source.stops]
    count = "1 STOP STANDS OPEN" if len(titles) == 1 else f"{len(titles)} STOPS STAND OPEN"
    return f"{count}: {'; '.join(titles)}. Do not build or use it before they are settled."
