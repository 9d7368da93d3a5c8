"""Moments, gates and designs for the tests of Build."""

from datetime import UTC, datetime, timedelta

from hearthkeep.core.building.gate import Moment
from hearthkeep.core.building.gates import gates_of
from hearthkeep.core.building.progress import GateEntry, Signed, Signing, mark_of
from hearthkeep.core.building.windows import Expected
from tests.support.designs import birchrow, moved

#: A panel of invented figures.
PANEL = {
    "name": "Panel 400", "stc_w": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.8, "imp_a": 12.9,
    "voc_temp_coeff_per_c": -0.0027, "power_temp_coeff_per_c": -0.0034, "series_fuse_a": 25.0,
}  # fmt: skip


def array(key, *, series, strings, azimuth_deg=180.0):
    return {
        "id": key, "name": key, "stc_w": 400.0 * series * strings, "tilt_deg": 35.0, "azimuth_deg": azimuth_deg, "module": PANEL,
        "series": series, "strings": strings,
    }  # fmt: skip


def many_strings():
    """The demo home with three strings of four on one controller, and one of three on another."""
    controllers = [
        {"id": "roof", "name": "Roof", "kind": "mppt", "output_a": 120.0, "arrays": [array("south", series=4, strings=3)]},
        {"id": "wall", "name": "Wall", "kind": "mppt", "output_a": 60.0, "arrays": [array("wall", series=3, strings=1)]},
    ]  # fmt: skip
    return moved(birchrow(), {"charging.controllers": controllers})


def noon(**fields):
    """A clear noon in June, the bank at six tenths."""
    return Moment(**{"at": datetime(2026, 6, 15, 12, 0), "air_c": 18.0, "soc_frac": 0.6, **fields})


def gate_of(design, key, moment=None):
    """One gate of a design, with what is expected there."""
    expected = Expected(design, noon() if moment is None else moment)
    return expected, next(gate for gate in gates_of(expected) if gate.key == key)


def all_signed(design, *, skip=(), outside=(), until=None):
    """Entries that sign every gate of a design in order, some of them skipped, some with a first reading outside."""
    kept, at = [], datetime(2026, 6, 15, 15, tzinfo=UTC)
    for number, gate in enumerate(gates_of(Expected(design, noon()))):
        if gate.key == until:
            break
        readings = as_expected(gate)
        if gate.key in outside:
            first = gate.asks[0]
            readings[first.key] = 1.05 * first.window.high + 0.5
        signing = Signing.SKIPPED if gate.key in skip else Signing.PASSED
        entry = GateEntry(
            gate=gate.key, signing=signing, who="Mo Harker", instrument="Meter 7", moment=noon(),
            second="Ada Rook" if gate.key in outside else "",
            note="none at hand today" if gate.key in skip else "meter read twice" if gate.key in outside else "",
            readings={} if gate.key in skip else readings, mark=mark_of(gate),
        )  # fmt: skip
        kept.append(Signed(at=at + timedelta(minutes=20 * number), entry=entry))
    return tuple(kept)


def as_expected(gate):
    """Readings in the middle of each window."""
    return {ask.key: ask.window.expected for ask in gate.asks}
