"""What is no clip is refused before anything plays it, and nothing that is uploaded takes the machine for itself."""

from __future__ import annotations

import os
import resource
import socket
import time
import unittest
from unittest import mock

from footage import probe as probing
from footage.convert import make_pictures, make_proxy
from footage.files import tools_user
from footage.models import Clip
from footage.tasks import source_of
from footage.tools import DEMUXERS, Files, Limits, TookTooLong, TooMuch, reading, run, sandboxed
from jobs.models import Job
from jobs.running import NotMade, Stopped

from .base import ClipCase, made, worked
from .hostile import by_ffmpeg, hostile_files

#: These are clips that say something false of themselves; whoever plays them goes by what they are.
HARMLESS = {"a clip with millions of frames", "a clip with a huge picture"}
PLAIN = ("-c:v", "libx264", "-pix_fmt", "yuv420p")


class Hostile(ClipCase):
    def test_each_is_refused_or_harmless(self):
        self.upload("mine.mp4", made("mine.mp4", *PLAIN))
        other = Clip.objects.get().path
        calls = self.enterContext(socket.create_server(("127.0.0.1", 0)))
        calls.setblocking(False)
        files = hostile_files(other.name, f"http://127.0.0.1:{calls.getsockname()[1]}")
        self.assertGreaterEqual(len(files), 25)
        os.utime(other, (0, other.stat().st_mtime))  # the next one who reads it leaves a date that is later
        own = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        for what, data in files.items():
            with self.subTest(what):
                answer = self.upload("x.mp4", data)
                if what in HARMLESS:
                    self.assertEqual(answer.status_code, 204, answer.content)
                    clip = Clip.objects.get(name="x.mp4")
                    with mock.patch("footage.convert.LEAST_S", 1), mock.patch("footage.convert.SLOWEST", 1):
                        worked(clip)
                    self.client.delete(f"/api/clips/{clip.pk}")
                else:
                    self.assertEqual(answer.status_code, 422, answer.content)
                    self.assertIn(answer.json()["code"], {"no_video", "no_length", "too_long", "too_large_picture"})
                self.assertEqual(self.kept(), (1, 1))
                self.assertEqual(other.stat().st_atime, 0, "somebody else's clip was read")
                with self.assertRaises(BlockingIOError, msg="an address was asked"):
                    calls.accept()
        self.assertLess(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - own, 64 * 1024)
        # Without limits one of them takes four gigabytes. In KiB, of the largest of all children.
        self.assertLess(resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss, 1100 * 1024)

    def test_a_clip_that_is_read_is_seen_to_be_read(self):
        """Otherwise the test above could not fail."""
        self.upload("mine.mp4", made("mine.mp4", *PLAIN))
        path = Clip.objects.get().path
        os.utime(path, (0, path.stat().st_mtime))
        path.read_bytes()
        self.assertGreater(path.stat().st_atime, 0)

    def test_containers_of_phones_and_cameras_are_clips(self):
        for name in ("a.mp4", "a.mov", "a.mkv", "a.webm", "a.avi", "a.ts", "a.mpg", "a.3gp"):
            codec = ("-c:v", "libvpx") if name == "a.webm" else ("-c:v", "mpeg2video") if name == "a.mpg" else PLAIN
            with self.subTest(name):
                data = by_ffmpeg(name, *codec, source="testsrc=duration=1:size=64x48:rate=25")
                self.assertEqual(self.upload(name, data).status_code, 204)
                self.assertIn(Clip.objects.get(name=name).demuxer, DEMUXERS.values())

    def test_a_clip_is_opened_as_what_it_was_found_to_be(self):
        """Even where its file has become something else since."""
        self.upload("a.mp4", made("a.mp4", *PLAIN))
        clip = Clip.objects.get()
        other = clip.path.with_name("other.mp4")
        other.write_bytes(clip.path.read_bytes())
        clip.path.write_bytes(b"ffconcat version 1.0\nfile other.mp4\nduration 1\n")
        with self.assertRaises(NotMade):
            make_proxy(source_of(clip), clip.beside("proxy.part"), 640, lambda share: True)
        worked(clip)
        self.assertEqual((clip.job.state, clip.played_as), ("failed", ""))


class InLimits(ClipCase):
    def clip(self, source="testsrc=duration=1:size=64x48:rate=10"):
        self.upload("a.mp4", by_ffmpeg("a.mp4", *PLAIN, source=source))
        return Clip.objects.get()

    def test_processor_time_and_output(self):
        path = self.clip("testsrc=duration=10:size=320x240:rate=25").path
        endless = ["-vf", "loop=-1:100:0"]
        for limits, into in (
            (Limits(2 << 30, 1, 600, 1 << 40), ["-f", "null", "-"]),
            (Limits(2 << 30, 600, 600, 1 << 20), ["-f", "rawvideo", "-y", "file:out.raw"]),
        ):
            with self.subTest(limits=limits), self.assertRaises(TooMuch):
                list(
                    run(
                        "ffmpeg",
                        [*reading(path), *endless, *into],
                        Files((path,), (path.with_name("out.raw"),)),
                        limits,
                    )
                )

    def test_time_that_passes_is_nobody_s_fault_and_loses_nothing(self):
        path = self.clip().path
        with self.assertRaises(TookTooLong):
            list(run("ffprobe", reading(path), Files((path,)), Limits(1 << 30, 20, -1)))
        data = made("b.mp4", *PLAIN)
        clip = self.announce("b.mp4", len(data)).json()["id"]
        with mock.patch("footage.probe.TO_PROBE", Limits(1 << 30, 20, -1)):
            answer = self.patch(clip, data, 0)
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "busy"))
        self.assertEqual(self.patch(clip, b"", len(data)).status_code, 204)
        self.assertEqual(self.client.get(f"/api/clips/{clip}").json()["state"], "ready")

    def test_without_room_it_is_said_that_there_is_none(self):
        path = self.clip().path
        with mock.patch("footage.tools.LEAST_FREE", 1 << 60), self.assertRaisesRegex(NotMade, "no disk space left"):
            list(run("ffprobe", ["file:missing"], Files((path,)), probing.TO_PROBE))

    def test_too_many_frames_are_not_kept_in_memory(self):
        clip = self.clip()
        with mock.patch.object(probing, "MOST_FRAMES", 5), self.assertRaises(TooMuch):
            probing.frames_in(clip.path, clip.demuxer)

    def test_pictures_stop_when_the_work_is_cancelled(self):
        """Whether to go on is asked before the first of them, and then four times a second."""
        clip = self.clip("testsrc2=duration=60:size=64x48:rate=10")
        asked = []
        with self.assertRaises(Stopped):
            make_pictures(source_of(clip), clip.beside("a.jpg"), clip.beside("b.jpg"), lambda: asked.append(1))
        self.assertEqual(len(asked), 1)

    def test_tools_have_no_rights(self):
        """The server may run as root; what reads a file from anywhere does not."""
        path = self.clip().path
        for there in (True, False):
            with (
                self.subTest(sandbox=there),
                mock.patch("footage.tools.sandboxed", return_value=there),
                mock.patch("footage.tools.subprocess.Popen", side_effect=InterruptedError) as started,
            ):
                with self.assertRaises(InterruptedError):
                    list(run("ffprobe", reading(path), Files((path,)), probing.TO_PROBE))
                command = started.call_args.args[0]
                for wanted in ("prlimit", "--no-new-privs", "-protocol_whitelist", "-format_whitelist"):
                    self.assertIn(wanted, command)
                self.assertEqual("--unshare-net" in command, there)
                if os.geteuid() == 0:
                    self.assertIn(f"--reuid={tools_user().pw_uid}", command)
                    self.assertIn("--clear-groups", command)

    @unittest.skipUnless(sandboxed(), "this machine makes no sandboxes")
    def test_a_tool_that_is_taken_over_finds_nothing(self):
        """What a file might make of a tool: here the tool is a shell."""
        path = self.clip().path
        other = path.with_name("other")
        other.write_bytes(b"somebody else's")
        out = path.with_name("out")

        def said(words: str) -> str:
            try:
                return "\n".join(run("sh", ["-c", words], Files((path,), (out,)), Limits(1 << 30, 20, 60, 1 << 20)))
            except NotMade as error:
                return f"failed: {error}"

        with mock.patch("footage.tools.LEVEL", []):
            self.assertEqual(sorted(said("ls; echo; echo *").split()), sorted([path.name, "out"] * 2))
            self.assertIn("failed", said(f"cat {other} || cat other"))
            self.assertIn("failed", said("cat /etc/passwd /proc/1/environ /root/.bashrc"))
            self.assertIn("failed", said(f"echo x > {path.name}"))
            self.assertIn("failed", said("echo x > /usr/bin/x || echo x > /clips/new"))
            self.assertEqual(said("ls /sys/class/net /proc 2>/dev/null; echo").strip(), "")
            self.assertIn("failed", said("exec 3<>/dev/tcp/127.0.0.1/80"))
            self.assertEqual(said("id -u").strip(), str(os.geteuid() or tools_user().pw_uid))
            self.assertEqual(said("echo made > out; echo"), "")
            self.assertEqual(out.read_bytes(), b"made\n")

    def test_a_cancelled_clip_is_let_go_at_once(self):
        clip = self.clip("testsrc2=duration=20:size=160x90:rate=25")
        begun = time.monotonic()

        def cancel(*_):
            Job.objects.update(state="cancelled")
            return False

        with mock.patch("footage.tasks.Reporter.__call__", cancel):
            worked(clip)
        self.assertEqual((clip.job.state, clip.played_as), ("cancelled", ""))
        self.assertLess(time.monotonic() - begun, 60)
        self.assertEqual(sorted(path.name for path in clip.path.parent.iterdir()), [str(clip.pk)])
