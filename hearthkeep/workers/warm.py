"""Imported by the process that the others are forked from: loads and compiles everything, so that they begin warm."""

import contextlib
import importlib

# What readers of foreign files load when they are first needed.
import openpyxl
import pandas
import pvlib

from hearthkeep.demo.warming import warm_up
from hearthkeep.workers import tasks

__all__ = ["openpyxl", "pandas", "pvlib", "tasks"]

#: What laying out and writing pages loads piece by piece when it is first needed. Nothing may be laid out here: that begins threads.
PRINTING = (
    "weasyprint.document", "weasyprint.html", "weasyprint.layout", "weasyprint.pdf", "weasyprint.pdf.fonts", "weasyprint.svg",
    "weasyprint.text.fonts", "cssselect2", "fontTools.subset", "fontTools.ttLib.tables.otTables", "fontTools.merge",
    "PIL.ImageCms", "PIL.ImageOps", "PIL.PngImagePlugin", "email.headerregistry",
)  # fmt: skip
# Printing says for itself where what it needs is missing.
with contextlib.suppress(OSError, ImportError):
    for module in PRINTING:
        importlib.import_module(module)

warm_up(trials=False)
