"""Findings about the conductors of each run: what carries too much, what nobody knows, what does not fit its stud or conduit."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import RunFact
from hearthkeep.core.wiring import (
    AMPACITY,
    LOOSE_HOLE_MM,
    RunKind,
    SizedRun,
    ampacity_figure,
    conductor_set_words,
    conductor_words,
    drop_figure,
    length_words,
    needed_figure,
)
from hearthkeep.core.words import counted, listed, percent, shortened, some_of

#: A link may have so many times the resistance it is taken to have; and what its two lugs add [mΩ]. Common practice, no source.
LINKS_ALIKE, LUGS_MOHM = 2.0, 0.1
FACT_WORDS = {
    RunFact.SIZE: "its size",
    RunFact.INSULATION: "its insulation",
    RunFact.TERMINALS: "what its terminals bear",
    RunFact.DEVICE: "its device",
    RunFact.DISCONNECTS: "its disconnects",
}


def named(runs: list[SizedRun]) -> str:
    """Some runs in a sentence."""
    return some_of([run.run.label for run in runs])


def set_on(evidence: Evidence, *runs: SizedRun, **fields: object) -> Remedy | None:
    """Other values of what is set on some runs; none where nothing is set on any of them."""
    keys = {sized.run.key for sized in runs}
    places = [at for at, entry in enumerate(evidence.entered.wiring.runs) if entry.run in keys]
    if not places:
        return None
    changes = tuple(
        Change(path=f"wiring.runs.{at}.{name}", value=value)  # type: ignore[arg-type]
        for at in places
        for name, value in fields.items()
    )
    return Remedy(label="Try it as it is worked out", changes=changes)


def judged_on_transfer(evidence: Evidence, sized: SizedRun) -> bool:
    """Whether a run's conductor and device are those of the transfer device, which its own page judges."""
    device = evidence.entered.transfer.device
    return sized.run.kind is RunKind.PANEL and not sized.is_set and (device.feeder_a or device.feeder_wire) is not None


def too_thin(evidence: Evidence) -> Iterator[Finding]:
    """Conductors that carry more than they may where they lie."""
    for sized in evidence.wiring.runs:
        if sized.ampacity_a is None or sized.ampacity_a >= sized.least_a - 1e-9 or judged_on_transfer(evidence, sized):
            continue
        practice = evidence.entered.practice
        asked = (
            "nothing in the tables carries it here"
            if sized.by_heat is None
            else f"it asks {conductor_words(sized.by_heat, practice)}"
        )
        remedy = set_on(evidence, sized, size=None, per_pole=None, unknown=())
        yield Finding(
            code="CONDUCTOR_TOO_THIN",
            severity=Severity.STOP,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: too thin for its current",
            message=f"{conductor_set_words(sized, practice)} may carry {sized.ampacity_a:.0f} A where it lies; the run has to carry "
            f"{sized.least_a:.0f} A: {_carries(sized)}. {_burns(sized)}; {asked}.",
            basis=AMPACITY[practice],
            remedy=remedy if sized.by_heat is not None else None,
            figure=ampacity_figure(sized),
        )


def _carries(sized: SizedRun) -> str:
    """How what a conductor has to carry comes about."""
    run = sized.run
    if sized.least_a <= run.current_a + 1e-9:
        return f"{run.basis}"
    return f"{run.current_a:.1f} A, {run.basis}, × {sized.least_a / run.current_a:.3g} for hours on end"


def _burns(sized: SizedRun) -> str:
    """What comes of a conductor that runs hot, where it lies."""
    if sized.run.is_dc and sized.run.kind not in (RunKind.STRING, RunKind.ARRAY):
        return "A conductor that runs hot loses its insulation, and then shorts"
    return (
        "A conductor that runs hot is a fire inside a wall"
        if not sized.run.is_dc
        else "A conductor that runs hot sets the roof on fire"
    )


def no_conductor(evidence: Evidence) -> Iterator[Finding]:
    """Runs for which nothing in the tables is thick enough."""
    lost = [
        run
        for run in evidence.wiring.runs
        if run.by_heat is None and run.conductor is None and not run.unknown and run.size is None
    ]
    if not lost:
        return
    most = max(lost, key=lambda run: run.needed_a)
    yield Finding(
        code="NO_CONDUCTOR",
        severity=Severity.MEND,
        step=Step.WIRING,
        title=f"{counted(len(lost), 'run')} no conductor is made for",
        message=f"{named(lost)}: up to {most.needed_a:,.0f} A, more than four of the largest conductors side by side carry, or hotter "
        "around it than any insulation bears. A higher system voltage, or several inverters each on its own leads, brings it down.",
        basis=AMPACITY[evidence.entered.practice],
        figure=needed_figure(most),
    )


def not_known(evidence: Evidence) -> Iterator[Finding]:
    """What somebody looked for on a run and could not find out."""
    for sized in evidence.wiring.runs:
        if not sized.unknown:
            continue
        heavy = any(fact in (RunFact.SIZE, RunFact.DEVICE) for fact in sized.unknown)
        what = listed([FACT_WORDS[fact] for fact in sized.unknown])
        asked = ""
        if RunFact.SIZE in sized.unknown and sized.by_heat is not None:
            asked = f" At least {conductor_words(sized.by_heat, evidence.entered.practice)} is asked."
        if RunFact.INSULATION in sized.unknown or RunFact.TERMINALS in sized.unknown:
            asked += " It is counted as the least there is."
        yield Finding(
            code="RUN_NOT_KNOWN",
            severity=Severity.MEND if heavy else Severity.MIND,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: {what} not known",
            message=f"What is not known cannot be trusted with {sized.run.current_a:.0f} A: look, measure, or replace it.{asked}",
            basis=COMMON_PRACTICE,
            remedy=set_on(evidence, sized, unknown=()),
        )


def drops_too_much(evidence: Evidence) -> Iterator[Finding]:
    """Runs that lose more of their volts than they may."""
    lossy = [
        run for run in evidence.wiring.runs if run.drop_frac is not None and run.drop_frac > run.drop_limit_frac + 1e-9
    ]
    if not lossy:
        return
    worst = max(lossy, key=lambda run: (run.drop_frac or 0.0) / run.drop_limit_frac)
    design = evidence.entered
    yield Finding(
        code="DROP_TOO_LARGE",
        severity=Severity.MIND,
        step=Step.WIRING,
        title=f"{counted(len(lossy), 'run')} {'loses' if len(lossy) == 1 else 'lose'} more volts than {'it' if len(lossy) == 1 else 'they'} may",
        message=f"{shortened(worst.run.label)} loses {worst.drop_v or 0.0:.2f} V of {worst.run.volts_v:g} V, {100 * (worst.drop_frac or 0.0):.1f} %, over "
        f"{length_words(design, worst.length_m)}; {_drop_limit(worst)}. Shorter, thicker, or a higher voltage.",
        basis="Ohm's law there and back; limits are common practice, no source",
        remedy=set_on(evidence, *lossy, size=None, per_pole=None),
        figure=drop_figure(worst),
    )


def _drop_limit(sized: SizedRun) -> str:
    run = sized.run
    if sized.drop_limit_frac > run.spare_v / run.volts_v + 1e-12:
        return f"{percent(sized.drop_limit_frac)} is the limit set"
    return (
        f"{run.spare_v:.1f} V, {percent(sized.drop_limit_frac)}, are more than the bank asks with hot panels, and lost in a PWM "
        "controller anyway; the rest is missing"
    )


def lug_misfits(evidence: Evidence) -> Iterator[Finding]:
    """Lugs that do not go on their stud, or sit loose on it."""
    for sized in evidence.wiring.runs:
        spare_mm = sized.lug_mm - sized.stud_mm
        if -1e-9 <= spare_mm <= LOOSE_HOLE_MM:
            continue
        tight = spare_mm < 0
        yield Finding(
            code="LUG_MISFIT",
            severity=Severity.MEND,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: the lug does not fit its stud",
            message=f"A hole of {sized.lug_mm:g} mm on a stud of {sized.stud_mm:g} mm "
            + (
                "does not go on; a lug drilled out has lost its copper."
                if tight
                else "leaves too little copper under the nut: it runs hot and works loose."
            ),
            basis=COMMON_PRACTICE,
            remedy=set_on(evidence, sized, lug_mm=None),
        )


def conduit_overfull(evidence: Evidence) -> Iterator[Finding]:
    """Conduits with more in them than they may hold."""
    for sized in evidence.wiring.runs:
        if sized.fill_frac is None or sized.fill_limit_frac is None or sized.fill_frac <= sized.fill_limit_frac + 1e-9:
            continue
        yield Finding(
            code="CONDUIT_OVERFULL",
            severity=Severity.MEND,
            step=Step.WIRING,
            title=f"{shortened(sized.run.label)}: its conduit is too full",
            message=f"The conductors fill {percent(sized.fill_frac)} of it, {percent(sized.fill_limit_frac)} is allowed: they are damaged "
            "when pulled, and run hot. The next trade size.",
            basis="NEC Chapter 9, Tables 1, 4 and 5 (from memory); the ground counted as large as the others",
            remedy=set_on(evidence, sized, conduit=None),
        )


def left_over(evidence: Evidence) -> Iterator[Finding]:
    """What is set on runs that are no longer there."""
    plan = evidence.wiring
    if not plan.left_over:
        return
    yield Finding(
        code="RUNS_LEFT_OVER",
        severity=Severity.MIND,
        step=Step.WIRING,
        title=f"Something is set on {counted(len(plan.left_over), 'run')} no longer there",
        message=f"{some_of(plan.left_over)}: the parts they joined have left the design. They are kept, and "
        "count again if the part comes back.",
        basis="The design as it stands",
    )


def flat_loss(evidence: Evidence) -> Iterator[Finding]:
    """A flat loss that stands in for the runs."""
    loss_frac = evidence.entered.wiring.loss_frac
    if loss_frac is None:
        return
    yield Finding(
        code="FLAT_WIRING_LOSS",
        severity=Severity.MIND,
        step=Step.WIRING,
        title=f"A flat {100 * loss_frac:.1f} % stands in for the runs",
        message="The outage counts that part of all that the bank gives as lost in cables, whatever their length and size. The runs of "
        "this page know better.",
        basis="Common practice, no source",
        remedy=Remedy(label="Try the drop of the runs", changes=(Change(path="wiring.loss_frac", value=None),)),
    )


def lengths_guessed(evidence: Evidence) -> Iterator[Finding]:
    """Runs of which nobody has measured the length."""
    usual = [run for run in evidence.wiring.runs if run.length_from == "usual" and run.run.kind is not RunKind.GROUND]
    if not usual:
        return
    yield Finding(
        code="LENGTHS_GUESSED",
        severity=Severity.MIND,
        step=Step.WIRING,
        title=f"{counted(len(usual), 'run')} of a length nobody measured",
        message=f"{named(usual)}: a usual length stands in. Measure along the way the cable takes, up, over and down.",
        basis="Usual lengths are our assumption",
    )


def links_differ(evidence: Evidence) -> Iterator[Finding]:
    """Links between strings whose resistance, once they are measured, is not the one that the bank's sharing is worked out with."""
    links, bank = evidence.wiring.find("parallel-links"), evidence.entered.bank
    if links is None or links.conductor is None or links.length_from != "set":
        return
    value = round(1000.0 * links.length_m * links.conductor.pole_ohm_per_m + LUGS_MOHM, 2)
    if value / LINKS_ALIKE <= bank.link_mohm <= value * LINKS_ALIKE:
        return
    yield Finding(
        code="LINKS_DIFFER",
        severity=Severity.MIND,
        step=Step.WIRING,
        title="The links between strings are not those of the Bank page",
        message=f"{conductor_set_words(links, evidence.entered.practice)} of {length_words(evidence.entered, links.length_m)} and its lugs have about {value:g} mΩ; "
        f"the Bank page divides the current by {bank.link_mohm:g} mΩ.",
        basis="Ohm's law; 0.1 mΩ for two lugs is common practice, no source",
        remedy=Remedy(label=f"Try {value:g} mΩ", changes=(Change(path="bank.link_mohm", value=value),)),
    )


CHECKS = (
    too_thin,
    no_conductor,
    not_known,
    drops_too_much,
    lug_misfits,
    conduit_overfull,
    flat_loss,
    links_differ,
    lengths_guessed,
    left_over,
)
