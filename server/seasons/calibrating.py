"""The chances of winning held against what happened in a club's own matches; the worker does it."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from clubs.access import Access, Right
from clubs.models import Club
from config.refusals import Clash
from jobs.actions import enqueue, new_job
from jobs.models import Job
from jobs.running import Kind, Reporter, Stopped, finishing, register
from jurata_core import fingerprint
from jurata_core.adjudication import adjudicate
from jurata_core.lessons import Group
from jurata_core.match_log import read_log
from jurata_core.review import Seen
from jurata_core.season.calibration import FOLDS, Predicted, Trial, as_json, calibrated, predictions
from matches.logs import log_of
from matches.models import Summary

from .models import Checked

MOST = 3_000
"""So many matches are enough, the latest ones."""
LONGEST_S = 1800


@transaction.atomic
def check(club: Club, by: User) -> Checked:
    """Have the chances held against what happened; one that is under way is not asked for twice."""
    found, _ = Checked.objects.select_for_update(of=("self",)).select_related("job").get_or_create(club=club)
    if found.job is not None and found.job.under_way:
        raise Clash("at_work", "This is being worked out already.")
    earlier, found.job = found.job, new_job(by.pk, CALIBRATE.name)
    found.save(update_fields=["job"])
    if earlier is not None:
        earlier.delete()
    assert found.job is not None  # as just made
    enqueue(found.job)
    return found


def _calibrate(job: Job, reporter: Reporter) -> None:
    made = Checked.objects.select_related("club").filter(job=job).first()
    if made is None:
        raise Stopped
    rows = Summary.objects.filter(
        match__athlete__club=made.club, match__deleted=None, match__second_of=None, core=fingerprint()
    ).exclude(lesson={})  # fmt: skip
    trials = [_trial(row) for row in rows.select_related("match").order_by("-match__date")[:MOST]]
    found: list[Predicted] = []
    for number, part in enumerate(predictions(trials), 1):
        found += part
        if not reporter(number / FOLDS):
            raise Stopped
    with finishing(job):
        Checked.objects.filter(pk=made.pk).update(found=as_json(calibrated(found)), at=timezone.now())


def _allowed(job: Job) -> bool:
    return not Checked.objects.filter(job=job).exclude(Access(job.owner_id, Right.REVIEW).clubs()).exists()


CALIBRATE = register(Kind("hold chances against results", _calibrate, LONGEST_S, _allowed))


def _trial(row: Summary) -> Trial:
    log = read_log(log_of(row.match))
    return Trial(str(row.pk), Group(*row.group), row.lesson, Seen(log, adjudicate(log)))
