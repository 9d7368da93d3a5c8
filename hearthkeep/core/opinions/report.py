"""Opinions side by side: each method's sheet and kit, what the storm says of it, and what one has against what each asks for."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.design import Design
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.opinions.audit import OpinionAudit, audit_for
from hearthkeep.core.opinions.blame import Blame, Kitted, Trying, blame_of
from hearthkeep.core.opinions.bought import Bought, bought_of, design_with
from hearthkeep.core.opinions.have import Have, have_against
from hearthkeep.core.opinions.methods import METHODS, Method, MethodInfo, answered
from hearthkeep.core.opinions.referee import life_figure, model_kit, refereed
from hearthkeep.core.opinions.sheet import Answer, OpinionLine, Sheet
from hearthkeep.core.outage import STEP_BY_STEP, prepare
from hearthkeep.core.sizing import price_figure, units_price
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials import live, planned_length_h, share_figure, trial_year


class KitName(StrEnum):
    """Whose kit: the design's own, a method's, or the least that the model finds to carry the outage."""

    DESIGNED = "designed"
    OVERNIGHT = Method.OVERNIGHT.value
    LEDGER = Method.LEDGER.value
    DEPTH = Method.DEPTH.value
    BUFFER = Method.BUFFER.value
    RATIOS = Method.RATIOS.value
    WORKSHEET = Method.WORKSHEET.value
    MODEL = "model"


@dataclass(frozen=True, kw_only=True, slots=True)
class KitColumn:
    """One column of the table."""

    kit: KitName
    title: str
    bought: Bought
    #: In the planned outage [h], and whether that is the whole of it.
    hours_carried_h: float
    is_carried: bool
    #: The same with an inverter that holds the running loads and the worst start, where that is longer [h].
    with_inverter_h: float
    #: Until the bank is at 80 %, giving each year what the design's own is meant to give [a].
    life_years: float
    #: How hours, price and life come about, by those keys.
    figures: dict[str, Figure]


@dataclass(frozen=True, kw_only=True, slots=True)
class Opinion:
    """One method: its sheet, its answer, and what the storm says of it."""

    info: MethodInfo
    lines: tuple[OpinionLine, ...]
    answer: Answer
    column: KitColumn
    blame: Blame


@dataclass(frozen=True, kw_only=True, slots=True)
class OpinionsReport:
    """Everything the page Opinions shows but the shares of the year, which take longer."""

    #: Whether anything is asked at all; without loads the methods have nothing to size.
    is_asked: bool
    #: Tiers that the methods count, from Life down.
    tiers: tuple[str, ...]
    duration_h: float
    designed: KitColumn
    opinions: tuple[Opinion, ...]
    #: The least bank and inverter with which the design carries its outage; none where no bank does.
    model: KitColumn | None
    have: Have


def opinions_of(design: Design, year: WeatherYear | None = None) -> OpinionsReport:
    """Answer by each of the six methods, and live the planned outage with what each would buy."""
    prepared = prepare(design, year)
    audit = audit_for(prepared.design, year)
    referee = refereed(design, audit, year)
    trying = Trying(design=design, year=year, referee=referee)
    designed = _column(KitName.DESIGNED, "As designed", trying.kitted_anew(design), trying)
    opinions = tuple(_opinion(method, audit, trying) for method in METHODS)
    fitted = model_kit(design, referee)
    return OpinionsReport(
        is_asked=bool(audit.loads),
        tiers=tuple(tier.value for tier in audit.tiers),
        duration_h=prepared.duration_h,
        designed=designed,
        opinions=opinions,
        model=None if fitted is None else _column(KitName.MODEL, "By the model", trying.kitted_anew(fitted), trying),
        have=have_against(
            designed.bought,
            {opinion.info.method: (opinion.answer, opinion.column.bought) for opinion in opinions},
            trying,
        ),
    )


def _opinion(method: Method, audit: OpinionAudit, trying: Trying) -> Opinion:
    def answer_with(corrected: frozenset[str]) -> tuple[Answer, tuple[OpinionLine, ...]]:
        sheet = Sheet(right=trying.referee.right, corrected=corrected)
        return answered(method, audit, trying.design, sheet), tuple(sheet.lines)

    answer, lines = answer_with(frozenset())
    kitted = trying.kitted_anew(design_with(answer, trying.design))
    return Opinion(
        info=METHODS[method],
        lines=lines,
        answer=answer,
        column=_column(KitName(method.value), METHODS[method].title, kitted, trying),
        blame=blame_of(lines, kitted, trying, lambda keys: design_with(answer_with(keys)[0], trying.design)),
    )


def _column(kit: KitName, title: str, kitted: Kitted, trying: Trying) -> KitColumn:
    held_h = trying.with_inverter_h(kitted)
    life = life_figure(kitted.design.bank, trying.design.bank)
    return KitColumn(
        kit=kit,
        title=title,
        bought=bought_of(kitted.design),
        hours_carried_h=kitted.hours_h,
        is_carried=kitted.is_whole,
        with_inverter_h=held_h,
        life_years=life.value,
        figures={
            "hours": Figure(
                label="Hours carried",
                value=kitted.hours_h,
                unit="h",
                formula="until Life or Keep first asks and is not served, or the outage's end",
                terms=(
                    Term(name="outage", value=kitted.prepared.duration_h, unit="h"),
                    Term(name="with an inverter that holds loads and starts", value=held_h, unit="h"),
                ),
                basis=STEP_BY_STEP,
            ),
            "price": price_figure(units_price(kitted.design)),
            "life": life,
        },
    )


# --- one kit at a time


@dataclass(frozen=True, kw_only=True, slots=True)
class KitShare:
    """Of the year's outages as long as the planned one, those carried: Life and Keep, and Life alone."""

    kit: KitName
    keep_frac: float
    life_frac: float
    #: How the share of Life and Keep comes about.
    figure: Figure


def kit_design(design: Design, kit: KitName, year: WeatherYear | None = None) -> Design:
    """
    The design with one of the kits, named after it.

    :raises InputError: the model's, where no bank carries the outage.
    """
    if kit is KitName.DESIGNED:
        return design
    audit = audit_for(prepare(design, year).design, year)
    referee = refereed(design, audit, year)
    if kit is KitName.MODEL:
        title, found = "By the model", model_kit(design, referee)
        if found is None:
            accepted = "must be a method's: no bank of these units carries the planned outage"
            raise InputError((FieldProblem(field="kit", value=repr(kit.value), accepted=accepted),))
    else:
        method = Method(kit.value)
        title = METHODS[method].title
        found = design_with(answered(method, audit, design, Sheet(right=referee.right)), design)
    return found.model_copy(update={"name": f"{design.name[: 117 - len(title)]}: {title}"})


def kit_share(design: Design, kit: KitName, year: WeatherYear | None = None) -> KitShare:
    """Live an outage as long as the planned one from every hour of the weather year with one of the kits."""
    kitted = kit_design(design, kit, year)
    length_h = planned_length_h(design)
    lived = live(trial_year(kitted, length_h, year), [length_h])[length_h]
    keep_frac = float(lived.carries(length_h, life_only=False).mean())
    return KitShare(
        kit=kit,
        keep_frac=keep_frac,
        life_frac=float(lived.carries(length_h, life_only=True).mean()),
        figure=share_figure(
            "Life and Keep carried", keep_frac, "Life and Keep", starts=lived.start_h.shape[0], length_h=length_h
        ),
    )
