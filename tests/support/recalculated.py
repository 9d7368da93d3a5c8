"""A workbook worked out anew by a formula engine of its own, which knows nothing of what Hearth Keep found."""

from __future__ import annotations

import tempfile
import warnings
from pathlib import Path


def recalculated(workbook: bytes) -> dict[tuple[str, str], object]:
    """The value of every cell, by the sheet's name in capitals and the cell's."""
    with warnings.catch_warnings(), tempfile.TemporaryDirectory() as folder:
        warnings.simplefilter("ignore")
        import formulas

        path = Path(folder) / "book.xlsx"
        path.write_bytes(workbook)
        found = formulas.ExcelModel().loads(str(path)).finish().calculate()
        cells = {}
        for key, ranges in found.items():
            sheet, mark, cell = str(key).rpartition("!")
            if mark and ":" not in cell:
                cells[sheet.rpartition("]")[2].strip("'"), cell] = ranges.value[0, 0]
        return cells
