"""Gates of the dead installation: everything that is done and measured before two parts are joined for the first time."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import ventilation_of
from hearthkeep.core.building.dangers import precautions
from hearthkeep.core.building.forbidden import NO_EARTH_OHM, OVER_BANK_FRAC, never
from hearthkeep.core.building.gate import Ask, Danger, Gate, Never, NeverKind, ReadingUnit, Window
from hearthkeep.core.building.windows import BOND_OHM, Expected, WindowFigure
from hearthkeep.core.design import OpenedBy, Practice, SourceBond
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.transfer import CORDS, bond_counts
from hearthkeep.core.wiring import RunKind, conductor_set_words, device_words, torque_words
from hearthkeep.core.words import counted, listed, some_of

#: More blocks than this are measured string by string.
MOST_BLOCKS_TOLD = 16
NO_EARTH = (never(NeverKind.NO_EARTH, high=NO_EARTH_OHM),)


def asked(
    key: str,
    label: str,
    unit: ReadingUnit,
    where: str,
    found: WindowFigure,
    *,
    is_optional: bool = False,
    decimals: int = 1,
    never: tuple[Never, ...] = (),
) -> Ask:
    """A reading with its window."""
    window, figure = found
    return Ask(
        key=key,
        label=label,
        unit=unit,
        where=where,
        window=window,
        figure=figure,
        is_optional=is_optional,
        decimals=decimals,
        never=never,
    )


def dead_gates(expected: Expected) -> Iterator[Gate]:
    """In the order in which they are passed."""
    yield _dead(expected)
    yield _mount(expected)
    if any(run.device is not None for run in expected.plan.runs):
        yield _devices(expected)
    if _grounds_asks(expected):
        yield _grounds(expected)
    if ventilation_of(expected.design.bank) is not None:
        yield _air(expected)
    if expected.design.bank.series * expected.design.bank.parallel > 1:
        yield _blocks(expected)
    yield _polarity(expected)


def joined_needs(expected: Expected) -> tuple[str, ...]:
    """What comes before anything is joined to the bank."""
    present = {gate.key for gate in dead_gates(expected)}
    return tuple(key for key in ("devices", "grounds", "air", "polarity") if key in present)


def _dead(expected: Expected) -> Gate:
    design = expected.design
    do = [
        "Every breaker and disconnect open, the bank's main device out or open and tagged.",
        "Say who works, who stands by, and that nobody closes anything but the one who opened it.",
    ]
    if design.charging.arrays:
        do.append(f"{arrays_open(expected)}; they stay so until the last gate of the sun.")
    if design.transfer.arrangement not in (None, *CORDS):
        do.append(
            "House side: a licensed electrician, with the permit and by the adopted code. Main breaker off and locked; prove it dead "
            "with a meter that was tried on a live supply before and after."
        )
    dead = expected.dead_volts("Bus bars", expected.rating.nominal_v)
    return Gate(
        key="dead",
        title="Everything open and dead",
        why="What is not joined cannot hurt; every later step closes one thing and only one.",
        precautions=precautions(Danger.LIVE_WORK),
        do=tuple(do),
        asks=(
            asked("dead.bus_v", "Bus bars, plus to minus", ReadingUnit.VOLTS, "at the bars, everything open",
                  dead, never=(never(NeverKind.ALIVE, low=dead[0].low, high=dead[0].high),)),
        ),
        needs=(),
        skipping="Work on parts that somebody believes to be dead.",
    )  # fmt: skip


def arrays_open(expected: Expected) -> str:
    """How the arrays are kept off, by what opens them."""
    runs = [run for run in expected.plan.runs if run.run.kind is RunKind.ARRAY]
    plugs = [run for run in runs if run.opened_by is OpenedBy.PLUG]
    if plugs and len(plugs) == len(runs):
        return "Array plugs pulled apart at night or under a cover, their contacts capped"
    if any(run.has_locks for run in runs if run not in plugs):
        return "Array disconnects open and locked, each handle tried against its lock"
    return "Array disconnects open and tagged"


def _mount(expected: Expected) -> Gate:
    design = expected.design
    do = ["Every part on its place, its clearances kept, nothing above it that drips, fans and vents free."]
    for run in expected.plan.runs:
        torque = (
            torque_words(run.torque_nm, design.practice)
            if run.torque_nm is not None
            else "the torque on the equipment's label"
        )
        size = conductor_set_words(run, design.practice)
        do.append(f"{run.run.label}: {size}, lugs crimped and covered, glands tight; {torque}, each terminal marked.")
    return Gate(
        key="mount",
        title="Mounted and torqued",
        why="A terminal is turned while it is dead; once it carries current nobody touches it.",
        precautions=precautions(Danger.LOOSE_JOINT),
        do=tuple(do),
        asks=(),
        needs=("dead",),
        skipping="A hot terminal, found by its smell or not at all.",
    )


def _devices(expected: Expected) -> Gate:
    do = []
    for run in expected.plan.runs:
        if run.device is None:
            continue
        where = "at its source" if run.device.at_m <= 0 else f"{run.device.at_m:.2f} m from its source"
        do.append(f"{run.run.label}: {device_words(run.device)}, {where}, in place and open.")
    return Gate(
        key="devices",
        title="Every fuse and breaker in its place, open",
        why="The protection stands before there is anything to protect against.",
        precautions=precautions(Danger.UNFUSED),
        do=tuple(do),
        asks=(),
        needs=("mount",),
        skipping="A fault with nothing that ends it.",
    )


def _ohms(label: str) -> WindowFigure:
    return Window(BOND_OHM / 4, 0.0, BOND_OHM), Figure(
        label=label, value=BOND_OHM, unit="Ω", formula="continuous: below 1 Ω, the meter's leads taken off",
        terms=(Term(name="at most", value=BOND_OHM, unit="Ω"),), basis=f"{COMMON_PRACTICE}; local code may ask less",
    )  # fmt: skip


def _grounds_asks(expected: Expected) -> tuple[Ask, ...]:
    asks = [
        asked(f"ground.{run.run.key}_ohm", run.run.label, ReadingUnit.OHMS, "end to end, nothing live", _ohms(run.run.label), decimals=2, never=NO_EARTH)
        for run in expected.plan.runs
        if run.run.kind is RunKind.GROUND
    ]  # fmt: skip
    # A relay joins them only while the unit makes a supply: that is read at the change-over.
    by_relay = expected.design.transfer.grounding.source_bond is SourceBond.RELAY
    if not by_relay and any(
        bonds.wanted == (1,) and bonds.position == "backup" for bonds in bond_counts(expected.design)
    ):
        asks.append(
            asked("ground.neutral_ohm", "Neutral to ground, in the backup position", ReadingUnit.OHMS,
                  "at the backed-up side, supply off", _ohms("Neutral to ground"), decimals=2, never=NO_EARTH)
        )  # fmt: skip
    return tuple(asks)


def _grounds(expected: Expected) -> Gate:
    design = expected.design
    do = ["Frames, cases, boxes and the negative, where it is grounded, to the ground bar: measured end to end."]
    for bonds in bond_counts(design):
        wanted = " or ".join("none" if count == 0 else "exactly one" for count in bonds.wanted)
        at = (
            f" The design has {counted(bonds.count, 'bond')}, at {listed(bonds.at)}"
            if bonds.at
            else " The design has none"
        )
        wrong = "" if bonds.is_right else ": that is wrong, see Transfer's checks before anything is closed"
        do.append(f"Neutral and ground joined on {bonds.position}: {wanted}.{at}{wrong}.")
    if design.practice is Practice.METRIC_230 and design.transfer.arrangement is not None:
        do.append("Residual-current devices in place, types and ratings read off and noted.")
    return Gate(
        key="grounds",
        title="Grounds and bonds",
        why="The way home for a fault is there before there can be one.",
        precautions=precautions(Danger.LIVE_CASE),
        do=tuple(do),
        asks=_grounds_asks(expected),
        needs=("mount",),
        skipping="A case under voltage that no breaker clears.",
    )


def _air(expected: Expected) -> Gate:
    bank = expected.design.bank
    air = ventilation_of(bank)
    assert air is not None
    do = [
        f"Openings low and high of {air.boost_opening_cm2:.0f} cm² each, or a fan of {air.boost_m3_per_h:.1f} m³/h, led outdoors.",
        f"Nothing that sparks or glows within {air.spark_distance_mm:.0f} mm of a vent.",
    ]
    if bank.chemistry.is_vented:
        do.append("Goggles, gloves, water and soda at hand; level of the acid above the plates in every cell.")
    return Gate(
        key="air",
        title="Air for the bank",
        why="It gasses with the first charge.",
        precautions=precautions(Danger.GAS),
        do=tuple(do),
        asks=(),
        needs=("mount",),
        skipping="Hydrogen under a lid.",
    )


def _blocks(expected: Expected) -> Gate:
    bank = expected.design.bank
    asks = []
    each, figure = expected.block_volts
    if bank.series * bank.parallel <= MOST_BLOCKS_TOLD:
        for string in range(1, bank.parallel + 1):
            for block in range(1, bank.series + 1):
                name = (
                    f"Block {block} of string {string}"
                    if bank.parallel > 1 and bank.series > 1
                    else f"Block {max(block, string)}"
                )
                asks.append(
                    asked(
                        block_key(string, block),
                        name,
                        ReadingUnit.VOLTS,
                        "at its own posts, open",
                        (each, figure),
                        decimals=2,
                        never=_of_bank(expected, blocks=bank.series),
                    )
                )
    else:
        whole, of_bank = expected.bank_volts
        for string in range(1, bank.parallel + 1):
            asks.append(
                asked(
                    block_key(string, 0),
                    f"String {string}",
                    ReadingUnit.VOLTS,
                    "end to end, open",
                    (whole, of_bank),
                    decimals=2,
                    never=_of_bank(expected),
                )
            )
    apart_v = apart_limit_v(expected)
    do = [
        f"Same type, same age, same charge: write each one's volts down before a link is closed ({counted(bank.series * bank.parallel, 'block')}).",
    ]  # fmt: skip
    if bank.parallel > 1:
        do.append(
            f"Strings within {apart_v:.2f} V of each other before they are joined side by side; charge the lower one until they are."
        )
    return Gate(
        key="blocks",
        title="The blocks one by one",
        why="Once they are linked a bad one hides behind the others.",
        precautions=precautions(Danger.UNEQUAL_BLOCKS),
        do=tuple(do),
        asks=tuple(asks),
        needs=("mount",),
        skipping="Blocks that empty into each other, and a bank as good as its worst block.",
    )  # fmt: skip


def _of_bank(expected: Expected, *, blocks: int = 1) -> tuple[Never, ...]:
    """What is never accepted of the bank's volts, or of one of so many blocks in series."""
    return (
        never(NeverKind.REVERSED, low=0.0),
        never(NeverKind.TOO_MANY_VOLTS, high=OVER_BANK_FRAC * expected.rating.charging_v / blocks),
    )


def block_key(string: int, block: int) -> str:
    """Key of the reading of a block; block 0 is the whole string."""
    return f"block.{string}-{block}_v"


def apart_limit_v(expected: Expected) -> float:
    """How far strings may be apart before they are joined [V]: 0.1 V for each 12 V, half of it for lithium. Common practice."""
    return (0.05 if not expected.rating.tapers else 0.1) * expected.blocks


def _polarity(expected: Expected) -> Gate:
    design = expected.design
    needs = ["mount"]
    if any(run.device is not None for run in expected.plan.runs):
        needs.append("devices")
    if design.bank.series * design.bank.parallel > 1:
        needs.append("blocks")
    runs = [
        run.run.label
        for run in expected.plan.runs
        if run.run.is_dc and run.run.kind not in (RunKind.STRING, RunKind.ARRAY, RunKind.GROUND, RunKind.LINK)
    ]
    return Gate(
        key="polarity",
        title="Polarity and volts of the bank, before anything is closed",
        why="A meter forgives exchanged leads; an inverter does not.",
        precautions=precautions(Danger.REVERSED),
        do=(
            "Red probe on the conductor marked plus: the meter shows no minus sign.",
            *([f"The same at both ends of {some_of(runs, most=8)}: continuity of each pole, and none to the other."] if runs else []),
        ),
        asks=(
            asked("polarity.bank_v", "Bank, before its open main device", ReadingUnit.VOLTS, "red on plus, black on minus",
                  expected.bank_volts, decimals=2, never=_of_bank(expected)),
        ),
        needs=tuple(needs),
        skipping="Everything on the bus, in one instant.",
    )  # fmt: skip
