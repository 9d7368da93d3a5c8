"""How the numbers of one run come about, for its row and for the findings about it."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.design import Practice
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.wiring.faults import BankFault
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.wiring.sized_run import SizedRun

AMPACITY = {
    Practice.NORTH_AMERICAN: "NEC Table 310.16 with 310.15(B) and (C), 110.14(C) and 240.4(D) (from memory); the adopted edition decides",
    Practice.METRIC_230: "IEC 60364-5-52, Tables B.52.2, B.52.10, B.52.14 and B.52.17 (from memory); the adopted edition decides",
}


def run_figures(sized: SizedRun, fault: BankFault) -> Iterator[Figure]:
    """Every figure of a run that it has a number for; none of a ground, which a table gives."""
    run = sized.run
    if run.kind is RunKind.GROUND:
        return
    yield needed_figure(sized)
    if sized.ampacity_a is not None:
        yield ampacity_figure(sized)
    if sized.drop_v is not None and sized.conductor is not None:
        yield drop_figure(sized)
    if sized.device is not None and sized.device.fault_a is not None:
        yield fault_figure(sized, fault)


def needed_figure(sized: SizedRun) -> Figure:
    """What a run's conductor and device are sized for [A]."""
    run = sized.run
    return Figure(
        label="Has to carry",
        value=sized.needed_a,
        unit="A",
        formula=f"current × factor for hours on end; the current: {run.basis}",
        terms=(
            Term(name="current", value=run.current_a, unit="A"),
            Term(name="factor", value=run.factor, unit=""),
        ),
        basis="NEC 690.8, 215.2 (from memory); common practice for leads of direct current",
    )


def ampacity_figure(sized: SizedRun) -> Figure:
    """What a run's conductor may carry where it lies, beside what it has to [A]; 0 where nothing in the tables carries it."""
    return Figure(
        label="May carry",
        value=sized.ampacity_a or 0.0,
        unit="A",
        formula="its insulation's column × ambient × bundling × conductors in a pole, at most what its terminals bear",
        terms=(
            Term(name="insulation", value=sized.lying.insulation_c, unit="°C"),
            Term(name="around it", value=sized.lying.ambient_c, unit="°C"),
            Term(name="ambient factor", value=sized.ambient_factor, unit=""),
            Term(name="bundling factor", value=sized.bundling_factor, unit=""),
            Term(name="terminals", value=sized.lying.terminal_c, unit="°C"),
            Term(name="largest device", value=sized.largest_device_a or 0.0, unit="A"),
            Term(name="has to carry", value=sized.least_a, unit="A"),
            Term(name="current", value=sized.run.current_a, unit="A"),
            Term(name="factor", value=sized.least_a / sized.run.current_a if sized.run.current_a else 1.0, unit=""),
            *(
                ()
                if sized.device is None or sized.device.rating_a is None
                else (Term(name="device", value=sized.device.rating_a, unit="A"),)
            ),
        ),
        basis=AMPACITY[sized.lying.practice],
    )


def drop_figure(sized: SizedRun) -> Figure:
    """What a run of known conductor loses of its volts [V]."""
    return Figure(
        label="Drop",
        value=sized.drop_v or 0.0,
        unit="V",
        formula="conductors × length × Ω/m ÷ conductors in a pole × current",
        terms=(
            Term(name="conductors", value=sized.run.poles, unit=""),
            Term(name="length, one way", value=sized.length_m, unit="m"),
            Term(
                name="hot copper",
                value=1000 * (sized.conductor.pole_ohm_per_m if sized.conductor else 0.0),
                unit="Ω/km",
            ),
            Term(name="current", value=sized.run.drop_at_a, unit="A"),
            Term(name="of", value=sized.run.volts_v, unit="V"),
            Term(name="that is", value=100 * (sized.drop_frac or 0.0), unit="%"),
            Term(name="limit", value=100 * sized.drop_limit_frac, unit="%"),
        ),
        basis=PHYSICS + "; resistance of NEC Chapter 9 Table 8 at 75 °C, or IEC 60228 class 5 at 70 °C (from memory)",
    )


def fault_figure(sized: SizedRun, fault: BankFault) -> Figure:
    """What the bank drives into a short at a run's device [A]."""
    device = sized.device
    fault_a = (device.fault_a or 0.0) if device else 0.0
    cable_mohm = 1000.0 * fault.full_v / fault_a - fault.least_mohm if fault_a > 0 else 0.0
    return Figure(
        label="Fault at its device",
        value=fault_a,
        unit="A",
        formula="full rest volts ÷ (bank + cable to the device, there and back)",
        terms=(
            Term(name="rest volts, full", value=fault.full_v, unit="V"),
            Term(name="bank", value=fault.least_mohm, unit="mΩ"),
            Term(name="cable", value=cable_mohm, unit="mΩ"),
            Term(name="most volts there", value=sized.run.most_v, unit="V"),
            Term(name="device breaks", value=(device.interrupt_a or 0.0) if device else 0.0, unit="A"),
        ),
        basis="Ohm's law; what a device breaks is common practice by its kind, its own sheet decides",
    )
