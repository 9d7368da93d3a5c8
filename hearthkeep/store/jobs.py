"""The repository of long work: what was asked about which revision of a design, and the answers found so far."""

from __future__ import annotations

import contextlib
import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Engine, Text, cast, delete, func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hearthkeep.store.database import transaction
from hearthkeep.store.errors import NotFoundError
from hearthkeep.store.models import DesignRow, JobAnswerRow, JobRow, RevisionRow

#: So many jobs of a design and kind are kept; the oldest that have ended make room. Answers of a trial's year are large.
MOST_KEPT, MOST_TRIALS_KEPT = 20, 4
#: The pace of the last so many seconds says how long the rest takes [s].
PACE_S = 15.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Job:
    """One job as it stands."""

    id: uuid.UUID
    design_id: uuid.UUID
    revision: int
    engine: str
    kind: str
    question: dict[str, Any]
    total: int
    asked_at: datetime
    ended_at: datetime | None
    cancelled: bool
    fault: str
    #: The design's newest revision, and how many answers are found.
    newest_revision: int
    done: int
    #: What is left at the pace of the last seconds [s]; none before the first answers, while nobody works on it, and at its end.
    remaining_s: float | None

    @property
    def is_live(self) -> bool:
        """Whether anything more is to be done for it."""
        return self.ended_at is None

    def is_stale(self, engine: str) -> bool:
        """Whether the design or the engine has moved on since."""
        return self.revision != self.newest_revision or self.engine != engine


class Jobs:
    """Jobs in PostgreSQL."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def ask(
        self,
        design_id: uuid.UUID,
        revision: int,
        *,
        engine: str,
        kind: str,
        question: dict[str, Any],
        total: int,
        job_id: uuid.UUID | None = None,
    ) -> Job:
        """Note a question about a revision of a design; under an id that is given, or a new one."""
        row = JobRow(
            id=job_id or uuid.uuid4(),
            design_id=design_id,
            revision=revision,
            engine=engine,
            kind=kind,
            question=question,
            total=total,
        )
        with transaction(self._engine) as session:
            session.add(row)
            session.flush()
            old = (
                select(JobRow.id)
                .where(JobRow.design_id == design_id, JobRow.kind == kind)
                .order_by(JobRow.asked_at.desc(), JobRow.id)
                .offset(MOST_TRIALS_KEPT if kind == "trials" else MOST_KEPT)
            )
            session.execute(delete(JobRow).where(JobRow.id.in_(old), JobRow.ended_at.is_not(None)))
            return _job(session, row.id)

    def get(self, job_id: uuid.UUID) -> Job:
        """One job; raises NotFoundError."""
        with transaction(self._engine) as session:
            return _job(session, job_id)

    def of_design(self, design_id: uuid.UUID, kind: str) -> tuple[Job, ...]:
        """Those of a design, the last asked first."""
        query = (
            select(JobRow.id)
            .where(JobRow.design_id == design_id, JobRow.kind == kind)
            .order_by(JobRow.asked_at.desc(), JobRow.id)
        )
        with transaction(self._engine) as session:
            if session.get(DesignRow, design_id) is None:
                raise NotFoundError(f"There is no design {design_id}.")
            return _still_there(session, session.scalars(query).all())

    def live(self) -> tuple[Job, ...]:
        """Those on which there is still something to be done, the first asked first."""
        query = select(JobRow.id).where(JobRow.ended_at.is_(None)).order_by(JobRow.asked_at, JobRow.id)
        with transaction(self._engine) as session:
            return _still_there(session, session.scalars(query).all())

    def count_live(self) -> int:
        """How many there are on which there is still something to be done."""
        with transaction(self._engine) as session:
            return session.scalar(select(func.count()).where(JobRow.ended_at.is_(None))) or 0

    def is_live(self, job_id: uuid.UUID, engine: str) -> bool:
        """Whether a job is still to be answered, and by this engine."""
        query = select(JobRow.id).where(JobRow.id == job_id, JobRow.ended_at.is_(None), JobRow.engine == engine)
        with transaction(self._engine) as session:
            return session.scalar(query) is not None

    def document(self, job: Job) -> str:
        """The document that a job asks about, as JSON text."""
        query = select(cast(RevisionRow.document, Text)).where(
            RevisionRow.design_id == job.design_id, RevisionRow.number == job.revision
        )
        with transaction(self._engine) as session:
            found = session.scalar(query)
            if found is None:
                raise NotFoundError(f"There is no revision {job.revision} of design {job.design_id}.")
            return str(found)

    def answers(self, job_id: uuid.UUID) -> tuple[dict[str, Any], ...]:
        """What is found so far, by number."""
        query = select(JobAnswerRow.answer).where(JobAnswerRow.job_id == job_id).order_by(JobAnswerRow.number)
        with transaction(self._engine) as session:
            return tuple(session.scalars(query))

    def missing(self, job_id: uuid.UUID, first: int, count: int) -> tuple[int, ...]:
        """Numbers from the first on, so many at most, that have no answer yet."""
        numbers = range(first, first + count)
        query = select(JobAnswerRow.number).where(
            JobAnswerRow.job_id == job_id, JobAnswerRow.number.between(first, first + count - 1)
        )
        with transaction(self._engine) as session:
            found = set(session.scalars(query))
        return tuple(number for number in numbers if number not in found)

    def put(self, job_id: uuid.UUID, found: Mapping[int, dict[str, Any]]) -> None:
        """Keep answers; with the last of them the job has ended. Those of a job that is gone or has ended are dropped."""
        with transaction(self._engine) as session:
            # Answers of one job are kept one after the other, so that whoever brings the last one sees all others.
            row = session.get(JobRow, job_id, with_for_update=True)
            if row is None or row.ended_at is not None:
                return
            rows = [{"job_id": job_id, "number": number, "answer": answer} for number, answer in found.items()]
            if rows:
                session.execute(insert(JobAnswerRow).on_conflict_do_nothing(), rows)
            if _done(session, job_id) >= row.total:
                row.ended_at = session.scalar(select(func.clock_timestamp()))

    def cancel(self, job_id: uuid.UUID) -> Job:
        """Leave it as it stands; nothing happens to one that has ended."""
        return self._end(job_id, cancelled=True)

    def fail(self, job_id: uuid.UUID, why: str) -> Job:
        """End it with the reason why it cannot be finished."""
        return self._end(job_id, fault=why[:400])

    def _end(self, job_id: uuid.UUID, **fields: Any) -> Job:
        with transaction(self._engine) as session:
            session.execute(
                update(JobRow)
                .where(JobRow.id == job_id, JobRow.ended_at.is_(None))
                .values(ended_at=func.clock_timestamp(), **fields)
            )
            return _job(session, job_id)

    def delete(self, job_id: uuid.UUID) -> None:
        """Forget a job and its answers."""
        with transaction(self._engine) as session:
            _job(session, job_id)
            session.execute(delete(JobRow).where(JobRow.id == job_id))

    def take_over(self, job_id: uuid.UUID, engine: str) -> None:
        """Begin a job anew that another version of the engine left: answers of two engines are never mixed."""
        with transaction(self._engine) as session:
            row = session.get(JobRow, job_id, with_for_update=True)
            if row is not None and row.ended_at is None and row.engine != engine:
                session.execute(delete(JobAnswerRow).where(JobAnswerRow.job_id == job_id))
                row.engine = engine


def _done(session: Session, job_id: uuid.UUID) -> int:
    return session.scalar(select(func.count()).where(JobAnswerRow.job_id == job_id)) or 0


def _still_there(session: Session, job_ids: Sequence[uuid.UUID]) -> tuple[Job, ...]:
    """Jobs by their ids; one that has been forgotten since the ids were read is left out."""
    found = []
    for job_id in job_ids:
        with contextlib.suppress(NotFoundError):
            found.append(_job(session, job_id))
    return tuple(found)


def _job(session: Session, job_id: uuid.UUID) -> Job:
    found = session.execute(
        select(JobRow, DesignRow.head).join(DesignRow, DesignRow.id == JobRow.design_id).where(JobRow.id == job_id)
    ).first()
    if found is None:
        raise NotFoundError(f"There is no job {job_id}.")
    row, newest = found
    done = _done(session, job_id)
    return Job(
        id=row.id,
        design_id=row.design_id,
        revision=row.revision,
        engine=row.engine,
        kind=row.kind,
        question=dict(row.question),
        total=row.total,
        asked_at=row.asked_at,
        ended_at=row.ended_at,
        cancelled=row.cancelled,
        fault=row.fault,
        newest_revision=newest,
        done=done,
        remaining_s=_remaining_s(session, job_id, row.total - done) if row.ended_at is None else None,
    )


def _remaining_s(session: Session, job_id: uuid.UUID, left: int) -> float | None:
    """How long the rest takes at the pace of the last seconds."""
    count, span_s = session.execute(
        text(
            "select count(*), extract(epoch from clock_timestamp() - min(found_at)) from job_answers "
            "where job_id = :job and found_at > clock_timestamp() - make_interval(secs => :pace)"
        ),
        {"job": job_id, "pace": PACE_S},
    ).one()
    return float(span_s) * left / count if count > 1 and span_s > 0 else None
