"""Weather years from EPW and TMY3 files: looked through line by line, then read by pvlib; anything odd is refused by line."""

from __future__ import annotations

import csv
import hashlib
import io
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.core.sources import HOURS_A_YEAR, WeatherYear, sky_at

if TYPE_CHECKING:
    import pandas as pd

Floats = NDArray[np.float64]

#: Larger files are refused before they are looked at [bytes]; a year of hours takes a tenth of that.
MAX_WEATHER_BYTES = 12_000_000
_EPW_FIELDS_AT_LEAST = 22
_YEAR = 2001
#: Hours in which the sun may shine with itself well below the horizon before the file's place or time is doubted.
_NIGHT_HOURS, _NIGHT_ZENITH_DEG, _NIGHT_W_M2 = 20, 97.0, 25.0


class WeatherFileError(HearthKeepError):
    """A file that is no usable weather year; says in which line and why."""

    code, title = "WEATHER_FILE", "The weather file cannot be used"
    fix = "Take an EPW or TMY3 file of a whole year of 8,760 hours."

    def __init__(self, line: int, reason: str) -> None:
        self.line = line
        self._reason = reason
        super().__init__(f"Line {line:,}: {reason}")

    def __reduce__(self) -> tuple[type[WeatherFileError], tuple[int, str]]:
        """So that it passes from one process to another whole."""
        return type(self), (self.line, self._reason)


@dataclass(frozen=True, kw_only=True, slots=True)
class _Quantity:
    """One column: its name for a person, what it may hold, and what stands for nothing."""

    label: str
    unit: str
    least: float
    most: float
    #: At and above this the value is missing.
    missing: float
    hint: str = ""


_SUN_HINT = "; the file seems to hold kJ/m2 or another unit"
QUANTITIES = {
    "ghi": _Quantity(label="global horizontal sun", unit="W/m2", least=0, most=1500, missing=9999, hint=_SUN_HINT),
    "dni": _Quantity(label="direct normal sun", unit="W/m2", least=0, most=1500, missing=9999, hint=_SUN_HINT),
    "dhi": _Quantity(label="diffuse horizontal sun", unit="W/m2", least=0, most=1200, missing=9999, hint=_SUN_HINT),
    "temp_air": _Quantity(
        label="air temperature", unit="°C", least=-70, most=60, missing=99.9, hint="; the file seems to hold °F"
    ),
    "wind_speed": _Quantity(label="wind", unit="m/s", least=0, most=75, missing=999),
}
#: A mean above this over the year is no air in °C [°C].
_MEAN_AIR_C = 40.0


@dataclass(frozen=True, kw_only=True, slots=True)
class _Form:
    """How one kind of file is laid out."""

    name: str
    #: Lines before the first hour.
    header_lines: int
    #: Position of each quantity in a line.
    columns: dict[str, int]
    fields_at_least: int
    #: Month, day and hour ending of a line.
    stamp: Callable[[Sequence[str]], tuple[int, int, int]]
    read: Callable[[str], tuple[pd.DataFrame, dict[str, object]]]


def read_weather(content: bytes, name: str) -> WeatherYear:
    """Read an EPW or TMY3 file into a weather year; raises WeatherFileError with the line and the reason."""
    if len(content) > MAX_WEATHER_BYTES:
        raise WeatherFileError(1, f"the file holds {len(content):,} bytes; at most {MAX_WEATHER_BYTES:,} are read.")
    lines = _text(content).splitlines()
    form = _form_of(lines)
    rows = _looked_through(lines, form)
    head = "\n".join(lines[: form.header_lines])
    try:
        table, about = form.read(head + "\n" + "\n".join(rows) + "\n")
        values = {key: table[key].to_numpy(dtype=np.float64) for key in QUANTITIES}
        snow = table["snow_depth"].to_numpy(dtype=np.float64) if "snow_depth" in table else np.zeros(HOURS_A_YEAR)
    except (ValueError, KeyError, TypeError, IndexError, AttributeError, OverflowError) as error:
        # The library reads more of the file than is looked through here: its header's other fields, its quotes.
        raise WeatherFileError(1, f"the {form.name} file cannot be read as a whole ({str(error)[:120]}).") from error
    if any(series.shape != (HOURS_A_YEAR,) or not np.isfinite(series).all() for series in values.values()):
        raise WeatherFileError(form.header_lines + 1, "some rows run into one another; look for stray quotation marks.")
    mean_c = float(values["temp_air"].mean())
    if mean_c > _MEAN_AIR_C:
        raise WeatherFileError(
            form.header_lines + 1,
            f"the air is {mean_c:.0f} on the mean of the year; the file seems to hold °F, not °C.",
        )
    # 999 says that nobody measured.
    snow = np.where((snow >= 999) | ~(snow >= 0), 0.0, snow)
    year = WeatherYear(
        key=_digest({**values, "snow": snow}, about),
        name=_place(about, name),
        latitude_deg=_placed(about, "latitude", -90, 90),
        longitude_deg=_placed(about, "longitude", -180, 180),
        elevation_m=_placed(about, "altitude", -500, 6000),
        utc_offset_h=_placed(about, "TZ", -12, 14),
        ghi_w_m2=values["ghi"],
        dni_w_m2=values["dni"],
        dhi_w_m2=values["dhi"],
        air_c=values["temp_air"],
        wind_m_s=values["wind_speed"],
        snow_cm=snow,
    )
    _shines_by_day(year, form)
    return year


def _cells(line: str, number: int) -> list[str]:
    """The fields of a line; a line that has none, or one too long to be a field, is refused."""
    try:
        return next(csv.reader([line]), [])
    except csv.Error as error:
        raise WeatherFileError(number, f"cannot be split into fields: {error}.") from error


def _text(content: bytes) -> str:
    """The file as text; a binary is refused by the line where it stops being one."""
    for number, line in enumerate(content.splitlines()[:50], start=1):
        if b"\x00" in line or sum(byte < 9 or 13 < byte < 32 for byte in line) > 0:
            raise WeatherFileError(number, "this is not text; an EPW or TMY3 file is wanted.")
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return content.decode("latin-1")


def _form_of(lines: list[str]) -> _Form:
    first = lines[0] if lines else ""
    if first.startswith("LOCATION,"):
        place = _cells(first, 1)
        if len(place) < 10:
            raise WeatherFileError(1, f"LOCATION holds {len(place)} of 10 fields.")
        _numbers(place, {"latitude": 6, "longitude": 7, "time zone": 8, "elevation": 9})
        return EPW
    if len(lines) > 1 and lines[1].startswith("Date (MM/DD/YYYY),"):
        place = _cells(first, 1)
        if len(place) < 7:
            raise WeatherFileError(1, f"the station's line holds {len(place)} of 7 fields.")
        _numbers(place, {"time zone": 3, "latitude": 4, "longitude": 5, "elevation": 6})
        return _tmy3(lines[1])
    raise WeatherFileError(
        1, "neither EPW (which begins with LOCATION,) nor TMY3 (whose second line begins with Date (MM/DD/YYYY),)."
    )


def _numbers(place: Sequence[str], columns: dict[str, int]) -> None:
    for label, column in columns.items():
        try:
            float(place[column])
        except ValueError:
            raise WeatherFileError(1, f"{label} is no number (got {place[column][:20]!r}).") from None


def _looked_through(lines: list[str], form: _Form) -> list[str]:
    """The lines of 8,760 hours, each in its place and within bounds; a leap day is left out."""
    if len(lines) < form.header_lines:
        raise WeatherFileError(len(lines), f"the file ends within its {form.header_lines} header lines.")
    kept: list[str] = []
    for number, line in enumerate(lines[form.header_lines :], start=form.header_lines + 1):
        if not line.strip():
            continue
        fields = _cells(line, number)
        if len(fields) < form.fields_at_least:
            raise WeatherFileError(number, f"holds {len(fields)} fields, at least {form.fields_at_least} are wanted.")
        try:
            month, day, hour = form.stamp(fields)
        except ValueError:
            raise WeatherFileError(number, f"no date and hour can be read (got {line[:24]!r}).") from None
        if (month, day) == (2, 29):
            continue
        if len(kept) == HOURS_A_YEAR:
            raise WeatherFileError(number, "more than 8,760 hours; one year of hourly rows is wanted.")
        expected = _expected(len(kept))
        if (month, day, hour) != expected:
            raise WeatherFileError(
                number,
                f"month {month}, day {day}, hour {hour} stands where month {expected[0]}, day {expected[1]}, "
                f"hour {expected[2]} is due; rows are missing or out of order.",
            )
        for key, quantity in QUANTITIES.items():
            _check(number, fields[form.columns[key]], quantity)
        kept.append(line)
    if len(kept) < HOURS_A_YEAR:
        raise WeatherFileError(len(lines), f"the file ends after {len(kept):,} of 8,760 hours.")
    return kept


def _expected(index: int) -> tuple[int, int, int]:
    day = date(_YEAR, 1, 1) + timedelta(days=index // 24)
    return day.month, day.day, index % 24 + 1


def _check(line: int, text: str, quantity: _Quantity) -> None:
    try:
        value = float(text)
    except ValueError:
        raise WeatherFileError(line, f"{quantity.label} is no number (got {text[:20]!r}).") from None
    if value == quantity.missing or not np.isfinite(value) or value <= -9000:
        raise WeatherFileError(line, f"{quantity.label} is missing ({text.strip()}).")
    if not quantity.least <= value <= quantity.most:
        raise WeatherFileError(
            line,
            f"{quantity.label} {value:g} {quantity.unit} lies outside {quantity.least:g} to {quantity.most:g} "
            f"{quantity.unit}{quantity.hint if value > quantity.most else ''}.",
        )


def _read_epw(text: str) -> tuple[pd.DataFrame, dict[str, object]]:
    from pvlib.iotools import read_epw

    table, about = read_epw(io.StringIO(text))
    return table, about


def _read_tmy3(text: str) -> tuple[pd.DataFrame, dict[str, object]]:
    from pvlib.iotools import read_tmy3

    table, about = read_tmy3(io.StringIO(text), map_variables=True)
    return table, about


def _epw_stamp(fields: Sequence[str]) -> tuple[int, int, int]:
    return int(fields[1]), int(fields[2]), int(fields[3])


def _tmy3_stamp(fields: Sequence[str]) -> tuple[int, int, int]:
    month, day, _ = fields[0].split("/")
    return int(month), int(day), int(fields[1].split(":")[0])


EPW = _Form(
    name="EPW",
    header_lines=8,
    columns={"temp_air": 6, "ghi": 13, "dni": 14, "dhi": 15, "wind_speed": 21},
    fields_at_least=_EPW_FIELDS_AT_LEAST,
    stamp=_epw_stamp,
    read=_read_epw,
)
_TMY3_COLUMNS = {
    "ghi": "GHI (W/m^2)",
    "dni": "DNI (W/m^2)",
    "dhi": "DHI (W/m^2)",
    "temp_air": "Dry-bulb (C)",
    "wind_speed": "Wspd (m/s)",
}


def _tmy3(header: str) -> _Form:
    """TMY3 names its columns with their units, and they have to be these."""
    titles = [title.strip() for title in _cells(header, 2)]
    columns: dict[str, int] = {}
    for key, wanted in _TMY3_COLUMNS.items():
        if wanted not in titles:
            like = [title for title in titles if title.split(" ")[0] == wanted.split(" ")[0] and "(" in title]
            found = f"found {like[0]!r}" if like else "no such column is there"
            raise WeatherFileError(2, f"a column {wanted!r} is wanted; {found}.")
        columns[key] = titles.index(wanted)
    return _Form(
        name="TMY3",
        header_lines=2,
        columns=columns,
        fields_at_least=max(columns.values()) + 1,
        stamp=_tmy3_stamp,
        read=_read_tmy3,
    )


def _digest(values: dict[str, Floats], about: dict[str, object]) -> str:
    """A key from what the year holds, so that the same file is stored once."""
    digest = hashlib.sha256()
    for key in ("latitude", "longitude", "altitude", "TZ"):
        digest.update(f"{key}={about[key]};".encode())
    for key in sorted(values):
        digest.update(np.round(values[key], 3).tobytes())
    return f"wy-{digest.hexdigest()[:24]}"


def _place(about: dict[str, object], file_name: str) -> str:
    """A name for the list: the file's own place, else the file's name; one line without control characters."""
    named = str(about.get("city") or about.get("Name") or "").strip(' "') or file_name
    clean = "".join(letter for letter in named if letter.isprintable()).strip()
    return clean[:120] or "Weather year"


def _placed(about: dict[str, object], key: str, least: float, most: float) -> float:
    value = float(str(about[key]))
    if not least <= value <= most:
        raise WeatherFileError(1, f"{key} {value:g} lies outside {least:g} to {most:g}.")
    return value


def _shines_by_day(year: WeatherYear, form: _Form) -> None:
    """A wrong sign of the longitude or a wrong time zone shows as sun in the night."""
    night = sky_at(year, year.moments).zenith_deg > _NIGHT_ZENITH_DEG
    wrong = np.flatnonzero(night & (year.ghi_w_m2 > _NIGHT_W_M2))
    if wrong.shape[0] > _NIGHT_HOURS:
        first = int(wrong[0])
        raise WeatherFileError(
            form.header_lines + 1 + first,
            f"{year.ghi_w_m2[first]:g} W/m2 with the sun below the horizon, and so in {wrong.shape[0]:,} hours; place or "
            "time zone on line 1 do not fit the rows.",
        )
