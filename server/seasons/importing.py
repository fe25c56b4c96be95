"""Taking many matches in: from files of a person's own, from another system, or from a club's export."""

from __future__ import annotations

import hashlib
import json
import zipfile
from collections.abc import Sequence
from itertools import islice
from typing import Any

from django.contrib.auth.models import User
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.utils import timezone

from accounts.notices import tell
from clubs.access import Access, Right
from clubs.models import Club
from config.refusals import NoRoom, Refused, TooLarge
from footage.actions import SPARE, free_space, promised
from footage.files import clips_folder, in_making, open_private
from footage.store import at_hand, remove_files, send
from jobs.actions import enqueue, new_job
from jobs.models import Job
from jobs.running import NO_RIGHT, Kind, NotMade, Reporter, Stopped, finishing, register
from journal.models import note
from jurata_core.faults import Fault, FaultyInput, quoted
from jurata_core.season.reading import NO_LOG, READ, Record, Unread, read_records, sources_of
from matches.actions import set_up
from matches.models import Match
from matches.summaries import store
from roster.models import Athlete

from .models import KEPT_FAULTS, Import

LARGEST = 500 * 1024 * 1024
AT_ONCE = 100
"""So many matches are taken in at a time: all of them, or none."""
LONGEST_S = 3600
ABOUT = ("opponent", "club", "event", "round", "weight_class", "mat", "date")


def announce(club: Club, by: User, uploads: Sequence[UploadedFile[Any]], names: Sequence[str], **wanted: Any) -> Import:
    """Keep what was chosen and have it taken in. Several files, as a folder has, are kept as one zip.

    Raises Refused for what holds no match logs, and NoRoom where the disk is full.
    """
    size = sum(one.size or 0 for one in uploads)
    if size > LARGEST:
        raise TooLarge("too_large", f"These are more than {LARGEST // 1024**2} MB. Import them in parts.")
    if size + SPARE > free_space() - promised():
        raise NoRoom("no_room", "Not enough disk space for this. Delete clips you no longer need.")
    chosen = list(zip(uploads, names, strict=True))
    fitting = [(one, name) for one, name in chosen if name.lower().endswith(READ)]
    others = [name for _, name in chosen if not name.lower().endswith(READ)]
    if not fitting:
        message = "Choose match logs (.json), lines of them (.jsonl), a .zip, or a folder."
        raise Refused("wrong_ending", f"{_listed(others)}: no match log. {message}")
    name = fitting[0][1] if len(fitting) == 1 else f"{len(fitting)} files.zip"
    made = Import(club=club, asked_by=by, name=name.rsplit("/", 1)[-1][:200], **wanted)
    for other in others:
        refuse(made, other[:300], [Fault("file", NO_LOG, "unknown")])
    clips_folder()
    try:
        with in_making(made.path) as partial:
            with open_private(partial, "wb") as file:
                if len(fitting) == 1:
                    for block in fitting[0][0].chunks():
                        file.write(block)
                else:
                    _as_zip(file, fitting)
            send(partial, made.path.name)
            partial.replace(made.path)
        with transaction.atomic():
            made.job = new_job(by.pk, IMPORT.name)
            made.save()
            enqueue(made.job)
    except BaseException:
        remove_files(made.pk)
        raise
    return made


MOST_NAMED = 5


def _listed(names: Sequence[str]) -> str:
    """Some names of files, and how many more there are."""
    more = len(names) - MOST_NAMED
    return ", ".join(name[:80] for name in names[:MOST_NAMED]) + (f" and {more} more" if more > 0 else "")


def _as_zip(file: Any, uploads: Sequence[tuple[UploadedFile[Any], str]]) -> None:
    taken: set[str] = set()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        for number, (upload, name) in enumerate(uploads):
            own = f"{number}/{name}" if name in taken else name  # two files may be called the same
            taken.add(name)
            with archive.open(own, "w") as entry:
                for block in upload.chunks():
                    entry.write(block)


def _import(job: Job, reporter: Reporter) -> None:
    made = Import.objects.select_related("club", "asked_by", "athlete").filter(job=job).first()
    if made is None:
        raise Stopped
    try:
        path = at_hand(made.path)
        every = sum(1 for _ in sources_of(path, made.name)) or 1
        rows = islice(read_records(sources_of(path, made.name)), made.reached, None)
        takes = _Taking(made)
        while batch := list(islice(rows, AT_ONCE)):
            if not _allowed(job):
                raise NotMade(NO_RIGHT)
            takes.in_(batch)
            if not reporter(min(1.0, made.reached / every)):
                raise Stopped
    except FaultyInput as error:
        raise NotMade("; ".join(str(fault) for fault in error.faults)) from None
    with finishing(job):
        said = said_of(made)
        tell(made.asked_by, "made", "/seasons/import", f"{made.name} was imported: {said}")
        note("matches imported", f"{made.name}: {said}", user=made.asked_by, club=made.club_id)
    remove_files(made.pk)


def _allowed(job: Job) -> bool:
    """Whether who asked for an import may still set matches up in that club."""
    return not Import.objects.filter(job=job).exclude(Access(job.owner_id, Right.SET_UP).clubs()).exists()


IMPORT = register(Kind("import", _import, LONGEST_S, _allowed))


def said_of(made: Import) -> str:
    """What became of an import, in a sentence."""
    parts = [f"{made.made} {'match' if made.made == 1 else 'matches'} taken in"]
    if made.known:
        parts.append(f"{made.known} there already")
    if made.refused:
        parts.append(f"{made.refused} not taken in")
    return f"{', '.join(parts)}."


class _Taking:
    """Takes matches in, a batch at a time; each batch is there as a whole, and counted with it."""

    def __init__(self, made: Import) -> None:
        self.made = made
        access = Access(made.asked_by_id, Right.SET_UP, made.club_id)
        mine = Athlete.objects.filter(access.athletes(), club=made.club, practice=False)
        self.athletes = {one.name.casefold(): one for one in mine}
        self.taken = {name.casefold() for name in made.club.athletes.values_list("name", flat=True)}

    def in_(self, batch: Sequence[Record | Unread]) -> None:
        """Take a batch in; what is wrong with one match keeps out that one alone."""
        made = self.made
        with transaction.atomic():
            found: list[tuple[Record, Athlete, str]] = []
            for one in batch:
                try:
                    if isinstance(one, Unread):
                        raise FaultyInput(one.faults)
                    athlete = self._athlete(one)
                    found.append((one, athlete, _digest(one, athlete)))
                except FaultyInput as error:
                    refuse(self.made, one.source, error.faults)
            there = set(Match.with_deleted.filter(
                athlete__club=made.club, source__in=[digest for *_, digest in found]
            ).values_list("source", flat=True))  # fmt: skip
            new = []
            for record, athlete, digest in found:
                if digest in there:
                    made.known += 1
                    continue
                there.add(digest)
                try:
                    with transaction.atomic():
                        new.append(set_up(made.asked_by, _values(record, athlete, digest), dict(record.log.raw)))
                except FaultyInput as error:
                    refuse(self.made, record.source, error.faults)
            store(new)
            made.made += len(new)
            made.reached += len(batch)
            made.save()

    def _athlete(self, record: Record) -> Athlete:
        """Whose match it is. Raises FaultyInput where that is nobody whom the coach may set matches up for."""
        made, name = self.made, record.about.athlete
        if not name:
            if made.athlete is None:
                message = "is missing: the log does not say whose match it is. Choose an athlete for such logs."
                raise FaultyInput([Fault("athlete", message, "missing")])
            return made.athlete
        known = self.athletes.get(name.casefold())
        if known is not None:
            return known
        if name.casefold() in self.taken:
            raise FaultyInput([Fault("athlete", f"{quoted(name)} is a child you are not named for", "unknown")])
        if not made.add_athletes:
            raise FaultyInput([Fault("athlete", f"{quoted(name)} is not an athlete of the club", "unknown")])
        division = record.log.division
        year = (record.about.date or timezone.localdate()).year - division.age
        added = Athlete.objects.create(club=made.club, name=name, birth_year=year, belt=division.belt)
        added.coaches.add(made.asked_by)
        made.added.append(name)
        self.athletes[name.casefold()] = added
        return added


def refuse(made: Import, source: str, faults: Sequence[Fault]) -> None:
    """Say of a match or a file of an import that it was not taken in, and why."""
    made.refused += 1
    if len(made.faults) < KEPT_FAULTS:
        made.faults.append({"where": source, "faults": [str(fault) for fault in faults[:20]]})


def _values(record: Record, athlete: Athlete, digest: str) -> dict[str, Any]:
    about = {name: getattr(record.about, name) for name in ABOUT}
    return {**about, "opponent": about["opponent"] or "Unknown", "athlete": athlete, "source": digest}


def _digest(record: Record, athlete: Athlete) -> str:
    """What is the same where the same match is imported again."""
    about = {name: getattr(record.about, name) for name in ABOUT}
    said = json.dumps([athlete.pk, about, record.log.raw], sort_keys=True, default=str, ensure_ascii=False)
    return hashlib.sha256(said.encode()).hexdigest()
