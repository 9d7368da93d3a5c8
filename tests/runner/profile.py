"""
How much the tests try: in one place, so that the gate stays short and cannot fail by chance, and the studies can go on for hours.

`gate` is what every change must pass: the same examples each time. `full` draws new ones, and more of them, each time.
"""

from __future__ import annotations

import os
from collections.abc import Iterable
from enum import StrEnum
from typing import TypeVar

from hypothesis import HealthCheck, settings

T = TypeVar("T")

PROFILE_VARIABLE = "HEARTH_TEST_PROFILE"
#: So many times as many examples in the full profile.
MORE = 10


class Profile(StrEnum):
    """The two amounts."""

    GATE = "gate"
    FULL = "full"


PROFILE = Profile(os.environ.get(PROFILE_VARIABLE, Profile.GATE))

_PATIENT = settings(deadline=None, suppress_health_check=list(HealthCheck))
settings.register_profile(Profile.GATE, _PATIENT, derandomize=True, database=None)
settings.register_profile(Profile.FULL, _PATIENT)
settings.load_profile(PROFILE)


def examples(gate: int) -> settings:
    """Settings of a property test that tries so many examples in the gate."""
    return settings(max_examples=gate if PROFILE is Profile.GATE else gate * MORE)


def amount(gate: int, full: int) -> int:
    """How many seeds, schedules or lines a study goes through; those of the gate are the first of the others."""
    return gate if PROFILE is Profile.GATE else full


def some(items: Iterable[T], every: int) -> list[T]:
    """Of a long list of cases each so many-th in the gate, and all of them in the full profile."""
    return list(items)[:: every if PROFILE is Profile.GATE else 1]
