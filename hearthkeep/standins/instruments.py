"""Simulated devices: what each of them measures of the house, what it makes of it when something is wrong, and its registers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime

import numpy as np

from hearthkeep.core.design import Chemistry, Practice, Supply
from hearthkeep.core.watch import FaultKind, InstrumentKind
from hearthkeep.devices import (
    BANK_SENSOR,
    BATTERY,
    COMMON,
    DC_PORTS,
    END_MODEL,
    GENERATOR,
    INVERTERS,
    MARKER,
    METER,
    PORT_ARRAY,
    PORT_BANK,
    RUNNING,
    STILL,
    Model,
    Point,
    Value,
    laid_out,
    layouts,
)
from hearthkeep.standins.house import House, Truth

#: Its instruments read so far off from reading to reading: volts for each 12 V, and the part of amps and watts.
NOISE_V, NOISE_PART = 0.008, 0.004
#: A display that drifts leaves the others by so much a minute for each 12 V [V/min], a shunt by so much of the rated Ah [1/h/min].
DRIFT_V_PER_MIN, DRIFT_PER_H_PER_MIN = 0.03, 0.01
#: Which faults each kind of device can have.
FAULTS: dict[InstrumentKind, tuple[FaultKind, ...]] = {
    InstrumentKind.MONITOR: (FaultKind.FROZEN, FaultKind.DRIFT, FaultKind.DROPPED, FaultKind.SCALE, FaultKind.REVERSED),
    InstrumentKind.INVERTER: (FaultKind.FROZEN, FaultKind.DRIFT, FaultKind.DROPPED, FaultKind.SCALE, FaultKind.FAN),
    InstrumentKind.CONTROLLER: (
        FaultKind.FROZEN,
        FaultKind.DRIFT,
        FaultKind.DROPPED,
        FaultKind.SCALE,
        FaultKind.CREEPING,
    ),
    InstrumentKind.GENERATOR: (FaultKind.FROZEN, FaultKind.DROPPED, FaultKind.SCALE, FaultKind.CO),
}
UNITS = {
    InstrumentKind.MONITOR: 1,
    InstrumentKind.INVERTER: 2,
    InstrumentKind.CONTROLLER: 3,
    InstrumentKind.GENERATOR: 4,
}
MADE = {
    InstrumentKind.MONITOR: "Battery monitor",
    InstrumentKind.INVERTER: "Inverter-charger",
    InstrumentKind.CONTROLLER: "Solar controller",
    InstrumentKind.GENERATOR: "Generator panel",
}
#: Powers of ten that the devices count in.
SCALES: dict[int, Mapping[str, int]] = {
    COMMON: {},
    BATTERY: {"SoC_SF": -1, "V_SF": -2, "A_SF": -1, "W_SF": 0, "AHRtg_SF": 0, "WHRtg_SF": 1, "WChaDisChaMax_SF": 1, "SoH_SF": 0},
    101: {"A_SF": -2, "V_SF": -1, "W_SF": 0, "Hz_SF": -2, "WH_SF": 0, "DCV_SF": -2, "DCW_SF": 0, "DCA_SF": -2, "Tmp_SF": -1},
    102: {"A_SF": -2, "V_SF": -1, "W_SF": 0, "Hz_SF": -2, "WH_SF": 0, "DCV_SF": -2, "DCW_SF": 0, "DCA_SF": -2, "Tmp_SF": -1},
    DC_PORTS: {"DCA_SF": -2, "DCV_SF": -2, "DCW_SF": 0, "DCWH_SF": 0, "Tmp_SF": -1},
    METER: {"A_SF": -2, "V_SF": -1, "Hz_SF": -2, "W_SF": 0, "TotWh_SF": 0},
    GENERATOR: {"Fuel_SF": -1},
    BANK_SENSOR: {"Tmp_SF": -1, "Ah_SF": 0},
}  # fmt: skip
#: The scale that is wrong by a power of ten where a device's scale is wrong.
WRONG_SCALE: dict[InstrumentKind, str] = {
    InstrumentKind.MONITOR: "A_SF",
    InstrumentKind.INVERTER: "DCV_SF",
    InstrumentKind.CONTROLLER: "DCV_SF",
    InstrumentKind.GENERATOR: "W_SF",
}
#: States of SunSpec's enumerations that the devices are in.
CONNECTED, CHARGING, DISCHARGING, LITHIUM, LEAD_ACID, REMOTE = 3.0, 4.0, 3.0, 4.0, 1.0, 0.0
TRACKING, STANDBY, PORT_ON, PORT_OFF = 4.0, 8.0, 1.0, 0.0
#: What the generator's panel tells where carbon monoxide gathers [ppm].
CO_FAULT_PPM = 120.0


@dataclass
class Instrument:
    """One simulated device."""

    kind: InstrumentKind
    house: House
    seed: int = 0
    faults: dict[FaultKind, datetime] = field(default_factory=dict)
    #: Registers as they were said last, while they are frozen.
    _kept: list[int] | None = None

    def __post_init__(self) -> None:
        """Its own dice."""
        self._dice = np.random.default_rng((self.seed, UNITS[self.kind]))

    def switch(self, fault: FaultKind, on: bool, moment: datetime) -> None:
        """Switch one of its faults; raises ValueError for one that it cannot have."""
        if fault not in FAULTS[self.kind]:
            raise ValueError(f"{MADE[self.kind]} cannot have the fault {fault.value}.")
        if on:
            self.faults.setdefault(fault, moment)
        else:
            self.faults.pop(fault, None)
        if self.kind is InstrumentKind.CONTROLLER:
            self.house.creeps = FaultKind.CREEPING in self.faults
        if self.kind is InstrumentKind.INVERTER:
            self.house.fan_is_still = FaultKind.FAN in self.faults

    @property
    def is_silent(self) -> bool:
        """It gives no answer."""
        return FaultKind.DROPPED in self.faults

    def registers(self, moment: datetime, utc_offset_h: float) -> list[int]:
        """All its holding registers from 40000 on at a moment, local standard time."""
        truth = self.house.at(moment)
        if FaultKind.FROZEN in self.faults and self._kept is not None:
            return self._kept
        words = list(MARKER)
        clock_s = (moment - datetime(1970, 1, 1)).total_seconds() - 3600.0 * utc_offset_h
        for model in self._models(truth, moment, clock_s):
            words += laid_out(self._scaled(model), SCALES[model.model])
        self._kept = [*words, END_MODEL, 0]
        return self._kept

    def _scaled(self, model: Model) -> Model:
        """A model as it is said: ten times too much where its scale is wrong."""
        if FaultKind.SCALE not in self.faults:
            return model
        layout, wrong = layouts()[model.model], WRONG_SCALE[self.kind]

        def tenfold(points: tuple[Point, ...], values: Mapping[str, Value]) -> dict[str, Value]:
            own = {point.name for point in points if point.scale == wrong}
            return {
                name: 10.0 * value if name in own and isinstance(value, float) else value
                for name, value in values.items()
            }

        blocks = tuple(tenfold(layout.repeated, block) for block in model.blocks)
        return Model(model.model, tenfold(layout.points, model.values), blocks)

    def _models(self, truth: Truth, moment: datetime, clock_s: float) -> list[Model]:
        number = float(UNITS[self.kind])
        named: dict[str, Value] = {
            "Mn": "Stand-in",
            "Md": MADE[self.kind],
            "Vr": "1",
            "SN": f"S-{number:.0f}",
            "DA": number,
        }
        measure = {
            InstrumentKind.MONITOR: self._monitor,
            InstrumentKind.INVERTER: self._inverter,
            InstrumentKind.CONTROLLER: self._controller,
            InstrumentKind.GENERATOR: self._generator,
        }[self.kind]
        return [Model(COMMON, named), *measure(truth, moment, clock_s)]

    def _monitor(self, truth: Truth, moment: datetime, clock_s: float) -> list[Model]:
        bank = self.house.design.bank
        volts, amps = self._volts(truth.bank_v), self._about(truth.bank_a)
        amps += DRIFT_PER_H_PER_MIN * bank.rated_ah * self._minutes(FaultKind.DRIFT, moment)
        amps = -amps if FaultKind.REVERSED in self.faults else amps
        lithium = bank.chemistry is Chemistry.LFP
        battery: dict[str, Value] = {
            "AHRtg": bank.rated_ah, "WHRtg": bank.rated_ah * bank.nominal_v, "SoCMax": 100.0, "SoCMin": 0.0,
            "SoC": 100.0 * truth.charge_frac, "SoH": 100.0, "ChaSt": CHARGING if amps > 0 else DISCHARGING, "LocRemCtl": REMOTE,
            "Hb": float(int(clock_s) % 60_000), "AlmRst": 0.0, "Typ": LITHIUM if lithium else LEAD_ACID, "State": CONNECTED,
            "Evt1": 0.0, "Evt2": 0.0, "EvtVnd1": 0.0, "EvtVnd2": 0.0, "V": volts, "A": amps, "W": volts * amps, "SetOp": 1.0,
            "SetInvState": 1.0, "WChaRteMax": bank.rated_ah * bank.nominal_v, "WDisChaRteMax": bank.rated_ah * bank.nominal_v,
        }  # fmt: skip
        sensor: dict[str, Value] = {
            "Clk": clock_s, "Tmp": truth.bank_c + 0.2 * float(self._dice.normal()), "AhFull": truth.ah_from_full
        }  # fmt: skip
        return [Model(BATTERY, battery), Model(BANK_SENSOR, sensor)]

    def _inverter(self, truth: Truth, moment: datetime, clock_s: float) -> list[Model]:
        design = self.house.design
        volts = self._volts(truth.inverter_v) + self._drifted(moment)
        taken_w, given_w = -self._about(truth.inverter_dc_w), self._about(truth.house_w)
        is_split = any(load.supply is Supply.AC_240 for load in design.loads)
        house_v = 120.0 if design.practice is Practice.NORTH_AMERICAN else 230.0
        values: dict[str, Value] = {
            "A": given_w / house_v, "AphA": given_w / house_v / (2 if is_split else 1), "PhVphA": house_v, "W": given_w,
            "Hz": 60.0 if design.practice is Practice.NORTH_AMERICAN else 50.0, "WH": truth.house_wh, "VA": given_w, "DCV": volts, "DCW": taken_w,
            "DCA": abs(taken_w) / volts, "TmpCab": truth.cabinet_c + 0.1 * float(self._dice.normal()),
            "St": TRACKING if given_w > 0 else STANDBY, "Evt1": 0.0, "Evt2": 0.0,
        }  # fmt: skip
        if is_split:
            values |= {"AphB": values["AphA"], "PhVphB": house_v, "PPVphAB": 2 * house_v}
        return [Model(INVERTERS[1] if is_split else INVERTERS[0], values)]

    def _controller(self, truth: Truth, moment: datetime, clock_s: float) -> list[Model]:
        volts = self._volts(truth.bank_v) + self._drifted(moment)
        watts = self._about(truth.sun_w)
        amps = watts / truth.bank_v
        shines = PORT_ON if watts > 1 else PORT_OFF
        array_a = watts / truth.sun_v if truth.sun_v > 0 else 0.0
        ports: tuple[dict[str, Value], ...] = (
            {
                "PrtTyp": PORT_ARRAY,
                "ID": 1.0,
                "IDStr": "Array",
                "DCA": array_a,
                "DCV": truth.sun_v,
                "DCW": watts,
                "DCSta": shines,
            },
            {"PrtTyp": PORT_BANK, "ID": 2.0, "IDStr": "Bank", "DCA": amps, "DCV": volts, "DCW": watts, "DCSta": shines},
        )
        return [Model(DC_PORTS, {"NPrt": 2.0, "PrtAlrms": 0.0, "DCA": amps, "DCW": watts}, ports)]

    def _generator(self, truth: Truth, moment: datetime, clock_s: float) -> list[Model]:
        north = self.house.design.practice is Practice.NORTH_AMERICAN
        house_v, watts = 120.0 if north else 230.0, self._about(truth.generator_w)
        meter: dict[str, Value] = {
            "A": watts / house_v, "PhV": house_v if truth.generator_runs else 0.0,
            "Hz": (60.0 if north else 50.0) if truth.generator_runs else 0.0, "W": watts, "TotWhExp": truth.generator_wh, "TotWhImp": 0.0, "Evt": 0.0,
        }  # fmt: skip
        panel: dict[str, Value] = {
            "Clk": clock_s, "Run": RUNNING if truth.generator_runs else STILL, "Fuel": truth.fuel_l, "Hr": truth.generator_h,
            "Co": CO_FAULT_PPM if FaultKind.CO in self.faults else 2.0,
        }  # fmt: skip
        return [Model(METER, meter), Model(GENERATOR, panel)]

    def _volts(self, volts: float) -> float:
        return volts + NOISE_V * self.house.design.bank.nominal_v / 12.0 * float(self._dice.normal())

    def _about(self, value: float) -> float:
        return value * (1.0 + NOISE_PART * float(self._dice.normal()))

    def _drifted(self, moment: datetime) -> float:
        return DRIFT_V_PER_MIN * self.house.design.bank.nominal_v / 12.0 * self._minutes(FaultKind.DRIFT, moment)

    def _minutes(self, fault: FaultKind, moment: datetime) -> float:
        """For how long it has had a fault [min]; 0 without it."""
        since = self.faults.get(fault)
        return 0.0 if since is None else max((moment - since).total_seconds(), 0.0) / 60.0


def panel_of(house: House, *, seed: int = 0) -> tuple[Instrument, ...]:
    """The devices that a house has: a generator's only where there is one, a controller's where there is an array on one."""
    charging = house.design.charging
    kinds = [InstrumentKind.MONITOR, InstrumentKind.INVERTER]
    kinds += [InstrumentKind.CONTROLLER] if house.has_sun else []
    kinds += [InstrumentKind.GENERATOR] if charging.generator is not None else []
    return tuple(Instrument(kind, house, seed=seed) for kind in kinds)
