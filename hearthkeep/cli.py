"""The commands behind ./hearth, once everything they need is installed."""

from __future__ import annotations

import argparse
import os
import signal
import subprocess
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from hearthkeep.core.errors import HearthKeepError, InputError

if TYPE_CHECKING:
    from hearthkeep.core.design import Design
    from hearthkeep.core.sources import WeatherYear

ROOT = Path(__file__).resolve().parents[1]
DEFAULT_PORT = 8765
#: Exit codes: bad input, and something in the way that is not the input's fault.
EXIT_INPUT, EXIT_BLOCKED = 2, 3
#: Whom papers are for, as `hearthkeep.papers` names them; it is not loaded for every other command.
PAPERS = ("electrician", "shop", "wall", "family", "client", "owner", "record", "all")


def home() -> Path:
    """The data folder."""
    return Path(os.environ.get("HEARTH_HOME") or ROOT / ".hearth").absolute()


def main(arguments: list[str] | None = None) -> int:
    """Run one command and return its exit code."""
    arguments = sys.argv[1:] if arguments is None else arguments
    if arguments[:1] == ["test"]:
        return subprocess.call([sys.executable, "-m", "tests", *arguments[1:]], cwd=ROOT)
    options = _parser().parse_args(arguments)
    # A stop request unwinds like Ctrl-C, so that the database is stopped too.
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    try:
        code: int = options.run(options)
    except InputError as error:
        print(error, file=sys.stderr)
        return EXIT_INPUT
    except _FileError as error:
        print(f"hearth: {error}", file=sys.stderr)
        return EXIT_INPUT
    except HearthKeepError as error:
        print(f"hearth: {error}", file=sys.stderr)
        return EXIT_BLOCKED
    except OSError as error:
        print(f"hearth: {error.filename or 'the data folder'}: {error.strerror}", file=sys.stderr)
        return EXIT_BLOCKED
    except KeyboardInterrupt:
        return 130
    return code


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="hearth", description="Design, prove and keep backup power.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for name, text, demo in (
        ("demo", "start with demo data and print the address", True),
        ("start", "start with your own data", False),
    ):
        command = commands.add_parser(name, help=text)
        command.add_argument("--port", type=_port, default=DEFAULT_PORT, help=f"default {DEFAULT_PORT}")
        command.set_defaults(run=_serve, demo=demo)
    commands.add_parser("stop", help="stop the application and its database").set_defaults(run=_stop)
    command = commands.add_parser("backup", help="write all data to one file, running or not")
    command.add_argument("file", type=Path, metavar="FILE")
    command.set_defaults(run=_backup)
    command = commands.add_parser("restore", help="restore a backup into a new or empty data folder")
    command.add_argument("file", type=Path, metavar="FILE")
    command.add_argument("--into", type=Path, metavar="FOLDER", help="default: the data folder itself, if it is empty")
    command.set_defaults(run=_restore)
    command = commands.add_parser("worker", help="help with long work, on this machine or another")
    command.add_argument("--demo", action="store_true", help="on the demo data")
    command.add_argument("--count", type=_count, metavar="N", help="parts side by side; default: one a core")
    command.set_defaults(run=_worker)
    command = commands.add_parser("stand-ins", help="simulate the devices and services of a house in its outage")
    command.add_argument(
        "file", type=Path, metavar="FILE", nargs="?", help="a design file; default: a house of the demo"
    )
    command.add_argument(
        "--since-h", type=_hours, default=0.0, metavar="HOURS", help="the outage began so long ago; below 0: to come"
    )
    command.add_argument(
        "--speed", type=_speed, default=1.0, metavar="TIMES", help="times as fast as the clock, 1 to 3600"
    )
    command.set_defaults(run=_stand_ins)
    command = commands.add_parser("assess", help="print the assessment of a design file as JSON")
    _add_design(command)
    command.set_defaults(run=_assess)
    command = commands.add_parser("papers", help="print the papers of a design file as PDF")
    _add_design(command)
    command.add_argument(
        "--for",
        dest="audiences",
        action="append",
        required=True,
        choices=PAPERS,
        help="whom it is for; may be repeated",
    )
    command.add_argument("--out", type=Path, required=True, metavar="FILE.pdf")
    command.set_defaults(run=_papers)
    commands.add_parser("setup", help="install what is missing").set_defaults(run=_setup)
    # What follows is understood by the tests' own command: `./hearth test --help`.
    commands.add_parser("test", add_help=False, help="run every test, or those whose name holds the words given")
    command = commands.add_parser("bench", help="measure speed in core and browser")
    command.add_argument("--json", type=Path, metavar="FILE", help="write every figure by name into a file as well")
    command.set_defaults(run=_bench)
    return parser


def _add_design(command: argparse.ArgumentParser) -> None:
    command.add_argument("file", type=Path, metavar="FILE")
    command.add_argument(
        "--weather", type=Path, metavar="WEATHER", help="EPW or TMY3 file for a design under a year's sky"
    )


def _count(text: str) -> int:
    if not text.isdigit() or not 1 <= int(text) <= 256:
        raise argparse.ArgumentTypeError(f"must be 1 to 256 (got {text})")
    return int(text)


def _port(text: str) -> int:
    if not text.isdigit() or not 1024 <= int(text) <= 65535:
        raise argparse.ArgumentTypeError(f"must be 1024 to 65535 (got {text})")
    return int(text)


def _hours(text: str) -> float:
    return _between(text, -168.0, 720.0, "h")


def _speed(text: str) -> float:
    return _between(text, 1.0, 3_600.0, "times")


def _between(text: str, low: float, high: float, unit: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = float("nan")
    if not low <= value <= high:
        raise argparse.ArgumentTypeError(f"must be {low:g} to {high:g} {unit} (got {text})")
    return value


def _serve(options: argparse.Namespace) -> int:
    from hearthkeep.server.serve import serve

    serve(home(), port=options.port, demo=options.demo, tell=lambda line: print(line, flush=True))
    return 0


def _stop(options: argparse.Namespace) -> int:
    from hearthkeep.server.running import stop

    print("Stopped." if stop(home()) else "Hearth Keep was not running.")
    return 0


def _backup(options: argparse.Namespace) -> int:
    from hearthkeep.server.keeping import backup

    backup(home(), options.file.absolute(), tell=print)
    return 0


def _restore(options: argparse.Namespace) -> int:
    from hearthkeep.server.keeping import restore

    restore(options.file.absolute(), options.into or home(), tell=print)
    return 0


def _worker(options: argparse.Namespace) -> int:
    from hearthkeep.jobs import refuse_without_queue
    from hearthkeep.jobs.__main__ import work
    from hearthkeep.server.given import database_of
    from hearthkeep.store import Cluster

    url, count = database_of(Cluster(home()), demo=options.demo), options.count or os.cpu_count() or 1
    refuse_without_queue(url)
    print(f"Working for the database {url.database} at {url.host}, {count} side by side. Ctrl-C stops it.", flush=True)
    work(url, count)
    print("Stopped.")
    return 0


def _stand_ins(options: argparse.Namespace) -> int:
    import asyncio

    from hearthkeep.core.design import MAX_DOCUMENT_BYTES, read_design
    from hearthkeep.standins.running import StandIns, Wanted
    from hearthkeep.standins.told import HTTP_PORT, MODBUS_PORT, SMTP_PORT

    file = options.file or ROOT / "examples" / "birchrow-16.json"
    wanted = Wanted(
        design=read_design(_bytes_of(file, MAX_DOCUMENT_BYTES)), since_h=options.since_h, speed=options.speed
    )

    def tell(running: StandIns) -> None:
        state = running.state()
        fast = "" if state.speed == 1 else f", {state.speed:g} times as fast as the clock"
        print(f"{state.design}, outage of {state.hours_h:g} h{fast}.")
        for each in state.devices:
            print(f"  {each.name}: Modbus TCP 127.0.0.1:{state.modbus_port}, unit {each.unit}")
        print(f"  Warnings (CAP 1.2): {running.base}/alerts.atom, signed by {running.base}/certificate.pem")
        print(f"  Outages of the utility: {running.base}/outages.json")
        print(f"  Messages: SMTP 127.0.0.1:{state.smtp_port}, shown at {running.base}/messages")
        print(f"  Faults are switched at {running.base}/fault. Ctrl-C stops all.", flush=True)

    try:
        asyncio.run(StandIns(wanted).run(tell))
    except OSError as error:
        print(
            f"hearth: one of the ports {HTTP_PORT}, {MODBUS_PORT}, {SMTP_PORT} is taken ({error.strerror or error}).",
            file=sys.stderr,
        )
        return EXIT_BLOCKED
    print("Stopped.")
    return 0


def _assess(options: argparse.Namespace) -> int:
    from pydantic import TypeAdapter

    from hearthkeep.core.assess import Assessment, assess

    assessment = assess(*_design_and_year(options))
    print(TypeAdapter(Assessment).dump_json(assessment, indent=2).decode())
    return 0


def _papers(options: argparse.Namespace) -> int:
    from datetime import date

    from hearthkeep.papers import Audience, gather, joined, print_paper

    design, year = _design_and_year(options)
    source = gather(design, year, printed_on=date.today())
    wanted = list(Audience) if "all" in options.audiences else [Audience(name) for name in options.audiences]
    papers = [print_paper(source, audience) for audience in dict.fromkeys(wanted)]
    options.out.write_bytes(joined([paper.pdf for paper in papers]))
    print(f"{options.out}: {sum(paper.pages for paper in papers)} pages, {source.design.name}.")
    if source.stops:
        print(f"{len(source.stops)} open Stops stand on every page.")
    return 0


class _FileError(HearthKeepError):
    """A file given to a command cannot be read."""

    code, title, fix = "FILE", "The file cannot be read", "Name a file that is there and that may be read."


def _design_and_year(options: argparse.Namespace) -> tuple[Design, WeatherYear | None]:
    """The design of a command, and its weather year where one is given."""
    from hearthkeep.core.design import MAX_DOCUMENT_BYTES, read_design
    from hearthkeep.exchange import MAX_WEATHER_BYTES, WeatherFileError, read_weather

    content = _bytes_of(options.file, MAX_DOCUMENT_BYTES)
    year = None
    if options.weather is not None:
        try:
            year = read_weather(_bytes_of(options.weather, MAX_WEATHER_BYTES), options.weather.name)
        except WeatherFileError as error:
            raise _FileError(f"{options.weather}: {error}") from error
    return read_design(content), year


def _bytes_of(path: Path, most: int) -> bytes:
    try:
        with path.open("rb") as file:
            # One byte over the limit is enough to be refused; the rest of a huge file is never read.
            return file.read(most + 1)
    except OSError as error:
        raise _FileError(f"{path}: {error.strerror}") from error


def _setup(options: argparse.Namespace) -> int:
    from hearthkeep.demo.warming import warm_up

    warm_up()
    print("Everything is in place.")
    return 0


def _bench(options: argparse.Namespace) -> int:
    into = [] if options.json is None else ["--json", str(options.json.absolute())]
    return subprocess.call([sys.executable, "-m", "bench", *into], cwd=ROOT)


if __name__ == "__main__":
    sys.exit(main())
