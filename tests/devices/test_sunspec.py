"""Registers and what is read from them: there and back, what a device does not have, and what no device can mean."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.logbook import Quantity
from hearthkeep.devices import (
    BASES,
    BATTERY,
    DC_PORTS,
    END_MODEL,
    MARKER,
    DeviceError,
    Model,
    SilentError,
    heard,
    laid_out,
    layouts,
    models_of,
    read_model,
)

SCALES = {"V_SF": -2, "A_SF": -1, "SoC_SF": -1, "W_SF": 0}


class Memory:
    """Registers in a list, from an address on."""

    def __init__(self, words, *, base=BASES[0]):
        self.words, self.base, self.asked = list(words), base, []

    def read(self, address, count):
        self.asked.append((address, count))
        at = address - self.base
        if not 0 <= at <= len(self.words) - count:
            raise DeviceError("Refuses to say that register.")
        return self.words[at : at + count]


def battery(**values):
    return laid_out(Model(BATTERY, {"V": 52.4, "A": -6.1, "SoC": 61.5, "W": -320.0, **values}), SCALES)


def device(*models, base=BASES[0]):
    return Memory([*MARKER, *(word for model in models for word in model), END_MODEL, 0], base=base)


class ThereAndBack(unittest.TestCase):
    @given(volts=st.floats(0, 600), amps=st.floats(-3_000, 3_000), charge=st.floats(0, 100))
    def test_values_come_back_to_their_scale(self, volts, amps, charge):
        model, wrong = read_model(BATTERY, battery(V=volts, A=amps, SoC=charge))
        self.assertEqual(wrong, ())
        self.assertAlmostEqual(model.number("V"), volts, delta=0.0051)
        self.assertAlmostEqual(model.number("A"), amps, delta=0.051)
        self.assertAlmostEqual(model.number("SoC"), charge, delta=0.051)

    @given(st.sampled_from(sorted(layouts())), st.lists(st.integers(0, 0xFFFF), max_size=160))
    def test_whatever_stands_in_the_registers_is_read_without_a_crash(self, number, words):
        model, _ = read_model(number, words)
        for value in model.values.values():
            self.assertIsInstance(value, (float, str, type(None)))

    def test_what_a_device_does_not_have_is_none(self):
        model, _ = read_model(BATTERY, laid_out(Model(BATTERY, {"V": 50.0}), SCALES))
        self.assertEqual((model.number("V"), model.number("A"), model.number("CellVMax")), (50.0, None, None))

    def test_blocks_that_are_repeated_share_the_scales_before_them(self):
        ports = ({"DCV": 73.21, "PrtTyp": 0.0}, {"DCV": 52.19, "PrtTyp": 1.0})
        model, _ = read_model(DC_PORTS, laid_out(Model(DC_PORTS, {"NPrt": 2.0}, ports), {"DCV_SF": -2}))
        self.assertEqual([block["DCV"] for block in model.blocks], [73.21, 52.19])

    def test_a_value_beyond_its_register_stops_at_its_end_and_is_never_taken_for_none(self):
        model, _ = read_model(BATTERY, battery(V=1e6, A=-1e6))
        self.assertEqual((model.number("V"), model.number("A")), (655.34, -3276.7))

    def test_a_power_of_ten_that_no_device_means_is_told(self):
        words = battery()
        layout = layouts()[BATTERY].points
        at = sum(point.size for point in layout[: [point.name for point in layout].index("V_SF")])
        words[at] = 77
        model, wrong = read_model(BATTERY, words)
        self.assertIsNone(model.number("V"))
        self.assertIn("V_SF", wrong[0])


class Walking(unittest.TestCase):
    def test_it_is_found_at_each_usual_place(self):
        for base in BASES:
            said = heard(device(battery(), base=base))
            self.assertEqual((said.values[Quantity.BANK_V], said.values[Quantity.BANK_A]), (52.4, -6.1))

    def test_models_that_are_not_known_are_stepped_over(self):
        said = heard(device([63_000, 3, 1, 2, 3], battery()))
        self.assertEqual(said.values[Quantity.CHARGE], 61.5)

    def test_a_long_model_is_read_in_parts_that_the_protocol_allows(self):
        memory = device(battery())
        list(models_of(memory))
        self.assertLessEqual(max(count for _, count in memory.asked), 125)

    def test_no_models_no_end_and_endless_lengths_are_told(self):
        endless = [word for _ in range(100) for word in (63_000, 0)]
        for words, told in (
            ([0] * 200, "no SunSpec models"),
            ([*MARKER, *endless], "no end"),
            ([*MARKER, 802, 60_000, *[0] * 100], "60000"),
            ([*MARKER, END_MODEL, 0], "None of its models"),
            ([*MARKER, *battery()[:20]], "Refuses"),
        ):
            with self.assertRaisesRegex(DeviceError, told):
                heard(Memory(words))

    def test_silence_at_the_first_place_is_not_asked_again_at_the_others(self):
        class Silent:
            asked = 0

            def read(self, address, count):
                self.asked += 1
                raise SilentError("No answer.")

        silent = Silent()
        with self.assertRaises(SilentError):
            heard(silent)
        self.assertEqual(silent.asked, 1)

    def test_what_cannot_be_is_no_reading_and_is_told(self):
        said = heard(device(battery(SoC=850.0, V=60.0)))
        self.assertNotIn(Quantity.CHARGE, said.values)
        self.assertIn("850", said.wrong[0])
        self.assertEqual(said.values[Quantity.BANK_V], 60.0)
