"""The six methods by name, in the order in which they are shown."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.design import Design
from hearthkeep.core.figure import COMMON_PRACTICE
from hearthkeep.core.opinions import buffer, depth, ledger, overnight, ratios, worksheet
from hearthkeep.core.opinions.audit import OpinionAudit
from hearthkeep.core.opinions.sheet import Answer, Sheet


class Method(StrEnum):
    """A way of sizing by rule of thumb."""

    OVERNIGHT = "overnight"
    LEDGER = "ledger"
    DEPTH = "depth"
    BUFFER = "buffer"
    RATIOS = "ratios"
    WORKSHEET = "worksheet"


@dataclass(frozen=True, kw_only=True, slots=True)
class MethodInfo:
    """What a method is called and what it does not look at."""

    method: Method
    title: str
    leaves_out: str
    basis: str


IN_THE_MANNER = "In the manner of IEEE Std 1013 and IEEE Std 1562, from memory"

METHODS: dict[Method, MethodInfo] = {
    info.method: info
    for info in (
        MethodInfo(
            method=Method.OVERNIGHT,
            title="Overnight watt-hours",
            leaves_out=overnight.LEAVES_OUT,
            basis=COMMON_PRACTICE,
        ),
        MethodInfo(method=Method.LEDGER, title="Amp-hour ledger", leaves_out=ledger.LEAVES_OUT, basis=COMMON_PRACTICE),
        MethodInfo(method=Method.DEPTH, title="Depth formula", leaves_out=depth.LEAVES_OUT, basis=COMMON_PRACTICE),
        MethodInfo(method=Method.BUFFER, title="Days of buffer", leaves_out=buffer.LEAVES_OUT, basis=COMMON_PRACTICE),
        MethodInfo(method=Method.RATIOS, title="Ratios", leaves_out=ratios.LEAVES_OUT, basis=COMMON_PRACTICE),
        MethodInfo(
            method=Method.WORKSHEET, title="Full worksheet", leaves_out=worksheet.LEAVES_OUT, basis=IN_THE_MANNER
        ),
    )
}

_BY_HABITS: dict[Method, Callable[[OpinionAudit, Design, Sheet], Answer]] = {
    Method.OVERNIGHT: lambda audit, design, sheet: overnight.overnight(audit, design.opinions.overnight, sheet),
    Method.LEDGER: lambda audit, design, sheet: ledger.ledger(audit, design.opinions.ledger, sheet),
    Method.DEPTH: lambda audit, design, sheet: depth.depth_formula(audit, design.opinions.depth, sheet),
    Method.BUFFER: lambda audit, design, sheet: buffer.days_of_buffer(audit, design.opinions.buffer, sheet),
    Method.RATIOS: lambda audit, design, sheet: ratios.ratios(audit, design.opinions.ratios, sheet),
    Method.WORKSHEET: lambda audit, design, sheet: worksheet.worksheet(audit, design.opinions.worksheet, sheet),
}


def answered(method: Method, audit: OpinionAudit, design: Design, sheet: Sheet) -> Answer:
    """Write a method's sheet with the design's habits, and give its answer."""
    return _BY_HABITS[method](audit, design, sheet)
