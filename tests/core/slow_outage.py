"""The outage model once more, written naively from its rules to check the compiled one against.

Explicit steps of seconds, no levels solved for, plain dictionaries. Slow and simple on purpose; shares no code with
the kernel beyond the design and its sun.
"""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design
from hearthkeep.core.outage import scene_of

TIERS = ("life", "keep", "ease", "spare")


@dataclass
class SlowResult:
    dark_h: float | None
    stored_end_wh: float
    served_wh: float
    spilled_wh: float
    lowest_wh: float


def live_through(design: Design, *, slice_h: float) -> SlowResult:
    bank, inverter, rating = design.bank, design.inverter, rate(design.bank)
    capacity = rating.capacity_wh
    floor = max(1 - bank.depth_frac, bank.cutoff_soc_frac)
    level = {"life": bank.cutoff_soc_frac, "keep": floor, "ease": max(design.rules.ease_level_frac, floor)}
    ac_loads = [row for row in design.loads if row.supply.value == "ac"]
    scene = scene_of(design, rating)
    stored = capacity * bank.start_soc_frac
    dropped = dict.fromkeys(level, False)
    result = SlowResult(None, stored, 0.0, 0.0, stored)
    overhead = inverter.rated_w / inverter.efficiency_frac - inverter.rated_w - inverter.idle_w

    def draw(served: list[str], hour: int, dark: bool) -> tuple[float, float]:
        """Loads and everything they cost at the bus."""
        ac = dc = lost = 0.0
        for row in design.loads:
            if row.tier.value in served:
                on = any(start <= hour < end for start, end in row.hours)
                runs = row.substitute_w if dark and row.dark_day == "substitute" else row.running_w
                power = row.quantity * (runs * row.duty_frac if on else row.standby_w)
                if dark and row.dark_day == "drop":
                    power = 0.0
                if row.supply.value == "ac":
                    ac += power
                else:
                    dc += power
                    lost += power / 0.9 - power if row.supply.value == "dc_converted" else 0.0
        taken = dc + lost
        if any(row.tier.value in served for row in ac_loads):
            taken += inverter.idle_w + ac * (1 + overhead / inverter.rated_w)
        return ac + dc, taken * (1 + design.wiring.loss_frac)

    def asks(tier: str, hour: int, dark: bool) -> bool:
        return draw([tier], hour, dark)[0] > 0

    now = 0.0
    edges = scene.clock.edges_h
    for step in range(len(scene.clock.length_h)):
        hour, sun = int(scene.clock.hour[step]), float(scene.sun.passed_w[step])
        sky = design.outage.days[min(int(scene.clock.day[step]), len(design.outage.days) - 1)].sky.value
        dark = sky in ("overcast", "covered")
        clipped = float(scene.sun.clipped_w[step])
        slices = max(1, round(float(scene.clock.length_h[step]) / slice_h))
        span = float(scene.clock.length_h[step]) / slices
        for number in range(slices):
            now = float(edges[step]) + number * span
            for tier in level:
                if dropped[tier] and stored >= min(level[tier] + 0.1, 1.0) * capacity - 1e-6:
                    dropped[tier] = False
                if dropped[tier]:
                    break
            while True:
                served = []
                for tier in level:
                    if dropped[tier]:
                        break
                    served.append(tier)
                load, taken = draw(served, hour, dark)
                if taken <= sun + 1e-9:
                    break
                out = [tier for tier in served if asks(tier, hour, dark) and stored <= level[tier] * capacity + 1e-6]
                if not out and stored <= level["life"] * capacity + 1e-6 and served:
                    out = ["life"]
                if not out:
                    break
                # The lowest goes, and with it all below.
                for tier in TIERS[TIERS.index(out[-1]) : 3]:
                    dropped[tier] = True
            if result.dark_h is None and any(
                asks(tier, hour, dark) and tier not in served for tier in ("life", "keep")
            ):
                result.dark_h = now
            net = sun - taken
            if net >= 0:
                state = stored / capacity
                part = 1.0 if not rating.tapers or state < 0.8 else 1 - 0.95 * (state - 0.8) / 0.2
                into = min(net, rating.charge_limit_w * part) if stored < capacity - 1e-9 else 0.0
                spare_load, spare_taken = draw([*served, "spare"], hour, dark)
                spare_taken -= taken
                if len(served) == 3 and asks("spare", hour, dark) and net - into >= spare_taken:
                    load, net = spare_load, net - spare_taken
                stored = min(capacity, stored + into * rating.charge_efficiency_frac * span)
                result.spilled_wh += (net - into) * span
            else:
                power = -net
                rated_w = rating.rated_current_a * rating.nominal_v
                factor = (power / rated_w) ** (rating.peukert_exponent - 1) if power > rated_w else 1.0
                stored -= power * factor / rating.discharge_efficiency_frac * span
            result.spilled_wh += clipped * span
            result.served_wh += load * span
            result.lowest_wh = min(result.lowest_wh, stored)
    result.stored_end_wh = stored
    return result
