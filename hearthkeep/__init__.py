"""Hearth Keep: design, prove and keep backup power for the loads that matter."""

__version__ = "0.1.0"
