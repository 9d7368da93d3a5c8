"""Imported by the process that the others are forked from: loads and compiles everything, so that they begin warm."""

# What readers of foreign files load when they are first needed.
import contextlib

import openpyxl
import pandas
import pvlib

from hearthkeep.demo.warming import warm_up
from hearthkeep.workers import tasks

# Printing says for itself where what it needs is missing.
with contextlib.suppress(OSError):
    pass

__all__ = ["openpyxl", "pandas", "pvlib", "tasks"]

warm_up(trials=False)
