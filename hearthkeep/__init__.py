"""Hearth Keep: design, prove and keep backup power for the loads that matter."""

import os

# Foreign workbooks are read by the hardened parser of the standard library, also where lxml is there for other ends.
os.environ.setdefault("OPENPYXL_LXML", "False")


__version__ = "0.1.0"
