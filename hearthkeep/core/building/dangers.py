"""Each danger in words, and the gate that keeps it away: every one is kept away by exactly one."""

from __future__ import annotations

from hearthkeep.core.building.gate import Danger, Precaution

_SAID: dict[Danger, str] = {
    Danger.LIVE_WORK: "A bank drives thousands of amps through a dropped spanner. Insulated tools, goggles, gloves; no rings, watches or "
    "chains; a second person who knows where the disconnects are.",
    Danger.LOOSE_JOINT: "A loose lug glows under load, hours later, where nobody looks.",
    Danger.UNFUSED: "A positive without its fuse is a welder: a fault burns until the cable is gone.",
    Danger.LIVE_CASE: "A case that nothing grounds, or a neutral bonded twice or never, makes a fault deadly instead of tripping a breaker.",
    Danger.GAS: "Charging gives off hydrogen: it gathers under lids and ceilings and needs no more than the spark of a lug.",
    Danger.UNEQUAL_BLOCKS: "Blocks side by side with unequal volts empty into each other the moment they are joined, with all the current "
    "that they can give.",
    Danger.REVERSED: "Plus and minus exchanged destroys inverter and controller in the instant of closing.",
    Danger.SUN_FIRST: "A controller that sees the sun before its bank takes the panel's volts for its system's, or fails at once.",
    Danger.LOAD_TERMINALS: "An inverter never hangs on a controller's load terminals: its rush burns them.",
    Danger.RUSH: "Empty capacitors take hundreds of amps in the first instant: sparks, pitted contacts, a blown class T fuse.",
    Danger.WRONG_CHARGE: "Charged by the wrong type's volts a bank gasses, dries out or is cut off by its board; lithium charged below "
    "freezing is ruined.",
    Danger.LIVE_PLUG: "What is plugged into a live outlet starts with a spark and its whole surge at once; what was left switched on "
    "starts by itself.",
    Danger.BACK_FEED: "A supply that reaches the street's line kills whoever works on it. With the grid safely off, prove that nothing "
    "arrives there.",
    Danger.FUMES: "Carbon monoxide kills people asleep. Outdoors only, far from openings, alarms on every floor. Never refuelled hot.",
    Danger.UNLED_ARRAY: "An array that nothing throttles pushes its power into a full bank.",
    Danger.LIT_PANELS: "Panels are live whenever lit: a string stands at its full volts while the sun is up, whatever is switched off. "
    "Cover it or work at dusk where connectors are open.",
    Danger.ARC: "Direct current arcs: no connector and no fuse holder is opened while current flows. The disconnect is closed last.",
    Danger.CREEPING: "A controller that fails lets the volts creep past their set point until something burns. The first full charge is "
    "watched to its end.",
    Danger.MISREAD: "An instrument that is off hides everything it should show.",
    Danger.LIVE_ROOF: "The fire service cuts into a roof that it takes for dead: the switch outside makes its wires safe, or nobody can.",
    Danger.UNLABELLED: "Whoever comes in the dark, or after you, relies on the labels.",
}  # fmt: skip


def precautions(*dangers: Danger) -> tuple[Precaution, ...]:
    """Dangers in words."""
    return tuple(Precaution(danger=danger, text=_SAID[danger]) for danger in dangers)
