"""A design in a few words a part: what stands in a column, and on both sides of a difference."""

from __future__ import annotations

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.design import Design, SkySource
from hearthkeep.core.loads import daily_wh
from hearthkeep.core.practice import degrees, volume_text
from hearthkeep.core.sources import STEADY
from hearthkeep.core.transfer import BY_KIND
from hearthkeep.core.words import counted, listed, percent


def said_of(design: Design, part: str) -> str:
    """One part of a design; the parts are those of `PartKey`."""
    return _SAID[part](design)


def _loads(design: Design) -> str:
    energy_wh = sum(daily_wh(load) for load in design.loads)
    return f"{counted(len(design.loads), 'load')}, {energy_wh / 1000:.1f} kWh a day"


def _bank(design: Design) -> str:
    bank = design.bank
    series = f"{bank.series} in series, " if bank.series > 1 else ""
    unit = f"{series}{bank.parallel} × {bank.unit_v:g} V {bank.unit_ah:g} Ah"
    return f"{unit}, {TYPICAL[bank.chemistry].label}, to {percent(bank.depth_frac)}, {degrees(design, bank.temp_c)}"


def _inverter(design: Design) -> str:
    inverter = design.inverter
    if inverter.rated_w == 0:
        return "none"
    many = f"{inverter.units} × " if inverter.units > 1 else ""
    return f"{many}{inverter.rated_w:,.0f} W, surge {inverter.surge_w:,.0f} W, idle {inverter.idle_w:g} W"


def _sun(design: Design) -> str:
    found = [
        f"{sum(array.stc_w for array in controller.arrays):,.0f} W on {controller.output_a:g} A"
        for controller in design.charging.controllers
        if controller.arrays
    ]
    return listed(found) or "none"


def _generator(design: Design) -> str:
    generator = design.charging.generator
    if generator is None:
        return "none"
    way = "charges only" if generator.charges_only else "carries the house"
    fuel = volume_text(design, generator.stock_l)
    return f"{generator.rated_w:,.0f} W, charger {generator.charger_w:,.0f} W, {fuel} of fuel, {way}"


def _other_sources(design: Design) -> str:
    charging = design.charging
    found = [kind.label.lower() for kind in STEADY if kind.is_in(charging)]
    if charging.grid_tied is not None:
        found.append(f"grid-tied array of {sum(array.stc_w for array in charging.grid_tied.arrays):,.0f} W")
    if charging.grid_charger.output_w > 0:
        found.append(f"grid charger of {charging.grid_charger.output_w:,.0f} W")
    return listed(found) or "none"


def _transfer(design: Design) -> str:
    kind = design.transfer.arrangement
    backed = sum(circuit.backed_up for circuit in design.transfer.circuits)
    title = "not chosen" if kind is None else BY_KIND[kind].title
    return f"{title}, {counted(backed, 'circuit')} backed up" if backed else title


def _wiring(design: Design) -> str:
    wiring = design.wiring
    flat = "" if wiring.loss_frac is None else f", flat loss {percent(wiring.loss_frac)}"
    return f"{counted(len(wiring.runs), 'run')} set by hand{flat}"


def _policy(design: Design) -> str:
    policy = design.policy
    keep = "at the floor" if policy.keep_level_frac is None else f"at {percent(policy.keep_level_frac)}"
    return f"Ease dropped at {percent(policy.ease_level_frac)}, Keep {keep}, back {percent(policy.return_margin_frac)} above"


def _storm(design: Design) -> str:
    outage = design.outage
    if outage.sky_from is SkySource.YEAR:
        skies = "skies of the year"
    else:
        skies = " ".join(day.sky.value for day in outage.days[:4]) + (" …" if len(outage.days) > 4 else "")
    return f"{outage.duration_h:g} h from {outage.start:%-d %b %H:%M}, {skies}"


def _settings(design: Design) -> str:
    return f"{design.kind.value}, {design.practice.value.replace('_', ' ')}, steps of {design.simulation.time_step_min} min"


_SAID = {
    "loads": _loads,
    "bank": _bank,
    "inverter": _inverter,
    "sun": _sun,
    "generator": _generator,
    "other_sources": _other_sources,
    "transfer": _transfer,
    "wiring": _wiring,
    "policy": _policy,
    "storm": _storm,
    "settings": _settings,
}
