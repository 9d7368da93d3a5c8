"""Run the stand-ins as a process: a design comes in by a file, where they listen goes out as one line of JSON."""

from __future__ import annotations

import argparse
import asyncio
import sys
from pathlib import Path

from hearthkeep.core.design import read_design
from hearthkeep.standins.running import StandIns, Wanted
from hearthkeep.standins.told import HTTP_PORT, MODBUS_PORT, SMTP_PORT


def main() -> int:
    """Serve until the process is told to stop."""
    parser = argparse.ArgumentParser(prog="python -m hearthkeep.standins")
    parser.add_argument("design", type=Path)
    parser.add_argument("--since-h", type=float, default=0.0)
    parser.add_argument("--speed", type=float, default=1.0)
    parser.add_argument("--http-port", type=int, default=HTTP_PORT)
    parser.add_argument("--modbus-port", type=int, default=MODBUS_PORT)
    parser.add_argument("--smtp-port", type=int, default=SMTP_PORT)
    parser.add_argument("--seed", type=int, default=0)
    options = parser.parse_args()
    wanted = Wanted(
        design=read_design(options.design.read_bytes()),
        since_h=options.since_h,
        speed=options.speed,
        http_port=options.http_port,
        modbus_port=options.modbus_port,
        smtp_port=options.smtp_port,
        seed=options.seed,
    )

    def tell(running: StandIns) -> None:
        sys.stdout.write(running.state().model_dump_json() + "\n")
        sys.stdout.flush()

    asyncio.run(StandIns(wanted).run(tell))
    return 0


if __name__ == "__main__":
    sys.exit(main())
