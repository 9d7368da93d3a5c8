"""Foresight."""
