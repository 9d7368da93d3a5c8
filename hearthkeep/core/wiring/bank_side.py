"""Beside the bank: its shunt, and the resistor that fills the inverter's capacitors before the breaker is closed."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design

#: Usual shunts [A], each 50 mV at its rating. Common practice, no source.
SHUNTS_A = (50.0, 100.0, 150.0, 200.0, 300.0, 400.0, 500.0, 600.0, 800.0, 1_000.0, 1_500.0, 2_000.0)
#: A shunt carries so much of its rating day and night. Common practice, no source.
SHUNT_STEADY_FRAC = 0.8
#: Input capacitors of an inverter for each kilowatt, at 12 V and at 48 V [F/kW], the upper ends of what is usual, straight between
#: them on a line of volts times farads. Common practice, no source, low confidence; the maker's figure decides.
FARAD_VOLTS_PER_KW = 0.12
#: The first rush through the resistor is held to this [A], and resistors come in these steps [Ω]. Common practice, no source.
FIRST_RUSH_A = 3.0
RESISTORS_OHM = (1.0, 2.2, 4.7, 10.0, 15.0, 22.0, 33.0, 47.0, 68.0, 100.0, 150.0, 220.0, 330.0)
#: After so many times R x C 99 % are reached: ln 100, textbook.
TIMES_TO_99 = 4.605
#: So little energy in the first rush is a small spark that harms no contact [J]. Common practice, no source.
HARMLESS_J = 1.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Shunt:
    """The shunt in the negative."""

    #: As it is or is asked for; none where there is none [A].
    rating_a: float | None
    asked_a: float
    carries_a: float
    #: One is made that is asked for.
    is_made: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Precharge:
    """Filling the capacitors of one inverter through a resistor."""

    capacitance_f: float
    is_known: bool
    bank_v: float
    resistor_ohm: float
    #: The first rush [A], what it asks of the resistor in that moment [W], and altogether [J].
    first_a: float
    first_w: float
    energy_j: float
    #: Until 99 % of the bank's volts stand on them [s].
    seconds_s: float
    #: Closing without it would harm: what fills the capacitors at once is more than a small spark.
    is_needed: bool


def shunt_of(design: Design, *, carries_a: float) -> Shunt:
    """The shunt for what the bank's leads carry: the next usual one of which that is at most four fifths."""
    least_a = carries_a / SHUNT_STEADY_FRAC
    asked_a = next((rating for rating in SHUNTS_A if rating >= least_a - 1e-9), SHUNTS_A[-1])
    wiring = design.wiring
    return Shunt(
        rating_a=(wiring.shunt_a or asked_a) if wiring.has_shunt else None,
        asked_a=asked_a,
        carries_a=carries_a,
        is_made=least_a <= SHUNTS_A[-1] + 1e-9,
    )


def precharge_of(design: Design, rating: BankRating) -> Precharge | None:
    """The resistor for one inverter, its rush, energy and seconds; none without an inverter.

    v(t) = V (1 - exp(-t / RC)); the resistor takes C V² / 2, as much as the capacitors end up with. Source: textbook.
    """
    inverter = design.inverter
    if inverter.rated_w <= 0:
        return None
    known_f, bank_v = design.wiring.inverter_capacitance_f, rating.charging_v
    capacitance_f = known_f or FARAD_VOLTS_PER_KW * inverter.rated_w / 1000.0 / rating.nominal_v
    least_ohm = bank_v / FIRST_RUSH_A
    resistor_ohm = next((step for step in RESISTORS_OHM if step >= least_ohm - 1e-9), RESISTORS_OHM[-1])
    energy_j = capacitance_f * bank_v**2 / 2.0
    return Precharge(
        capacitance_f=capacitance_f,
        is_known=known_f is not None,
        bank_v=bank_v,
        resistor_ohm=resistor_ohm,
        first_a=bank_v / resistor_ohm,
        first_w=bank_v**2 / resistor_ohm,
        energy_j=energy_j,
        seconds_s=TIMES_TO_99 * resistor_ohm * capacitance_f,
        is_needed=energy_j > HARMLESS_J,
    )
