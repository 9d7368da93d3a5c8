"""A method's sheet, written from top to bottom: what it takes, what it leaves out, what follows."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(frozen=True, kw_only=True, slots=True)
class OpinionLine:
    """One line of a method's sheet."""

    key: str
    label: str
    value: float
    unit: str
    formula: str
    #: Field of the design that holds the habit; none for a line that only follows.
    path: str | None = None
    #: What the model has in its place; none where there is nothing to compare.
    right: float | None = None
    #: The method does not have this line: its value stands for nothing at all.
    is_left_out: bool = False
    is_sum: bool = False
    #: Id of the load that the line counts, and whether it stays off on dark days.
    load_id: str | None = None
    is_off: bool = False
    #: What is to be said beside it.
    note: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Answer:
    """What a method asks for, before the next size sold."""

    bank_wh: float
    array_w: float
    controller_a: float
    inverter_w: float
    #: How many sizes sold the inverter goes up; 1 is the next.
    sizes_up: int = 1
    #: A generator that only charges, by its charger's output [W]; none where the method says nothing of one.
    generator_w: float | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Right:
    """What the model has in the place of a method's lines."""

    #: Loads counted, a day of the planned outage [Wh].
    loads_wh: float
    #: Days without help that the bank has to bridge, by the smallest bank that carries it.
    days: float
    #: What is taken from the cells over what the loads ask.
    losses: float
    #: Part of the rated energy that may be used.
    usable_frac: float
    #: What the sky of the planned outage gives, for each watt of panel a day [h].
    sun_hours_h: float
    #: Rated watts that the running loads and the worst start ask for.
    inverter_w: float


@dataclass(slots=True)
class Sheet:
    """A sheet being written; lines of the keys `corrected` take what the model has instead of the habit."""

    right: Right
    corrected: frozenset[str] = frozenset()
    lines: list[OpinionLine] = field(default_factory=list)

    def taken(
        self,
        key: str,
        label: str,
        value: float,
        unit: str,
        formula: str,
        *,
        right: float | None = None,
        path: str | None = None,
        note: str = "",
        is_left_out: bool = False,
    ) -> float:
        """A line that rests on a habit; `right` is what the model has in its place."""
        used = right if right is not None and key in self.corrected else value
        self.lines.append(
            OpinionLine(
                key=key,
                label=label,
                value=used,
                unit=unit,
                formula=formula,
                path=path,
                right=right,
                is_left_out=is_left_out,
                note=note,
            )
        )
        return used

    def left_out(self, key: str, label: str, formula: str, *, right: float | None) -> float:
        """A factor that the method does not know: 1, unless it is corrected."""
        return self.taken(key, label, 1.0, "", formula, right=right, is_left_out=True)

    def follows(
        self, key: str, label: str, value: float, unit: str, formula: str, *, is_sum: bool = False, note: str = ""
    ) -> float:
        """A line that follows from those above it."""
        self.lines.append(
            OpinionLine(key=key, label=label, value=value, unit=unit, formula=formula, is_sum=is_sum, note=note)
        )
        return value

    def load(self, load_id: str, name: str, value: float, unit: str, formula: str, *, is_off: bool = False) -> None:
        """One load counted."""
        self.lines.append(
            OpinionLine(
                key=f"load/{load_id}",
                label=name,
                value=value,
                unit=unit,
                formula=formula,
                load_id=load_id,
                is_off=is_off,
            )
        )
