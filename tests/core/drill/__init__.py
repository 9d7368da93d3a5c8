"""Drill."""
