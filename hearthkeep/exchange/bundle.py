"""A bundle: one archive with a design, its alternatives, its weather year, its library units and what it came to."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
import zlib
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import PurePosixPath
from typing import Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from hearthkeep.core.design import (
    MAX_DOCUMENT_BYTES,
    Design,
    LibraryBattery,
    LibraryInverter,
    LibraryModule,
    read_design,
)
from hearthkeep.core.errors import HearthKeepError, InputError
from hearthkeep.core.sources import WeatherYear
from hearthkeep.exchange.weather_file import MAX_WEATHER_BYTES, read_weather
from hearthkeep.exchange.weather_out import write_weather

FORMAT, VERSION = "hearth-keep-bundle", 1
#: A bundle as it arrives, what it may unpack to, and how many files it may hold.
MAX_BUNDLE_BYTES, MAX_UNPACKED_BYTES, MOST_FILES = 20_000_000, 80_000_000, 160
_MANIFEST, _DESIGN, _UNITS, _RESULTS = "bundle.json", "design.json", "units.json", "results.json"
Unit = LibraryBattery | LibraryInverter | LibraryModule


class BundleError(HearthKeepError):
    """An archive that is no bundle, or one that cannot be used; the message says why."""

    code, title = "BUNDLE", "The bundle cannot be opened"
    fix = "Save the bundle again where it comes from; nothing of this one was taken."


@dataclass(frozen=True, kw_only=True, slots=True)
class Alternative:
    """One alternative in a bundle."""

    label: str
    design: Design


@dataclass(frozen=True, kw_only=True, slots=True)
class Bundle:
    """What a bundle holds."""

    design: Design
    revision: int
    alternatives: tuple[Alternative, ...]
    years: tuple[WeatherYear, ...]
    batteries: tuple[LibraryBattery, ...]
    inverters: tuple[LibraryInverter, ...]
    modules: tuple[LibraryModule, ...]
    #: The design's assessment as it was written, JSON, and the version of the rules it was found by.
    results: bytes
    engine: str


class _AlternativeFile(BaseModel):
    model_config = ConfigDict(extra="forbid")
    file: str = Field(max_length=80)
    label: str = Field(min_length=1, max_length=60)


class _Manifest(BaseModel):
    """The list of what is in it, with the digest of each file."""

    model_config = ConfigDict(extra="forbid")
    format: str
    version: int
    engine: str = Field(max_length=80)
    revision: int = Field(ge=1)
    alternatives: list[_AlternativeFile] = Field(max_length=60)
    weather: list[str] = Field(max_length=61)
    #: SHA-256 by file.
    files: dict[str, str] = Field(max_length=MOST_FILES)


class _Units(BaseModel):
    model_config = ConfigDict(extra="forbid")
    battery: tuple[LibraryBattery, ...] = Field(max_length=200)
    inverter: tuple[LibraryInverter, ...] = Field(max_length=200)
    module: tuple[LibraryModule, ...] = Field(max_length=200)


def library_ids(designs: Sequence[Design]) -> tuple[set[str], set[str], set[str]]:
    """Keys of the batteries, inverters and modules of the library that designs were filled from."""
    batteries = {design.bank.unit.library_id for design in designs if design.bank.unit}
    inverters = {design.inverter.sheet.library_id for design in designs if design.inverter.sheet}
    modules = {array.module.library_id for design in designs for array in design.charging.arrays if array.module}
    return tuple({key for key in found if key} for found in (batteries, inverters, modules))  # type: ignore[return-value]


def write_bundle(bundle: Bundle) -> bytes:
    """The archive; the same content always gives the same bytes."""
    units = _Units(battery=bundle.batteries, inverter=bundle.inverters, module=bundle.modules)
    files = {
        _DESIGN: bundle.design.model_dump_json(indent=1).encode(),
        _UNITS: units.model_dump_json(indent=1).encode(),
        _RESULTS: bundle.results,
    }
    alternatives = []
    for number, alternative in enumerate(bundle.alternatives, start=1):
        name = f"alternatives/{number:02d}.json"
        files[name] = alternative.design.model_dump_json(indent=1).encode()
        alternatives.append({"file": name, "label": alternative.label})
    weather = []
    for year in bundle.years:
        name = f"weather/{year.key}.epw"
        files[name] = write_weather(year)
        weather.append(name)
    manifest = {
        "format": FORMAT,
        "version": VERSION,
        "engine": bundle.engine,
        "revision": bundle.revision,
        "alternatives": alternatives,
        "weather": weather,
        "files": {name: hashlib.sha256(content).hexdigest() for name, content in files.items()},
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in {_MANIFEST: json.dumps(manifest, indent=1).encode(), **files}.items():
            entry = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            entry.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(entry, content)
    return out.getvalue()


def read_bundle(content: bytes) -> Bundle:
    """A bundle that holds what it says and nothing else. Raises BundleError."""
    if len(content) > MAX_BUNDLE_BYTES:
        raise BundleError(f"It holds {len(content):,} bytes; at most {MAX_BUNDLE_BYTES:,} are read.")
    files = _unpacked(content)
    manifest = _manifest_of(files.pop(_MANIFEST, None))
    named = {_DESIGN, _UNITS, _RESULTS, *manifest.weather, *(entry.file for entry in manifest.alternatives)}
    for name in sorted(named ^ set(files)):
        raise BundleError(f"{name} {'is missing from it' if name in named else 'is in it and is not listed'}.")
    for name, found in files.items():
        if manifest.files.get(name) != hashlib.sha256(found).hexdigest():
            raise BundleError(f"{name} is not as it was when the bundle was made.")
    try:
        units = _Units.model_validate_json(files[_UNITS])
    except ValidationError as error:
        problem = error.errors()[0]
        raise BundleError(f"{_UNITS}: {'.'.join(map(str, problem['loc']))}: {problem['msg']}.") from error
    return Bundle(
        design=_design_of(_DESIGN, files[_DESIGN]),
        revision=manifest.revision,
        alternatives=tuple(
            Alternative(label=entry.label, design=_design_of(entry.file, files[entry.file]))
            for entry in manifest.alternatives
        ),
        years=tuple(_year_of(name, files[name]) for name in manifest.weather),
        batteries=units.battery,
        inverters=units.inverter,
        modules=units.module,
        results=files[_RESULTS],
        engine=manifest.engine,
    )


def _unpacked(content: bytes) -> dict[str, bytes]:
    """The files of the archive by name; what could hurt is refused before anything is unpacked."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            entries = archive.infolist()
            if len(entries) > MOST_FILES:
                raise BundleError(f"It holds {len(entries):,} files; at most {MOST_FILES} are read.")
            for entry in entries:
                _refuse_path(entry.filename)
            names = [entry.filename for entry in entries]
            twice = {name for name in names if names.count(name) > 1}
            if twice:
                raise BundleError(f"{sorted(twice)[0]} is in it twice.")
            unpacked = sum(entry.file_size for entry in entries)
            if unpacked > MAX_UNPACKED_BYTES:
                raise BundleError(f"It unpacks to {unpacked:,} bytes; at most {MAX_UNPACKED_BYTES:,} are read.")
            found: dict[str, bytes] = {}
            left = MAX_UNPACKED_BYTES
            for entry in entries:
                with archive.open(entry) as file:
                    # What the directory says of the size may be a lie.
                    found[entry.filename] = file.read(left + 1)
                left -= len(found[entry.filename])
                if left < 0:
                    raise BundleError(f"It unpacks to more than {MAX_UNPACKED_BYTES:,} bytes.")
            return found
    except (zipfile.BadZipFile, zlib.error, EOFError, RuntimeError, NotImplementedError, OSError) as error:
        raise BundleError("This is not a bundle: it is no archive, or a damaged one.") from error


def _refuse_path(name: str) -> None:
    """Only plain names below the archive's own root."""
    path = PurePosixPath(name)
    if path.is_absolute() or ".." in path.parts or "\\" in name or ":" in name or name.endswith("/") or len(name) > 80:
        raise BundleError(f"It holds a file whose path leaves it or is no plain name: {name[:80]!r}.")


def _manifest_of(content: bytes | None) -> _Manifest:
    if content is None:
        raise BundleError(f"This is not a bundle: {_MANIFEST} is missing from it.")
    try:
        values: Any = json.loads(content)
    except (ValueError, RecursionError) as error:
        raise BundleError(f"{_MANIFEST} is not JSON.") from error
    if not isinstance(values, dict) or values.get("format") != FORMAT:
        raise BundleError(f"This is not a bundle: {_MANIFEST} does not say format {FORMAT}.")
    version = values.get("version")
    if type(version) is not int or version != VERSION:
        newer = type(version) is int and version > VERSION
        raise BundleError(
            f"The bundle is of version {str(version)[:20]}, this application reads version {VERSION}."
            + (" Open it with the newer application." if newer else "")
        )
    try:
        return _Manifest.model_validate(values)
    except ValidationError as error:
        problem = error.errors()[0]
        raise BundleError(f"{_MANIFEST}: {'.'.join(map(str, problem['loc']))}: {problem['msg']}.") from error


def _design_of(name: str, content: bytes) -> Design:
    if len(content) > MAX_DOCUMENT_BYTES:
        raise BundleError(f"{name} holds {len(content):,} bytes; a design may hold at most {MAX_DOCUMENT_BYTES:,}.")
    try:
        return read_design(content)
    except InputError as error:
        raise BundleError(f"{name}: {'; '.join(str(problem) for problem in error.problems[:3])}") from error


def _year_of(name: str, content: bytes) -> WeatherYear:
    if len(content) > MAX_WEATHER_BYTES:
        raise BundleError(
            f"{name} holds {len(content):,} bytes; a weather year may hold at most {MAX_WEATHER_BYTES:,}."
        )
    try:
        year = read_weather(content, name)
    except HearthKeepError as error:
        raise BundleError(f"{name}: {error}") from error
    if name != f"weather/{year.key}.epw":
        raise BundleError(f"{name} does not hold the hours that its name stands for.")
    return year
