"""Running a job: what each kind does, how it reports, and what becomes of it when it can't go on."""

from __future__ import annotations

import errno
import logging
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from django.db import InterfaceError, OperationalError, connection, transaction
from django.db.models import F
from django.utils import timezone
from procrastinate.exceptions import JobAborted

from config.interrupting import Watched
from config.refusals import Refused
from jurata_core.faults import JurataError

from .models import UNDER_WAY, Job
from .queues import OTHER

log = logging.getLogger(__name__)

REPORT_EVERY_S = 0.5
LOOKS_AT_LEAST_EVERY_S = 10
"""Work that should end and does not look at that for so long is interrupted."""
NO_RIGHT = "Your role no longer includes this."
BROKEN = "Something went wrong here that should not have. The server's log says more; ask for it again."

DATABASE_AWAY = (OperationalError, InterfaceError)
NO_ROOM = "There is no disk space left. Free some, then try again."


class Stopped(JurataError):
    """The work was cancelled, what it was for is gone, or the worker ends."""


class NotMade(JurataError):
    """The work can't be done, for the reason given."""


def _nothing(job: Job) -> None:
    pass


@dataclass(frozen=True)
class Kind:
    """A kind of work. ``run`` can be called again from the beginning at any time.

    ``allowed`` is whether who asked for a job still has the right to what it does: it is asked when the work begins,
    when it is asked for again, and when somebody looks at how far it is. ``queued`` is called when a job is put into
    the queue, and ``given_up`` when it was cancelled or has failed.
    """

    name: str
    run: Callable[[Job, Reporter], None]
    longest_s: int
    """After so many seconds a run is stopped and the job has failed."""
    allowed: Callable[[Job], bool]
    queue: str = OTHER
    priority: int = 0
    """What has more of it is done first, among the work that waits."""
    queued: Callable[[Job], None] = _nothing
    given_up: Callable[[Job], None] = _nothing


KINDS: dict[str, Kind] = {}


def anyone(job: Job) -> bool:
    """For work whose result the one who asked for it does not get."""
    return True


def register(kind: Kind) -> Kind:
    """Make a kind of work known to the worker."""
    KINDS[kind.name] = kind
    return kind


class Reporter:
    """Writes progress and the heartbeat down now and then, and says whether to go on."""

    def __init__(self, job: Job, longest_s: int, ending: Callable[[], bool] = lambda: False) -> None:
        self._working = Job.objects.filter(pk=job.pk, state=Job.State.WORKING)
        self._until = time.monotonic() + longest_s
        self.ending = ending
        self.reported_at = self.share = 0.0
        self.asked_at = time.monotonic()

    @property
    def too_long(self) -> bool:
        return time.monotonic() > self._until

    def __call__(self, share: float) -> bool:
        """Report a share of the work; False where it was cancelled, the worker ends, or it takes too long."""
        self.asked_at, self.share = time.monotonic(), share
        now = self.asked_at
        if now - self.reported_at < REPORT_EVERY_S:
            return True
        self.reported_at = now
        if self.ending() or self.too_long:
            return False
        return bool(self._working.update(progress=share, heard=timezone.now()))

    def overdue(self) -> bool:
        """Whether the work should have ended and has not looked at that for a while; another thread asks this."""
        if time.monotonic() - self.asked_at < LOOKS_AT_LEAST_EVERY_S:
            return False
        try:
            return self.ending() or self.too_long or not self._working.exists()
        finally:
            connection.close()

    def go_on(self) -> bool:
        """Whether to go on with work that has no progress to report."""
        return self(self.share)


@contextmanager
def finishing(job: Job) -> Iterator[None]:
    """Put in place what was made and say that it is done, both or neither. Raises Stopped where it was cancelled."""
    with transaction.atomic():
        if not Job.objects.select_for_update().filter(pk=job.pk, state=Job.State.WORKING).exists():
            raise Stopped
        yield
        Job.objects.filter(pk=job.pk).update(state=Job.State.DONE, progress=1, ended=timezone.now())


def run(pk: str, ending: Callable[[], bool] = lambda: False) -> None:
    """Do a job. What was cancelled, is done, or is gone, is left alone.

    ``ending`` says whether the worker is about to end: then the job waits for the next one. Raises JobAborted.
    """
    now = timezone.now()
    rows = Job.objects.filter(pk=pk, state__in=UNDER_WAY)
    begin = {"state": Job.State.WORKING, "progress": 0, "trouble": "", "begun": now, "heard": now}
    if not rows.update(**begin, tries=F("tries") + 1):
        return
    job = rows.get()
    kind = KINDS[job.kind]
    reporter = Reporter(job, kind.longest_s, ending)
    trouble = _trouble(kind, job, reporter)
    if trouble is None and ending() and rows.update(state=Job.State.WAITING):
        raise JobAborted
    if trouble is None and reporter.too_long:
        trouble = f"it took longer than {kind.longest_s // 60} minutes"
    if trouble and rows.update(state=Job.State.FAILED, trouble=trouble, ended=timezone.now()):
        kind.given_up(job)


def _trouble(kind: Kind, job: Job, reporter: Reporter) -> str | None:
    """Why a run failed; None where it was stopped, and "" where it came to its end."""
    try:
        if not kind.allowed(job):
            return NO_RIGHT
        with Watched(reporter.overdue, Stopped):
            kind.run(job, reporter)
    except Stopped:
        return None
    except DATABASE_AWAY:
        raise  # it says nothing of the work, which is begun again
    except (Refused, NotMade) as error:
        return str(error)
    except OSError as error:  # without the path, which is nobody's business
        return (
            NO_ROOM if error.errno == errno.ENOSPC else f"A file could not be used: {error.strerror or 'it is gone'}."
        )
    except Exception:
        log.exception("job %s (%s, try %d) of user %s failed", job.pk, job.kind, job.tries, job.owner_id)
        return BROKEN
    return ""
