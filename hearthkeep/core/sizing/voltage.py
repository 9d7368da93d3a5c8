"""Which system voltage: the currents each would bring, and the copper they ask for."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Chemistry, Design
from hearthkeep.core.inverter import input_w
from hearthkeep.core.published import copper_ampacity_rows

VOLTAGES_V: dict[bool, tuple[float, ...]] = {True: (12.8, 25.6, 51.2), False: (12.0, 24.0, 48.0)}
#: Battery voltage under load at the end of a discharge, as a part of the nominal one. Common practice, no source.
LOW_FRAC = 0.86
#: Currents up to which a voltage is easy, and up to which it can be done [A]. Common practice, no source.
EASY_A, POSSIBLE_A = 125.0, 250.0
#: Continuous current is taken at 125 % for the conductor, NEC 690.8 and 706.30 in our own words.
CONTINUOUS = 1.25


@dataclass(frozen=True, kw_only=True, slots=True)
class VoltageRow:
    """One system voltage."""

    nominal_v: float
    #: At the coincident peak, at the lowest battery voltage under load [A].
    peak_a: float
    #: Copper for it at 75 °C terminals; none where a single conductor does not carry it.
    conductor: str | None
    #: easy, possible or unwise.
    verdict: str
    is_chosen: bool


def conductor_for(current_a: float) -> str | None:
    """The thinnest copper conductor whose ampacity covers 125 % of a current.

    Source: NEC Table 310.16, 75 °C column (values from memory); ambient and bundling are for the wiring step.

    >>> conductor_for(100.0), conductor_for(500.0)
    ('1', None)
    """
    return next((row.size for row in copper_ampacity_rows() if row.ampacity_75_a >= CONTINUOUS * current_a), None)


def compare_voltages(design: Design, *, peak_w: float, peak_dc_w: float) -> tuple[VoltageRow, ...]:
    """The peak's current at each usual system voltage."""
    bank, inverter = design.bank, design.inverter
    direct_w = peak_dc_w + (input_w(inverter, peak_w) if inverter.rated_w > 0 and peak_w > 0 else 0.0)
    found = []
    for nominal_v in VOLTAGES_V[bank.chemistry is Chemistry.LFP]:
        peak_a = direct_w / (LOW_FRAC * nominal_v)
        verdict = "easy" if peak_a <= EASY_A else "possible" if peak_a <= POSSIBLE_A else "unwise"
        found.append(
            VoltageRow(
                nominal_v=nominal_v,
                peak_a=peak_a,
                conductor=conductor_for(peak_a),
                verdict=verdict,
                is_chosen=abs(bank.nominal_v / nominal_v - 1) < 0.1,
            )
        )
    return tuple(found)
