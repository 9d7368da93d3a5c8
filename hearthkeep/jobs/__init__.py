"""Long work: cut into parts, queued on the application's own PostgreSQL, and done by workers here or on other machines."""

from hearthkeep.jobs.own_worker import DATABASE_VARIABLE, OwnWorker
from hearthkeep.jobs.queue import JobQueue, ensure_queue, refuse_without_queue

__all__ = ["DATABASE_VARIABLE", "JobQueue", "OwnWorker", "ensure_queue", "refuse_without_queue"]
