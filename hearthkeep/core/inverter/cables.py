"""What is lost in the cables between bank and loads, as the compiled model takes it."""

from __future__ import annotations

from typing import Any, NamedTuple

from hearthkeep.core.compiled import inner


class Cables(NamedTuple):
    """Losses by what flows; either flat, or by the resistance of the runs."""

    #: Flat part of all that the bank gives.
    flat_frac: float
    #: Part of what direct-current loads take, lost in their branches.
    branch_frac: float
    #: Loss over the square of the power, resistance over nominal volts squared: bank to bus, of all that flows; and bus to
    #: inverter, of what the inverter takes [1/W].
    bank_per_w: float
    inverter_per_w: float


NO_CABLES = Cables(0.0, 0.0, 0.0, 0.0)


def lost_in_runs_w(direct_w: Any, input_w: Any, cables: Cables) -> Any:
    """Lost in branches and leads while direct-current loads and the inverter take so much [W]; the flat part is not in it.

    P = R I², with I = P / V: each lead carries what lies behind it, the losses there included.
    """
    branch_w = cables.branch_frac * direct_w
    lead_w = cables.inverter_per_w * input_w * input_w
    through_w = direct_w + branch_w + input_w + lead_w
    return branch_w + lead_w + cables.bank_per_w * through_w * through_w


#: The same inside the compiled loops; Python takes whole arrays at once.
lost_in_runs_compiled_w = inner(lost_in_runs_w)
