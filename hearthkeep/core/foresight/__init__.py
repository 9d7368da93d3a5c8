"""Foresight: the outage run forward from any moment, how long it lasts, and what to do next."""

from hearthkeep.core.foresight.acts import (
    Act,
    ActKind,
)
from hearthkeep.core.foresight.advice import (
    Advice,
    advise,
)
from hearthkeep.core.foresight.course import (
    SOON_H,
    Choices,
    Course,
    Floats,
    GeneratorWish,
    Stretch,
    choices_at,
    course_of,
    pieces,
    run_ended,
    steps_between,
)
from hearthkeep.core.foresight.forecast import (
    MEMBERS,
    USE_NODES,
    USE_SPREAD,
    Doings,
    Skies,
    Weather,
    doing,
    drawn,
    foretold,
    skies_of,
    steps_under,
)
from hearthkeep.core.foresight.left import (
    HIGH_PART,
    LOW_PART,
    Futures,
    TierLeft,
    futures_of,
    quantile,
    tiers_left_h,
    time_left,
)
from hearthkeep.core.foresight.outlook import (
    Outlook,
    Way,
    poor_of,
)
from hearthkeep.core.foresight.worth import (
    SAME_H,
    Worth,
    worth_of,
)

__all__ = [
    "HIGH_PART",
    "LOW_PART",
    "MEMBERS",
    "SAME_H",
    "SOON_H",
    "USE_NODES",
    "USE_SPREAD",
    "Act",
    "ActKind",
    "Advice",
    "Choices",
    "Course",
    "Doings",
    "Floats",
    "Futures",
    "GeneratorWish",
    "Outlook",
    "Skies",
    "Stretch",
    "TierLeft",
    "Way",
    "Weather",
    "Worth",
    "advise",
    "choices_at",
    "course_of",
    "doing",
    "drawn",
    "foretold",
    "futures_of",
    "pieces",
    "poor_of",
    "quantile",
    "run_ended",
    "skies_of",
    "steps_between",
    "steps_under",
    "tiers_left_h",
    "time_left",
    "worth_of",
]
