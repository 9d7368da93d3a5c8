"""Errors a person can cause: each kind with a stable code, why it is raised, and what to do.

HearthKeepError
└── InputError    INPUT   one or more fields hold something that cannot be used

The store, the exchange and the server hang theirs below HearthKeepError in the same way.
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
    """Base of every error with a message meant for the person at the screen: the message says why, with the values."""

    #: Stable name of the kind, and a title for a screen.
    code = "FAULT"
    title = "Something cannot be done"
    #: What the person can do about it.
    fix = "Read what is said above, change that, and try again."


class InputError(HearthKeepError):
    """One or more fields hold something that cannot be used; all are listed."""

    code, title = "INPUT", "Some fields cannot be used"
    fix = "Change the fields named to what they accept; everything else is kept."

    def __init__(self, problems: tuple[FieldProblem, ...]) -> None:
        self.problems = problems
        super().__init__("\n".join(str(problem) for problem in problems))

    def __reduce__(self) -> tuple[type[InputError], tuple[tuple[FieldProblem, ...]]]:
        """So that it passes from one process to another whole."""
        return type(self), (self.problems,)
