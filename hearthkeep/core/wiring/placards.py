"""Signs with the volts and amps to be expected."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design, DeviceKind, Disconnects, Mounting, OpenedBy, Practice
from hearthkeep.core.transfer import CORDS
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.runs import RunKind, is_built_in_charger
from hearthkeep.core.wiring.words import device_words
from hearthkeep.core.words import begun, listed


@dataclass(frozen=True, kw_only=True, slots=True)
class Placard:
    """A sign and where it hangs."""

    where: str
    text: str


def placards_of(design: Design, rating: BankRating, plan: WiringPlan) -> Iterator[Placard]:
    """Signs with the volts and amps to be expected; their wording in our own words, local code decides."""
    yield from _arrays(design, plan)
    yield from _bank(design, rating, plan)
    yield from _house(design, plan)


def _arrays(design: Design, plan: WiringPlan) -> Iterator[Placard]:
    for sized in plan.runs:
        if sized.run.kind is RunKind.ARRAY:
            yield Placard(
                where=f"{sized.run.label}, at each disconnect",
                text=f"SOLAR DC {'CONNECTOR' if sized.opened_by is OpenedBy.PLUG else 'DISCONNECT'}. Up to {sized.run.most_v:.0f} V in the cold, {sized.run.current_a:.0f} A. "
                + (
                    "Live on both sides by daylight. Never pull under load: cover the panels, or switch the controller off first."
                    if sized.opened_by is OpenedBy.PLUG
                    else "Live on both sides by daylight. Do not open under load unless it is made for it."
                ),
            )
    for controller in design.charging.controllers:
        shut = [array.name for array in controller.arrays if array.rapid_shutdown]
        if shut:
            yield Placard(
                where=f"At the rapid shutdown switch, and at the service: {listed(shut)}",
                text="SOLAR ARRAY WITH RAPID SHUTDOWN. Switch OFF: within 30 s the wires outside the array fall to 30 V or less. Inside "
                "the array up to 80 V stay by daylight.",
            )
        if controller.ground_fault and any(array.mounting is Mounting.BUILDING for array in controller.arrays):
            yield Placard(
                where=f"On {controller.name}",
                text="GROUND FAULT SHOWN. Every conductor of the array may be live to ground, those that are usually at ground too. Do not "
                "touch; call who looks after it.",
            )


def _bank(design: Design, rating: BankRating, plan: WiringPlan) -> Iterator[Placard]:
    run = plan.find("bank") or plan.find("string-leads")
    device = None if run is None or run.device is None or run.device.kind is DeviceKind.NONE else run.device
    yield Placard(
        where="At the bank",
        text=f"BATTERY, {rating.nominal_v:g} V nominal, {rating.charging_v:.1f} V charging, {rating.rated_wh / 1000:.1f} kWh. "
        f"Short circuit {plan.fault.short_a:,.0f} A. "
        + (f"{begun(device_words(device))}. " if device is not None else "")
        + "Take off rings and watches; insulated tools.",
    )
    is_breaker = device is not None and device.kind is DeviceKind.DC_BREAKER
    if run is not None and (is_breaker or run.disconnects not in (None, Disconnects.NONE)):
        yield Placard(
            where="At the bank's disconnect",
            text=f"BATTERY DISCONNECT, up to {rating.charging_v:.1f} V, {run.run.current_a:.0f} A."
            + (
                f" Precharge before closing: {plan.precharge.resistor_ohm:g} Ω, {max(plan.precharge.seconds_s, 1.0):.0f} s."
                if plan.precharge is not None and plan.precharge.is_needed
                else ""
            )
            + _still_live(design, plan),
        )


def _still_live(design: Design, plan: WiringPlan) -> str:
    """What keeps the bus alive while the bank's disconnect is open."""
    charging = design.charging
    built_in = is_built_in_charger(design) and charging.grid_charger.output_w > 0
    sources = [
        *(["the sun"] if any(each.charges for each in charging.controllers) else []),
        *(["the chargers"] if built_in or any(each.run.kind is RunKind.SOURCE for each in plan.runs) else []),
    ]
    return f" Switch {listed(sources)} off first: with this open the bus stays live from there." if sources else ""


def _house(design: Design, plan: WiringPlan) -> Iterator[Placard]:
    panel = plan.find("panel")
    if panel is not None and design.transfer.arrangement not in (None, *CORDS):
        yield Placard(
            where="At the backed-up side",
            text=f"STAND-ALONE SUPPLY, {panel.run.volts_v:.0f} V, up to {panel.run.current_a:.0f} A; no utility is connected."
            if design.site.off_grid
            else f"FED BY A BACKUP SUPPLY, {panel.run.volts_v:.0f} V, up to {panel.run.current_a:.0f} A, also while the grid is out.",
        )
    generator = plan.find("generator")
    if generator is not None:
        yield Placard(
            where="At the generator's inlet",
            text=f"GENERATOR {generator.run.volts_v:.0f} V, up to {generator.run.current_a:.0f} A. Outdoors only, at least "
            + ("20 ft" if design.practice is Practice.NORTH_AMERICAN else "6 m")
            + " from doors, windows and vents: carbon monoxide kills.",
        )
