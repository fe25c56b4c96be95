"""Work for the worker: writing exports, and deleting old clips."""

from __future__ import annotations

from accounts.notices import tell
from clubs.access import is_head_coach
from footage.files import in_making
from footage.models import Clip
from footage.store import bytes_of, remove_files, send
from jobs.models import Job
from jobs.running import Kind, Reporter, Stopped, finishing, register
from journal.models import note

from .archive import write_zip
from .collecting import covered_by, pieces_of_club, pieces_of_person
from .models import Clearing, Export

LONGEST_S = 6 * 3600


def _export(job: Job, reporter: Reporter) -> None:
    made = Export.objects.select_related("asked_by", "club").filter(job=job).first()
    if made is None:
        raise Stopped
    try:
        of_club = made.club is not None
        covers = sorted(covered_by(made))
        pieces = pieces_of_club(made.club, made.asked_by) if made.club else pieces_of_person(made.asked_by)
        with in_making(made.path) as partial:
            size = write_zip(partial, list(pieces), reporter)
            send(partial, made.path.name)
            with finishing(job):
                partial.replace(made.path)
                Export.objects.filter(pk=made.pk).update(size=size, covers=covers)
                whose, path = ("your club", "/club/data") if of_club else ("your data", "/account")
                tell(made.asked_by, "made", path, f"The export of {whose} can be downloaded.")
    finally:
        if not Export.objects.filter(pk=made.pk).exists():  # it was deleted meanwhile
            remove_files(made.pk)


def _is_head_coach_of(made: Export | Clearing | None, owner: int) -> bool:
    """Whether somebody is a head coach of the club that their export or clearing is of."""
    return made is None or made.club_id is None or is_head_coach(owner, made.club_id)


EXPORT = register(
    Kind(
        "export",
        _export,
        LONGEST_S,
        lambda job: _is_head_coach_of(Export.objects.filter(job=job).first(), job.owner_id),
    )
)


def _clear(job: Job, reporter: Reporter) -> None:
    made = Clearing.objects.select_related("asked_by", "club").filter(job=job).first()
    if made is None:
        raise Stopped
    clips = Clip.objects.filter(pk__in=made.clips, club=made.club)
    for clip in clips:
        if not reporter((len(made.clips) - clips.count()) / len(made.clips)):
            raise Stopped
        size = bytes_of(clip.pk)
        clip.delete()
        made.deleted, made.freed = made.deleted + 1, made.freed + size
        made.save(update_fields=["deleted", "freed"])
    with finishing(job):
        clips_were = "1 old clip was" if made.deleted == 1 else f"{made.deleted} old clips were"
        about = f"{clips_were} deleted, {made.freed / 1024**2:.0f} MB. Logs and written reports were kept."
        tell(made.asked_by, "made", "/club/data", about)
        note("old clips deleted", about, user=made.asked_by, club=made.club_id)


CLEAR = register(
    Kind(
        "delete old clips", _clear, LONGEST_S,
        lambda job: _is_head_coach_of(Clearing.objects.filter(job=job).first(), job.owner_id),
    )
)  # fmt: skip
