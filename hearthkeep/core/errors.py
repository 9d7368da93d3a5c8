"""Errors a person can cause.

HearthKeepError
└── InputError            one or more fields hold something that cannot be used
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True, slots=True)
class FieldProblem:
    """One field that cannot be used: where, what was received, what is accepted."""

    #: Dotted path, for example ``loads.3.running_w``.
    field: str
    #: What was received, shortened, as text.
    value: str
    #: What is accepted, in words with the range and unit.
    accepted: str

    def __str__(self) -> str:
        return f"{self.field}: {self.accepted} (got {self.value})"


class HearthKeepError(Exception):
    """Base of every error with a message meant for the person at the screen."""


class InputError(HearthKeepError):
    """One or more fields hold something that cannot be used; all are listed."""

    def __init__(self, problems: tuple[FieldProblem, ...]) -> None:
        self.problems = problems
        super().__init__("\n".join(str(problem) for problem in problems))
