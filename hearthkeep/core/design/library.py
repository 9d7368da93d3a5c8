"""Units of the equipment library: whole data sheets, from which a design takes a copy."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from hearthkeep.core.design.arrays import ModuleSheet
from hearthkeep.core.design.bank import Chemistry
from hearthkeep.core.design.fields import Amps, DcVolts, Identifier, UnitAmpHours, UnitVolts
from hearthkeep.core.design.inverter import Build, Inverter, Output, Waveform
from hearthkeep.core.design.sheets import BatterySheet, InverterSheet

INVERTER_FIELDS = (
    "rated_w",
    "surge_w",
    "surge_s",
    "idle_w",
    "efficiency_frac",
    "low_cutoff_v",
    "output",
    "build",
    "waveform",
)


class LibraryBattery(BatterySheet):
    """One battery unit."""

    library_id: Identifier
    chemistry: Chemistry
    unit_v: UnitVolts
    unit_ah: UnitAmpHours
    unit_max_charge_a: Amps | None = None
    unit_max_discharge_a: Amps | None = None


class LibraryModule(ModuleSheet):
    """One solar panel."""

    library_id: Identifier


class LibraryInverter(InverterSheet):
    """One inverter."""

    library_id: Identifier
    #: Nominal volts of the bank it is made for.
    system_v: DcVolts
    rated_w: Annotated[float, Field(strict=True, gt=0, le=200_000)]
    surge_w: Annotated[float, Field(strict=True, gt=0, le=600_000)]
    surge_s: Annotated[float, Field(strict=True, ge=0, le=3_600)] = 5.0
    idle_w: Annotated[float, Field(strict=True, ge=0, le=2_000)]
    efficiency_frac: Annotated[float, Field(strict=True, ge=0.5, le=1)]
    low_cutoff_v: DcVolts
    output: Output
    build: Build = Build.INVERTER_CHARGER
    waveform: Waveform = Waveform.PURE_SINE
    search_threshold_w: Annotated[float, Field(strict=True, ge=0, le=500)] = 0.0
    search_w: Annotated[float, Field(strict=True, ge=0, le=500)] = 1.0

    def as_inverter(self, like: Inverter) -> Inverter:
        """This unit in the place of another; how many there are and their strategies stay."""
        values = self.model_dump()
        return Inverter.model_validate(
            {
                **like.model_dump(),
                **{field: values[field] for field in INVERTER_FIELDS},
                "sheet": {field: values[field] for field in InverterSheet.model_fields},
            }
        )
