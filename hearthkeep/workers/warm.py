"""Imported by the process that the server's others are forked from: what long work needs, and what reads files and prints."""

import contextlib
import gc
import importlib

# What readers of foreign files load when they are first needed.
import openpyxl

from hearthkeep.workers import build_tasks, format_tasks, log_tasks, warm_core, watch_tasks, writer

__all__ = ["build_tasks", "format_tasks", "log_tasks", "openpyxl", "warm_core", "watch_tasks"]

writer.build_all()

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
# What stands here is shared with every process forked from it, as long as nobody looks through it for garbage.
gc.collect()
gc.freeze()
