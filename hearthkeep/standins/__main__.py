"""Run the stand-ins as a process: a design comes in by a file, where they listen goes out as one line of JSON."""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import os
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

from hearthkeep.core.design import read_design
from hearthkeep.standins.running import StandIns, Wanted
from hearthkeep.standins.told import HTTP_PORT, MODBUS_PORT, SMTP_PORT

#: How often they look whether the process they belong to is still there [s].
LOOK_EVERY_S = 2.0


def main(arguments: Sequence[str] | None = None, *, said: Callable[[str], None] | None = None) -> int:
    """Serve until the process is told to stop; where they listen is said in one line, printed unless somebody takes it."""
    parser = argparse.ArgumentParser(prog="python -m hearthkeep.standins")
    parser.add_argument("design", type=Path)
    parser.add_argument("--since-h", type=float, default=0.0)
    parser.add_argument("--speed", type=float, default=1.0)
    parser.add_argument("--http-port", type=int, default=HTTP_PORT)
    parser.add_argument("--modbus-port", type=int, default=MODBUS_PORT)
    parser.add_argument("--smtp-port", type=int, default=SMTP_PORT)
    parser.add_argument("--seed", type=int, default=0)
    parser.add_argument("--of", type=int, help="number of the process that they end with")
    options = parser.parse_args(arguments)
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
        line = running.state().model_dump_json()
        if said is not None:
            said(line)
        else:
            sys.stdout.write(line + "\n")
            sys.stdout.flush()

    asyncio.run(_serve(StandIns(wanted), options.of, tell))
    return 0


async def _serve(stand_ins: StandIns, of: int | None, tell: Callable[[StandIns], None]) -> None:
    serving = asyncio.ensure_future(stand_ins.run(tell))
    while not serving.done():
        await asyncio.wait((serving,), timeout=LOOK_EVERY_S)
        if of is not None and os.getppid() != of:
            # A server that was killed ends nobody itself.
            serving.cancel()
    with contextlib.suppress(asyncio.CancelledError):
        await serving


if __name__ == "__main__":
    sys.exit(main())
