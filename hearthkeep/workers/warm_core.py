"""Imported by the process that workers of long work are forked from: loads and compiles what they ask, so that they begin warm."""

import gc
import subprocess
import sys

# What readers of weather load when they are first needed.
import pandas
import pvlib

from hearthkeep.demo.warming import is_compiled, warm_up
from hearthkeep.workers import assess_tasks, long_tasks, tasks, writer

__all__ = ["assess_tasks", "long_tasks", "pandas", "pvlib", "tasks"]

if not is_compiled():
    # In a process of its own, whose memory goes with it: the compiler takes more than all else together.
    subprocess.run(
        [sys.executable, "-c", "from hearthkeep.demo.warming import warm_up; warm_up(trials=False)"], check=False
    )
warm_up(trials=False)
writer.build_all()
# What stands here is shared with every process forked from it, as long as nobody looks through it for garbage.
gc.collect()
gc.freeze()
