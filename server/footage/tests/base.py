"""What tests of clips have in common: a small clip made by ffmpeg, a coach, and a folder of their own."""

from __future__ import annotations

import json
import os
import subprocess
import tempfile
import uuid
import zlib
from contextlib import AbstractContextManager
from pathlib import Path
from typing import Any
from unittest import mock

from django.conf import settings
from django.contrib.auth.models import User
from django.test import TestCase, override_settings

from clubs.actions import found_club
from clubs.models import Club
from footage.filming import film
from footage.models import Clip
from footage.probe import probe
from jobs.running import run


def made(name: str, *arguments: str) -> bytes:
    """A small clip made by ffmpeg."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / name
        source = ["-f", "lavfi", "-i", "testsrc=duration=1:size=64x48:rate=10"]
        subprocess.run(["ffmpeg", "-loglevel", "error", *source, *arguments, path], check=True)
        return path.read_bytes()


def filmed(log: dict[str, Any]) -> Path:
    """The clip that the simulated camera makes of a log; filmed once, or once by each process of a parallel run."""
    name = zlib.crc32(json.dumps(log).encode())
    path = Path(settings.DATA) / f"filmed-{name:08x}.webm"
    if not path.exists():
        own = path.with_name(f"{path.stem}-{os.getpid()}.webm")
        film(log, own)
        own.replace(path)
    return path


def stored(uploader: User, path: Path, name: str = "phone.mp4") -> Clip:
    """A clip as it is right after its upload, of a file that lies anywhere."""
    clip = Clip(
        id=uuid.uuid4(),
        uploader=uploader,
        club=Club.objects.get(memberships__user=uploader),
        name=name,
        size=path.stat().st_size,
        state="ready",
    )
    clip.path.write_bytes(path.read_bytes())
    found = probe(clip.path)
    clip.demuxer, clip.content_type, clip.duration_ms = found.demuxer, found.content_type, found.duration_ms
    clip.width, clip.height, clip.fps = found.width, found.height, found.fps
    clip.save()
    return clip


def worked(clip: Clip, **more: Any) -> Clip:
    """The clip after a run of its job, as the worker would do it."""
    clip.refresh_from_db()
    try:
        run(str(clip.job_id), **more)
    finally:
        clip.refresh_from_db()
    return clip


def committed_at_once() -> AbstractContextManager[Any]:
    """A test is one transaction: what waits for its end is done at once."""
    return mock.patch("django.db.transaction.on_commit", lambda done: done())


class ClipCase(TestCase):
    def setUp(self):
        self.coach = User.objects.create_user("coach", password="amber")
        self.club = found_club("Dune Grappling", self.coach)
        self.client.force_login(self.coach)
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        moved = override_settings(MEDIA_ROOT=folder.name)
        moved.enable()
        self.addCleanup(moved.disable)
        self.enterContext(committed_at_once())

    def announce(self, name, size):
        return self.client.post("/api/clips", {"name": name, "size": size}, content_type="application/json")

    def patch(self, clip, data, offset):
        more = {"content_type": "application/offset+octet-stream", "headers": {"Upload-Offset": str(offset)}}
        return self.client.patch(f"/api/clips/{clip}/upload", data, **more)

    def upload(self, name, data, size=None):
        clip = self.announce(name, size or len(data)).json()["id"]
        return self.patch(clip, data, 0)

    def kept(self):
        return Clip.objects.count(), len(list(Path(settings.MEDIA_ROOT).iterdir()))
