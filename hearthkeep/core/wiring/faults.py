"""Fault current: what the bank drives into a short, at its own terminals and further along."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import rest_state, sharing_of
from hearthkeep.core.design import Bank, Chemistry, Design, DeviceKind
from hearthkeep.core.wiring.devices import interrupt_a

#: Least resistance of a block where its data sheet gives none, as the part of its volts lost at 1 C: 12 V 100 Ah of LFP 2 mΩ with
#: its board, AGM and gel 3, flooded 3.6, the low ends of what the trade reads. Common practice, no source.
LEAST_RESISTANCE_FRAC = {
    Chemistry.LFP: 0.0156,
    Chemistry.AGM: 0.025,
    Chemistry.GEL: 0.025,
    Chemistry.FLOODED: 0.03,
    Chemistry.STARTER: 0.02,
}


@dataclass(frozen=True, kw_only=True, slots=True)
class BankFault:
    """The bank as a short circuit meets it."""

    #: Rest volts when full [V], and the resistance of all strings together at the least [mΩ].
    full_v: float
    least_mohm: float
    #: Short circuit at the terminals [A].
    short_a: float
    #: The resistance is of a data sheet, not a typical one.
    is_known: bool
    #: Least resistance over the usual one: the fault that is to be expected, as a part of the largest there may be.
    usual_part: float


def bank_fault(bank: Bank) -> BankFault:
    """Short-circuit current of the bank: full rest volts over the strings' resistance; links between them are left out.

    I = V / (R_block x series / parallel). Source: Ohm's law; typical resistances are common practice.
    """
    full_v = rest_state(bank, 0.0).table[-1][1]
    known = bank.unit is not None and bank.unit.internal_resistance_mohm is not None
    usual_mohm = string_mohm = sharing_of(bank).string_mohm
    if not known:
        string_mohm = LEAST_RESISTANCE_FRAC[bank.chemistry] * bank.unit_v / bank.unit_ah * 1000.0 * bank.series
    least_mohm = string_mohm / bank.parallel
    return BankFault(
        full_v=full_v,
        least_mohm=least_mohm,
        short_a=1000.0 * full_v / least_mohm,
        is_known=known,
        usual_part=string_mohm / usual_mohm,
    )


def fault_a(fault: BankFault, *, cable_ohm: float) -> float:
    """What the bank drives into a short behind so much cable, there and back [A].

    >>> bank = BankFault(full_v=54.4, least_mohm=8.0, short_a=6800.0, is_known=True, usual_part=1.0)
    >>> round(fault_a(bank, cable_ohm=0.0088))
    3238
    """
    return fault.full_v / (fault.least_mohm / 1000.0 + cable_ohm)


@dataclass(frozen=True, kw_only=True, slots=True)
class BreakerFault:
    """The worst short that the breaker built into a block meets."""

    #: What drives it: its own string, or the others.
    source: str
    fault_a: float
    #: What it breaks: as its sheet says, else as usual; none where none is usual at those volts [A].
    breaks_a: float | None
    is_entered: bool


def breaker_fault(design: Design, fault: BankFault) -> BreakerFault | None:
    """A short right behind a block's own breaker; none where the blocks have none.

    Its own string drives it through the breaker outwards, the others inwards where the short lies inside the block. Source: Ohm's law.
    """
    bank = design.bank
    if bank.unit_breaker_a is None:
        return None
    own_a = fault.short_a / bank.parallel
    others_a = own_a * (bank.parallel - 1)
    others = "The other string" if bank.parallel == 2 else f"What the other {bank.parallel - 1} strings give together"
    return BreakerFault(
        source=others if others_a > own_a else "Its own string" if bank.parallel > 1 else "The bank",
        fault_a=max(own_a, others_a),
        breaks_a=bank.unit_breaker_interrupt_a or interrupt_a(DeviceKind.DC_BREAKER, fault.full_v),
        is_entered=bank.unit_breaker_interrupt_a is not None,
    )
