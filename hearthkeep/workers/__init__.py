"""Work that would hold up the answering of requests, in processes of its own: assessments in a pool, foreign files in a
process each with limits of memory and time, papers in one each that can be ended."""

from hearthkeep.workers.limits import FileTooHeavyError, FileUnreadableError, SentFile
from hearthkeep.workers.pool import LONG_WORK, BusyError, Places, Workers, WorkLostError, begin_warming, warm_context
from hearthkeep.workers.printing import PaperOrder, Press, PrintRun, PrintState

__all__ = [
    "LONG_WORK",
    "BusyError",
    "FileTooHeavyError",
    "FileUnreadableError",
    "PaperOrder",
    "Places",
    "Press",
    "PrintRun",
    "PrintState",
    "SentFile",
    "WorkLostError",
    "Workers",
    "begin_warming",
    "warm_context",
]
