"""Work that would hold up the answering of requests, in processes of its own: assessments in a pool, foreign files in a
process each with limits of memory and time."""

from hearthkeep.workers.limits import FileTooHeavyError
from hearthkeep.workers.pool import Workers, WorkLostError, begin_warming

__all__ = ["FileTooHeavyError", "WorkLostError", "Workers", "begin_warming"]
