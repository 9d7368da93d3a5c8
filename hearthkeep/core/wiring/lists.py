"""What is taken to the shop and to the bench: parts, cut list, schedule of devices, placards."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design
from hearthkeep.core.transfer import fates_of, labels_of
from hearthkeep.core.wiring.cuts import CutLine, cuts_of
from hearthkeep.core.wiring.placards import Placard, placards_of
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.shopping import UNITS, PartLine, parts_of
from hearthkeep.core.wiring.sized_run import SizedRun
from hearthkeep.core.wiring.words import device_words


@dataclass(frozen=True, kw_only=True, slots=True)
class DeviceLine:
    """One overcurrent device."""

    run: str
    label: str
    device: str
    quantity: int
    place: str
    volts_v: float
    fault_a: float | None
    interrupt_a: float | None
    conductor: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Lists:
    """Everything to buy, cut and write."""

    parts: tuple[PartLine, ...]
    #: Sum of what has a price, and how many lines have none.
    total: float
    unpriced: int
    cuts: tuple[CutLine, ...]
    devices: tuple[DeviceLine, ...]
    placards: tuple[Placard, ...]

    @property
    def fittings_total(self) -> float:
        """Cable, fuses and fittings that have a price; the units are not among them."""
        return sum((part.price or 0.0) * part.quantity for part in self.parts if part.group != UNITS)

    @property
    def ends(self) -> dict[tuple[str, str], int]:
        """How many ends of a kind are put on how many of a conductor; each piece has two."""
        found = Counter[tuple[str, str]]()
        for cut in self.cuts:
            found[cut.lug, cut.conductor] += 2 * cut.quantity
        return dict(found)


def lists_of(design: Design, rating: BankRating, plan: WiringPlan) -> Lists:
    """The lists of a design as it was entered."""
    cuts = cuts_of(design, plan)
    placards = tuple(placards_of(design, rating, plan))
    # Those of the arrangement hang beside them.
    signs = len(placards) + len(labels_of(design, fates_of(design)))
    prices = {entry.item: entry.price for entry in design.wiring.prices}
    parts = tuple(
        part if part.is_fixed else replace(part, price=prices.get(part.item))
        for part in parts_of(design, plan, cuts, placards=signs)
    )
    return Lists(
        parts=parts,
        total=sum((part.price or 0.0) * part.quantity for part in parts),
        unpriced=sum(part.price is None for part in parts),
        cuts=cuts,
        devices=tuple(_device(run) for run in plan.runs if run.device is not None),
        placards=placards,
    )


def _device(sized: SizedRun) -> DeviceLine:
    run, device = sized.run, sized.device
    assert device is not None
    ends = {"bank": "the bank", "bus": "the bus"}
    return DeviceLine(
        run=run.key,
        label=run.label,
        device=device_words(device),
        quantity=run.count,
        place=f"{1000 * device.at_m:.0f} mm from {'the bus' if run.end == 'bus' and run.start != 'bank' else ends.get(run.start, 'its source')}",
        volts_v=run.most_v,
        fault_a=device.fault_a,
        interrupt_a=device.interrupt_a,
        conductor=sized.size or "size not known",
    )
