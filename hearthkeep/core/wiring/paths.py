"""What opens between each source and each run: the wiring as a network, and by what every run is guarded."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from hearthkeep.core.design import ControllerKind, Design, DeviceKind, FedFrom
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.wiring.sized_run import SizedRun
from hearthkeep.core.wiring.words import device_words

#: Runs that come together where the bank's current is shared out.
AT_BUS = (RunKind.CONTROLLER, RunKind.SOURCE, RunKind.INVERTER, RunKind.BRANCH, RunKind.FEED)
#: A generator holds so many times its rating for a while: NEC 445.13 (from memory).
GENERATOR_HOLDS = 1.15
#: The breaker built into each block, as it is named.
BUILT_IN = "built-in breaker"


@dataclass(frozen=True, kw_only=True, slots=True)
class Opening:
    """A device on the way from a source to a run."""

    #: The run it sits in; of a block's own breaker none.
    run: str | None
    #: What all of its kind on parallel ways let through together [A].
    lets_a: float
    words: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Feed:
    """One source that can drive a fault on a run, and what stands between."""

    source: str
    #: Most that it can drive by itself [A]; none where nothing but a device limits it.
    limit_a: float | None
    openings: tuple[Opening, ...]

    def guard(self, sized: SizedRun) -> str | None:
        """By what a run is guarded from this source, in words; none where nothing guards it."""
        if self.limit_a is not None and sized.ampacity_a is not None and self.limit_a <= sized.ampacity_a + 1e-9:
            return f"{self.source} cannot drive more than {self.limit_a:.0f} A"
        allowed_a = sized.next_size_a or 0.0
        # The nearest of them is named: it is the one that opens alone.
        return next((each.words for each in reversed(self.openings) if each.lets_a <= allowed_a + 1e-9), None)


@dataclass(frozen=True, kw_only=True, slots=True)
class Guarded:
    """A run with every source that can drive a fault on it."""

    sized: SizedRun
    feeds: tuple[Feed, ...]

    @property
    def unguarded(self) -> tuple[Feed, ...]:
        """Sources from which nothing guards it."""
        return tuple(feed for feed in self.feeds if feed.guard(self.sized) is None)

    @property
    def words(self) -> str:
        """By what it is guarded, each named once."""
        found = dict.fromkeys(guard for feed in self.feeds if (guard := feed.guard(self.sized)) is not None)
        return "; ".join(found)


def own_opening(sized: SizedRun, *, ways: int = 1) -> tuple[Opening, ...]:
    """The device of a run, or so many of it on parallel ways."""
    device = sized.device
    if device is None or device.rating_a is None or device.kind is DeviceKind.NONE:
        return ()
    where = "its own" if ways == 1 else f"{ways} ×"
    return (Opening(run=sized.run.key, lets_a=ways * device.rating_a, words=f"{where} {device_words(device)}"),)


def elsewhere(openings: Sequence[Opening], label: str) -> tuple[Opening, ...]:
    """Devices of another run, named with where they sit."""
    return tuple(
        Opening(run=each.run, lets_a=each.lets_a, words=f"the {each.words.removeprefix('its own ')} {label}")
        for each in openings
    )


def guarded_runs(design: Design, runs: Sequence[SizedRun]) -> tuple[Guarded, ...]:
    """Every run that carries current, with what can drive a fault on it and what opens between.

    Of a design as it was entered. A run of direct current is fed by the bank, block by block, and by whatever charges; a string of
    panels by the strings beside it; a run of the house side by what its own device stands before. Source: NEC 240.21(H), 690.9(A),
    in our own words (from memory).
    """
    network = _Network(design, runs)
    return tuple(
        Guarded(sized=sized, feeds=tuple(network.feeds(sized)))
        for sized in runs
        if sized.run.kind is not RunKind.GROUND
    )


class _Network:
    """The runs of one design by where they lie."""

    def __init__(self, design: Design, runs: Sequence[SizedRun]) -> None:
        self.design, self.runs = design, runs
        self.by_key = {sized.run.key: sized for sized in runs}
        self.bank = self.by_key.get("bank")
        self.lead = self.by_key.get("string-leads")
        self.strings = design.bank.parallel
        #: Controllers that pass current either way once they have failed.
        self.passing = {
            f"controller-{each.id}" for each in design.charging.controllers if each.kind is ControllerKind.PWM
        }
        self.chargers = tuple(self._chargers())

    def _chargers(self) -> Iterator[tuple[str, str | None, float]]:
        """What charges the bus: its name, the run by which it does, and the most it gives [A]."""
        for sized in self.runs:
            if sized.run.kind in (RunKind.CONTROLLER, RunKind.SOURCE):
                yield sized.run.label.removesuffix(" to bus"), sized.run.key, sized.run.current_a

    def feeds(self, sized: SizedRun) -> Iterator[Feed]:
        kind = sized.run.kind
        if kind in (RunKind.STRING, RunKind.ARRAY):
            yield from self._of_sun(sized)
        elif kind is RunKind.LEAD:
            yield from self._of_lead(sized)
        elif kind is RunKind.LINK:
            yield from self._of_link(sized)
        elif kind is RunKind.BANK:
            yield Feed(source="the bank", limit_a=None, openings=(*self._at_bank(), *own_opening(sized)))
            yield from self._charging(sized, own=own_opening(sized))
        elif kind in AT_BUS:
            yield from self._behind_bus(sized)
        else:
            yield from self._of_house(sized)

    def _of_sun(self, sized: SizedRun) -> Iterator[Feed]:
        """The strings beside it drive a fault on a string, at the current of a strong sun; on the array's run all of them."""
        run = sized.run
        if run.kind is RunKind.ARRAY:
            yield Feed(source="the array", limit_a=run.current_a, openings=own_opening(sized))
            behind = self.by_key.get(run.end)
            if run.end in self.passing and behind is not None:
                through = (
                    *self._to_bus(),
                    *elsewhere(own_opening(behind), f"of {behind.run.label.removesuffix(' to bus')}"),
                )
                yield Feed(
                    source="the bank, through its controller", limit_a=None, openings=(*through, *own_opening(sized))
                )
            return
        others = run.count - 1
        if others > 0:
            yield Feed(
                source="the other string" if others == 1 else f"the other {others} strings",
                limit_a=others * run.current_a,
                openings=own_opening(sized),
            )

    def _breakers(self, ways: int, *, label: str = "") -> tuple[Opening, ...]:
        rating_a = self.design.bank.unit_breaker_a
        if rating_a is None:
            return ()
        many = "" if ways == 1 else f"{ways} × "
        return (Opening(run=None, lets_a=ways * rating_a, words=f"{many}{rating_a:g} A {BUILT_IN}{label}"),)

    def _at_bank(self) -> tuple[Opening, ...]:
        """What all blocks together can let through to the bank's bars before something opens."""
        found = self._breakers(self.strings, label=" of the blocks")
        if self.lead is not None:
            found = (*found, *elsewhere(own_opening(self.lead, ways=self.strings), "in the strings' leads"))
        return found

    def _of_lead(self, sized: SizedRun) -> Iterator[Feed]:
        own = own_opening(sized)
        yield Feed(source="its own string", limit_a=None, openings=(*self._breakers(1, label=" of the block"), *own))
        others = self.strings - 1
        through = elsewhere(own_opening(sized, ways=others), "in the other leads") if others > 1 else ()
        yield Feed(
            source="the other string" if others == 1 else f"the other {others} strings",
            limit_a=None,
            openings=(*self._breakers(others, label=" of the other blocks"), *through, *own),
        )

    def _of_link(self, sized: SizedRun) -> Iterator[Feed]:
        """Links lie among the blocks: only what is built into those opens before them."""
        if sized.run.key == "parallel-links":
            yield Feed(
                source="the other strings", limit_a=None, openings=self._breakers(self.strings - 1, label=" of the other blocks")
            )  # fmt: skip

    def _to_bus(self) -> tuple[Opening, ...]:
        found = self._at_bank()
        if self.bank is not None:
            found = (*found, *elsewhere(own_opening(self.bank), "at the bank"))
        return found

    def _charging(self, sized: SizedRun, *, own: tuple[Opening, ...]) -> Iterator[Feed]:
        for name, key, most_a in self.chargers:
            if key == sized.run.key:
                # Its own output, which its conductor is sized for.
                yield Feed(source=name, limit_a=most_a, openings=own)
                continue
            through = self.by_key.get(key) if key else None
            openings = elsewhere(own_opening(through), f"of {name}") if through is not None else ()
            yield Feed(source=name, limit_a=most_a, openings=(*openings, *own))

    def _behind_bus(self, sized: SizedRun) -> Iterator[Feed]:
        run, own = sized.run, own_opening(sized)
        if run.fed_from is FedFrom.LOAD_TERMINALS:
            most_a = max((most for _, key, most in self.chargers if key and key.startswith("controller")), default=0.0)
            yield Feed(source="the controller's load terminals", limit_a=most_a, openings=own)
            return
        before = self._to_bus()
        feed = next((each for each in self.runs if each.run.kind is RunKind.FEED and each.run.end == run.start), None)
        if feed is not None:
            before = (*before, *elsewhere(own_opening(feed), f"of {feed.run.label.removeprefix('Feed of ')}"))
            own = (*elsewhere(own_opening(feed), f"of {feed.run.label.removeprefix('Feed of ')}"), *own)
        yield Feed(source="the bank", limit_a=None, openings=(*before, *own))
        yield from self._charging(sized, own=own)

    def _of_house(self, sized: SizedRun) -> Iterator[Feed]:
        run, own = sized.run, own_opening(sized)
        if run.kind is RunKind.PANEL:
            # Inverters hold their output to what they are rated for.
            yield Feed(source="the inverter", limit_a=run.current_a, openings=own)
            grid = self.by_key.get("grid")
            if grid is not None:
                yield Feed(
                    source="the grid", limit_a=None, openings=(*elsewhere(own_opening(grid), "of the grid's run"), *own)
                )
        elif run.kind is RunKind.GENERATOR:
            yield Feed(source="the generator", limit_a=GENERATOR_HOLDS * run.current_a, openings=own)
        elif run.kind is RunKind.COUPLED:
            yield Feed(source="what its panel is fed from", limit_a=None, openings=own)
        else:
            yield Feed(source="the grid", limit_a=None, openings=own)
