"""How a load's watts are known: kept with the row, so that the figure can be traced and improved."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from hearthkeep.core.design.fields import DesignPart, Efficiency, LoadWatts


class Quality(StrEnum):
    """How far a load's figure can be trusted, best first."""

    MEASURED = "measured"
    LABEL = "label"
    NAMEPLATE = "nameplate"
    GUESS = "guess"


Volts = Annotated[float, Field(strict=True, gt=0, le=1_000)]
ReadAmps = Annotated[float, Field(strict=True, gt=0, le=2_000)]
PowerFactor = Annotated[float, Field(strict=True, ge=0.1, le=1)]
RunningWatts = Annotated[float, Field(strict=True, gt=0, le=50_000)]
Kilowatthours = Annotated[float, Field(strict=True, ge=0, le=100_000)]


class Typed(DesignPart):
    """Watts typed as they are, with what they rest on."""

    kind: Literal["typed"] = "typed"
    quality: Quality = Quality.GUESS


class Typical(DesignPart):
    """Taken from the list of typical devices: a guess until it is measured."""

    kind: Literal["typical"] = "typical"


class NameplateReading(DesignPart):
    """Volts x amps x power factor of the nameplate: an upper end, since a nameplate states the most it ever draws."""

    kind: Literal["nameplate"] = "nameplate"
    volts_v: Volts
    current_a: ReadAmps
    power_factor: PowerFactor = 1.0


class SpotReading(DesignPart):
    """A plug-in meter read once while the load runs, rounded up to a step."""

    kind: Literal["spot"] = "spot"
    reading_w: RunningWatts
    #: Rounded up to a multiple of this [W]; 0 leaves it as it is.
    step_w: Annotated[float, Field(strict=True, ge=0, le=1_000)] = 5.0


class MeterRun(DesignPart):
    """A plug-in meter left in for hours: it gives the true average, and so the duty."""

    kind: Literal["meter"] = "meter"
    energy_kwh: Kilowatthours
    over_h: Annotated[float, Field(strict=True, gt=0, le=20_000)]
    #: What the meter shows while the load runs [W].
    running_w: RunningWatts


class EnergyLabel(DesignPart):
    """An energy label in kWh a year, which is an average over all hours."""

    kind: Literal["label"] = "label"
    energy_kwh_per_year: Kilowatthours
    running_w: RunningWatts


class DcReading(DesignPart):
    """Amps on the battery side at a voltage."""

    kind: Literal["dc_amps"] = "dc_amps"
    current_a: ReadAmps
    at_v: Volts
    #: Of the inverter between the battery and an AC load, its own draw included; empty means 0.85.
    through_efficiency_frac: Efficiency | None = None


#: Name of a setting; the marks that separate settings in a sheet's cell are left to the sheet.
SettingName = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=24, pattern=r"^[^\x00-\x1f\x7f,=*]+$")
]


class SpeedSetting(DesignPart):
    """One setting of a load with speeds."""

    name: SettingName
    power_w: LoadWatts


class SpeedTable(DesignPart):
    """Watts at each setting, one of them chosen."""

    kind: Literal["speeds"] = "speeds"
    settings: Annotated[tuple[SpeedSetting, ...], Field(min_length=1, max_length=8)]
    chosen: SettingName
    quality: Quality = Quality.NAMEPLATE

    @model_validator(mode="after")
    def _chosen_is_there(self) -> Self:
        names = [setting.name for setting in self.settings]
        if len(set(names)) < len(names):
            raise ValueError(f"each setting needs a name of its own (got {', '.join(names)})")
        if self.chosen not in names:
            raise ValueError(f"chosen must be one of {', '.join(names)} (got {self.chosen})")
        return self


Known = Annotated[
    Typed | Typical | NameplateReading | SpotReading | MeterRun | EnergyLabel | DcReading | SpeedTable,
    Field(discriminator="kind"),
]

CodeLetter = Literal["A", "B", "C", "D", "E", "F", "G", "H", "J", "K", "L", "M", "N", "P", "R", "S", "T", "U", "V"]


class StartTyped(DesignPart):
    """A start typed as it is: read with a clamp, or taken from a chart."""

    kind: Literal["typed"] = "typed"
    quality: Quality = Quality.GUESS


class StartCode(DesignPart):
    """The locked-rotor code letter of a motor's nameplate and its horsepower."""

    kind: Literal["code"] = "code"
    code_letter: CodeLetter
    horsepower_hp: Annotated[float, Field(strict=True, gt=0, le=200)]


class StartMultiple(DesignPart):
    """A typical multiple of the running watts."""

    kind: Literal["multiple"] = "multiple"
    multiple: Annotated[float, Field(strict=True, ge=1, le=12)]


StartKnown = Annotated[StartTyped | StartCode | StartMultiple, Field(discriminator="kind")]
