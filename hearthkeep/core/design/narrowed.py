"""A design cut down to what a result depends on: the key by which the result is kept while the rest of the design is edited.

Work on the narrowed design cannot reach what was cut away, so that nothing kept depends on it unseen.
"""

from __future__ import annotations

from hearthkeep.core.design.document import Design
from hearthkeep.core.design.loads import Load


def narrowed(design: Design, *parts: str, loads: tuple[Load, ...] | None = None) -> Design:
    """
    The design with some of its parts only; asking it for any other fails.

    :param parts: names of the parts that stay.
    :param loads: the loads that stay where not all do, and `loads` is not among the parts.
    """
    cut: dict[str, object] = {name: None for name in Design.model_fields if name not in parts}
    return design.model_copy(update=cut if loads is None else {**cut, "loads": loads})
