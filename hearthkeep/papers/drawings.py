"""Pictures for print, black on white: lines told apart by stroke and hatch, never by colour."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime, timedelta
from html import escape

from hearthkeep.core.outage import Event, EventKind, OutageReport
from hearthkeep.core.trials import EnduranceCurve, Trials
from hearthkeep.core.words import begun
from hearthkeep.papers.words import day_and_time, number

#: Width of every picture and its margins, in the units of the drawing.
WIDTH, LEFT, RIGHT = 720.0, 46.0, 46.0
_TEXT = 'font-family="Atkinson Hyperlegible Next" font-size="10"'
_HATCH = (
    '<defs><pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">'
    '<line x1="0" y1="0" x2="0" y2="6" stroke="#000" stroke-width="1.4"/></pattern></defs>'
)
#: Strokes of the curves, one after the other.
_STROKES = ('stroke-width="2.4"', 'stroke-width="1.2"', 'stroke-width="1.2" stroke-dasharray="6 3"',
            'stroke-width="1.2" stroke-dasharray="2 2.5"', 'stroke-width="1.2" stroke-dasharray="9 3 2 3"')  # fmt: skip
_SAID = {
    EventKind.FULL: "bank full",
    EventKind.CUT_OFF: "bank at its cut-off",
    EventKind.GENERATOR_ON: "generator starts",
    EventKind.GENERATOR_OFF: "generator stops",
    EventKind.INVERTER_BACK: "inverter back on",
    EventKind.ARRAY_CUT: "grid-tied array switched off",
    EventKind.ARRAY_BACK: "grid-tied array back",
    EventKind.FUEL_FETCHED: "fuel fetched",
    EventKind.SWITCHED_OVER: "house switched over",
}
_TIER_SAID = {
    EventKind.DROPPED: "dropped",
    EventKind.RETURNED: "back",
    EventKind.OVERLOADED: "overloads and waits",
    EventKind.FITS_AGAIN: "fits again",
    EventKind.DARK: "goes dark",
    EventKind.BACK_ON: "on again",
}
#: Moments named below the strip at the most, and lanes above it for their numbers.
MOST_MOMENTS, _LANES = 14, 3


def event_words(event: Event) -> str:
    """What happened, in a few words."""
    said = _SAID.get(event.kind)
    if said is not None:
        return said
    return f"{begun(event.tier or 'the house')} {_TIER_SAID[event.kind]}"


def moments_of(outage: OutageReport) -> list[tuple[str, float, str]]:
    """Day and time, hours from the start and words of what is marked on the strip, in order."""
    start = datetime.fromisoformat(outage.start)
    return [
        (day_and_time(start, event.time_h), event.time_h, event_words(event)) for event in outage.events[:MOST_MOMENTS]
    ]


def strip_svg(outage: OutageReport, capacity_wh: float) -> str:
    """The endurance strip: energy in the bank, sun and house, nights, what goes dark, and the moments by number."""
    height, top, foot = 200.0, 6.0 + 11.0 * _LANES, 46.0
    series, across = outage.series, WIDTH - LEFT - RIGHT
    strongest_w = max(1.0, *series.sun_w, *series.served_w, *series.generator_w, *series.other_w)
    bottom = top + height

    def x(time_h: float) -> float:
        return LEFT + across * time_h / outage.duration_h

    def energy_y(stored_wh: float) -> float:
        return bottom - height * stored_wh / max(capacity_wh, 1.0)

    def power_y(power_w: float) -> float:
        return bottom - 0.6 * height * power_w / strongest_w

    stored = [(x(time_h), energy_y(wh)) for time_h, wh in zip(series.time_h, series.stored_wh, strict=True)]
    parts = [_open(top + height + foot)]
    parts += [
        f'<rect x="{x(a):.1f}" y="{top:g}" width="{x(b) - x(a):.1f}" height="{height:g}" fill="#ececec"/>'
        for a, b in series.nights_h
    ]
    parts.append(f'<path d="{_path([(x(0), bottom), *stored, (stored[-1][0], bottom)])}Z" fill="#000" opacity="0.13"/>')
    dark = [
        (series.time_h[at], series.time_h[at + 1], power_y(watts))
        for at, watts in enumerate(series.unserved_w)
        if watts > 0.5
    ]
    parts += [
        f'<rect x="{x(a):.1f}" y="{y:.1f}" width="{x(b) - x(a):.2f}" height="{bottom - y:.1f}" fill="url(#hatch)"/>'
        for a, b, y in dark
    ]
    for values, stroke in (
        (series.sun_w, 'stroke-width="1" stroke-dasharray="1.5 2"'),
        (series.served_w, 'stroke-width="1" stroke-dasharray="5 2"'),
        (series.generator_w, 'stroke-width="1.6"'),
    ):
        if max(values, default=0.0) > 0:
            steps = [point for at, watts in enumerate(values)
                     for point in ((x(series.time_h[at]), power_y(watts)), (x(series.time_h[at + 1]), power_y(watts)))]  # fmt: skip
            parts.append(f'<path d="{_path(steps)}" fill="none" stroke="#000" {stroke}/>')
    parts.append(f'<path d="{_path(stored)}" fill="none" stroke="#000" stroke-width="2.2"/>')
    parts.append(_frame(top, height))
    parts += _scale([(capacity_wh * part, energy_y(capacity_wh * part)) for part in (0, 0.5, 1)], "kWh", left=True)
    parts += _scale([(strongest_w * part, power_y(strongest_w * part)) for part in (0.5, 1)], "kW", left=False)
    parts += _hours_below(outage, x, bottom)
    last = [-99.0] * _LANES
    for index, (_, time_h, _words) in enumerate(moments_of(outage), start=1):
        at = x(time_h)
        lane = next((lane for lane in range(_LANES) if at - last[lane] > 13), _LANES - 1)
        parts.append(
            f'<line x1="{at:.1f}" x2="{at:.1f}" y1="{top - 4:g}" y2="{bottom:g}" stroke="#000" stroke-width="0.6"/>'
        )
        parts.append(f'<text x="{at:.1f}" y="{top - 5 - 11 * lane:g}" text-anchor="middle" {_TEXT}>{index}</text>')
        last[lane] = at
    return "".join(parts) + "</svg>"


def curve_svg(trials: Trials) -> str:
    """Share of the year's hours from which Life and Keep last at least so long; the whole year thick, seasons thin."""
    height, top, foot = 190.0, 12.0, 40.0
    across, bottom = WIDTH - LEFT - RIGHT - 90, top + height
    longest_h = trials.times_h[-1]

    def x(time_h: float) -> float:
        return LEFT + across * time_h / longest_h

    def y(share: float) -> float:
        return bottom - height * share

    parts = [_open(top + height + foot)]
    for share in (0.0, 0.25, 0.5, 0.75, 1.0):
        parts.append(
            f'<line x1="{LEFT:g}" x2="{LEFT + across:g}" y1="{y(share):.1f}" y2="{y(share):.1f}" stroke="#bbb" stroke-width="0.5"/>'
        )
        parts.append(
            f'<text x="{LEFT - 5:g}" y="{y(share) + 3.5:.1f}" text-anchor="end" {_TEXT}>{share:.0%}</text>'.replace(
                "%", " %"
            )
        )
    for hour in _ticks(longest_h):
        parts.append(f'<text x="{x(hour):.1f}" y="{bottom + 14:g}" text-anchor="middle" {_TEXT}>{hour:g} h</text>')
    parts.append(
        f'<line x1="{x(trials.planned_h):.1f}" x2="{x(trials.planned_h):.1f}" y1="{top:g}" y2="{bottom:g}" stroke="#000" stroke-width="1"/>'
    )
    parts.append(
        f'<text x="{x(trials.planned_h):.1f}" y="{bottom + 28:g}" text-anchor="middle" {_TEXT}>planned {trials.planned_h:g} h</text>'
    )
    for at, curve in enumerate(trials.curves):
        points = [(x(hour), y(share)) for hour, share in zip(trials.times_h, curve.keep_frac, strict=True)]
        parts.append(f'<path d="{_path(points)}" fill="none" stroke="#000" {_STROKES[at % len(_STROKES)]}/>')
        parts += _key(curve, at, LEFT + across + 12, top + 12 + 18 * at)
    parts.append(
        f'<rect x="{LEFT:g}" y="{top:g}" width="{across:g}" height="{height:g}" fill="none" stroke="#000" stroke-width="0.8"/>'
    )
    return "".join(parts) + "</svg>"


def _key(curve: EnduranceCurve, at: int, left: float, y: float) -> list[str]:
    return [
        f'<line x1="{left:g}" x2="{left + 24:g}" y1="{y - 3.5:g}" y2="{y - 3.5:g}" stroke="#000" {_STROKES[at % len(_STROKES)]}/>',
        f'<text x="{left + 29:g}" y="{y:g}" {_TEXT}>{escape(curve.title)}</text>',
    ]


def _open(height: float) -> str:
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH:g} {height:g}" width="{WIDTH:g}" height="{height:g}">'
        f"{_HATCH}"
    )


def _frame(top: float, height: float) -> str:
    return (
        f'<rect x="{LEFT:g}" y="{top:g}" width="{WIDTH - LEFT - RIGHT:g}" height="{height:g}" fill="none" stroke="#000" '
        'stroke-width="0.8"/>'
    )


def _path(points: Sequence[tuple[float, float]]) -> str:
    return "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points)


def _scale(marks: Sequence[tuple[float, float]], unit: str, *, left: bool) -> list[str]:
    at, anchor = (LEFT - 5, "end") if left else (WIDTH - RIGHT + 5, "start")
    return [
        f'<text x="{at:g}" y="{y + 3.5:.1f}" text-anchor="{anchor}" {_TEXT}>{number(value / 1000, 1)} {unit}</text>'
        for value, y in marks
    ]


def _ticks(longest_h: float) -> list[float]:
    """About eight even hours up to the end."""
    for step in (1, 2, 3, 6, 12, 24, 48, 72, 120):
        if longest_h / step <= 9:
            return [float(hour) for hour in range(0, int(longest_h) + 1, step)]
    return [0.0, longest_h]


def _hours_below(outage: OutageReport, x: Callable[[float], float], bottom: float) -> list[str]:
    start = datetime.fromisoformat(outage.start)
    parts = []
    for hour in _ticks(outage.duration_h):
        at, moment = x(hour), start + timedelta(hours=hour)
        parts.append(
            f'<line x1="{at:.1f}" x2="{at:.1f}" y1="{bottom:g}" y2="{bottom + 4:g}" stroke="#000" stroke-width="0.8"/>'
        )
        parts.append(f'<text x="{at:.1f}" y="{bottom + 16:g}" text-anchor="middle" {_TEXT}>hour {hour:g}</text>')
        parts.append(
            f'<text x="{at:.1f}" y="{bottom + 29:g}" text-anchor="middle" {_TEXT}>{day_and_time(moment, 0)[:3]} {moment:%H:%M}</text>'
        )
    return parts
