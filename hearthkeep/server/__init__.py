"""The application as a process: `serve` starts it, `running` finds and stops it, `keeping` makes and restores backups.

Nothing is imported here: each command loads only what it needs.
"""
