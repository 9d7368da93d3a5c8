"""Signs of faults on readings made by hand: what looks like a fault and is none, and which of two is wrong."""

import unittest

import numpy as np

from hearthkeep.core.design import read_design
from hearthkeep.core.logbook import Quantity, Trace
from hearthkeep.core.watch import DeviceTrack, FaultKind, InstrumentKind, named
from tests.support.designs import ROOT, simple

NOW_S = 1_768_000_000.0
STEPS = 60
AT_S = NOW_S - 15.0 * np.arange(STEPS - 1, -1, -1)
MONITOR, INVERTER, CONTROLLER = InstrumentKind.MONITOR, InstrumentKind.INVERTER, InstrumentKind.CONTROLLER
#: 48 V: limits for each 12 V count four times.
HOME = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
#: Steps from its last fifth on, the five minutes in which faults are looked for.
LATE = np.arange(STEPS) >= STEPS - 12


def noise(seed, size=0.02):
    return np.random.default_rng(seed).normal(0.0, size, STEPS)


def device(kind, *, key=None, answered_s=NOW_S, **series):
    traces = {Quantity(name): Trace(at_s=AT_S, values=np.asarray(values, float)) for name, values in series.items()}
    name = key or kind.value
    return DeviceTrack(key=name, name=name, kind=kind, traces=traces, answered_s=answered_s)


def house(
    *,
    volts=52.4,
    inverter_a=-6.0,
    sun_a=2.0,
    monitor_a=None,
    monitor_v=None,
    inverter_v=None,
    controller_v=None,
    **more,
):
    """A monitor, an inverter and a controller that agree, each series given as a number or as values, (steps,)."""
    volts, inverter_a, sun_a = (np.broadcast_to(each, STEPS) for each in (volts, inverter_a, sun_a))
    inverter_a, sun_a = inverter_a * (1 + noise(5, 0.05)), sun_a * (1 + noise(6, 0.05))
    amps = inverter_a + sun_a if monitor_a is None else np.broadcast_to(monitor_a, STEPS)
    read = [
        volts + noise(at) if each is None else each for at, each in enumerate((monitor_v, inverter_v, controller_v))
    ]
    losses = HOME.inverter
    given_w = (-inverter_a * read[1] - losses.idle_w) * losses.efficiency_frac
    return (
        device(MONITOR, bank_v=read[0], bank_a=amps + noise(7), device_a=amps, charge=np.linspace(61, 60, STEPS)),
        device(INVERTER, bank_v=read[1], device_a=inverter_a, inverter_w=given_w.clip(0), device_c=more.get("cabinet_c", 30 + noise(8, 0.1))),
        device(CONTROLLER, bank_v=read[2], device_a=sun_a, sun_w=sun_a * volts, sun_v=np.full(STEPS, 74.0)),
    )  # fmt: skip


def kinds(tracks, held=(), design=HOME):
    return [(each.kind, each.key) for each in named(design, tracks, NOW_S, held)]


class NoFaults(unittest.TestCase):
    def test_instruments_that_agree(self):
        self.assertEqual(kinds(house()), [])

    def test_a_pump_that_starts_moves_every_display_and_is_no_drift(self):
        # Its own leads let the inverter read lower, all at once.
        step = np.where(LATE, -40.0, -6.0)
        self.assertEqual(
            kinds(house(inverter_a=step, volts=52.4 + 0.02 * step, inverter_v=52.4 + 0.03 * step + noise(1))), []
        )

    def test_a_bank_at_rest_says_the_same_and_nothing_stands_still(self):
        flat = np.full(STEPS, 52.4)
        self.assertEqual(
            kinds(
                house(monitor_v=flat, inverter_v=flat, controller_v=flat, inverter_a=-1.2, sun_a=0.0, monitor_a=-1.2)
            ),
            [],
        )

    def test_a_source_that_nobody_reads_is_no_reversed_shunt(self):
        # A turbine makes up for the house and as much again: amps the other way, that move with the house.
        tracks = house(sun_a=0.0)
        inverter_a = tracks[1].traces[Quantity.DEVICE_A].values
        self.assertEqual(kinds(house(sun_a=0.0, monitor_a=inverter_a + 12.0)), [])

    def test_an_inverter_that_gives_more_may_grow_warm(self):
        warm = 20.0 + 15.0 * np.clip((np.arange(STEPS) - 35) / 25, 0, 1)
        self.assertEqual(
            kinds(house(inverter_a=np.where(np.arange(STEPS) > 30, -45.0, -6.0), volts=52.0, cabinet_c=warm)), []
        )

    def test_a_generator_that_stopped_says_nothing_and_that_is_right(self):
        watts = np.where(np.arange(STEPS) < 30, 1_800.0, 0.0)
        self.assertEqual(kinds((*house(), device(InstrumentKind.GENERATOR, generator_w=watts))), [])

    def test_nobody_and_nothing(self):
        self.assertEqual(kinds(()), [])
        self.assertEqual(kinds((device(MONITOR),)), [])


class WhichOne(unittest.TestCase):
    def test_of_three_the_one_that_leaves_the_others(self):
        drift = 52.4 + np.clip(np.arange(STEPS) - 40, 0, None) * 0.04
        self.assertEqual(kinds(house(controller_v=drift + noise(3))), [(FaultKind.DRIFT, "controller")])
        self.assertEqual(kinds(house(inverter_v=drift + noise(3))), [(FaultKind.DRIFT, "inverter")])

    def test_of_two_the_one_that_moved(self):
        drift = 52.4 + np.clip(np.arange(STEPS) - 40, 0, None) * 0.04
        monitor, inverter, _ = house(inverter_v=drift + noise(3))
        self.assertEqual(kinds((monitor, inverter)), [(FaultKind.DRIFT, "inverter")])

    def test_a_shunt_that_mirrors_the_others(self):
        tracks = house()
        amps = tracks[0].traces[Quantity.BANK_A].values
        self.assertEqual(kinds(house(monitor_a=-amps)), [(FaultKind.REVERSED, "monitor")])

    def test_a_device_whose_scale_is_wrong_leaves_the_monitor_in_peace(self):
        monitor, inverter, controller = house()
        wrong = device(INVERTER, bank_v=52.4 + noise(1), device_a=10 * inverter.traces[Quantity.DEVICE_A].values,
                       inverter_w=inverter.traces[Quantity.INVERTER_W].values)  # fmt: skip
        self.assertEqual(kinds((monitor, wrong, controller)), [(FaultKind.SCALE, "inverter")])

    def test_one_that_answers_no_more_is_only_that(self):
        monitor, inverter, _ = house()
        stopped = Trace(at_s=AT_S[:-12], values=np.full(STEPS - 12, 52.4))
        gone = DeviceTrack(
            key="controller",
            name="controller",
            kind=CONTROLLER,
            traces={Quantity.BANK_V: stopped},
            answered_s=NOW_S - 180,
        )
        self.assertEqual(kinds((monitor, inverter, gone)), [(FaultKind.DROPPED, "controller")])

    def test_past_the_set_point_it_is_what_charges(self):
        climbing = 57.2 + np.clip(np.arange(STEPS) - 40, 0, None) * 0.08
        tracks = house(volts=climbing, sun_a=20.0, inverter_a=-4.0)
        self.assertEqual(kinds(tracks), [(FaultKind.CREEPING, "controller")])

    def test_what_is_named_stays_until_its_own_signs_are_gone(self):
        hot = house(cabinet_c=30.0 + np.clip(np.arange(STEPS) - 40, 0, None) * 0.8)
        (fault,) = named(HOME, hot, NOW_S)
        self.assertEqual(fault.kind, FaultKind.FAN)
        still_hot = house(cabinet_c=np.full(STEPS, fault.level) + noise(8, 0.1))
        self.assertEqual(kinds(still_hot), [], "by itself it is no sign")
        (held,) = named(HOME, still_hot, NOW_S, (fault,))
        self.assertEqual((held.since, held.level), (fault.since, fault.level))
        self.assertEqual(kinds(house(cabinet_c=np.full(STEPS, fault.level - 5.0)), (fault,)), [])

    def test_a_bank_of_another_voltage_has_its_own_limits(self):
        design = simple()
        volts = design.bank.nominal_v * 1.03
        drift = volts + np.clip(np.arange(STEPS) - 40, 0, None) * 0.04 * design.bank.nominal_v / 48.0
        three = [device(MONITOR, bank_v=volts + noise(0, 0.005)), device(INVERTER, bank_v=volts + noise(1, 0.005)),
                 device(CONTROLLER, bank_v=drift + noise(2, 0.005))]  # fmt: skip
        self.assertEqual(kinds(three, design=design), [(FaultKind.DRIFT, "controller")])
